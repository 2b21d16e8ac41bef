import { stayAwake } from "../house/awake.js";
import { Connection } from "../house/connection.js";
import { Outputs } from "../house/outputs.js";
import { ServerClock } from "../house/server-clock.js";
import { MOST_PARTS, Sound } from "../house/sound.js";
import { State } from "../house/state.js";
import { WhoSounds } from "../house/who-sounds.js";
import { Commands } from "../input/commands.js";
import { Concert } from "../input/concert.js";
import { Controls } from "../input/controls.js";
import { Keyboard } from "../input/keyboard.js";
import { InputHub } from "../input/hub.js";
import { MidiBytes } from "../input/midi-bytes.js";
import { labelOf, readLayout } from "../input/layout.js";
import { Midi } from "../input/midi.js";
import { StandIn } from "../input/stand-in.js";
import { Lamps } from "../output/lamps.js";
import { Outside } from "../output/outside.js";
import { BringIn } from "../files/bring-in.js";
import { dragOut } from "../files/drag-out.js";
import { SoundSheet } from "../files/sound-sheet.js";
import { BalanceDialog } from "./balance.js";
import { ClipDialog } from "./clip-dialog.js";
import { Conductor, quiet } from "./conductor.js";
import { closeDrawer, dialogs } from "./dialogs.js";
import { FirstSteps } from "./first-steps.js";
import { Footboard } from "./footboard.js";
import { Form } from "./form.js";
import { Hands } from "./hands.js";
import { here } from "./here.js";
import { KeptSheet } from "./kept-sheet.js";
import { PartDialog } from "./part-dialog.js";
import { SectionDialog } from "./section-dialog.js";
import { Said } from "./said.js";
import { Settings } from "./settings.js";
import { Setup } from "./setup.js";
import { SoundChooser } from "./sound-chooser.js";
import { Staves } from "./staves.js";
import { tabs } from "./tabs.js";
import { tickNow } from "./time.js";
import { Ways } from "./ways.js";
import { WhatNow } from "./what-now.js";
import { Words } from "./words.js";
import { Runs } from "../runs/runs.js";
import { Workshop } from "../workshop/workshop.js";

/** Brings the Stage to life: joins connection, sound, input and what is drawn. */
const show = Number(document.getElementById("stage").dataset.show);
const clock = new ServerClock();
const { view, open: opened } = document.getElementById("stage").dataset;
const connection = new Connection(show, clock);
const state = new State();
const sound = new Sound(clock);
const hub = new InputHub(connection, sound, state);
const standIn = new StandIn(hub, clock);
const midi = new Midi(hub);
const commands = new Commands(connection);
const controls = new Controls(commands);
hub.controls = controls;
const outside = new Outside(clock, midi);
sound.tellAlso((message) => outside.receive(message));
const outputs = new Outputs(clock, sound, show);
const words = new Words();
/** A window beside the Stage never takes the sound from it. */
const beside = ["footboard", "workshop", "runs"].includes(view);
const who = new WhoSounds(connection, sound, hub, outside, beside);

const concert = new Concert(connection, state, clock);
const stage = {
  show,
  clock,
  connection,
  state,
  sound,
  hub,
  standIn,
  words,
  concert,
  commands,
  controls,
  midi,
  outside,
  outputs,
  who,
};

const chooser = new SoundChooser(stage);
const settings = new Settings(stage);
const partDialog = new PartDialog(stage, chooser);
const workshop = new Workshop(stage);
stage.workshop = workshop;
stage.soundSheet = new SoundSheet();
const bringIn = new BringIn({
  show,
  parts: () => state.staves,
  time: () => `${state.show.bpm} bpm, ${state.show.meter.beats}/${state.show.meter.unit}`,
});
document.getElementById("bring-in-show-sheet").addEventListener("click", () => bringIn.open());
const clipDialog = new ClipDialog(stage, chooser);
const sectionDialog = new SectionDialog(stage);
const setup = new Setup(stage);
const ways = new Ways(stage);
const keptSheet = new KeptSheet(stage);
const runs = new Runs(stage);
stage.runs = runs;
const hands = new Hands(stage);
const whatNow = new WhatNow(stage);
const lamps = new Lamps(midi, state, controls);
runs.addEventListener("stood", balance);
/** @type {{draw: () => void, tick?: (tick: number | null) => void}[]} */
const views = [
  new Conductor(stage),
  new Form(stage, sectionDialog),
  new Staves(stage, { partDialog, clipDialog, chooser }),
  new Footboard(stage),
  new Said(stage),
  ways,
  keptSheet,
  new FirstSteps(stage, { beside }),
  hands,
  whatNow,
  lamps,
  new BalanceDialog(stage),
  settings,
  partDialog,
  clipDialog,
  sectionDialog,
  setup,
  workshop,
  runs,
];

/** Views that have had a fault, and have said so. */
const faulty = new Set();

