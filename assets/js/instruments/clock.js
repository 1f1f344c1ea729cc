// A clock that begins after a lead-in (or a random wait) and may end itself. Times are milliseconds of whoever asks, so
// that a test needs no waiting.
export const LEAD_MS = 3000;
export const WAIT_MS = [2000, 5000];

/** @param {{ lead?: number, window?: number }} given */
export const clockOf = ({ lead = 0, window = Infinity }) => ({ lead, window, begun: null, ended: null });

// ready: the lead-in runs; running; ended; idle
export const phaseOf = (clock, now) => {
  if (clock.begun === null) return "idle";
  if (clock.ended !== null) return "ended";
  const passed = now - clock.begun - clock.lead;
  if (passed < 0) return "ready";
  return passed >= clock.window ? "ended" : "running";
};

/** Milliseconds on the clock: of the lead-in still to come (negative), then since it began, at most its window. */
export const passedOf = (clock, now) => {
  if (clock.begun === null) return 0;
  return Math.min((clock.ended ?? now) - clock.begun - clock.lead, clock.window);
};
export const begin = (clock, now) => ({ ...clock, begun: now, ended: null });
export const end = (clock, now) => ({ ...clock, ended: now });

/** @param {() => number} chance from 0 to 1 */
export const randomWait = (chance = Math.random) => WAIT_MS[0] + chance() * (WAIT_MS[1] - WAIT_MS[0]);
export const seconds = (ms) => Math.round(ms / 10) / 100;
export const minutes = (ms) => {
  const whole = Math.max(0, Math.ceil(ms / 1000 - 0.001));
  return `${Math.floor(whole / 60)}:${String(whole % 60).padStart(2, "0")}`;
};
