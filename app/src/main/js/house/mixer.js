/**
 * What the parts go through between the audio thread and the loudspeakers: each its level, its place
 * between left and right, and its sends to echo and room; all together the master. The browser's own
 * nodes do it, so that every change is smooth and costs the music nothing. How loud a part is heard is
 * worked out by the engine.
 *
 * @typedef {{slot: number, level: GainNode, pan: StereoPannerNode, echo: GainNode, room: GainNode, leaving: number}} Strip
 * @typedef {{level: number, pan: number, gain: number, echo: number, room: number}} Balance
 * @typedef {{gain: number, echoTicks: number, repeats: number, tone: number, room: number}} Master
 */

/** A change is heard within some of these, in seconds: no clicks. */
const SMOOTH = 0.008;

/** What still rings of a part that is deleted is over by then, in ms. */
const GONE_AFTER = 120;

const IMPULSE_SEED = 48271;

export class Mixer {
  /**
   * @param {BaseAudioContext} context
   * @param {AudioWorkletNode} node its output 0 is the click, the others are parts
   */
  constructor(context, node) {
    this.context = context;
    this.output = context.createGain();
    this.output.connect(context.destination);
    this.meter = context.createAnalyser();
    this.meter.fftSize = 8192;
    this.output.connect(this.meter);
    this.samples = new Float32Array(this.meter.fftSize);
    this.wet = context.createGain();
    this.wet.connect(this.output);
    this.#makeEcho();
    this.room = context.createConvolver();
    this.room.connect(this.wet);
    /** @type {Map<number, Strip>} what each part goes through */
    this.strips = new Map();
    this.attach(node);
  }

  /** Takes another audio thread's node for the one before, each part at its place. */
  attach(node) {
    this.node = node;
    node.connect(this.output, 0);
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
    const there = new Set(parts.map(({ id }) => id));
    [...this.strips.keys()].filter((id) => !there.has(id)).forEach((id) => this.#leave(id));
    for (const { id, balance } of parts) {
      const strip = this.strips.get(id) ?? this.#strip(id);
      clearTimeout(strip.leaving);
      strip.leaving = 0;
      this.stand(id, balance);
    }
    this.#glide(this.output.gain, master.gain);
    this.keepTime(master, bpm);
    this.tones.forEach((tone) => this.#glide(tone.frequency, master.tone));
    this.repeats = master.repeats / 100;
    this.#glide(this.feedback.gain, this.repeats);
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
    const { level, pan, echo, room } = this.strips.get(id);
    this.#glide(level.gain, balance.gain, at);
    this.#glide(pan.pan, balance.pan / 100, at);
    this.#glide(echo.gain, balance.echo / 100, at);
    this.#glide(room.gain, balance.room / 100, at);
  }

  /** The echo goes with a tempo, from some second of the context on. */
  keepTime({ echoTicks }, bpm, at) {
    const step = (echoTicks * 60) / bpm / 960;
    this.delays.forEach((delay) => this.#glide(delay.delayTime, step, at));
  }

  /** @returns {AudioNode} what a part gives to the whole, without echo and room, before the master */
  dry(id) {
    return this.strips.get(id).pan;
  }

  /** After a stop nothing rings on, not in the room either. */
  hush() {
    this.hushed = true;
    this.#glide(this.wet.gain, 0);
    this.#glide(this.feedback.gain, 0);
  }

  /** Something sounds again. */
  wake() {
    if (this.hushed) {
      this.hushed = false;
      this.#glide(this.wet.gain, 1);
      this.#glide(this.feedback.gain, this.repeats);
    }
  }

  /** @returns {number} the highest level of the last moments, 1 being all that the output can give */
  peak() {
    this.meter.getFloatTimeDomainData(this.samples);
    return this.samples.reduce((most, sample) => Math.max(most, Math.abs(sample)), 0);
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
    const { slot, pan, level } = this.strips.get(id);
    this.node.disconnect(slot);
    level.disconnect();
    pan.disconnect();
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
      pan: context.createStereoPanner(),
      echo: context.createGain(),
      room: context.createGain(),
    };
    strip.level.gain.value = 0;
    strip.echo.gain.value = 0;
    strip.room.gain.value = 0;
    this.node.connect(strip.level, slot);
    strip.level.connect(strip.pan).connect(this.output);
    strip.level.connect(strip.echo).connect(this.echoIn);
    strip.level.connect(strip.room).connect(this.room);
    this.strips.set(id, strip);
    this.node.port.postMessage({ slot, part: id });
    return strip;
  }

  /** From side to side: left after one step, right after two, and round again. */
  #makeEcho() {
    const { context } = this;
    const side = (place) => {
      const delay = context.createDelay(12);
      const tone = context.createBiquadFilter();
      const pan = context.createStereoPanner();
      pan.pan.value = place;
      delay.connect(tone).connect(pan).connect(this.wet);
      return { delay, tone };
    };
    const left = side(-0.7);
    const right = side(0.7);
    this.feedback = context.createGain();
    this.echoIn = left.delay;
    left.tone.connect(right.delay);
    right.tone.connect(this.feedback).connect(left.delay);
    this.delays = [left.delay, right.delay];
    this.tones = [left.tone, right.tone];
  }

  #glide(parameter, value, at = this.context.currentTime) {
    parameter.setTargetAtTime(value, at, SMOOTH);
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
