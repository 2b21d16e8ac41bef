import { drumNames } from "../house/drum-names.js";
import { Connection } from "../house/connection.js";
import { ServerClock } from "../house/server-clock.js";

/**
 * Stand-ins for outside devices: a footboard, knobs, pads and a keyboard with its pedal. They send real MIDI
 * bytes, each with the moment at which finger or foot moved.
 */
const FOOTBOARD = "stand-in footboard";
const KNOBS = "stand-in knobs";
const PADS = "stand-in pads";
const KEYBOARD = "stand-in keyboard";

const NOTE_ON = 0x90;
const NOTE_OFF = 0x80;
const KEY_PRESSURE = 0xa0;
const CONTROL_CHANGE = 0xb0;
const DRUM_CHANNEL = 9;

const FIRST_PEDAL = 80;
const FIRST_KNOB = 16;
const SUSTAIN = 64;
const PEDALS = 6;
const DRUMS = [49, 51, 46, 42, 45, 48, 39, 37, 36, 38, 41, 44];
const LOWEST_KEY = 48;
const KEY_COUNT = 25;
const BLACK = [1, 3, 6, 8, 10];

const main = document.getElementById("devices");
const clock = new ServerClock();
const connection = new Connection(Number(main.dataset.show), clock);
const line = document.getElementById("line");
connection.addEventListener("line", ({ detail }) => (line.textContent = detail ? "" : "no connection"));
connection.addEventListener("error", ({ detail }) => (line.textContent = detail));
/** Pedals and pads light by what their command would find. */
function light(lit) {
  for (const control of document.querySelectorAll("[data-control]")) {
    control.dataset.lit = lit[control.dataset.control] ?? "";
  }
}
connection.addEventListener("welcome", ({ detail }) => light(detail.lit));
connection.addEventListener("lit", ({ detail }) => light(detail));

function send(device, bytes, own) {
  connection.ask({ bytes, device, stamp: clock.at(own) });
}

/**
 * Something that is pressed, and let go wherever the finger is by then.
 *
 * @param {HTMLElement} element
 * @param {(event: PointerEvent) => void} down
 * @param {(event: PointerEvent) => void} up
 * @param {(event: PointerEvent) => void} [move]
 */
function pressed(element, down, up, move = () => {}) {
  element.addEventListener("pointerdown", (event) => {
    element.setPointerCapture(event.pointerId);
    element.classList.add("down");
    down(event);
  });
  element.addEventListener("pointermove", (event) => element.classList.contains("down") && move(event));
  for (const kind of ["pointerup", "pointercancel"]) {
    element.addEventListener(kind, (event) => {
      if (element.classList.contains("down")) {
        element.classList.remove("down");
        up(event);
      }
    });
  }
  element.addEventListener("contextmenu", (event) => event.preventDefault());
}

function button(style, text) {
  const element = document.createElement("button");
  element.className = style;
  element.textContent = text;
  return element;
}

/** How far down a pad or key is touched, as a velocity. */
function hardness({ offsetY, target }) {
  return Math.max(20, Math.min(127, Math.round(40 + (offsetY / target.clientHeight) * 87)));
}

const board = document.getElementById("board");
for (let i = 0; i < PEDALS; i++) {
  const pedal = button("pedal", String(i + 1));
  const tell = (value) => (event) =>
    send(FOOTBOARD, [CONTROL_CHANGE, FIRST_PEDAL + i, value], event.timeStamp);
  pressed(pedal, tell(127), tell(0));
  pedal.dataset.control = `${FOOTBOARD} CONTROL_CHANGE 0 ${FIRST_PEDAL + i}`;
  board.append(pedal);
}

const knobs = document.getElementById("knobs");
["level", "echo", "room", "tempo"].forEach((name, i) => {
  const label = document.createElement("label");
  const knob = document.createElement("input");
  Object.assign(knob, { type: "range", min: 0, max: 127, value: 64 });
  knob.addEventListener("input", (event) =>
    send(KNOBS, [CONTROL_CHANGE, FIRST_KNOB + i, Number(knob.value)], event.timeStamp),
  );
  label.append(`${i + 1} ${name}`, knob);
  knobs.append(label);
});

const pads = document.getElementById("pads");
const names = await drumNames();
for (const pitch of DRUMS) {
  const pad = button("pad", names[pitch] ?? String(pitch));
  const tell = (status, value, own) => send(PADS, [status | DRUM_CHANNEL, pitch, value], own);
  pressed(
    pad,
    (event) => tell(NOTE_ON, hardness(event), event.timeStamp),
    (event) => tell(NOTE_OFF, 0, event.timeStamp),
    (event) => tell(KEY_PRESSURE, hardness(event), event.timeStamp),
  );
  pad.dataset.control = `${PADS} NOTE ${DRUM_CHANNEL} ${pitch}`;
  pads.append(pad);
}

const keys = document.getElementById("keys");
for (let pitch = LOWEST_KEY; pitch < LOWEST_KEY + KEY_COUNT; pitch++) {
  const key = button(
    BLACK.includes(pitch % 12) ? "key black" : "key",
    pitch % 12 ? "" : `C${pitch / 12 - 1}`,
  );
  key.setAttribute("aria-label", `key ${pitch}`);
  pressed(
    key,
    (event) => send(KEYBOARD, [NOTE_ON, pitch, hardness(event)], event.timeStamp),
    (event) => send(KEYBOARD, [NOTE_OFF, pitch, 0], event.timeStamp),
  );
  keys.append(key);
}

const sustain = document.getElementById("sustain");
sustain.addEventListener("click", (event) => {
  const down = sustain.getAttribute("aria-pressed") !== "true";
  sustain.setAttribute("aria-pressed", String(down));
  send(KEYBOARD, [CONTROL_CHANGE, SUSTAIN, down ? 127 : 0], event.timeStamp);
});

connection.connect();
