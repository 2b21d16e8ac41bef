/**
 * What the parts go through between the audio thread and the loudspeakers: each its level, its tone, its place
 * between left and right, and its sends to echo and room; all together the master, which holds peaks down and
 * measures. The browser's own nodes do all but that, so that every change is smooth and costs the music nothing. How
 * loud a part is heard is worked out by the engine.
 *
 * @typedef {{slot: number, level: GainNode, low: BiquadFilterNode, high: BiquadFilterNode, pan: StereoPannerNode,
 *   ring: GainNode, sends: Map<Echo, GainNode>, ticks: number, room: GainNode, leaving: number}} Strip
 * @typedef {{level: number, pan: number, gain: number, echo: number, room: number, low: number, high: number,
 *   echoTicks?: number}} Balance its own echo time, if it has one
 * @typedef {{gain: number, echoTicks: number, repeats: number, tone: number, room: number, limited: boolean}} Master
 * @typedef {{output: number, held: number, loudness: number, click: number, wet: number, parts: Map<number, number>}} Levels
 *   peaks, 1 being all that an output can give; by how much the whole was held down, as a factor; LUFS of the last 3 s
 */

import { framesAhead } from "../player/limiter.js";

/** A change is heard within some of these, in seconds: no clicks. */
const SMOOTH = 0.008;

/** What still rings of a part that is deleted is over by then, in ms. */
const GONE_AFTER = 120;

const IMPULSE_SEED = 48271;

/** A quarter note at the slowest tempo lasts 3 s; a long step is given room. In seconds. */
const LONGEST_STEP = 12;

/** Where the tone of a part begins to be otherwise, in hertz: below the one, above the other. Common practice. */
const LOW = 250;
const HIGH = 4000;

/** The click is routed as if it were a part. */
export const CLICK = -1;

/**
 * Where something goes: with all, to a pair of outputs of its own (1 is the second pair), or nowhere here, since another
 * device has it.
 *
 * @typedef {number | "nowhere"} Route
 */
const WITH_ALL = 0;

export class Mixer {
  /**
   * @param {BaseAudioContext} context has the processors of `player/worklet.js`
   * @param {AudioWorkletNode} node its output 0 is the click, the others are parts
   * @param {boolean} [each] whether the master gives each of what goes into it by itself besides
   */
  constructor(context, node, each = false) {
    this.context = context;
    this.whole = context.createGain();
    const inputs = 1 + node.numberOfOutputs + 1;
    this.master = new AudioWorkletNode(context, "ancora-master", {
      numberOfInputs: inputs,
      numberOfOutputs: each ? inputs : 1,
      outputChannelCount: Array(each ? inputs : 1).fill(2),
      channelCount: 2,
      channelCountMode: "explicit",
    });
    this.master.port.onmessage = ({ data }) => data.levels && this.#measured(data.levels);
    this.master.connect(context.destination);
    this.whole.connect(this.master, 0, 0);
    // if it dies all is heard still, though nothing is held or measured any more
    this.master.onprocessorerror = () => this.whole.connect(context.destination);
    this.click = context.createGain();
    /** @type {Map<number, Route>} of parts, and of the click, which do not go with all */
    this.routes = new Map();
    /** @type {ChannelMergerNode | null} all outputs of the sound card, once more than two are wanted */
    this.card = null;
    /** @type {Map<number, GainNode>} what goes to each pair of outputs beside the first */
    this.pairs = new Map();
    this.#lead(CLICK, this.click);
    this.wet = context.createGain();
    this.wet.connect(this.whole);
    this.wet.connect(this.master, 0, inputs - 1);
    this.room = context.createConvolver();
    this.room.connect(this.wet);
    /** @type {Map<number, Echo>} the echoes, by their time in ticks */
    this.echoes = new Map();
    /** @type {Map<number, Strip>} what each part goes through */
    this.strips = new Map();
    /** @type {(levels: Levels) => void} is told how loud it is, 20 times a second */
    this.onLevels = () => {};
    this.attach(node);
  }

