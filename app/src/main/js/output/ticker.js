/**
 * A clock of a worker's: it ticks on where a page that is not seen has its own timers held back to one a second.
 * It is told how often, in ms; 0 stops it.
 */
let timer = 0;
self.onmessage = ({ data: every }) => {
  clearInterval(timer);
  timer = every ? setInterval(() => self.postMessage(0), every) : 0;
};
