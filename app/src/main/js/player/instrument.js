import { SpessaSynthProcessor } from "spessasynth_core";

/** After a stop what still rings is faded out over this long, in seconds. */
const FADE = 0.02;

/**
 * What the synthesizer gives is soft beside anything else on a stage: a band at 0 dB is near −18 LUFS by this, and peaks
 * some dB below all that an output can give. Measured on the demo; 5 dB.
 */
const MAKEUP = 10 ** (5 / 20);

const DRUM_CHANNEL = 9;
const MELODIC_CHANNEL = 0;

/** @typedef {{offset: number, action: import("./voices.js").Action}} Cut what happens in a block, and in which of its frames */

/**
 * A synthesizer for one part. Parts have one each, so that a piece is cut only where its own part has
 * an event, and so that each can be balanced by itself.
 */
export class Instrument {
  /**
   * @param {import("spessasynth_core").BasicSoundBank} bank the sound bank, shared by all
   * @param {number} sampleRate frames a second
   */
  constructor(bank, sampleRate) {
    this.synth = new SpessaSynthProcessor(sampleRate, {
      effectsEnabled: false,
      eventsEnabled: false,
    });
    this.bank = bank;
    this.banks = 0;
    this.synth.soundBankManager.addSoundBank(bank, `bank ${this.banks}`);
    this.channel = MELODIC_CHANNEL;
    this.left = new Float32Array(128);
    this.right = new Float32Array(128);
    this.fadeFrames = Math.round(FADE * sampleRate);
    this.fading = 0;
    this.gain = 1;
    this.hasSound = false;
  }

  /** @param {{drums: boolean, program: number, bank: import("spessasynth_core").BasicSoundBank}} sound */
  setSound(sound) {
    this.synth.stopAllChannels(false);
    if (sound.bank !== this.bank) {
      // one is there at any time: without any the synthesizer has no sound to fall back on
      const { soundBankManager } = this.synth;
      soundBankManager.addSoundBank(sound.bank, `bank ${this.banks + 1}`);
      soundBankManager.deleteSoundBank(`bank ${this.banks}`);
      this.banks++;
      this.bank = sound.bank;
    }
    this.channel = sound.drums ? DRUM_CHANNEL : MELODIC_CHANNEL;
    this.synth.programChange(this.channel, sound.program);
    this.hasSound = true;
  }

  /** @param {import("./voices.js").Action} action */
  happen({ kind, pitch, velocity }) {
    if (kind === "on") {
      if (this.fading) {
        this.#silence();
      }
      this.synth.noteOn(this.channel, pitch, velocity);
    } else if (kind === "off") {
      this.synth.noteOff(this.channel, pitch);
    } else if (kind === "control") {
      // any controller of MIDI, whatever the synthesizer has a name for
      this.synth.controllerChange(this.channel, /** @type {any} */ (pitch), velocity);
    } else if (kind === "bend") {
      this.synth.pitchWheel(this.channel, velocity);
    } else {
      this.synth.channelPressure(this.channel, velocity);
    }
  }

  /** Lets what still rings fade out quickly. */
  fadeOut() {
    this.fading ||= this.fadeFrames;
  }

  /**
   * Renders a block, cut at each action.
   *
   * @param {Cut[]} cuts by rising offset
   * @param {Float32Array} left is added to
   * @param {Float32Array} right is added to
   */
  render(cuts, left, right) {
    if (!this.hasSound || (!cuts.length && !this.synth.voiceCount)) {
      return;
    }
    this.left.fill(0);
    this.right.fill(0);
    let at = 0;
    for (const { offset, action } of cuts) {
      this.#piece(at, offset);
      at = Math.max(at, offset);
      this.happen(action);
    }
    this.#piece(at, left.length);
    for (let i = 0; i < left.length; i++) {
      left[i] += this.left[i] * this.gain * MAKEUP;
      right[i] += this.right[i] * this.gain * MAKEUP;
    }
  }

  #piece(from, until) {
    if (until <= from) {
      return;
    }
    this.synth.process(this.left, this.right, from, until - from);
    if (this.fading) {
      for (let i = from; i < until; i++) {
        const level = this.fading > 0 ? this.fading-- / this.fadeFrames : 0;
        this.left[i] *= level;
        this.right[i] *= level;
      }
      if (!this.fading) {
        this.#silence();
      }
    }
  }

  #silence() {
    this.fading = 0;
    this.synth.stopAllChannels(true);
  }
}
