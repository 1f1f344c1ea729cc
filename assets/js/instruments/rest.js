// The clock between things, by the rung's own times: to get into place, and the rest after a set. Seen, heard and felt; held
// by a tap, and ended by a tap for whoever is ready. Mixed into whatever counts sets.
import { beep, shake } from "../sound.js";
import { minutes } from "./clock.js";

const TICK = 250;
const PLACE_MS = 10_000; // to get into place

/**
 * @typedef {{ number?: number }} Counted
 * @typedef {{ rests: boolean, held: boolean, restWord: string, restClock: string, restLeft: number, restUntil: number,
 *   restTimer: number | null, $root?: HTMLElement, root?: HTMLElement | null, restAfter(entry: Counted, next?: Counted): void, getReady(): void,
 *   startRest(ms: number, word?: string): void, runRest(): void, tickRest(): void, holdRest(): void, endRest(): void }} Resting
 */

/** @type {Resting} */
export const resting = {
  rests: false,
  held: false,
  restWord: "Rest",
  restClock: "",
  restLeft: 0,
  restUntil: 0,
  restTimer: null,

  // between sets, not between the lanes of one, and not after the last; between any two attempts where the rung says so
  restAfter(entry, next) {
    if (!next) return;
    const { rest, restEach } = (this.root ?? this.$root).dataset;
    const seconds = Math.max(next.number !== entry.number ? Number(rest) || 0 : 0, Number(restEach) || 0);
    if (seconds > 0) this.startRest(seconds * 1000);
  },
  getReady() { this.startRest(PLACE_MS, "Get into place"); },
  startRest(ms, word = "Rest") {
    Object.assign(this, { rests: true, held: false, restWord: word, restLeft: ms, restClock: minutes(ms) });
    this.runRest();
  },
  runRest() {
    clearInterval(this.restTimer);
    this.restUntil = performance.now() + this.restLeft;
    this.restTimer = setInterval(() => this.tickRest(), TICK);
  },
  tickRest() {
    this.restLeft = this.restUntil - performance.now();
    this.restClock = minutes(this.restLeft);
    if (this.restLeft > 0) return;
    this.endRest();
    beep(660);
    shake([80, 60, 80]);
  },
  holdRest() {
    this.held = !this.held;
    if (this.held) clearInterval(this.restTimer);
    else this.runRest();
  },
  endRest() {
    clearInterval(this.restTimer);
    Object.assign(this, { restTimer: null, rests: false, held: false });
  },
};