/** What has changed is drawn with the next frame, however often it has changed until then. */
let changed = false;
function draw() {
  changed = true;
}

/** The parts stand as the show has them, or as they did in the run that is heard. */
function balance() {
  const { stood, bpm } = runs;
  const heard = state.staves.map((part) => {
    const own = stood?.get(part.id) ?? part.balance;
    return { id: part.id, balance: outside.replaces(part) ? { ...own, gain: 0 } : own };
  });
  // as in the plan, what the show has no more comes after the rest, as far as there is room
  const gone = [...(stood ?? [])].filter(([id]) => !state.parts.has(id)).slice(0, MOST_PARTS - heard.length);
  heard.push(...gone.map(([id, own]) => ({ id, balance: own })));
  const all = /** @type {const} */ ([heard, state.show.master, bpm ?? state.show.bpm]);
  sound.setBalance(...all);
  outputs.setBalance(...all);
  outside.setParts(state.staves);
}

connection.addEventListener("welcome", ({ detail: welcome }) => {
  state.clear();
  state.take(welcome.state);
  state.press = welcome.press;
  state.lit = welcome.lit;
  controls.set(welcome.controls);
  controls.pedals = welcome.pedals;
  outside.setClockTo(welcome.clockTo);
  balance();
  sound.takeWholePlan(welcome.plan);
  who.begin(welcome.holder ?? "");
  document.body.classList.remove("connecting");
  if (view === "workshop") {
    workshop.follows = true;
    if (!workshop.isOpen) {
      workshop.open();
    }
  } else if (view === "runs" && !runs.isOpen) {
    runs.toggle();
  }
  draw();
});
connection.addEventListener("state", ({ detail }) => {
  state.take(detail);
  if (detail.show || detail.parts) {
    balance();
  }
  if (state.transport.rolling) {
    stage.soundSheet.stop("The performance comes first: nothing was made.");
  }
  concert.look();
  draw();
});
connection.addEventListener("plan", ({ detail }) => sound.takePlan(detail));
connection.addEventListener("press", ({ detail }) => {
  state.press = detail;
  draw();
});
connection.addEventListener("lit", ({ detail }) => {
  state.lit = detail;
  draw();
});
connection.addEventListener("holder", ({ detail }) => who.told(detail));
who.addEventListener("change", draw);
hub.addEventListener("elsewhere", () =>
  words.say("What is played here does not count: the sound is on the other page. Take it here first."),
);
connection.addEventListener("standIn", ({ detail }) => standIn.play(detail));
connection.addEventListener("controls", ({ detail }) => {
  controls.set(detail);
  draw();
});
connection.addEventListener("pedals", ({ detail }) => {
  controls.pedals = detail;
  draw();
});
controls.addEventListener("moved", ({ detail }) => {
  const [turned] = controls.of(detail);
  if (turned?.hold === "TURNED") {
    words.sayIfQuiet(`${turned.words}.`);
  }
});
connection.addEventListener("clockTo", ({ detail }) => {
  outside.setClockTo(detail);
  draw();
});

/** What stand-in devices on other pages send: real bytes, which go the one way in. */
const streams = new Map();
connection.addEventListener("bytes", ({ detail: { device, stamp, bytes } }) => {
  if (!streams.has(device)) {
    const stream = { own: 0 };
    stream.bytes = new MidiBytes((message) => hub.receive(device, message, stream.own));
    streams.set(device, stream);
  }
  const stream = streams.get(device);
  stream.own = clock.own(stamp);
  stream.bytes.take(bytes);
});
connection.addEventListener("unplugged", ({ detail }) =>
  detail.forEach((device) => {
    hub.gone(device);
    connection.do({ do: "deviceGone", device });
  }),
);
connection.addEventListener("concert", ({ detail }) => concert.play(detail));
concert.addEventListener("change", () => {
  document.getElementById("concert").textContent = concert.isOn ? "End the concert" : "Concert";
});
connection.addEventListener("line", ({ detail: there }) =>
  words.lamp("line-lamp", there ? "" : "no connection"),
);
connection.addEventListener("silent", ({ detail: silent }) =>
  words.lamp("line-lamp", silent ? "no answer: what you do is kept, and done when there is one" : ""),
);
connection.addEventListener("disk", ({ detail: trouble }) =>
  words.lamp("disk-lamp", trouble ? "the disk is full: what you play is kept, free space on it" : ""),
);
connection.addEventListener("out", () =>
  words.lamp("line-lamp", "say the pass phrase again: reload this page"),
);
for (const kind of ["word", "refused", "error", "gone"]) {
  connection.addEventListener(kind, ({ detail }) => words.say(detail, kind !== "word"));
}

connection.addEventListener("asks", ({ detail: { word, until } }) =>
  words.ask(word, (until - clock.now()) / 1000),
);

connection.addEventListener("refused", draw);
connection.addEventListener("hearing", draw);

