/** What a part is doing and what comes next, from what the engine has told of it; and that in words. */

import { count, passAt, position, until } from "./time.js";

/** What a part is doing at a tick, as the engine's ticks say, and what comes next. */
export function sceneOf(told, tick, state) {
  const part = arrived(told, tick);
  const scene = presentOf(part, tick, state);
  if (tick !== null && part.cue && part.cue.at > tick) {
    const letter = state.clips.get(part.cue.clip)?.letter ?? "tacet";
    scene.cue = { at: part.cue.at, letter };
    if (scene.clip && scene.position !== null) {
      const position = scene.position + (part.cue.at - tick) / scene.clip.length;
      scene.hatch = position <= 1.0001 ? { position, letter } : undefined;
    }
  }
  const { runUp } = state.show.recording;
  if (runUp && state.isArmed(part.id) && !part.first && !part.onto) {
    scene.runUp = runUp;
  }
  if (scene.kind !== "CUED" && part.first?.start > tick) {
    const { start: at, letter } = part.first;
    scene.records = { at, letter };
    if (scene.position !== null && !scene.hatch) {
      const position = scene.position + (at - tick) / scene.clip.length;
      scene.hatch = position <= 1.0001 ? { position, letter } : undefined;
    }
  }
  if (tick !== null && part.changesAt > tick) {
    scene.changesAt = part.changesAt;
  }
  return scene;
}

/** What was cued is there on its line, also before it is told: the picture turns when the sound does. */
function arrived(part, tick) {
  const { cue } = part;
  if (tick === null || !cue || cue.at > tick) {
    return part;
  }
  const vamp = cue.clip === undefined ? undefined : { clip: cue.clip, phase: cue.phase, from: cue.at };
  return { ...part, vamp, cue: undefined, onto: undefined, first: undefined };
}

/** What comes when a first recording has closed, where that is not simply the loop. */
const THEN = { VAMP: "", OVERDUB: "then overdub", TAKES: "then takes" };

const MODES = { add: "OVERDUB", replace: "REPLACE", punch: "PUNCH", takes: "TAKES" };

function presentOf(part, tick, state) {
  const { first, vamp, onto, ready } = part;
  const bar = state.show.meter.barTicks;
  if (tick === null) {
    const clip = state.clips.get(ready);
    return {
      kind: clip ? "READY" : "TACET",
      empty: !part.shelf.length,
      clip,
      position: null,
      awaiting: state.transport.awaiting,
    };
  }
  const clip = vamp && state.clips.get(vamp.clip);
  if (first && tick < first.start && !clip) {
    return { kind: "CUED", first, position: null, at: first.start };
  }
  if (first && tick >= first.start) {
    const bars = Math.ceil((Math.max(tick - first.start, 1) + 1) / bar);
    return {
      kind: "RECORD",
      first,
      notes: part.recorded,
      bars,
      position: (tick - first.start) / (bars * bar),
      until: first.until,
    };
  }
  if (!clip) {
    return { kind: "TACET", position: null, empty: !part.shelf.length };
  }
  if (tick < vamp.from) {
    return { kind: "READY", clip, position: null, at: vamp.from };
  }
  const { line, round, place, rest } = passAt(vamp, clip.length, tick);
  const mode = onto && tick >= onto.from ? MODES[onto.mode] : "VAMP";
  return {
    kind: mode,
    takes: mode === "TAKES" && !rest ? takesAt(line, onto, part, clip, state) : undefined,
    range: onto?.punchFrom === undefined ? undefined : { from: onto.punchFrom, to: onto.punchTo },
    rest: restAt(tick, rest, onto),
    begins: onto?.toCome ? onto : null,
    clip,
    pass: Math.round((line - passAt(vamp, clip.length, vamp.from).line) / round) + 1,
    place,
    position: place / clip.length,
  };
}

/** Until when nothing is recorded, so as to get ready: between two passes, or before the first one. */
function restAt(tick, rest, onto) {
  const first = onto && !onto.toCome && tick < onto.from;
  return rest || first ? { until: rest ? tick + rest : onto.from } : undefined;
}

