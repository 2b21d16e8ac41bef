/**
 * A room rings so short in what a page plays: it is not what a test listens to, and one of some seconds costs more than
 * all else that sounds. What is rendered into a file has all of it.
 */
(() => {
  /** In frames. */
  const SMALL = 1024;

  const { set } = Object.getOwnPropertyDescriptor(ConvolverNode.prototype, "buffer");
  Object.defineProperty(ConvolverNode.prototype, "buffer", {
    set(whole) {
      if (!(this.context instanceof AudioContext)) {
        set.call(this, whole);
        return;
      }
      const small = this.context.createBuffer(whole.numberOfChannels, SMALL, whole.sampleRate);
      for (let k = 0; k < whole.numberOfChannels; k++) {
        small.copyToChannel(whole.getChannelData(k).subarray(0, SMALL), k);
      }
      set.call(this, small);
    },
  });
})();
