/** A part's pennant: a two-tone figure that tells it from the others, also without colour. */

import { add, create } from "./svg.js";

const FIGURES = [
  ["#f2b13c", "#5b2333", "M0 0h17v17H0zM17 17h17v17H17z"],
  ["#2b6f8f", "#f5efe2", "M0 4L4 0L34 30L30 34zM30 0L34 4L4 34L0 30z"],
  ["#f5efe2", "#c2452d", "M0 0L17 17L0 34z"],
  ["#6d4fb3", "#f5efe2", "M17 8a9 9 0 1 0 .01 0z"],
  ["#1d7a5f", "#f2e2a4", "M0 11h34v12H0z"],
  ["#c2452d", "#f5efe2", "M13 0h8v34h-8zM0 13h34v8H0z"],
  ["#f2e2a4", "#2b6f8f", "M0 0h34L0 34z"],
  ["#5b2333", "#9fd8c8", "M0 17L17 0L34 17L17 34z"],
  ["#9fd8c8", "#1d3b5f", "M0 0h8v34H0zM13 0h8v34h-8zM26 0h8v34h-8z"],
  ["#1d3b5f", "#f2b13c", "M0 34L17 8L34 34z"],
  ["#e8a08f", "#2a2436", "M0 0h34v8H0zM0 26h34v8H0z"],
  ["#f5efe2", "#1d7a5f", "M9 9h16v16H9z"],
  ["#2a2436", "#e8a08f", "M0 0h17v34H0z"],
  ["#f2b13c", "#2b6f8f", "M0 22L17 8L34 22V34L17 20L0 34z"],
  ["#f5efe2", "#6d4fb3", "M0 0h12v12H0zM22 0h12v12H22zM0 22h12v12H0zM22 22h12v12H22z"],
  ["#1d7a5f", "#f5efe2", "M34 0v34L0 17z"],
];

/** How many there are. */
export const PENNANTS = FIGURES.length;

/**
 * @param {number} number which, from 0
 * @returns {SVGElement}
 */
export function pennant(number) {
  const [ground, figure, path] = FIGURES[number % FIGURES.length];
  const svg = create("svg", { class: "pennant", viewBox: "0 0 34 34", "aria-hidden": "true" });
  add(svg, "rect", { width: 34, height: 34, fill: ground });
  add(svg, "path", { d: path, fill: figure });
  return svg;
}
