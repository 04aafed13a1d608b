import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

export default defineConfig({
  plugins: [react()],
  server: { fs: { allow: [".."] } }, // the guide's pages and pictures stand beside the page, in the documents
  build: { assetsDir: "assets", target: "es2022", reportCompressedSize: false, chunkSizeWarningLimit: 800 },
  test: {
    environment: "jsdom",
    include: ["src/**/*.test.ts", "src/**/*.test.tsx"],
    setupFiles: ["src/testing/setup.ts"],
    testTimeout: 60_000,
    maxWorkers: 2,
  }, // a busy machine is no fault
});
