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
    files: ["src/main/resources/static/js/**/*.js"],
    languageOptions: { globals: { ...globals.browser, ...globals.audioWorklet } },
    rules,
  },
  {
    files: ["src/test/js/**/*.js", "src/test/js-support/*.mjs", "frontend/*.mjs"],
    languageOptions: { globals: globals.node },
    rules,
  },
];
