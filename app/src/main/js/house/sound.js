/**
 * The page's side of the sound: opens the audio context, brings the sound bank, tells the audio
 * thread which instant is heard with which frame, and hands on plans and keys.
 *
 * Events: "began", "hushed", "fault" (detail: what went wrong, and where), "stopped" (the browser has stopped the sound), "ready", "failed" (detail: a sentence), "lacks" (detail: {part, instead: the sound it has instead}), "levels" (detail: as {@link Mixer} has them), "bankless" (detail: a sound whose bank is not there), "delay" (detail: D in microseconds), "clock" (detail: {frame, micros}, which instant the audio thread takes a frame that goes out for).
 */

import { built } from "./built.js";
import { planWith } from "../player/changes.js";
import { framesAhead } from "../player/limiter.js";
import { Decoder, fetchedBank } from "./bank.js";
import { Mixer } from "./mixer.js";

/** Sounds are chosen for this part number before a part has them. */
export const PREVIEW = 0;

export const MOST_PARTS = 16;

/** One for the click, and one for each part. */
export const OUTPUTS = 1 + MOST_PARTS;

const MEASURE_EVERY = 250;
const REMEMBERED = 15;
const REPORT_EVERY = 3_000;

/** After so many measurements the house is told for the first time: who plays at once is placed rightly too. */
const FIRST_REPORT = 3;

/** An audio thread that has died is begun anew, each time after a longer wait, in ms; one that lives for some time
 * has died by chance. */
const FIRST_WAIT = 100;
const LONGEST_WAIT = 30_000;
const LIVES = 20_000;

/** Measurements this close to each other agree; this far from the usual they tell of a stall. Microseconds. */
const AGREE = 10_000;
const STALL = 40_000;

export class Sound extends EventTarget {
  /**
   * @param {import("./server-clock.js").ServerClock} clock
   * @param {string} [device] the sound device on which it is heard; that of the machine, if none is said
   */
  constructor(clock, device = "") {
    super();
    this.clock = clock;
    this.device = device;
    /** @type {Map<number, import("./mixer.js").Route>} what does not go with all */
    this.routes = new Map();
    /** @type {AudioContext | null} */
    this.context = null;
    /** @type {AudioWorkletNode | null} */
    this.node = null;
    /** @type {Set<(message: object) => void>} */
    this.others = new Set();
    this.offsets = [];
    /** how far what is rendered lies ahead of what is heard, in microseconds */
    this.leads = [];
    /** @type {Record<string, any> | null} the plan as far as it is known, for when the sound comes later */
    this.plan = null;
    /** delivery and output latency in microseconds, once known */
    this.delay = null;
    /** what the house was told of it last */
    this.reported = null;
    /** how often this machine has broken the sound off since it began */
    this.breaks = 0;
    /** @type {{frame: number, micros: number} | null} what the audio thread last said of its clock */
    this.lastClock = null;
    this.waiting = new Set();
    /** whether it should sound: else it is silent by intention */
    this.wanted = false;
    this.begun = -Infinity;
    this.wait = FIRST_WAIT;
  }

  get isOn() {
    return this.node !== null && this.context.state === "running";
  }