sound.addEventListener("delay", ({ detail }) => connection.do({ do: "reportDelay", micros: detail }));
sound.addEventListener("lacks", ({ detail: { part, instead } }) => {
  const name = state.parts.get(part)?.sound.name ?? "that sound";
  words.say(`The sound bank lacks ${name}: ${instead} sounds instead.`);
});
sound.addEventListener("bankless", ({ detail: { own } }) =>
  words.say(
    `${own.name} is of the sound bank ${own.file}, which is not here: another sound stands for it. Bring the bank in where sounds are chosen.`,
  ),
);
hub.addEventListener("flood", ({ detail }) =>
  words.say(
    `${detail} sends more than hands can play: some is left out. Unplug it, or look at its settings.`,
    true,
  ),
);
const midiLamp = document.getElementById("midi-lamp");
midi.addEventListener("failed", ({ detail }) => {
  midiLamp.textContent = "no MIDI";
  midiLamp.title = detail;
  words.sayIfQuiet(detail);
});
midi.addEventListener("devices", () => {
  midiLamp.textContent = midi.names.join(", ");
  if (state.show) {
    balance();
  }
  draw();
});
sound.addEventListener("failed", ({ detail }) => words.say(detail, true));
sound.addEventListener("stopped", () => {
  words.say("The browser has stopped the sound: touch the page, and it goes on in step.", true);
  who.show();
});

/** Browsers let a page sound only after a touch or a key. */
async function wake() {
  if (beside) {
    return;
  }
  midi.open();
  await who.wake();
}
addEventListener("pointerdown", wake, { capture: true });
addEventListener("keydown", wake, { capture: true });

who.show();
dialogs();
tabs();
dragOut();
commands.quiet = () => quiet(stage);
commands.here = here(stage, { chooser, setup, partDialog, hands, whatNow, workshop, runs });
readLayout().then(() => {
  for (const key of document.querySelectorAll("kbd[data-key]")) {
    key.textContent = labelOf(key.dataset.key);
  }
  hands.relabel();
});
const keyboard = new Keyboard(controls, hands.byKeys);
keyboard.closes = () => closeDrawer() || closeWhatIsOpen([whatNow, workshop, runs]);
keyboard.first((event) => workshop.takesKey(event));
showSaved();
connection.connect();
if (opened === "setup") {
  setup.open("devices");
}

/** Until the host says how things stand the show is shown as it was saved, greyed; keys stand for what they do. */
function showSaved() {
  const { saved, controls: kept } = document.getElementById("stage").dataset;
  state.take(JSON.parse(saved));
  controls.set(JSON.parse(kept));
  draw();
}

/** Whether something lay over the staves, or beside them, and is closed now. */
function closeWhatIsOpen(views) {
  const open = views.find(({ isOpen }) => isOpen);
  open?.close();
  return open !== undefined;
}

/** What has changed is drawn, and what moves with time, while it moves; a view that fails harms no other. */
function frame() {
  requestAnimationFrame(frame);
  if (changed) {
    changed = false;
    views.forEach((view) => guarded(view, () => view.draw()));
  }
  const tick = tickNow(stage);
  views.forEach((view) => guarded(view, () => view.tick?.(tick)));
}

/** A fault of a view is told once. */
function guarded(view, act) {
  try {
    act();
  } catch (fault) {
    if (!faulty.has(view)) {
      faulty.add(view);
      words.say(`A part of this page failed (${fault.message}): reload it when nothing sounds.`, true);
    }
  }
}
requestAnimationFrame(frame);

sound.addEventListener("fault", ({ detail }) =>
  words.say(`A sound failed (${detail}): reload the page when nothing sounds.`, true),
);

/** Whoever goes takes the sound along: while it rolls, that is asked first. */
addEventListener("beforeunload", (event) => {
  if (state.transport?.rolling && who.isHere) {
    event.preventDefault();
  }
});

/** Nothing leaves the page that sounds while it rolls: links open beside it, and the keys that reload it do not. */
addEventListener("click", (event) => {
  const link = event.target.closest("a[href]");
  if (link && state.transport?.rolling && who.isHere && !link.target) {
    event.preventDefault();
    open(link.href, "_blank", "noopener");
  }
});
addEventListener("keydown", (event) => {
  const reloads = event.key === "F5" || ((event.ctrlKey || event.metaKey) && event.code === "KeyR");
  if (reloads && state.transport?.rolling && who.isHere) {
    event.preventDefault();
    words.say("The music would stop: stop it first, then reload.", true);
  }
});

if (!isSecureContext) {
  words.say(
    "By plain http there is no sound here, no MIDI device, and the screen may go dark: all else works.",
    true,
  );
}
stayAwake(connection, () => Boolean(state.transport?.rolling));

/* For stage hands: what a fault report needs to see. */
globalThis.ancora = stage;
