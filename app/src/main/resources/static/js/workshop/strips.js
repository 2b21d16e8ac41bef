/** Pedal and controllers of the clip, a strip for each that there is, below its notes; and their tools. */

const PEDAL = 128;
const HIGH = 26;

export class Strips {
  constructor(workshop) {
    this.workshop = workshop;
    this.root = document.getElementById("workshop-strips");
  }

  draw(scene) {
    const { clip, scale, colours } = scene;
    const spans = clip.layers.flatMap((layer) => layer.notes).filter(([, pitch]) => pitch === PEDAL);
    this.root.hidden = spans.length === 0;
    if (!spans.length) {
      return;
    }
    let canvas = this.root.querySelector("canvas");
    if (!canvas) {
      canvas = document.createElement("canvas");
      canvas.setAttribute("role", "img");
      canvas.setAttribute("aria-label", "the sustain pedal");
      const lift = document.createElement("button");
      lift.className = "btn small";
      lift.textContent = "pedal out of what is shown";
      lift.addEventListener("click", () => this.workshop.liftPedal());
      this.root.replaceChildren(lift, canvas);
    }
    canvas.width = scale.size.wide;
    canvas.height = HIGH;
    const to = canvas.getContext("2d");
    to.strokeStyle = colours.dim;
    to.lineWidth = 2;
    for (const [, , , meant, length] of spans) {
      // as sheet music has it: a bracket
      const [from, until] = [scale.x(meant), scale.x(meant + length)];
      to.beginPath();
      to.moveTo(from, 6);
      to.lineTo(from, 20);
      to.lineTo(until, 20);
      to.lineTo(until, 6);
      to.stroke();
    }
  }
}
