// What a touch leads to and nobody sees at once is done after it has been painted: within a frame or two, in order, and before
// anything that needs it (another touch, a sending, a page that is left).
/** @type {(() => void)[]} */
let waiting = [];
const HIDDEN_MS = 50; // a page that nobody sees paints nothing

/** Do now whatever waits. */
export const flush = () => {
  while (waiting.length) {
    const now = waiting;
    waiting = [];
    for (const work of now) work();
  }
};

/** @param {() => void} work */
export const later = (work) => {
  if (!globalThis.requestAnimationFrame) { work(); return; }
  waiting.push(work);
  if (waiting.length > 1) return;
  if (document.hidden) setTimeout(flush, HIDDEN_MS);
  else requestAnimationFrame(() => setTimeout(flush));
};

if (globalThis.requestAnimationFrame) {
  addEventListener("pagehide", flush, true);
  document.addEventListener("visibilitychange", flush, true);
  document.addEventListener("submit", flush, true);
}
