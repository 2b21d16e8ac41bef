// What the page draws its lists with, by key, as one file.
export { html, nothing, render } from "lit-html";
export { live } from "lit-html/directives/live.js";
export { repeat } from "lit-html/directives/repeat.js";
