// Easier or harder now: from the next repetition on. Mixed into whatever counts sets; each set carries which it was. Where a
// rung says so, the easier way is offered once one kind of fault has come so often; nobody is put on it.
import { faultCounts } from "./strokes.js";

/**
 * @typedef {{ easier: boolean, easierBefore: boolean, easeFaults: number, offer: string, passedOver: number[], $root?: any,
 *   initEasing(): void, flip(): void, lookForEasing(rows: string[], names: string[]): void, takeOffer(): void, passOffer(): void,
 *   counted: number[] }} Easing
 */

/**
 * The fault, by its number, that has come so often since it was last passed over; -1 where none has.
 * @param {number[]} counts @param {number[]} passedOver @param {number} most
 */
export const faultToEase = (counts, passedOver, most) => (most ? Array.from(counts, (n) => n ?? 0).findIndex((n, i) => n - (passedOver[i] ?? 0) >= most) : -1);

/** @type {Easing} */
export const easing = {
  easier: false,
  easierBefore: false, // how the player stands on the rung
  easeFaults: 0,
  offer: "",
  counted: [],
  passedOver: [], // so often had each fault come when the offer was passed over

  initEasing() {
    this.easierBefore = this.easier = this.$root.dataset.eased === "yes";
    this.easeFaults = Number(this.$root.dataset.easeFaults) || 0;
    this.passedOver = [];
  },
  flip() {
    this.easier = !this.easier;
    if (this.offer) this.passOffer();
  },
  lookForEasing(rows, names) {
    if (!this.easeFaults || this.easier) return;
    this.counted = rows.reduce((counts, strokes) => faultCounts(strokes, this.easierBefore, counts), []);
    const fault = faultToEase(this.counted, this.passedOver, this.easeFaults);
    this.offer = fault < 0 ? "" : `${this.counted[fault]} times “${names[fault]}”.`;
  },
  takeOffer() { this.flip(); },
  passOffer() {
    this.passedOver = [...this.counted];
    this.offer = "";
  },
};
