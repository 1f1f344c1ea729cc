// The rest after a set, by the rung's own clock: seen, heard and felt, and ended by a tap for whoever is ready. Mixed into
// whatever counts sets.
import { beep, shake } from "../sound.js";
import { minutes } from "./clock.js";

const TICK = 250;

/**
 * @typedef {{ number?: number }} Counted
 * @typedef {{ rests: boolean, restClock: string, restUntil: number, restTimer: number | null, $root?: HTMLElement,
 *   restAfter(entry: Counted, next?: Counted): void, startRest(ms: number): void, tickRest(): void, endRest(): void }} Resting
 */

/** @type {Resting} */
export const resting = {
  rests: false,
  restClock: "",
  restUntil: 0,
  restTimer: null,

  // between sets, not between the lanes of one, and not after the last
  restAfter(entry, next) {
    const rest = Number(this.$root.dataset.rest) || 0;
    if (rest > 0 && next && next.number !== entry.number) this.startRest(rest * 1000);
  },
  startRest(ms) {
    clearInterval(this.restTimer);
    this.restUntil = performance.now() + ms;
    this.restTimer = setInterval(() => this.tickRest(), TICK);
    Object.assign(this, { rests: true, restClock: minutes(ms) });
  },
  tickRest() {
    const left = this.restUntil - performance.now();
    this.restClock = minutes(left);
    if (left > 0) return;
    this.endRest();
    beep(660);
    shake([80, 60, 80]);
  },
  endRest() {
    clearInterval(this.restTimer);
    Object.assign(this, { restTimer: null, rests: false });
  },
};
