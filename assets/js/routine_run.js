// A routine as a run: part after part, each with its own instrument, and what is asked once at the end of all of them.
// It is a layer over the routine's own form, as the run is over a block's.
import { over, runInstrument, runPad, runTyped, steps } from "./run.js";

// inside a routine the part's last step leads on to the next part, its first one back to the part before
const part = (make) => () => {
  const whole = make();
  const go = whole.go;
  return over(whole, {
    open() {
      this.safe = true;
      this.lane = "";
      this.step = this.begun && !this.finished ? "do" : "this";
      this.$dispatch("part-state", { place: this.place(), finished: this.finished, begun: this.begun });
    },
    place() { return Number(this.$root.dataset.place); },
    go(name) {
      if (name !== "how") { go.call(this, name); return; }
      clearTimeout(this.leading);
      this.endCalls?.();
      this.closeEar?.();
      this.step = "this";
      this.$dispatch("part-over", { place: this.place(), finished: this.finished, begun: this.begun });
    },
    back() {
      if (this.step === "do") { this.endCalls?.(); this.closeEar?.(); go.call(this, "this"); return; }
      this.$dispatch("part-before");
    },
  });
};
export const partPad = part(runPad);
export const partInstrument = part(runInstrument);
export const partTyped = part(runTyped);

export const runRoutine = () => over(steps(), {
  part: 0,
  states: [],
  begun: false,

  init() {
    this.$root.addEventListener("part-state", ({ detail }) => this.heard(detail));
    this.$root.addEventListener("part-over", ({ detail }) => { this.heard(detail); this.next(); });
    this.$root.addEventListener("part-before", () => this.before());
    this.step = "ready";
    this.reload();
  },
  // what was kept of a run that was broken off: it goes on where it was
  reload() { this.$nextTick(() => { this.looked(); if (this.begun && this.safe && this.step === "ready") this.resume(); }); },
  resume() {
    const open = this.states.findIndex((one) => !one.finished);
    this.part = Math.max(0, open);
    this.step = open < 0 ? "how" : "parts";
  },
  heard(state) {
    this.states[state.place] = state;
    this.states = [...this.states];
    this.begun = this.states.some((one) => one?.begun);
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
