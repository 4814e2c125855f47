import { createNodeResolver, importX } from "eslint-plugin-import-x";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

// Arrows point down: app → features → ui → hooks → documents, device, engine → api. Features know nothing of one another
// but what an `index.ts` hands on.
const restricted = (files, regex, message) => ({
  files,
  ignores: ["**/*.test.*"],
  rules: { "no-restricted-imports": ["error", { patterns: [{ regex, message }] }] },
});

export default tseslint.config(
  { ignores: ["src/api/schema.d.ts", "dist"] },
  ...tseslint.configs.strict,
  { plugins: { "react-hooks": hooks }, rules: { ...hooks.configs.recommended.rules } },
  {
    plugins: { "import-x": importX },
    settings: {
      "import-x/resolver-next": [createNodeResolver({ extensions: [".ts", ".tsx"] })],
      "import-x/parsers": { "@typescript-eslint/parser": [".ts", ".tsx"] },
      "import-x/extensions": [".ts", ".tsx"],
    },
    rules: { "import-x/no-cycle": ["error", { ignoreExternal: true }] },
  },
  {
    files: ["src/**/*.ts", "src/**/*.tsx"],
    ignores: ["**/*.test.*"],
    rules: { "max-lines-per-function": ["error", { max: 90, skipBlankLines: true }], "max-lines": ["error", 400] },
  },
  {
    files: ["src/**/*.ts", "src/**/*.tsx"],
    ignores: ["src/api/again.ts"],
    rules: {
      "no-restricted-properties": [
        "error",
        { property: "invalidateQueries", message: "What a change makes old is fetched again by fetchAgain." },
      ],
    },
  },
  // A print left behind from looking for a fault.
  { files: ["tests/**"], rules: { "no-console": "error" } },
  // What the served demo answers is held against the page, not typed again.
  { files: ["tests/**"], rules: { "@typescript-eslint/no-explicit-any": "off" } },
  // Laid out an attribute a line, markup is longer than what it says.
  {
    files: ["src/**/*.tsx"],
    ignores: ["**/*.test.*"],
    rules: { "max-lines-per-function": ["error", { max: 120, skipBlankLines: true }] },
  },
  restricted(["src/features/**"], "^\\.\\./(?!\\.\\.)[a-zA-Z]+/.+", "Another feature is reached through its index.ts."),
  restricted(["src/app/**", "src/main.tsx"], "features/[a-z]+/.+", "A feature is reached through its index.ts."),
  restricted(["src/ui/**"], "(^|/)features(/|$)", "Nothing below the features knows them."),
  restricted(
    ["src/hooks/**", "src/documents/**", "src/device/**", "src/engine/**", "src/api/**"],
    "(^|/)(features|app|ui)(/|$)",
    "Arrows point down.",
  ),
  restricted(
    ["src/documents/**", "src/device/**", "src/engine/**", "src/api/**"],
    "(^|/)(features|app|ui|hooks)(/|$)",
    "Arrows point down.",
  ),
);
