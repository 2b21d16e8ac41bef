import { keptInTab } from "./kept.js";

/**
 * The page's connection with the host of its show. What has not been acknowledged is kept and sent
 * again when the connection is back; the server does nothing twice.
 *
 * Events: "welcome", "state", "plan", "press", "holder", "word", "refused", "error", "standIn",
 * "gone", "line" (detail: whether it is connected), "silent" (detail: whether a command waits too long for its answer),
 * "out" (the house does not know this visitor any more).
 */

const KEPT_AS = "ancora-client";

const PING_EVERY = 2_000;
const FIRST_PINGS = 6;
const FIRST_PING_GAP = 60;
const LONGEST_WAIT = 4_000;

/** A line on which nothing comes for so long is dead, though nobody has said so. */
const DEAD_AFTER = 9_000;

/** What a page had when its line was lost it still has if it is back so soon, in ms. */
const KEPT_FOR = 30_000;

/** A command that has no answer by then has none, as far as one can see, in ms. */
const ANSWERED_WITHIN = 2_000;

const LOOKED_EVERY = 500;

/** HTTP's word for somebody who has to say who he is. */
const UNKNOWN = 401;

/** So many commands are kept until the host has said welcome. */
const MOST_KEPT = 1_000;

export class Connection extends EventTarget {
  /**
   * @param {number} show the show's number
   * @param {import("./server-clock.js").ServerClock} clock is set by it
   * @param {boolean} watches whether the page changes nothing
   */
  constructor(show, clock, watches = false) {
    super();
    const scheme = location.protocol === "https:" ? "wss" : "ws";
    this.url = `${scheme}://${location.host}/socket/${show}${watches ? "?view=watch" : ""}`;
    this.clock = clock;
    this.client = clientName();
    /** this page from one load to the next: a duplicated tab has the same name, but is another page */
    this.instance = unique();
    this.seq = 0;
    /** @type {{command: object, own: number}[] | null} done before the first welcome: only then are they numbered */
    this.early = [];
    /** @type {Map<number, {text: string, at: number}>} sent, and not acknowledged yet */
    this.unsure = new Map();
    /** @type {any} */
    this.looking = undefined;
    this.wait = 100;
    this.open = false;
    this.silent = false;
    /** whether this page has the sound, as it is told; and when its line was lost, in its own time */
    this.hasSound = false;
    this.lostAt = -Infinity;
  }

  connect() {
    this.looking ??= setInterval(() => this.#look(), LOOKED_EVERY);
    // in a test no page goes away by itself
    this.looking.unref?.();
    const socket = new WebSocket(this.url);
    this.socket = socket;
    this.heard = performance.now();
    socket.onopen = () => this.#pingOften(socket);
    socket.onmessage = ({ data }) => this.#receive(JSON.parse(data));
    socket.onclose = () => this.#lost(socket);
  }

  /**
   * Sends a command.
   *
   * @param {Record<string, any>} command as `docs/protocol.md` has it
   * @param {number} [own] when hand or foot acted: the page's own time in ms; now, if not given
   * @returns {number} its number, by which a press may be taken back; 0 where it has none yet
   */
  do(command, own = performance.now()) {
    if (this.early) {
      this.early = [...this.early, { command, own }].slice(-MOST_KEPT);
      return 0;
    }
    const seq = ++this.seq;
    const text = JSON.stringify({ seq, stamp: this.clock.at(own), ...command });
    this.unsure.set(seq, { text, at: performance.now() });
    this.#send(text);
    return seq;
  }

  /** @param {Record<string, any>} wish something that is no command: {hold}, {standIn} */
  ask(wish) {
    this.#send(JSON.stringify(wish));
  }

  #send(text) {
    if (this.open) {
      this.socket.send(text);
    }
  }

