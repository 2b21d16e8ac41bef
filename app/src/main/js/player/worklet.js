import { SoundBankLoader } from "spessasynth_core";
import { planWith } from "./changes.js";
import { HeardClock } from "./heard-clock.js";
import { Instrument } from "./instrument.js";
import { CLICK, Player } from "./player.js";
import { presetOf } from "./presets.js";
import { Second } from "./second.js";
import { eachOf, firstOf, nameOf, partOf, secondOf, withoutBank } from "./sounds.js";
import { TempoMap } from "./tempo-map.js";
import "./master.js";

/**
 * Blocks begin this much earlier than their first frame, in frames: what falls on a frame exactly does
 * so whichever way its fractions were rounded.
 */
const HAIR = 0.05;

/** The click is percussion of the standard kit. */
const CLICK_SOUND = { drums: true, program: 0 };

/** Most blocks: made once, as what clears the heap stops the music. @type {Map<number, import("./instrument.js").Cut[]>} */
const NOTHING = new Map();

/** @type {import("./instrument.js").Cut[]} */
const NO_CUTS = [];

/** Frames between two reports to the page. */
const REPORT_EVERY = 4096;

/**
 * The audio thread: turns the plan into sound with sample accuracy, and sounds the performer's own
 * keys in the next block. It needs no word from the page to go on.
 */
class PlayerProcessor extends AudioWorkletProcessor {
  constructor({ processorOptions }) {
    super();
    this.clock = new HeardClock(sampleRate);
    this.player = new Player();
    this.bank = SoundBankLoader.fromArrayBuffer(processorOptions.bank);
    /** @type {Map<number, Instrument>} */
    this.instruments = new Map();
    /** @type {Map<number, string>} the sound that each part has, or waits for */
    this.sounds = new Map();
    /** @type {Map<number, import("./sounds.js").SoundOf>} the sound that each part is to have */
    this.wanted = new Map();
    /** @type {{part: number, sound: import("./sounds.js").SoundOf} | null} a sound that is tried in a part, in the place of its own */
    this.tried = null;
    /** @type {Map<number, number>} the output that each part has; the click has the first */
    this.slots = new Map();
    /** @type {Map<number, Second>} what is played of each part by its second sound */
    this.seconds = new Map();
    /** @type {Map<string, import("spessasynth_core").BasicSoundBank>} each sound of a bank of one's own: a bank that has that alone */
    this.own = new Map();
    /** @type {Set<string>} sounds of banks that are not there */
    this.lost = new Set();
    /** @type {Set<string>} sounds whose samples were asked for, and those that are here */
    this.asked = new Set();
    this.ready = new Set();
    /** @type {{micros: number, part: number, sound: import("./sounds.js").SoundOf}[]} sounds that parts will have, by rising instant */
    this.changes = [];
    /** @type {Set<string>} what has had a fault, and has said so */
    this.faults = new Set();
    /** @type {Record<string, any> | null} what is to sound, as far as it is known */
    this.plan = null;
    /** plans that came before the first measurement */
    this.waiting = [];
    this.port.onmessage = ({ data }) => this.receive(data);
    this.wantSound(CLICK, CLICK_SOUND);
    for (const message of processorOptions.messages ?? []) {
      this.receive(message);
    }
    this.port.postMessage({ loaded: true });
  }

  /** @param {Record<string, any>} message one of those in the page's `house/sound.js` */
  receive(message) {
    if (message.measure) {
      this.clock.measure(message.measure.frame, message.measure.micros, currentFrame);
      this.waiting.splice(0).forEach((plan) => this.receive(plan));
      return;
    }
    if (message.slot) {
      this.slots.set(message.part, message.slot);
      return;
    }
    if (this.clock.micros === null && (message.plan || message.wholePlan)) {
      this.waiting.push(message);
      return;
    }
    if (message.gone) {
      this.forget(message.gone);
      return;
    }
    const now = this.clock.micros ?? 0;
    if (message.lost) {
      this.loseSound(message.lost);
    } else if (message.samples) {
      this.takeSamples(/** @type {any} */ (message));
    } else if (message.plan || message.wholePlan) {
      this.takePlan(
        message.wholePlan ? planWith(null, message.wholePlan) : planWith(this.plan, message.plan),
      );
    } else if (message.sound) {
      this.wantSound(message.part, message.sound);
    } else if ("tries" in message) {
      this.trySound(message.tries);
    } else if (message.panic) {
      this.player.panic(now);
      this.instruments.forEach((instrument) => instrument.fadeOut());
    } else {
      const pressed = message.at === undefined ? now : message.at - this.clock.epoch;
      this.player.takeHands(message, now, pressed);
    }
  }