  /** @returns {AudioNode} what goes to the loudspeakers */
  get output() {
    return this.master;
  }

  /** @returns {number} which output of the master gives a part by itself, or the click; echo and room, if none is said */
  outputOf(part) {
    return part === undefined ? this.master.numberOfOutputs - 1 : 1 + this.slotOf(part);
  }

  /** @returns {number} pairs of outputs that the sound card has */
  get pairCount() {
    return Math.max(1, Math.floor(this.context.destination.maxChannelCount / 2));
  }

  /**
   * What goes with all, to a pair of its own, or nowhere. Echo and room go with all in any case.
   *
   * @param {Map<number, Route>} routes of parts, and of {@link CLICK}; who is not in it goes with all
   */
  route(routes) {
    const before = this.routes;
    this.routes = routes;
    if (before.get(CLICK) !== routes.get(CLICK)) {
      this.#lead(CLICK, this.click);
    }
    for (const [part, { pan }] of this.strips) {
      if (before.get(part) !== routes.get(part)) {
        this.#lead(part, pan);
      }
    }
  }

  /** From now on something goes where it is routed, and nowhere else but to its meter. */
  #lead(of, node) {
    const route = this.routes.get(of) ?? WITH_ALL;
    node.disconnect();
    if (of !== CLICK) {
      const { slot, ring } = this.strips.get(of);
      node.connect(this.master, 0, 1 + slot);
      ring.gain.value = route === "nowhere" ? 0 : 1;
    }
    if (route === WITH_ALL) {
      node.connect(this.whole);
    } else if (route !== "nowhere" && route < this.pairCount) {
      node.connect(this.#pair(route));
    }
  }

