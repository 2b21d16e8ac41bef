/** The button that prints the page. */
document.getElementById("print").addEventListener("click", () => globalThis.print());
