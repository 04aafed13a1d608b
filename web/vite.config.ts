import react from "@vitejs/plugin-react";
import { defineConfig } from "vitest/config";

const PLAIN = [
  "src/{figures,floor,solve,units}/*.test.ts",
  "src/document/{document,parts,solids}.test.ts",
  "src/state/solver.test.ts",
];

export default defineConfig({
  plugins: [react()],
  server: { fs: { allow: [".."] } }, // the guide's pages and pictures stand beside the page, in the documents
  build: { assetsDir: "assets", target: "es2022", reportCompressedSize: false, chunkSizeWarningLimit: 800 },
  test: {
    setupFiles: ["src/testing/setup.ts"],
    testTimeout: 60_000, // a busy machine is no fault
    maxWorkers: 2,
    projects: [
      // what touches neither the page nor a store that outlives a test needs no browser of its own
      { extends: true, test: { name: "plain", environment: "node", isolate: false, include: PLAIN } },
      { extends: true, test: { name: "page", environment: "jsdom", include: ["src/**/*.test.{ts,tsx}"], exclude: PLAIN } },
    ],
  },
});
