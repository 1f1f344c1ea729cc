// Easier or harder now: from the next repetition on. Mixed into whatever counts sets; each set carries which it was. Where a
// rung says so, the easier way is offered once one kind of fault has come so often; nobody is put on it.
import { faultCounts } from "./strokes.js";

/**
 * @typedef {{ easier: boolean, easierBefore: boolean, easeFaults: number, offer: string, passedOver: number[], $root?: any,
 *   initEasing(): void, flip(): void, lookForEasing(rows: string[], names: string[]): void, takeOffer(): void, passOffer(): void,
 *   counted: number[], formPassed: boolean, formSlips(): number | null, lookForForm(): void, root?: any, entries?: any, given?: any }} Easing
 */

/**
 * The fault, by its number, that has come so often since it was last passed over; -1 where none has.
 * @param {number[]} counts @param {number[]} passedOver @param {number} most
 */
export const faultToEase = (counts, passedOver, most) => (most ? Array.from(counts, (n) => n ?? 0).findIndex((n, i) => n - (passedOver[i] ?? 0) >= most) : -1);

const FEWEST_SETS = 3; // of fewer there is no last third

/**
 * The share of checkpoints that was seen where somebody looked; null where nobody did.
 * @param {{ seen: boolean[], looked: boolean }[]} sets
 */
export const formShare = (sets) => {
  const looked = sets.filter(({ seen, looked: said }) => said || seen.some(Boolean)).flatMap(({ seen }) => seen);
  return looked.length ? looked.filter(Boolean).length / looked.length : null;
};

/** @type {Easing} */
export const easing = {
  easier: false,
  easierBefore: false, // how the player stands on the rung
  easeFaults: 0,
  offer: "",
  counted: [],
  formPassed: false, // technique that slipped was passed over
  passedOver: [], // so often had each fault come when the offer was passed over

  initEasing() {
    this.easierBefore = this.easier = this.$root.dataset.eased === "yes";
    this.easeFaults = Number(this.$root.dataset.easeFaults) || 0;
    this.passedOver = [];
    this.$root.addEventListener?.("change", ({ target }) => { if (/-(seen|looked)$/.test(target.name ?? "")) this.lookForForm(); });
  },
  // technique under what a pass needs, in the last third of the sets, as far as somebody looked
  formSlips() {
    const root = this.root ?? this.$root;
    const least = Number(root.dataset.formMin) || 0;
    const rows = this.entries ?? this.given.entries;
    if (!least || this.easier || this.formPassed || rows.length < FEWEST_SETS) return null;
    const share = formShare(rows.slice(Math.ceil((2 * rows.length) / 3)).map(({ prefix }) => ({
      seen: [...root.querySelectorAll(`[name="${prefix}-seen"]`)].map((box) => box.checked),
      looked: Boolean(root.elements[`${prefix}-looked`]?.checked),
    })));
    return share !== null && share < least ? share : null;
  },
  lookForForm() {
    const share = this.formSlips();
    if (share === null) return;
    const percent = (of) => `${Math.round(100 * of)} %`;
    this.offer = `Technique in the last third: ${percent(share)}, needs ${percent(Number((this.root ?? this.$root).dataset.formMin))}.`;
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
    if (!this.offer) this.lookForForm();
  },
  takeOffer() { this.flip(); },
  passOffer() {
    this.formPassed = this.formPassed || this.formSlips() !== null;
    this.passedOver = [...this.counted];
    this.offer = "";
  },
};
