// The clock between things, by the rung's own times: to get into place, and the rest after a set. Seen, heard and felt; held
// by a tap, and ended by a tap for whoever is ready. Mixed into whatever counts sets.
import { beep, shake } from "../sound.js";
import { minutes } from "./clock.js";

/** @param {number} good */
export const toFinish = (good) => `To finish: ${good} good ${good === 1 ? "one" : "ones"}, not counted`;

const TICK = 250;
const PLACE_MS = 10_000; // to get into place
const LONGEST_S = 3600; // more is no rest between sets

/**
 * @typedef {{ number?: number }} Counted
 * @typedef {{ rests: boolean, held: boolean, restWord: string, restClock: string, restLeft: number, restUntil: number,
 *   restTimer: number | null, $root?: HTMLElement, root?: HTMLElement | null, restAfter(entry: Counted, next?: Counted | null): void,
 *   finishing: { entry: Counted, next: Counted | null } | null, finishIn: number, askFinish(entry: Counted, next?: Counted | null): boolean,
 *   setIsFinished(one: { entry: Counted, next: Counted | null }): void, leadOn?(): void,
 *   slowly: boolean, slowIn: number, slowNext: Counted | null, slowRest(): number, askSlow(entry: Counted | null): void, restKey: string, nextRest(): void, afterRest?(): void,
 *   untilReady: boolean, doneAt: number, doneIn: number, restEnds(entry: Counted): void, restBegins(entry: Counted): void, field?: any, getReady(): void,
 *   startRest(ms: number, word?: string): void, runRest(): void, tickRest(): void, holdRest(): void, endRest(): void }} Resting
 */

/** @type {Resting} */
export const resting = {
  rests: false,
  held: false,
  restWord: "Rest",
  restClock: "",
  untilReady: false, // its seconds are the least
  slowly: false, // a slow one that is not counted comes before the set
  slowIn: 0, // the set before which it came
  restKey: "Go on",
  finishing: null, // the set that is ended by good ones, and what comes after it
  finishIn: 0, // the set that was ended so
  slowNext: null, // the entry before which it is to come, once a rest is over
  restLeft: 0,
  restUntil: 0,
  restTimer: null,
  doneAt: 0, // when something was done last on this page, and in which set
  doneIn: 0,

  /** A set begins: the real rest before it is kept, where another was done on this page. */
  restEnds(entry) {
    const field = this.field(entry, "rested");
    const seconds = Math.round((performance.now() - this.doneAt) / 1000);
    if (field && this.doneAt && this.doneIn !== entry.number && seconds <= LONGEST_S) field.value = String(seconds);
    if (this.rests) this.endRest(); // whoever goes on has ended it
  },
  /** Something of a set was done just now. */
  restBegins(entry) { Object.assign(this, { doneAt: performance.now(), doneIn: entry.number }); },
  // between sets, not between the lanes of one, and not after the last (no next one); between any two attempts where the rung says so
  restAfter(entry, next) {
    if (this.askFinish(entry, next) || !next) return;
    const { rest, restEach } = (this.root ?? this.$root).dataset;
    const seconds = Math.max(next.number !== entry.number ? Number(rest) || 0 : 0, Number(restEach) || 0);
    this.slowNext = next.number !== entry.number ? next : null;
    if (seconds > 0) this.startRest(seconds * 1000);
    else this.askSlow(this.slowNext);
  },
  slowRest() { return Number((this.root ?? this.$root).dataset.slowFirst) || 0; },
  // once before each set that asks for it
  askSlow(entry) {
    this.slowNext = null;
    if (!entry || !this.slowRest() || this.slowIn === entry.number) return;
    this.slowIn = entry.number;
    Object.assign(this, { rests: true, held: false, slowly: true, restWord: "One slowly first: it is not counted", restClock: "", restKey: "Done" });
  },
  /** Good ones that end a set and are not counted: once, before its rest; whether they are asked now. */
  askFinish(entry, next) {
    const good = Number((this.root ?? this.$root).dataset.finishGood) || 0;
    if (!good || this.finishIn === entry.number || next?.number === entry.number) return false;
    this.finishIn = entry.number;
    Object.assign(this, { rests: true, held: false, slowly: true, finishing: { entry, next }, restWord: toFinish(good), restClock: "", restKey: "Done" });
    return true;
  },
  nextRest() {
    if (this.finishing) { this.setIsFinished(this.finishing); return; }
    const [slow, entry] = [this.slowly, this.slowNext];
    this.endRest();
    if (slow) this.startRest(this.slowRest() * 1000);
    else this.askSlow(entry);
    if (!this.rests) this.afterRest?.();
  },
  setIsFinished({ entry, next }) {
    this.endRest();
    this.restAfter(entry, next);
    if (!this.rests) this.afterRest?.();
    this.leadOn?.();
  },
  getReady() { this.startRest(PLACE_MS, "Get into place"); },
  startRest(ms, word = "Rest") {
    this.untilReady = word === "Rest" && (this.root ?? this.$root).dataset.restReady === "yes";
    Object.assign(this, { rests: true, held: false, restWord: word, restLeft: ms, restClock: minutes(ms) });
    this.runRest();
  },
  runRest() {
    clearInterval(this.restTimer);
    this.restUntil = performance.now() + this.restLeft;
    this.restTimer = setInterval(() => this.tickRest(), TICK);
  },
  tickRest() {
    const before = this.restLeft;
    this.restLeft = this.restUntil - performance.now();
    this.restClock = minutes(Math.abs(this.restLeft));
    if (this.restLeft > 0) return;
    if (!this.untilReady) this.nextRest();
    else if (before <= 0) return;
    else this.restWord = "Go on when you are ready";
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
    Object.assign(this, { restTimer: null, rests: false, held: false, slowly: false, slowNext: null, finishing: null, restKey: "Go on" });
  },
};