  #receive(message) {
    this.heard = performance.now();
    if ("pong" in message) {
      this.clock.pong(message.pong, performance.now(), message.server);
      return;
    }
    const [kind] = Object.keys(message);
    if (kind === "welcome") {
      this.#welcome(message.welcome);
    } else if (kind === "ack") {
      this.unsure.delete(message.ack);
    } else if (kind === "lacks") {
      this.#sendFrom(message.lacks);
    } else if (kind === "refused") {
      this.unsure.delete(message.refused);
      this.#tell("refused", message.why);
    } else {
      this.#tell(kind, message[kind]);
    }
  }

  #welcome(welcome) {
    this.open = true;
    this.wait = 100;
    if (welcome.client !== this.client) {
      this.client = welcome.client;
      keptInTab.set(KEPT_AS, this.client);
    }
    this.seq = Math.max(this.seq, welcome.last);
    // what waits goes first: what is done because of the welcome is numbered after it
    this.#sendFrom(0);
    const early = this.early ?? [];
    this.early = null;
    early.forEach(({ command, own }) => this.do(command, own));
    this.#tell("line", true);
    this.#tell("welcome", welcome);
  }

  /** Sends what has no answer yet, in order, from a number on. */
  #sendFrom(first) {
    for (const [seq, { text }] of this.unsure) {
      if (seq >= first) {
        this.unsure.set(seq, { text, at: performance.now() });
        this.socket.send(text);
      }
    }
  }

  /** Who this is, which of its commands has no answer yet, and whether it had the sound until just now. */
  #hello() {
    const [first = this.seq + 1] = this.unsure.keys();
    const had = this.hasSound && performance.now() - this.lostAt < KEPT_FOR;
    return { client: this.client, instance: this.instance, from: first, had };
  }

  /** The time is known before the first command is sent. */
  #pingOften(socket, count = 0) {
    if (socket !== this.socket || socket.readyState !== WebSocket.OPEN) {
      return;
    }
    if (performance.now() - this.heard > DEAD_AFTER) {
      socket.close();
      this.#lost(socket);
      return;
    }
    socket.send(JSON.stringify({ ping: performance.now() }));
    if ((count === FIRST_PINGS - 1 || count > FIRST_PINGS) && !this.open) {
      socket.send(JSON.stringify({ hello: this.#hello() }));
    }
    setTimeout(() => this.#pingOften(socket, count + 1), count < FIRST_PINGS ? FIRST_PING_GAP : PING_EVERY);
  }

  /** Says so when what was sent has no answer. */
  #look() {
    const [oldest] = this.unsure.values();
    const silent = this.open && oldest !== undefined && performance.now() - oldest.at > ANSWERED_WITHIN;
    if (silent !== this.silent) {
      this.silent = silent;
      this.#tell("silent", silent);
    }
  }

  #lost(socket) {
    if (socket !== this.socket) {
      return;
    }
    this.socket = null;
    if (this.open) {
      this.lostAt = performance.now();
    }
    this.open = false;
    this.#tell("line", false);
    this.#askWhetherOut();
    setTimeout(() => this.connect(), this.wait);
    this.wait = Math.min(LONGEST_WAIT, this.wait * 2);
  }

  /** A socket that is refused does not say why: the house is asked by what it answers anyone who may come in. */
  async #askWhetherOut() {
    const answer = await fetch("/known").catch(() => null);
    if (answer?.status === UNKNOWN) {
      this.#tell("out", true);
    }
  }

  #tell(kind, detail) {
    this.dispatchEvent(new CustomEvent(kind, { detail }));
  }
}

/** A name that this tab keeps when it is reloaded. */
function clientName() {
  const name = keptInTab.get(KEPT_AS) ?? unique();
  keptInTab.set(KEPT_AS, name);
  return name;
}

/** A name that nothing else has, also where the page came by plain http. */
function unique() {
  return [...crypto.getRandomValues(new Uint8Array(16))]
    .map((byte) => byte.toString(16).padStart(2, "0"))
    .join("");
}
