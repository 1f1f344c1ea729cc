// What time it is: the device's own clock, moved by as much as the program was asked to be on another day (./ladder demo --on).
const shift = Number(globalThis.document?.documentElement?.dataset?.clockShift ?? /** @type {any} */ (globalThis).CLOCK_SHIFT ?? 0);

/** Milliseconds since 1970. */
export const now = () => Date.now() + shift;

/** The moment, as the server reads it. */
export const moment = () => new Date(now()).toISOString();
