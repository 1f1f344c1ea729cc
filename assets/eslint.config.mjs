// The rules of our scripts: the recommended ones, and what keeps them short and free of surprises.
import js from "@eslint/js";
import globals from "globals";

export default [
  js.configs.recommended,
  {
    files: ["js/**/*.js"],
    languageOptions: { ecmaVersion: 2022, sourceType: "module", globals: globals.browser },
    rules: {
      complexity: ["error", 12],
      eqeqeq: "error",
      "no-console": "error",
      "no-empty": ["error", { allowEmptyCatch: false }],
      "no-nested-ternary": "error",
      "no-var": "error",
      "prefer-const": "error",
    },
  },
  {
    files: ["*.mjs", "../tests/js/**/*.mjs"],
    languageOptions: { ecmaVersion: 2022, sourceType: "module", globals: globals.node },
  },
];
