/* Sets the theme before the page is drawn, so that nothing flashes: it is a script of its own for that reason. */
import { kept } from "./kept.js";

document.documentElement.dataset.theme = kept.get("ancora-theme") ?? "dark";