  takePlan(plan) {
    this.plan = plan;
    const own = this.sinceEpoch(plan);
    this.player.setPlan(own, this.clock.micros);
    this.takeSounds(own);
    const { click } = plan;
    this.wantSound(CLICK, click.own ? { ...CLICK_SOUND, own: click.own } : CLICK_SOUND);
    this.instrument(CLICK).gain = click.gain;
  }

  /** Each part has the sound that the plan gives it by now; what comes later is fetched, and waits. */
  takeSounds({ anchors, parts }) {
    const map = new TempoMap(anchors ?? []);
    this.changes = [];
    for (const { part, sound, sounds = [] } of parts) {
      const all = sounds.map(([tick, later]) => ({ micros: map.microsOf(tick), part, sound: later }));
      const past = all.filter(({ micros }) => micros <= this.clock.micros);
      this.wantSound(part, past.at(-1)?.sound ?? sound);
      this.changes.push(...all.slice(past.length));
    }
    this.changes.sort((a, b) => a.micros - b.micros);
    this.changes.flatMap(({ sound }) => eachOf(sound)).forEach((sound) => this.fetch(sound));
  }

  /** @param {number} until the instant at which the block ends */
  changeSounds(until) {
    while (this.changes.length && this.changes[0].micros < until) {
      const { part, sound } = this.changes.shift();
      this.wantSound(part, sound);
    }
  }

  /** A plan whose instants are counted from the clock's epoch. */
  sinceEpoch(plan) {
    const anchors = plan.anchors?.map(([tick, micros, perTick]) => [
      tick,
      micros - this.clock.epoch,
      perTick,
    ]);
    return { ...plan, anchors };
  }

  /** A part goes on with another sound until that is let go, whatever sound it is given meanwhile. */
  trySound(tried) {
    const before = this.tried;
    this.tried = tried;
    for (const part of new Set([before?.part, tried?.part])) {
      if (this.wanted.has(part)) {
        this.wantSound(part, this.wanted.get(part));
      }
    }
  }

  wantSound(part, sound) {
    this.wanted.set(part, sound);
    const now = this.tried?.part === part ? this.tried.sound : sound;
    this.hasSound(part, firstOf(now));
    if (now.second) {
      const second = this.seconds.get(part) ?? new Second();
      second.set(now.second);
      this.seconds.set(part, second);
      this.hasSound(secondOf(part), firstOf(now.second.sound));
      this.instrument(secondOf(part)).gain = second.gain;
    } else {
      this.forgetSecond(part);
    }
  }

  forgetSecond(part) {
    const second = secondOf(part);
    this.seconds.delete(part);
    this.instruments.delete(second);
    this.sounds.delete(second);
  }

  /** A sound is set once its samples are here: decoding them would stop the music. */
  hasSound(part, sound) {
    const name = nameOf(sound);
    if (this.sounds.get(part) === name) {
      return;
    }
    this.sounds.set(part, name);
    if (this.lost.has(name)) {
      this.hasSound(part, withoutBank(sound));
    } else if (this.ready.has(name)) {
      this.setSound(part, sound);
    } else {
      this.fetch(sound);
    }
  }

  /** Asks for the samples of a sound, once. */
  fetch(sound) {
    const name = nameOf(sound);
    if (!this.asked.has(name)) {
      this.asked.add(name);
      this.port.postMessage({ decode: sound });
    }
  }

