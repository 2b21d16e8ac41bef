// Web MIDI with devices that a test plugs in, and that send what it says: behind the browser's own way in.
navigator.requestMIDIAccess = async () => {
  const access = new EventTarget();
  access.inputs = new Map();
  access.outputs = new Map();
  const changed = () => access.dispatchEvent(new Event("statechange"));
  globalThis.plug = (name) => {
    access.inputs.set(name, { id: name, name, state: "connected" });
    changed();
  };
  globalThis.unplug = (name) => {
    access.inputs.delete(name);
    changed();
  };
  globalThis.midi = (name, bytes) =>
    access.inputs.get(name).onmidimessage({ data: new Uint8Array(bytes), timeStamp: performance.now() });
  return access;
};
