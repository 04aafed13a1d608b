import js from "@eslint/js";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// From the ground up: a room may use those below it, not its neighbors on the same floor of this list, nor those above.
const FLOORS = [
  ["units", "ui", "api"],
  ["document", "solve"],
  ["floor"],
  ["figures"],
  ["state"],
  ["panels"],
  ["frame"],
  [
    "areas/corners",
    "areas/cut",
    "areas/cycle",
    "areas/fitup",
    "areas/home",
    "areas/links",
    "areas/room",
    "areas/truck",
    "areas/weigh",
  ],
];

/** What each room may not import, and why. */
const rooms = FLOORS.flatMap((floor, level) =>
  floor.map((room) => {
    const closed = [...floor.filter((other) => other !== room), ...FLOORS.slice(level + 1).flat()];
    // a neighboring area is reached as ../name from inside another: its bare name may also be a file's on a lower floor
    const patterns = (other) => {
      const [, area] = other.split("/");
      return area ? [`**/${other}/**`, `../${area}/**`] : [`**/${other}`, `**/${other}/**`];
    };
    const group = [...new Set(closed.flatMap(patterns)), "**/App", "**/main"];
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
  // A component longer than this is two: its state or its behavior is a hook of its own; a store has its actions beside it.
  {
    files: ["src/**/*.{ts,tsx}"],
    ignores: ["**/*.test.{ts,tsx}"],
    rules: { "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }] },
  },
  ...rooms,
);