/** No takes, where nothing has been played yet in this pass. */
const NONE = [];

/** While takes are on: which one is being played, what of it has come, and those before, newest last. */
function takesAt(line, onto, part, clip, state) {
  const begun = onto.take !== undefined && onto.takeFrom >= line;
  const number = begun ? onto.take : onto.nextTake;
  return {
    number,
    coming: begun ? part.recorded : NONE,
    // asked for only where they are drawn anew
    before: () =>
      clip.takes
        .filter((take) => take.number !== number)
        .map((take) => state.notesOfTake(part, clip, take.number)),
  };
}

export function linesOf(scene, tick, meter) {
  const lines = presentLines(scene, tick, meter);
  if (scene.cue) {
    const what = scene.cue.letter === "tacet" ? "tacet" : `${scene.cue.letter} enters`;
    lines.next = `${what} in ${until(scene.cue.at - tick, meter)}`;
  } else if (scene.records) {
    lines.next = `records ${scene.records.letter} in ${until(scene.records.at - tick, meter)}`;
  } else if (scene.changesAt) {
    lines.next = `changes in ${until(scene.changesAt - tick, meter)}`;
  } else if (scene.begins) {
    lines.next = `${MODES[scene.begins.mode].toLowerCase()} in ${until(scene.begins.from - tick, meter)}`;
  } else if (scene.rest) {
    lines.more = `rests until bar ${Math.floor(scene.rest.until / meter.barTicks) + 1}`;
    lines.next = `on in ${until(scene.rest.until - tick, meter)}`;
  }
  if (scene.runUp) {
    const from = `records from bar ${scene.runUp.bar}${scene.runUp.of === "LOOP" ? " of the loop" : ""}`;
    lines[lines.next ? "note" : "next"] = from;
  }
  return lines;
}

function presentLines(scene, tick, meter) {
  const { barTicks } = meter;
  switch (scene.kind) {
    case "TACET":
      return {
        style: "is-still",
        state: "TACET",
        more: scene.awaiting ? "waiting for the first note" : scene.empty ? "no loop yet" : "",
      };
    case "READY":
      return {
        style: "is-next",
        state: "READY",
        more: `clip ${scene.clip.letter}, ${lengthOf(scene.clip.length, meter)}`,
        takes: takesOf(scene.clip),
        next: scene.at === undefined ? "enters on start" : `enters in ${until(scene.at - tick, meter)}`,
      };
    case "CUED":
      return {
        style: "is-next",
        state: "CUED",
        more: `records from bar ${position(scene.at, meter).bar}`,
        next: `in ${until(scene.at - tick, meter)}`,
      };
    case "RECORD":
      return {
        style: "is-rec",
        state: "RECORD",
        more: `clip ${scene.first.letter} · bar ${Math.floor((tick - scene.first.start) / barTicks) + 1}`,
        note: THEN[scene.first.then],
        next: scene.until === undefined ? "" : `closes in ${until(scene.until - tick, meter)}`,
      };
    default: {
      const layers = scene.clip.layers.length;
      const bars = Math.max(1, Math.ceil(scene.clip.length / barTicks));
      return {
        style: scene.kind === "VAMP" ? "is-now" : "is-rec",
        state: scene.kind,
        more: scene.takes
          ? `take ${scene.takes.number} is being played`
          : `pass ${scene.pass} · bar ${Math.floor(scene.place / barTicks) + 1} of ${bars}`,
        next: "",
        note: `clip ${scene.clip.letter} · ${count(layers, "layer")}`,
        takes: takesOf(scene.clip),
      };
    }
  }
}

function takesOf({ take, takes }) {
  return takes.length > 1 ? `take ${take} of ${takes.length} …` : "";
}

/** A length in bars, else in beats. */
export function lengthOf(ticks, { barTicks, beatTicks }) {
  return ticks % barTicks === 0 ? count(ticks / barTicks, "bar") : count(ticks / beatTicks, "beat");
}
