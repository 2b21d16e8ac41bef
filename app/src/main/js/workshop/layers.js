import { count } from "../stage/time.js";
import { layerColour } from "./sheet.js";
import { field } from "../stage/fields.js";

/** What each layer adds and takes out, the newest first; a press chooses its notes. */
export class Layers {
  constructor(workshop) {
    this.workshop = workshop;
    this.list = document.getElementById("workshop-layers");
    const { edits } = workshop;
    const act = (id, command) =>
      document.getElementById(id).addEventListener("click", () => edits.do(command));
    act("layers-flatten", { do: "flatten" });
    act("layers-spread", { do: "spreadLayers" });
    act("layers-peel", { do: "peelClip" });
    act("layers-restore", { do: "restoreClip" });
  }

  draw(clip) {
    if (this.drawn === clip) {
      return;
    }
    this.drawn = clip;
    const rows = clip.layers.map((layer, place) => this.#row(layer, place)).reverse();
    this.list.replaceChildren(...rows);
    field("layers-restore").disabled = clip.peeled === 0;
    field("layers-peel").disabled = clip.layers.length < 2;
    field("layers-flatten").disabled = clip.layers.length < 2;
    field("layers-spread").disabled = clip.layers.length < 2;
  }

  #row(layer, place) {
    const item = document.createElement("li");
    const button = document.createElement("button");
    button.className = "layerrow";
    const tint = document.createElement("span");
    tint.className = "tint";
    tint.style.background = `var(--${layerColour(place)})`;
    const name = document.createElement("span");
    name.className = "n";
    name.textContent = layer.number === 1 ? "1 · first" : String(layer.number);
    const adds = document.createElement("span");
    adds.textContent = `${count(layer.notes.length, "note")}${layer.out ? `, takes out ${layer.out}` : ""}`;
    button.append(tint, name, adds);
    button.title = "choose its notes";
    button.addEventListener("click", (event) => this.workshop.choose(layer.notes, event.shiftKey));
    item.append(button);
    return item;
  }
}