  /** A sound that the bank lacks is played by one like it, and that is said. */
  setSound(part, sound) {
    if (sound.own) {
      this.instrument(part).setSound({ drums: sound.drums, program: 0, bank: this.own.get(nameOf(sound)) });
      return;
    }
    const { program, name } = presetOf(this.bank, sound);
    this.instrument(part).setSound({ drums: sound.drums, program, bank: this.bank });
    if (program !== sound.program) {
      this.port.postMessage({ lacks: partOf(part), instead: name });
    }
  }

  takeSamples({ samples, of, alone }) {
    const bank = alone ? SoundBankLoader.fromArrayBuffer(alone) : this.bank;
    for (const { index, data, rate, loop } of samples) {
      const sample = bank.samples[index];
      sample.setAudioData(data, rate);
      if (loop) {
        [sample.loopStart, sample.loopEnd] = loop;
      }
    }
    const name = nameOf(of);
    if (alone) {
      this.own.set(name, bank);
    }
    this.ready.add(name);
    for (const [part, wanted] of this.sounds) {
      if (wanted === name) {
        this.setSound(part, of);
      }
    }
    this.port.postMessage({ ready: name });
  }

  /** A sound whose bank is not there is played by what stands for it. */
  loseSound(sound) {
    const name = nameOf(sound);
    this.lost.add(name);
    for (const [part, wanted] of this.sounds) {
      if (wanted === name) {
        this.hasSound(part, withoutBank(sound));
      }
    }
  }

  /** A part has been deleted. */
  forget(part) {
    this.forgetSecond(part);
    for (const kept of [this.instruments, this.sounds, this.wanted, this.slots]) {
      kept.delete(part);
    }
  }

  instrument(part) {
    let instrument = this.instruments.get(part);
    if (!instrument) {
      instrument = new Instrument(this.bank, sampleRate);
      this.instruments.set(part, instrument);
    }
    return instrument;
  }

  /** Whatever goes wrong in a block, the next one is played. */
  process(inputs, outputs) {
    try {
      this.play(inputs, outputs);
    } catch (fault) {
      this.tellFault("the player", fault);
    }
    return true;
  }

  /** A fault is told once for each that has it. */
  tellFault(what, fault) {
    if (!this.faults.has(what)) {
      this.faults.add(what);
      this.port.postMessage({ fault: `${what}: ${fault?.message ?? fault}` });
    }
  }

  play(_inputs, outputs) {
    if (this.clock.micros === null) {
      return;
    }
    const frames = outputs[0][0].length;
    const hair = HAIR * this.clock.perFrame;
    const [begins, ends] = this.clock.advance(frames);
    this.changeSounds(ends - hair);
    const actions = this.player.advance(begins - hair, ends - hair);
    const cuts = actions.length ? this.cutsOf(actions, begins - hair, frames) : NOTHING;
    if (this.player.stopped) {
      this.player.stopped = false;
      this.instruments.forEach((instrument) => instrument.fadeOut());
    }
    for (const [key, instrument] of this.instruments) {
      const part = partOf(key);
      const [left, right = left] = outputs[this.slots.get(part) ?? 0] ?? outputs[0];
      try {
        const own = cuts.get(part) ?? NO_CUTS;
        instrument.render(key === part ? own : this.seconds.get(part).cuts(own), left, right);
      } catch (fault) {
        // one instrument that fails is silent, and the others play on
        this.tellFault(`part ${part}`, fault);
      }
    }
    this.report(frames);
  }

  /** What each part does, and in which frames of a block that begins at an instant. */
  cutsOf(actions, from, frames) {
    const cuts = new Map();
    for (const action of actions) {
      const offset = Math.min(frames - 1, Math.floor((action.micros - from) / this.clock.perFrame));
      const list = cuts.get(action.part);
      if (list) {
        list.push({ offset, action });
      } else {
        cuts.set(action.part, [{ offset, action }]);
      }
    }
    return cuts;
  }

  /** Now and then the page is told which instant the next frame stands for. */
  report(frames) {
    if (currentFrame % REPORT_EVERY < frames) {
      const micros = this.clock.micros + this.clock.epoch;
      this.port.postMessage({ clock: { frame: currentFrame + frames, micros } });
    }
  }
}

registerProcessor("ancora-player", PlayerProcessor);