  /** Begins to sound. Browsers want a touch or key before this. */
  async start() {
    this.wanted = true;
    if (this.context) {
      await this.context.resume();
      this.dispatchEvent(new CustomEvent("began"));
      return;
    }
    const decoding = Decoder.begin();
    try {
      this.context = new AudioContext({ latencyHint: "interactive" });
      await this.#takeDevice();
      if (!this.context.audioWorklet) {
        throw new Error("this browser has no audio thread here; use another one, or open the page by https");
      }
      this.context.addEventListener("statechange", () => this.#changed());
      const [bank, decoder] = await Promise.all([
        fetchedBank(),
        decoding,
        this.context.audioWorklet.addModule(built("worklet")),
        this.context.resume(),
      ]);
      decoder.take(bank);
      this.decoder = decoder;
      this.bank = bank;
      this.#begin();
      this.#measure();
      this.measuring = setInterval(() => this.#measure(), MEASURE_EVERY);
      this.reporting = setInterval(() => this.#report(), REPORT_EVERY);
      this.dispatchEvent(new CustomEvent("began"));
    } catch (fault) {
      decoding.then(
        (decoder) => decoder.end(),
        () => {},
      );
      this.context?.close?.();
      this.context = null;
      const why = this.device
        ? `That sound device cannot be taken: ${fault.message}. Choose another.`
        : `There is no sound: ${fault.message}. Look at the sound settings of this machine, then touch again.`;
      this.dispatchEvent(new CustomEvent("failed", { detail: why }));
    }
  }

  /** Begins an audio thread, which is told all there is. One that has died is replaced, and the music goes on. */
  #begin() {
    const node = new AudioWorkletNode(this.context, "ancora-player", {
      numberOfInputs: 0,
      numberOfOutputs: OUTPUTS,
      outputChannelCount: Array(OUTPUTS).fill(2),
      processorOptions: { bank: this.bank },
    });
    this.node?.disconnect();
    this.node = node;
    this.lastClock = null;
    node.port.onmessage = ({ data }) => this.#hear(data);
    node.onprocessorerror = () => this.#beginAnew(node);
    this.begun = performance.now();
    if (this.mixer) {
      this.mixer.attach(node);
    } else {
      this.mixer = new Mixer(this.context, node);
      this.mixer.onLevels = (detail) => this.dispatchEvent(new CustomEvent("levels", { detail }));
      this.ahead = framesAhead(this.context.sampleRate);
      this.mixer.route(this.routes);
    }
    if (this.balance) {
      this.mixer.set(...this.balance);
    }
    if (this.offsets.length) {
      this.#tell({ measure: { frame: 0, micros: this.#frameZero() } });
    }
    if (this.plan) {
      this.#tell({ wholePlan: this.plan });
    }
  }

  /** An audio thread has died: another takes its place; soon the first time, later where one after the other dies. */
  #beginAnew(node) {
    if (node !== this.node || this.beginning) {
      return;
    }
    this.wait = performance.now() - this.begun > LIVES ? FIRST_WAIT : Math.min(LONGEST_WAIT, this.wait * 2);
    this.dispatchEvent(new CustomEvent("fault", { detail: "the audio thread; it is begun anew" }));
    this.beginning = setTimeout(() => {
      this.beginning = null;
      this.#begin();
    }, this.wait);
  }

  /** The browser, or the machine, has let the sound stop, or go on: what was measured before holds no more. */
  #changed() {
    // what could not be begun is closed, and tells of it
    if (!this.context) {
      return;
    }
    if (this.context.state === "running") {
      this.offsets = [];
      this.leads = [];
      this.#measure();
    } else if (this.wanted && this.context.state !== "closed") {
      this.context.resume().catch(() => {});
      this.dispatchEvent(new CustomEvent("stopped"));
    }
  }

  /** @param {Record<string, any>} changes of the plan, as `docs/protocol.md` has them */
  takePlan(changes) {
    this.#know(planWith(this.plan, changes));
    this.#tell({ plan: changes });
  }

