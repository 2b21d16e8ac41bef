const LACKS = "by plain http: no sound on this page";

/**
 * One page at a time has the sound, and what is played on its machine counts there alone. Another takes it only by
 * its button; a page that comes in takes it where nobody has it.
 *
 * Event: "change".
 */
export class WhoSounds extends EventTarget {
  /**
   * @param {import("./connection.js").Connection} connection
   * @param {import("./sound.js").Sound} sound
   * @param {import("../input/hub.js").InputHub} hub
   * @param {import("../output/outside.js").Outside} outside
   * @param {boolean} never whether this page never has it: it only shows
   */
  constructor(connection, sound, hub, outside, never) {
    super();
    this.connection = connection;
    this.sound = sound;
    this.hub = hub;
    this.outside = outside;
    /** without a secure context a page has no audio thread */
    this.lacks = !never && !globalThis.isSecureContext;
    this.never = never || this.lacks;
    /** the name of the page that has it; empty if none has */
    this.holder = "";
    this.button = document.getElementById("sound-lamp");
    this.button.onclick = () => this.take();
  }

  get isHere() {
    return this.holder === this.connection.client;
  }

  /** What the host says in its welcome: where nobody has the sound this page asks for it. */
  begin(holder) {
    this.told(holder);
    if (!holder && !this.never) {
      this.connection.ask({ hold: "ifFree" });
    }
  }

  /** @param {string} holder the page that has it now */
  told(holder) {
    this.holder = holder;
    this.connection.hasSound = this.isHere;
    this.hub.setLive(this.isHere);
    this.outside.setOn(this.isHere);
    if (!this.isHere) {
      this.sound.hush();
    } else if (navigator.userActivation?.hasBeenActive) {
      this.wake();
    }
    this.show();
    this.dispatchEvent(new CustomEvent("change"));
  }

  /** Takes the sound to this page, from wherever it is. */
  async take() {
    if (this.never) {
      return;
    }
    await this.sound.start();
    this.connection.ask({ hold: true });
  }

  /** Browsers let a page sound only after a touch or a key: the first one here begins it. */
  async wake() {
    if (this.isHere && !this.sound.isOn) {
      await this.sound.start();
      this.show();
    }
  }

  /** What the button says: nothing where the sound is here. */
  show() {
    const words = this.lacks ? LACKS : this.never ? "" : this.#words();
    this.button.textContent = words;
    this.button.hidden = !words;
    this.button.classList.toggle("bad", Boolean(words));
  }

  #words() {
    if (this.isHere) {
      return this.sound.isOn ? "" : "touch or press a key for sound";
    }
    return this.holder
      ? "the sound is on the other page · take it here"
      : "no page has the sound · take it here";
  }
}
