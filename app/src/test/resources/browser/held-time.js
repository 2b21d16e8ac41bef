/**
 * A page in time that goes on only when a test says so: clocks, timers, frames, events and the audio
 * context go on together, step by step, and each step is over when all that it brought about has been
 * done. However long that takes the machine, the page and what it sounds are the same.
 */
(() => {
  /** Frames of sound in a block, and in a second. */
  const BLOCK = 128;
  const RATE = 48_000;

  /** What is rendered is heard so much later, in seconds. */
  const LATENCY = 0.02;

  /** The longest that can be listened to, in seconds; its buffer is there from the beginning. */
  const LONGEST = 150;

  const FRAME = 16;

  /** A line on which nothing comes for so long is dead, in ms of the machine's time. */
  const DEAD_AFTER = 60_000;

  const soon = globalThis.setTimeout.bind(globalThis);
  const cancel = globalThis.clearTimeout.bind(globalThis);

  // clocks

  let now = 1_000;
  const began = Date.now();
  performance.now = () => now;
  Date.now = () => began + now;
  const stamps = new WeakMap();
  Object.defineProperty(Event.prototype, "timeStamp", {
    get() {
      if (!stamps.has(this)) {
        stamps.set(this, now);
      }
      return stamps.get(this);
    },
  });

  // timers

  /** @type {Map<number, {due: number, does: () => void, every: number | null}>} */
  const timers = new Map();
  let ids = 0;
  const timer = (does, wait, every) => {
    timers.set(++ids, { due: now + wait, does, every });
    return ids;
  };
  globalThis.setTimeout = (does, wait = 0, ...of) => timer(() => does(...of), Math.max(1, wait), null);
  globalThis.setInterval = (does, wait = 0, ...of) =>
    timer(() => does(...of), Math.max(1, wait), Math.max(1, wait));
  globalThis.requestAnimationFrame = (does) => timer(() => does(now), FRAME - (now % FRAME), null);
  for (const name of ["clearTimeout", "clearInterval", "cancelAnimationFrame"]) {
    globalThis[name] = (id) => timers.delete(id);
  }
  const runTimers = async (until) => {
    for (;;) {
      const [[id, next] = [0, { due: Infinity }]] = [...timers].sort(([, a], [, b]) => a.due - b.due);
      if (next.due > until) {
        break;
      }
      now = Math.max(now, next.due);
      if (next.every === null) {
        timers.delete(id);
      } else {
        next.due += next.every;
      }
      next.does();
      await null;
    }
    now = until;
  };

  // the line to the house: what comes is heard between two steps alone; when a ping has come back, all that was
  // sent before it has been read

  /** server time at this instant, in microseconds, as the test says it */
  let house = 0;
  const sockets = new Set();
  globalThis.WebSocket = class extends WebSocket {
    constructor(...of) {
      super(...of);
      sockets.add(this);
      this.back = new Map();
      /** @type {string[]} what has come */
      this.come = [];
      this.addEventListener("close", (event) => {
        this.back.forEach((done) => done());
        if (!event.again) {
          event.stopImmediatePropagation();
          this.closed = true;
        }
      });
      this.addEventListener("message", (event) => {
        if (event.again) {
          return;
        }
        event.stopImmediatePropagation();
        if (event.data.startsWith('{"pong":"held')) {
          const { pong } = JSON.parse(event.data);
          this.back.get(pong)?.();
          this.back.delete(pong);
        } else {
          this.come.push(event.data);
        }
      });
    }
    send(text) {
      this.said = true;
      if (!this.deaf) {
        super.send(text);
      }
    }
    /** From now on nothing goes either way; the page is told so some time later. */
    cut(after) {
      this.deaf = true;
      this.come = [];
      super.close(4900, "cut");
      timer(() => this.tellClosed(), after, null);
    }
    tellClosed() {
      sockets.delete(this);
      const event = new CloseEvent("close", { code: 1006 });
      event.again = true;
      this.dispatchEvent(event);
    }
    /** What has come is heard; a ping takes no time. */
    hear() {
      if (this.closed && !this.deaf) {
        this.tellClosed();
      }
      if (this.deaf) {
        return;
      }
      for (const data of this.come.splice(0)) {
        const pong = data.startsWith('{"pong"');
        const event = new MessageEvent("message", {
          data: pong ? JSON.stringify({ pong: now, server: house }) : data,
        });
        event.again = true;
        this.dispatchEvent(event);
      }
    }
  };
  let pings = 0;
  const lines = async () => {
    await Promise.all(
      [...sockets]
        .filter((socket) => socket.readyState === WebSocket.OPEN && !socket.deaf)
        .map(
          (socket) =>
            new Promise((done) => {
              const ping = `held ${++pings}`;
              const dead = soon(() => {
                socket.closed = true;
                socket.close();
                done();
              }, DEAD_AFTER);
              socket.back.set(ping, () => {
                cancel(dead);
                done();
              });
              socket.send(JSON.stringify({ ping }));
              socket.said = false;
            }),
        ),
    );
    sockets.forEach((socket) => socket.hear());
  };

  // workers: samples are decoded while time stands still, and none where nobody listens; one that is only a clock goes
  // by the same time as all

  const decoders = new Set();
  globalThis.Worker = class extends Worker {
    constructor(url) {
      super(url);
      this.ticks = String(url).includes("/ticker");
      /** of how many sounds it has not given the samples */
      this.owes = 0;
      if (!this.ticks) {
        decoders.add(this);
      }
      this.addEventListener("message", ({ data }) => {
        this.owes -= data.of ? 1 : 0;
      });
      this.addEventListener("error", () => decoders.delete(this));
    }
    postMessage(message, ...more) {
      if (!this.ticks) {
        const { number, decode } = message;
        this.owes += decode ? 1 : 0;
        if (!globalThis.listens && decode && !decode.own) {
          const data = { number, of: decode, samples: [] };
          queueMicrotask(() => this.dispatchEvent(new MessageEvent("message", { data })));
        } else if (globalThis.listens || !message.bank) {
          super.postMessage(message, ...more);
        }
      } else if (message) {
        this.ticking = setInterval(() => this.onmessage?.(new MessageEvent("message")), message);
      }
    }
    terminate() {
      clearInterval(this.ticking);
      decoders.delete(this);
      super.terminate();
    }
  };
  const owed = () => [...decoders].reduce((all, decoder) => all + decoder.owes, 0);

  /** What a thread of the browser does; one that does not answer is a fault, not something to wait for. */
  const answered = (what, by) =>
    new Promise((done, fail) => {
      const never = soon(() => fail(new Error(`${by} did not answer, and never came to rest`)), DEAD_AFTER);
      what.then(done, fail).finally(() => cancel(never));
    });
  const decoded = async () => {
    while (owed() > 0) {
      await new Promise((done) => soon(done, 1));
    }
  };

  // sound: rendered block by block, as far as time has come

  /** In the audio thread: each processor says when all that it was told before has come. */
  const ECHO = `
    const register = registerProcessor;
    globalThis.registerProcessor = (name, Processor) =>
      register(name, class extends Processor {
        constructor(options) {
          super(options);
          const { port } = this;
          port.addEventListener("message", (event) => {
            if (event.data.echo) {
              event.stopImmediatePropagation();
              port.postMessage(event.data);
            }
          });
          const { onmessage } = port;
          port.onmessage = null;
          port.onmessage = onmessage;
          port.start();
        }
      });`;

  const contexts = new Set();
  const nodes = new Set();
  let echoes = 0;

  globalThis.AudioWorkletNode = class extends AudioWorkletNode {
    constructor(context, ...of) {
      super(context, ...of);
      this.back = new Map();
      this.port.addEventListener("message", (event) => {
        if (event.data.echo) {
          event.stopImmediatePropagation();
          this.back.get(event.data.echo)();
          this.back.delete(event.data.echo);
        }
      });
      if (contexts.has(context)) {
        nodes.add(this);
      }
    }
    /** All that the processor was told has come, and so has all that it said. */
    echo() {
      return new Promise((done) => {
        this.back.set(++echoes, done);
        this.port.start();
        this.port.postMessage({ echo: echoes });
      });
    }
  };

  globalThis.AudioContext = class extends OfflineAudioContext {
    #on = false;
    #begun = null;
    #rendered = 0;
    #patched = null;

    constructor() {
      super(2, LONGEST * RATE, RATE);
      contexts.add(this);
      // between two steps it rests; as the page sees it, it goes on
      this.addEventListener("statechange", (event) => event.stopImmediatePropagation());
      const { audioWorklet } = this;
      const add = audioWorklet.addModule.bind(audioWorklet);
      audioWorklet.addModule = async (...of) => {
        this.#patched ??= add(URL.createObjectURL(new Blob([ECHO], { type: "text/javascript" })));
        await this.#patched;
        await add(...of);
      };
    }
    get state() {
      return this.#on ? "running" : "suspended";
    }
    get outputLatency() {
      return LATENCY;
    }
    async resume() {
      if (!this.#on) {
        this.#on = true;
        this.#begun = now - (this.#rendered / RATE) * 1000;
      }
    }
    async suspend() {
      this.#on = false;
    }
    async close() {
      this.#on = false;
      contexts.delete(this);
    }
    getOutputTimestamp() {
      return { contextTime: Math.max(0, (now - this.#begun) / 1000 - LATENCY), performanceTime: now };
    }
    /** Renders as far as time has come; where nobody listens nothing is rendered. */
    async render() {
      if (!this.#on || !globalThis.listens) {
        return;
      }
      const wanted = Math.floor((((now - this.#begun) / 1000) * RATE) / BLOCK) * BLOCK;
      if (wanted <= this.#rendered) {
        return;
      }
      if (wanted > LONGEST * RATE) {
        throw new Error(`no more than ${LONGEST} s can be listened to`);
      }
      const there = super.suspend(wanted / RATE);
      if (this.#rendered === 0) {
        this.startRendering();
      } else {
        super.resume();
      }
      await there;
      this.#rendered = wanted;
    }
  };

  /** The audio threads have all that they were told, and the samples that they asked for. */
  const heard = async () => {
    for (let asked = -1; asked !== 0;) {
      await answered(Promise.all([...nodes].map((node) => node.echo())), "an audio thread");
      asked = owed();
      await answered(decoded(), "the decoder of samples");
    }
  };

  globalThis.held = {
    /** @param {number} after in ms: until then the page sends into nothing, and does not know */
    cut(after) {
      sockets.forEach((socket) => socket.cut(after));
    },
    /**
     * A step: timers run, what they brought about is sent, what the house says is heard, sound is rendered.
     *
     * @param {number} millis how long it is
     * @param {number} micros server time at its end
     */
    async step(millis, micros) {
      house = micros;
      await runTimers(now + millis);
      await lines();
      await heard();
      await answered(Promise.all([...contexts].map((context) => context.render())), "an audio thread");
      await heard();
      if ([...sockets].some((socket) => socket.said)) {
        await lines();
      }
    },
  };
})();
