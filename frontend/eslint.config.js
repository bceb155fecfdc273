// Habits of the front end, checked with its types.
import js from "@eslint/js";
import svelte from "eslint-plugin-svelte";
import globals from "globals";
import ts from "typescript-eslint";
import svelteConfig from "./svelte.config.js";

export default ts.config(
  { ignores: ["node_modules", "test-build", "src/lib/api/schema.d.ts", "src/lib/api/limits.ts"] },
  js.configs.recommended,
  ...ts.configs.strict,
  ...svelte.configs.recommended,
  { languageOptions: { globals: { ...globals.browser, ...globals.node } } },
  {
    files: ["**/*.svelte", "**/*.svelte.ts"],
    languageOptions: { parserOptions: { parser: ts.parser, extraFileExtensions: [".svelte"], svelteConfig } },
  },
  {
    rules: {
      eqeqeq: ["error", "always", { null: "ignore" }],
      // A switch over kinds counts as one: it is a table.
      complexity: ["error", { max: 20, variant: "modified" }],
      "max-lines-per-function": ["error", { max: 60, skipBlankLines: true, skipComments: true }],
      "max-params": ["error", 7],
      // An index that was just compared with a length is there: the compiler cannot see that.
      "@typescript-eslint/no-non-null-assertion": "off",
      "@typescript-eslint/no-unused-vars": [
        "error",
        { varsIgnorePattern: "^_+$", argsIgnorePattern: "^_+$" },
      ],
      // TypeScript knows what is defined.
      "no-undef": "off",
    },
  },
  {
    // A component's script is one function to the linter.
    files: ["**/*.svelte"],
    rules: { "max-lines-per-function": "off", "prefer-const": "off", "svelte/prefer-const": "error" },
  },
);