  #know(plan) {
    this.plan = plan;
    if (plan.rolling) {
      this.mixer?.wake();
    } else if (this.rolled) {
      this.mixer?.hush();
    }
    this.rolled = plan.rolling;
  }

  /**
   * Sets how parts stand in the whole, as {@link Mixer#set} has it.
   *
   * @param {Parameters<Mixer["set"]>} balance
   */
  setBalance(...balance) {
    this.balance = balance;
    this.mixer?.set(...balance);
  }

  /**
   * Sets what goes to outputs of its own, as {@link Mixer#route} has it.
   *
   * @param {Map<number, import("./mixer.js").Route>} routes
   */
  route(routes) {
    this.routes = routes;
    this.mixer?.route(routes);
  }

  /** A device that is not there, or may not be taken, is said by who asked for it. */
  async #takeDevice() {
    if (this.device) {
      await /** @type {any} */ (this.context).setSinkId(this.device);
    }
  }

  /** @returns {AudioNode} what goes to the loudspeakers */
  get output() {
    return this.mixer.output;
  }

  /** All is forgotten, and what stands in the plan is taken up in step. */
  takeWholePlan(plan) {
    this.#know(planWith(null, plan));
    this.#tell({ wholePlan: plan });
  }

  /** Falls silent, as another page has the sound now. */
  hush() {
    this.wanted = false;
    this.context?.suspend();
    this.dispatchEvent(new CustomEvent("hushed"));
  }

  /**
   * A key goes down.
   *
   * @param {number} [at] microseconds of server time at which it did; now, if not given
   */
  down(part, pitch, velocity, at) {
    this.mixer?.wake();
    this.#tell({ down: pitch, part, velocity, at });
  }

  /** A key that is down is pressed more or less. */
  press(part, pitch, velocity) {
    this.#tell({ press: pitch, part, velocity });
  }

  /** A controller is moved: kind 0 a control change, 1 the bend, 2 the pressure of a channel. */
  move(part, kind, number, value) {
    this.#tell({ move: [kind, number, value], part });
  }

  up(part, pitch) {
    this.#tell({ up: pitch, part });
  }

  panic() {
    this.#tell({ panic: true });
  }

  /** Chooses the sound of a part, or of {@link PREVIEW}. */
  choose(part, sound) {
    this.#tell({ part, sound });
  }

  /** @param {{part: number, sound: object} | null} tried a sound that a part goes on with until it is let go */
  tries(tried) {
    this.#tell({ tries: tried });
  }

  /**
   * @param {(message: object) => void} other is told all that the audio thread is told of what is played
   * @returns {() => void} it is told no more
   */
  tellAlso(other) {
    this.others.add(other);
    return () => this.others.delete(other);
  }

  /** Takes what another is told of what is played; what it is to sound in its place is its own matter. */
  relay(message) {
    if (message.wholePlan) {
      this.takeWholePlan(message.wholePlan);
    } else if (message.plan) {
      this.takePlan(message.plan);
    } else if (!message.measure && !message.samples && !message.lost) {
      this.#tell(message);
    }
  }

  /** It is over, and will not sound again. */
  end() {
    this.wanted = false;
    this.node?.disconnect();
    this.decoder?.end();
    clearInterval(this.measuring);
    clearInterval(this.reporting);
    const { context } = this;
    this.context = null;
    this.node = null;
    context?.close();
  }

  #tell(message, transfer = []) {
    this.others.forEach((other) => other(message));
    this.node?.port.postMessage(message, transfer);
  }

  #hear(message) {
    if (message.decode) {
      this.waiting.add(JSON.stringify(message.decode));
      this.#decode(message.decode);
    } else if (message.ready) {
      this.dispatchEvent(new CustomEvent("ready", { detail: message.ready }));
    } else if (message.lacks) {
      this.dispatchEvent(
        new CustomEvent("lacks", { detail: { part: message.lacks, instead: message.instead } }),
      );
    } else if (message.fault) {
      this.dispatchEvent(new CustomEvent("fault", { detail: message.fault }));
    } else if (message.clock) {
      const { frame, micros } = message.clock;
      this.#countBreaks(message.clock);
      this.dispatchEvent(new CustomEvent("clock", { detail: { frame: frame + this.ahead, micros } }));
    }
  }

  /** Where the audio thread's clock steps, blocks came too late: this machine has broken the sound off. */
  #countBreaks(now) {
    const before = this.lastClock;
    this.lastClock = now;
    const perFrame = 1e6 / this.context.sampleRate;
    if (before && Math.abs(now.micros - before.micros - (now.frame - before.frame) * perFrame) > STALL) {
      this.breaks++;
    }
  }

  async #decode(sound) {
    try {
      const answer = await this.decoder.decode(sound);
      if (answer.lost) {
        this.dispatchEvent(new CustomEvent("bankless", { detail: sound }));
        this.#tell({ lost: sound });
        return;
      }
      const transfer = answer.samples.map(({ data: { buffer } }) => buffer);
      this.#tell(answer, transfer);
    } catch (fault) {
      this.dispatchEvent(new CustomEvent("fault", { detail: fault.message }));
    }
  }

  /** Tells the audio thread which frame is heard when. The browser's word for it jitters: the median counts. */
  #measure() {
    if (this.context.state !== "running" || !this.clock.isSet) {
      return;
    }
    const { contextTime, performanceTime } = this.context.getOutputTimestamp();
    if (!contextTime || !performanceTime) {
      return;
    }
    this.offsets = [...this.offsets, this.clock.at(performanceTime) - contextTime * 1e6].slice(-REMEMBERED);
    this.#forgetBeforeStall();
    this.#tell({ measure: { frame: 0, micros: this.#frameZero() } });
    const lead = this.context.currentTime * 1e6 + median(this.offsets) - this.clock.now();
    this.leads = [...this.leads, lead].slice(-REMEMBERED);
    const latency = Math.max(median(this.leads), (this.context.outputLatency || 0) * 1e6);
    this.delay = Math.round(latency + this.#masterDelay() + this.clock.delivery);
    if (this.reported === null && this.offsets.length >= FIRST_REPORT) {
      this.#report();
    }
  }

  /** The instant at which what the audio thread gives in frame 0 is heard. */
  #frameZero() {
    return median(this.offsets) + this.#masterDelay();
  }

  /** What goes through the master comes out so much later, in microseconds. */
  #masterDelay() {
    return (this.ahead / this.context.sampleRate) * 1e6;
  }

  /**
   * A sound output that has stalled is later for good. Two measurements that agree with each other, and
   * not with those before, are believed at once: else what is played would be placed wrongly meanwhile.
   */
  #forgetBeforeStall() {
    const [one, two] = this.offsets.slice(-2);
    const usual = median(this.offsets);
    if (Math.abs(one - two) < AGREE && Math.abs(one - usual) > STALL && Math.abs(two - usual) > STALL) {
      this.offsets = [one, two];
      this.leads = [];
    }
  }

  #report() {
    if (this.delay !== null && Math.abs(this.delay - (this.reported ?? 0)) > 3_000) {
      this.reported = this.delay;
      this.dispatchEvent(new CustomEvent("delay", { detail: this.delay }));
    }
  }
}

function median(values) {
  return [...values].sort((a, b) => a - b)[values.length >> 1];
}
