import js from "@eslint/js";
import a11y from "eslint-plugin-jsx-a11y";
import hooks from "eslint-plugin-react-hooks";
import tseslint from "typescript-eslint";

const downwards = (files, group) => ({ files, rules: { "no-restricted-imports": ["error", { patterns: [{ group, message: "imports go downwards only" }] }] } });

export default tseslint.config(
  { ignores: ["dist", "src/api/schema.ts"] },
  js.configs.recommended,
  ...tseslint.configs.strict,
  a11y.flatConfigs.recommended,
  hooks.configs.flat["recommended-latest"],
  { rules: { "@typescript-eslint/no-non-null-assertion": "off" } },
  // A sentence of the core is a list of pieces: said through `say`, never pasted into a string.
  {
    files: ["src/**/*.ts", "src/**/*.tsx"],
    languageOptions: { parserOptions: { projectService: true, tsconfigRootDir: import.meta.dirname } },
    rules: { "@typescript-eslint/restrict-template-expressions": ["error", { allowNumber: true }], "@typescript-eslint/no-base-to-string": "error" },
  },
  // Imports go downwards only: screens use parts and kinds, these use look and api, and never the other way round.
  downwards(["src/parts/**", "src/kinds/**"], ["**/screens/**"]),
  downwards(["src/look/**", "src/api/**"], ["**/screens/**", "**/parts/**", "**/kinds/**"]),
);
