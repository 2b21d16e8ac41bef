import { built } from "../house/built.js";
import { Decoder, fetchedBank } from "../house/bank.js";
import { Mixer } from "../house/mixer.js";
import { OUTPUTS } from "../house/sound.js";
import { framesAhead } from "../player/limiter.js";
import { eachOf, nameOf, withoutBank } from "../player/sounds.js";

/**
 * Renders what the host has laid out, faster than it sounds, by the player and the mixer that sound the Stage.
 *
 * @typedef {Record<string, any>} Score as the host gives it under `….rendering.json`
 * @property {string} title
 * @property {number} micros how long it lasts
 * @property {number} tail how long it rings after that
 * @property {{id: number, name: string}[]} parts those that sound
 * @property {[number, number, import("../house/mixer.js").Balance][]} stood from which instant on which part stands how
 * @property {[number, number][]} tempi [instant, bpm]
 * @property {import("../house/mixer.js").Master} master
 * @property {Record<string, any>} plan
 */

/** So many frames go out before the first that is wanted: levels have come to rest by then. A number of whole blocks. */
const SKIPPED = 128 * 96;

/** Between two looks at how far it is, in seconds of what is rendered. */
const LOOK = 1;

export class Rendering {
  /**
   * @param {Score} score
   * @param {number} rate frames a second
   * @param {boolean} each whether each part is given by itself besides
   * @param {number} [gain] by which all of it is louder
   */
  constructor(score, rate, each, gain = 1) {
    this.score = score;
    this.gain = gain;
    this.rate = rate;
    /** the frame from which on the player plays what is wanted: the master gives it later */
    this.lead = SKIPPED - framesAhead(rate);
    this.frames = Math.round(((score.micros + score.tail) * rate) / 1e6);
    /** what is given, in the order of the inputs that `take` is told of */
    this.names = ["mix", ...(each ? [...score.parts.map(({ name }) => name), "echo and room"] : [])];
    this.each = each;
    this.stopped = false;
  }

  /** It gives no more. */
  stop() {
    this.stopped = true;
  }

  /**
   * @param {(input: number, left: Float32Array, right: Float32Array) => void} take is given all frames in order
   * @param {(done: number) => void} tell how far it is, 0 to 1
   * @returns {Promise<boolean>} whether it has come to its end
   */
  async run(take, tell) {
    const { score } = this;
    const { bank, samples } = await given(sounds(score.plan));
    const context = this.#context();
    await context.audioWorklet.addModule(built("worklet"));
    await context.audioWorklet.addModule(built("recorder"));
    const player = this.#player(context, bank, samples);
    this.#mix(context, player);
    const whole = this.#record(take);
    this.#look(context, tell);
    const failed = new Promise((_, fail) => {
      player.onprocessorerror = this.recorder.onprocessorerror = () =>
        fail(new Error("The player failed: nothing was made. Reload the page, and try again."));
    });
    await Promise.race([Promise.all([context.startRendering(), whole]), this.ended, failed]);
    return !this.stopped;
  }

