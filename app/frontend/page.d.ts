// What the audio thread has that a page has not (Web Audio API 1.1, AudioWorkletGlobalScope).
declare class AudioWorkletProcessor {
  constructor(options?: unknown);
  readonly port: MessagePort;
}
declare const sampleRate: number;
declare const currentFrame: number;
declare function registerProcessor(name: string, processor: unknown): void;

// What only some browsers have (Keyboard Map API).
interface Navigator {
  keyboard?: { getLayoutMap(): Promise<Map<string, string>> };
}

// Events of our own have a detail; a handler says what it takes apart.
interface EventTarget {
  addEventListener(
    kind: string,
    act: ((event: any) => void) | null,
    options?: boolean | AddEventListenerOptions,
  ): void;
}

declare function addEventListener(
  kind: string,
  act: (event: any) => void,
  options?: boolean | AddEventListenerOptions,
): void;

// What is looked for in a page of HTML is what its name says: a field, a link, a drawer.
interface Found extends HTMLElement {
  value: string;
  checked: boolean;
  disabled: boolean;
  href: string;
  open: boolean;
  files: FileList;
  close(): void;
}
interface ParentNode {
  querySelector(selectors: string): Found;
  querySelectorAll(selectors: string): NodeListOf<Found>;
}
interface Document {
  getElementById(id: string): HTMLElement;
}
interface HTMLElement {
  addEventListener(
    kind: string,
    act: (event: any) => void,
    options?: boolean | AddEventListenerOptions,
  ): void;
}
interface Element {
  closest(selectors: string): Found | null;
}