  /** What goes past the master is as late as what goes through it. */
  #pair(number) {
    const { context } = this;
    let pair = this.pairs.get(number);
    if (!pair) {
      const card = this.#wholeCard();
      pair = context.createGain();
      const delay = context.createDelay(1);
      delay.delayTime.value = framesAhead(context.sampleRate) / context.sampleRate;
      const sides = context.createChannelSplitter(2);
      pair.connect(delay).connect(sides);
      sides.connect(card, 0, 2 * number);
      sides.connect(card, 1, 2 * number + 1);
      Object.assign(pair, { channelCount: 2, channelCountMode: "explicit" });
      this.pairs.set(number, pair);
    }
    return pair;
  }

  #wholeCard() {
    if (!this.card) {
      const { context } = this;
      const { destination } = context;
      this.card = context.createChannelMerger(2 * this.pairCount);
      destination.channelCount = 2 * this.pairCount;
      destination.channelCountMode = "explicit";
      destination.channelInterpretation = "discrete";
      const sides = context.createChannelSplitter(2);
      this.master.disconnect(destination);
      this.master.connect(sides);
      sides.connect(this.card, 0, 0);
      sides.connect(this.card, 1, 1);
      this.card.connect(destination);
    }
    return this.card;
  }

  /** Takes another audio thread's node for the one before, each part at its place. */
  attach(node) {
    this.node = node;
    node.connect(this.click, 0);
    node.connect(this.master, 0, 1);
    for (const [part, { slot, level }] of this.strips) {
      node.connect(level, slot);
      node.port.postMessage({ slot, part });
    }
  }

  /**
   * @param {{id: number, balance: Balance}[]} parts
   * @param {Master} master
   * @param {number} bpm the echo keeps time with it
   */
  set(parts, master, bpm) {
    this.settings = master;
    this.bpm ??= bpm;
    const there = new Set(parts.map(({ id }) => id));
    [...this.strips.keys()].filter((id) => !there.has(id)).forEach((id) => this.#leave(id));
    for (const { id, balance } of parts) {
      const strip = this.strips.get(id) ?? this.#strip(id);
      clearTimeout(strip.leaving);
      strip.leaving = 0;
      this.stand(id, balance);
    }
    this.#glide(this.whole.gain, master.gain);
    this.#forgetEchoes();
    this.keepTime(bpm);
    this.master.parameters.get("limited").value = master.limited ? 1 : 0;
    if (this.roomSeconds !== master.room) {
      this.roomSeconds = master.room;
      this.room.buffer = impulse(this.context, master.room);
    }
  }

  /**
   * A part that is there stands otherwise.
   *
   * @param {number} id
   * @param {Balance} balance
   * @param {number} [at] from when on, in seconds of the context
   */
  stand(id, balance, at) {
    const strip = this.strips.get(id);
    this.#glide(strip.level.gain, balance.gain, at);
    this.#glide(strip.low.gain, balance.low, at);
    this.#glide(strip.high.gain, balance.high, at);
    this.#glide(strip.pan.pan, balance.pan / 100, at);
    this.#glide(strip.room.gain, balance.room / 100, at);
    strip.ticks = balance.echoTicks ?? this.settings.echoTicks;
    const wanted = this.#send(strip, this.#echo(strip.ticks));
    strip.sends.forEach((send) => this.#glide(send.gain, send === wanted ? balance.echo / 100 : 0, at));
  }

  /** Echoes go with a tempo, from some second of the context on. */
  keepTime(bpm, at) {
    this.bpm = bpm;
    for (const [ticks, echo] of this.echoes) {
      const step = (ticks * 60) / bpm / 960;
      echo.delays.forEach((delay) => this.#glide(delay.delayTime, step, at));
      echo.tones.forEach((tone) => this.#glide(tone.frequency, this.settings.tone));
      this.#glide(echo.feedback.gain, this.hushed ? 0 : this.settings.repeats / 100);
    }
  }

  /** After a stop nothing rings on, not in the room either. */
  hush() {
    this.hushed = true;
    this.#glide(this.wet.gain, 0);
    this.echoes.forEach(({ feedback }) => this.#glide(feedback.gain, 0));
  }

  /** Something sounds again. */
  wake() {
    if (this.hushed) {
      this.hushed = false;
      this.#glide(this.wet.gain, 1);
      this.echoes.forEach(({ feedback }) => this.#glide(feedback.gain, this.settings.repeats / 100));
    }
  }

  /** @param {Float32Array} levels as `player/master.js` has them */
  #measured([output, held, loudness, click, ...inputs]) {
    const parts = new Map([...this.strips].map(([part, { slot }]) => [part, inputs[slot - 1]]));
    this.onLevels({ output, held, loudness, click, wet: inputs.at(-1), parts });
  }

  /** @returns {number} the output of the audio thread that a part has; 0 if there is none for it */
  slotOf(part) {
    return this.strips.get(part)?.slot ?? 0;
  }

  /** A part that has gone makes room for another; what still rings of it is faded out. */
  #leave(id) {
    const strip = this.strips.get(id);
    this.#glide(strip.level.gain, 0);
    strip.leaving ||= setTimeout(() => this.#gone(id), GONE_AFTER);
  }

  #gone(id) {
    const { slot, ...nodes } = this.strips.get(id);
    this.node.disconnect(slot);
    const all = [nodes.level, nodes.high, nodes.ring, nodes.pan, nodes.room, ...nodes.sends.values()];
    all.forEach((node) => node.disconnect());
    this.strips.delete(id);
    this.node.port.postMessage({ gone: id });
  }

  /** A show has no more parts than the node has outputs for them; those that are leaving go at once. */
  #freeSlot() {
    const used = new Set([...this.strips.values()].map(({ slot }) => slot));
    for (let slot = 1; slot < this.node.numberOfOutputs; slot++) {
      if (!used.has(slot)) {
        return slot;
      }
    }
    const [gone] = [...this.strips].find(([, { leaving }]) => leaving);
    clearTimeout(this.strips.get(gone).leaving);
    this.#gone(gone);
    return this.#freeSlot();
  }

  #strip(id) {
    const slot = this.#freeSlot();
    const { context } = this;
    const strip = {
      slot,
      leaving: 0,
      level: context.createGain(),
      low: context.createBiquadFilter(),
      high: context.createBiquadFilter(),
      pan: context.createStereoPanner(),
      // what goes nowhere here rings nowhere here
      ring: context.createGain(),
      sends: new Map(),
      ticks: 0,
      room: context.createGain(),
    };
    strip.level.gain.value = 0;
    strip.room.gain.value = 0;
    this.node.connect(strip.level, slot);
    Object.assign(strip.low, { type: "lowshelf" }).frequency.value = LOW;
    Object.assign(strip.high, { type: "highshelf" }).frequency.value = HIGH;
    strip.level.connect(strip.low).connect(strip.high).connect(strip.pan);
    strip.high.connect(strip.ring).connect(strip.room).connect(this.room);
    this.strips.set(id, strip);
    this.#lead(id, strip.pan);
    this.node.port.postMessage({ slot, part: id });
    return strip;
  }

  /** There is one echo for all parts that have the same echo time. */
  #echo(ticks) {
    let echo = this.echoes.get(ticks);
    if (!echo) {
      echo = new Echo(this.context, this.wet);
      this.echoes.set(ticks, echo);
      this.keepTime(this.bpm);
    }
    return echo;
  }

  #send(strip, echo) {
    let send = strip.sends.get(echo);
    if (!send) {
      send = this.context.createGain();
      send.gain.value = 0;
      strip.ring.connect(send).connect(echo.input);
      strip.sends.set(echo, send);
    }
    return send;
  }

  /** An echo to which no part sends any more is over. */
  #forgetEchoes() {
    const strips = [...this.strips.values()];
    for (const [ticks, echo] of this.echoes) {
      if (!strips.some((strip) => strip.ticks === ticks)) {
        strips.forEach(({ sends }) => {
          sends.get(echo)?.disconnect();
          sends.delete(echo);
        });
        echo.end();
        this.echoes.delete(ticks);
      }
    }
  }

  #glide(parameter, value, at = this.context.currentTime) {
    parameter.setTargetAtTime(value, at, SMOOTH);
  }
}

