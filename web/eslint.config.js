import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// From the ground up: a room may use those below it, not its neighbors on the same floor of this list, nor those above.
const FLOORS = [
  ["units", "ui", "api"],
  ["document", "solve"],
  ["floor"],
  ["figures"],
  ["shell"],
  ["areas/home", "areas/links"],
];

/** What each room may not import, and why. */
const rooms = FLOORS.flatMap((floor, level) =>
  floor.map((room) => {
    const closed = [...floor.filter((other) => other !== room), ...FLOORS.slice(level + 1).flat()];
    const names = [...new Set(closed.flatMap((other) => [other, other.split("/").at(-1)]))];
    const group = [...names.flatMap((name) => [`**/${name}`, `**/${name}/**`]), "**/App", "**/main"];
    const message = `${room} stands below it, or beside it: hand it over from above. See docs/architecture.md.`;
    return {
      files: [`src/${room}/**/*.{ts,tsx}`],
      ignores: ["**/*.test.{ts,tsx}"],
      rules: { "no-restricted-imports": ["error", { patterns: [{ group, message }] }] },
    };
  }),
);

export default tseslint.config(
  { ignores: ["dist", "eslint.config.js", "src/api/schema.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strictTypeChecked,
  { languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } } },
  {
    plugins: { "react-hooks": hooks },
    rules: {
      ...hooks.configs.recommended.rules,
      "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }],
      "@typescript-eslint/no-confusing-void-expression": ["error", { ignoreArrowShorthand: true }],
      // Constructions index short fixed lists whose length the type can't carry.
      "@typescript-eslint/no-non-null-assertion": "off",
    },
  },
  // A component longer than this is two: its state or its behavior is a hook of its own.
  {
    files: ["src/**/*.tsx"],
    ignores: ["**/*.test.tsx"],
    rules: { "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  ...rooms,
);
