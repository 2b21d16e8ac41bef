// What the page draws its lists with, by key, as one file.
export { html, nothing, render } from "lit-html";
export { repeat } from "lit-html/directives/repeat.js";