/** Echoes from side to side: left after one step, right after two, and round again. */
class Echo {
  /**
   * @param {BaseAudioContext} context
   * @param {AudioNode} to where they are heard
   */
  constructor(context, to) {
    const side = (place) => {
      const delay = context.createDelay(LONGEST_STEP);
      const tone = context.createBiquadFilter();
      const pan = context.createStereoPanner();
      pan.pan.value = place;
      delay.connect(tone).connect(pan).connect(to);
      return { delay, tone, pan };
    };
    const left = side(-0.7);
    const right = side(0.7);
    this.feedback = context.createGain();
    this.feedback.gain.value = 0;
    this.input = left.delay;
    left.tone.connect(right.delay);
    right.tone.connect(this.feedback).connect(left.delay);
    this.delays = [left.delay, right.delay];
    this.tones = [left.tone, right.tone];
    this.pans = [left.pan, right.pan];
  }

  end() {
    [...this.pans, this.feedback, ...this.tones].forEach((node) => node.disconnect());
  }
}

/** What a room answers to a clap: noise that dies away by 60 dB. The same each time. */
function impulse(context, seconds) {
  const frames = Math.max(1, Math.round(seconds * context.sampleRate));
  const buffer = context.createBuffer(2, frames, context.sampleRate);
  let seed = IMPULSE_SEED;
  for (let channel = 0; channel < 2; channel++) {
    const data = buffer.getChannelData(channel);
    for (let i = 0; i < frames; i++) {
      seed = (seed * 16807) % 2147483647;
      data[i] = (seed / 1073741823.5 - 1) * 10 ** ((-3 * i) / frames);
    }
  }
  return buffer;
}
