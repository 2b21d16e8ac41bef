import globals from "globals";

const rules = {
  eqeqeq: "error",
  "no-undef": "error",
  "no-unused-vars": "error",
  "no-var": "error",
  "prefer-const": "error",
  curly: "error",
};

export default [
  {
    files: ["app/src/main/js/**/*.js"],
    languageOptions: { globals: { ...globals.browser, ...globals.audioWorklet } },
    rules,
  },
  {
    files: ["app/src/test/resources/browser/*.js"],
    languageOptions: { globals: globals.browser },
    rules,
  },
  {
    files: ["app/src/test/js/**/*.js", "app/src/test/js-support/*.mjs", "app/frontend/*.mjs", "tools/*.mjs"],
    languageOptions: { globals: globals.node },
    rules,
  },
];
