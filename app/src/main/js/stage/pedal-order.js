/**
 * The order in which pedals are shown on the footboard: they are dragged to their places, or moved by the arrow keys.
 */
export class PedalOrder {
  /** @param {(order: import("../input/controls.js").Control[]) => void} moved is told the new order */
  constructor(moved) {
    this.moved = moved;
    this.list = document.getElementById("pedal-order");
    /** @type {{control: import("../input/controls.js").Control, gestures: {words: string}[]}[]} */
    this.pedals = [];
    this.dragged = -1;
  }

  draw(pedals) {
    this.pedals = pedals;
    this.list.replaceChildren(...pedals.map((pedal, i) => this.#chip(pedal, i)));
  }

  #chip({ control, gestures }, place) {
    const chip = document.createElement("button");
    chip.className = "btn small";
    chip.draggable = true;
    chip.textContent = `${place + 1} · ${gestures[0].words}`;
    chip.title = control.device;
    chip.addEventListener("dragstart", () => (this.dragged = place));
    chip.addEventListener("dragover", (event) => event.preventDefault());
    chip.addEventListener("drop", (event) => {
      event.preventDefault();
      this.#move(this.dragged, place);
    });
    chip.addEventListener("keydown", (event) => {
      const step = { ArrowLeft: -1, ArrowRight: 1 }[event.key];
      if (step) {
        event.preventDefault();
        this.#move(place, place + step);
      }
    });
    return chip;
  }

  #move(from, to) {
    if (from < 0 || to < 0 || to >= this.pedals.length || from === to) {
      return;
    }
    const order = this.pedals.map(({ control }) => control);
    order.splice(to, 0, ...order.splice(from, 1));
    this.moved(order);
  }
}
