/**
 * The screen stays on as long as it is wanted, where the browser can do that.
 *
 * @param {EventTarget} connection tells when something is otherwise
 * @param {() => boolean} wanted whether the screen is to stay on
 */
export function stayAwake(connection, wanted) {
  /** @type {Promise<WakeLockSentinel | null> | null} */
  let wakeLock = null;
  const look = async () => {
    const on = wanted() && document.visibilityState === "visible";
    if (on && !wakeLock && navigator.wakeLock) {
      wakeLock = navigator.wakeLock.request("screen").catch(() => null);
      const lock = await wakeLock;
      lock?.addEventListener("release", () => (wakeLock = null));
    } else if (!on && wakeLock) {
      const lock = await wakeLock;
      wakeLock = null;
      lock?.release();
    }
  };
  connection.addEventListener("state", look);
  document.addEventListener("visibilitychange", look);
}
