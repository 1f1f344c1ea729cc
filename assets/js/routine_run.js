// A routine as a run: part after part, each with its own instrument, and what is asked once at the end of all of them.
// It is a layer over the routine's own form, as the run is over a block's.
import { flush } from "./later.js";
import { over, runInstrument, runPad, runTyped, steps } from "./run.js";

// inside a routine the part's last step leads on to the next part, its first one back to the part before
const part = (make) => () => {
  const whole = make();
  const { go, begin, added, tag, undo, missed } = whole;
  return over(whole, {
    open() {
      this.safe = true;
      this.lane = "";
      this.step = this.begun && !this.finished ? "do" : "this";
      this.tell("part-state");
    },
    // where it stands: what is counted writes itself first, so that its numbers are those of now
    tell(what) {
      flush();
      const root = this.root ?? this.$root;
      root.dispatchEvent(new CustomEvent(what, { bubbles: true, detail: { place: this.place(), finished: this.finished, begun: this.begun, done: this.repeated(), step: this.step } }));
    },
    place() { return Number((this.root ?? this.$root).dataset.place); },
    go(name) {
      if (name !== "how") { go.call(this, name); return; }
      clearTimeout(this.leading);
      this.stopCalls?.();
      this.closeEar?.();
      this.step = "this";
      this.tell("part-over");
    },
    begin() {
      begin.call(this);
      this.tell("part-began");
    },
    // what is written was counted: a part that is judged in the same repetitions comes next
    repeated() { return this.rowsCounted?.() ?? 0; },
    added(done) { added?.call(this, done); this.tell("part-counted"); },
    tag(entry) { tag?.call(this, entry); this.tell("part-counted"); },
    undo() { this.tell("part-undo"); },
    undoOwn() {
      clearTimeout(this.leading);
      undo.call(this);
      if (this.begun && !this.finished) this.step = "do";
      this.tell("part-state");
    },
    // judged with another part, the screen goes on to it: why one was missed is a key of its own here, not a question after it
    get whyOpen() { return this.asksWhy || (this.together() && this.step === "do"); },
    missed() {
      if (this.together()) this.miss();
      else missed.call(this);
    },
    together() { return (this.root ?? this.$root).dataset.judged === "with"; },
    back() {
      if (this.step === "do") { this.stopCalls?.(); this.closeEar?.(); go.call(this, "this"); return; }
      this.$dispatch("part-before");
    },
  });
};
export const partPad = part(runPad);
export const partInstrument = part(runInstrument);
export const partTyped = part(runTyped);

/** Parts that are judged in the same repetitions as one: the places beside each other, the one itself among them.
 * @param {boolean[]} together whether each goes with the one before it @param {number} place */
export const groupOf = (together, place) => {
  let first = place;
  while (first > 0 && together[first]) first -= 1;
  let last = place;
  while (together[last + 1]) last += 1;
  return Array.from({ length: last - first + 1 }, (_, i) => first + i);
};

/** @typedef {{ place: number, done: number, finished: boolean }} Judged */
/** Who judges next: the one that is behind, the first of several. @param {Judged[]} group @param {number} now */
export const nextJudged = (group, now) => {
  const open = group.filter((one) => one && !one.finished);
  if (!open.length) return now;
  return open.reduce((least, one) => (one.done < least.done ? one : least)).place;
};

/** Whose judgement was the last one. @param {Judged[]} group @param {number} now */
export const lastJudged = (group, now) => {
  const known = group.filter((one) => one?.done);
  if (!known.length) return now;
  return known.reduce((most, one) => (one.done >= most.done ? one : most)).place;
};

export const runRoutine = () => over(steps(), {
  part: 0,
  states: [],
  leftOut: [],
  begun: false,

  init() {
    const on = (what, does) => this.$root.addEventListener(what, ({ detail }) => does.call(this, detail, this.heard(detail)));
    on("part-state", () => {});
    on("part-over", this.over);
    on("part-began", this.partBegan);
    on("part-counted", this.counted);
    on("part-undo", this.undoLast);
    this.$root.addEventListener("part-before", () => this.before());
    this.step = "ready";
    this.reload();
  },
  // what was kept of a run that was broken off: it goes on where it was
  reload() { this.$nextTick(() => { this.looked(); if (this.begun && this.safe && this.step === "ready") this.resume(); }); },
  resume() {
    const open = this.states.findIndex((one) => !one.finished);
    this.part = open < 0 ? 0 : nextJudged(this.judged(open), open);
    this.step = open < 0 ? "how" : "parts";
  },
  // what is known of a part now; what was known of it before
  heard(state) {
    const before = this.states[state.place];
    this.states[state.place] = state;
    this.states = [...this.states];
    this.begun = this.states.some((one) => one?.begun);
    return before;
  },
  // parts that are judged in the same repetitions: their places, one for a part that stands alone
  group(place) { return groupOf(this.parts().map((one) => one.dataset.together === "yes"), place); },
  judged(place) { return this.group(place).filter((one) => !this.leftOut.includes(one)).map((one) => this.states[one]); },
  // each is read before the first is counted
  partBegan(state) {
    this.leftOut = this.leftOut.filter((place) => place !== state.place);
    const group = this.judged(state.place);
    const unread = group.find((one) => one && one.place !== state.place && one.step !== "do" && !one.begun);
    this.part = unread ? unread.place : nextJudged(group, state.place);
    scrollTo(0, 0);
  },
  // a repetition was judged by one: now by the other
  counted(state, before) {
    if (state.place !== this.part || state.done <= (before?.done ?? 0)) return;
    this.part = nextJudged(this.judged(state.place), state.place);
  },
  undoLast(state) {
    const last = lastJudged(this.judged(state.place), state.place);
    this.part = last;
    this.parts()[last].dispatchEvent(new CustomEvent("step-undo"));
  },
  over(state) {
    if (state.place !== this.part) return; // it ended by itself while the other is judged
    if (!state.begun) this.leftOut = [...this.leftOut, state.place];
    const begun = this.judged(state.place).find((one) => one?.step === "do" && !one.finished && !state.begun);
    if (begun) { this.part = begun.place; return; }
    if (state.begun) this.part = this.group(state.place).at(-1);
    this.next();
  },
  parts() { return [...this.$root.querySelectorAll(".run-own")]; },
  isPart(place) { return this.step === "parts" && this.part === place; },
  get placeNow() { return this.step === "parts" ? `Part ${this.part + 1} of ${this.parts().length}` : ""; },
  get sumUp() {
    const counted = this.states.filter((one) => one?.begun).length;
    return `${counted} of ${this.parts().length} parts counted.`;
  },
  get beginWord() { return this.safe ? "Begin" : "Tick above first"; },
  begin() { this.part = 0; this.step = "parts"; scrollTo(0, 0); },
  next() {
    if (this.part + 1 < this.parts().length) this.part += 1;
    else this.step = "how";
    scrollTo(0, 0);
  },
  before() {
    if (this.part > 0) this.part -= 1;
    else this.step = "ready";
  },
  back() {
    if (this.step === "kept" || this.step === "ready") { location.assign(this.$root.dataset.card); return; }
    if (this.step === "how") { this.part = this.parts().length - 1; this.step = "parts"; return; }
    this.parts()[this.part].dispatchEvent(new CustomEvent("step-back"));
  },
  more() { this.ask(this.step === "parts" ? `${this.parts()[this.part].dataset.ids}run-more` : "run-more"); },
});