  #context() {
    try {
      return new OfflineAudioContext(1, SKIPPED + this.frames, this.rate);
    } catch {
      throw new Error("This machine has no room for something so long: trim it, then try again.");
    }
  }

  #player(context, bank, samples) {
    const { plan } = this.score;
    // what it is told before it begins: a message could come after the first frames
    const slots = plan.order.map((part, i) => ({ slot: i + 1, part }));
    const measure = { frame: 0, micros: (-this.lead * 1e6) / this.rate };
    const messages = [{ measure }, ...slots, ...samples, { wholePlan: plan }];
    return new AudioWorkletNode(context, "ancora-player", {
      numberOfInputs: 0,
      numberOfOutputs: OUTPUTS,
      outputChannelCount: Array(OUTPUTS).fill(2),
      processorOptions: { bank, messages },
    });
  }

  /** The mixer gives the parts the same slots, since it is told of them in their order. */
  #mix(context, player) {
    const { plan, parts, stood, tempi, master } = this.score;
    const first = new Map(stood.map(([, part, balance]) => [part, balance]).reverse());
    const balances = plan.order.map((id) => ({ id, balance: first.get(id) }));
    const mixer = new Mixer(context, player, this.each);
    mixer.set(balances, master, tempi[0][1]);
    const seconds = (micros) => this.lead / this.rate + micros / 1e6;
    stood
      .filter(([micros]) => micros > 0)
      .forEach(([micros, part, balance]) => mixer.stand(part, balance, seconds(micros)));
    tempi.slice(1).forEach(([micros, bpm]) => mixer.keepTime(bpm, seconds(micros)));
    this.recorder = new AudioWorkletNode(context, "ancora-recorder", {
      numberOfInputs: this.names.length,
      numberOfOutputs: 1,
      channelCount: 2,
      channelCountMode: "explicit",
      processorOptions: { skip: SKIPPED, frames: this.frames },
    });
    this.recorder.connect(context.destination);
    this.#take(mixer, 0, this.gain, 0);
    if (this.each) {
      // by itself each goes through what the master does to all, so that together they are the mix
      const outputs = [...parts.map(({ id }) => mixer.outputOf(id)), mixer.outputOf()];
      outputs.forEach((output, i) => this.#take(mixer, output, master.gain * this.gain, i + 1));
    }
  }

  #take(mixer, output, gain, input) {
    const louder = mixer.context.createGain();
    louder.gain.value = gain;
    mixer.output.connect(louder, output).connect(this.recorder, 0, input);
  }

  /** @returns {Promise<void>} all frames have come */
  #record(take) {
    const { port } = this.recorder;
    return new Promise((done) => {
      port.onmessage = ({ data: { input, first, left, right } }) => {
        if (this.stopped) {
          return;
        }
        take(input, left, right);
        if (input === this.names.length - 1 && first + left.length >= this.frames) {
          done();
        }
      };
    });
  }

  /** Now and then it waits for the page, which may stop it. What is never resumed is over. */
  #look(context, tell) {
    const seconds = (SKIPPED + this.frames) / this.rate;
    this.ended = new Promise((end) => {
      const look = async (at) => {
        await context.suspend(at);
        tell(at / seconds);
        // the page takes in what has been rendered, and shows how far it is
        await new Promise((next) => setTimeout(() => next(null), 0));
        if (this.stopped) {
          end(null);
          return;
        }
        if (at + LOOK < seconds) {
          look(at + LOOK);
        }
        context.resume();
      };
      if (LOOK < seconds) {
        look(LOOK);
      }
    });
  }
}

/** All sounds of a plan, once each; the click has one too. */
function sounds({ parts }) {
  const all = parts.flatMap(({ sound, sounds: later = [] }) => [sound, ...later.map(([, other]) => other)]);
  const each = [{ drums: true, program: 0 }, ...all.flatMap((sound) => eachOf(sound))];
  return [...new Map(each.map((sound) => [nameOf(sound), sound])).values()];
}

/** The bank, and the samples of sounds, as the player takes them. */
async function given(wanted) {
  let decoder;
  try {
    const bank = await fetchedBank();
    decoder = await Decoder.begin();
    decoder.take(bank);
    const samples = await Promise.all(wanted.map((sound) => decoder.decode(sound)));
    const lost = samples.filter((answer) => answer.lost).map(({ of }) => /** @type {any} */ (of));
    if (lost.length) {
      // what stands for them
      samples.push(...(await Promise.all(lost.map((sound) => decoder.decode(withoutBank(sound))))));
    }
    return { bank, samples: samples.map((answer) => (answer.lost ? { lost: answer.of } : answer)) };
  } catch (fault) {
    throw new Error(`Nothing was made: ${fault.message}. Look whether Ancora runs, then try again.`);
  } finally {
    decoder?.end();
  }
}
