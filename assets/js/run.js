// The run: one block, one thing at a time, for whoever has a stick in the other hand. It is a layer over the block's own form:
// what is counted stands in the form's fields and is kept as on the long page, so that the two never differ.
import { component } from "./component.js";
import { keepForm } from "./kept_form.js";
import { minutes } from "./instruments/clock.js";
import { instrument } from "./instruments/instrument.js";
import { goodOf, attemptsOf } from "./instruments/strokes.js";
import { flush } from "./later.js";
import { local } from "./local.js";
import { pad } from "./pad.js";
import { beep, hush, shake } from "./sound.js";

const STEPS = ["ready", "this", "do", "how"];
const ASK_MS = 5_000; // for so long a miss asks why
const LEAD_ON_MS = 900; // a last stroke can still be seen, and taken back
const today = () => document.querySelector("[data-day]").getAttribute("data-day");

const hands = () => local.read("run-hands") ?? { mirrored: false, quiet: false };
const settle = (given) => {
  document.documentElement.dataset.thumb = given.mirrored ? "left" : "right";
  hush(given.quiet);
};

// the browser goes to the first button, which is its last line: a sheet begins at its top
const openSheet = (id) => {
  const sheet = /** @type {HTMLDialogElement} */ (document.getElementById(id));
  sheet.showModal();
  sheet.scrollTop = 0;
};

/** What every run has beside what counts: its steps, and the settings of whoever holds it. */
export const steps = () => ({
  step: "this",
  safe: true,
  asksWhy: false,
  hurtNow: false,
  leading: null,
  lane: "",
  laneIsNew: false,
  ...hands(),

  open() {
    settle(hands());
    this.looked();
    if (this.$root.dataset.first === "yes" && local.read("run-ready")?.day !== today() && !this.begun) this.step = "ready";
    else if (this.begun) this.step = this.finished ? "how" : "do";
  },
  isStep(name) { return this.step === name; },
  go(name) {
    flush();
    clearTimeout(this.leading);
    if (name !== "do") this.closeEar?.(); // whoever leaves what is counted leaves no microphone open
    if (this.step === "ready") local.write("run-ready", { day: today() });
    this.step = name;
    scrollTo(0, 0);
    this.$nextTick(() => (this.root ?? this.$root).querySelector(".run-step:not([style*=none]) h1, .run-step:not([style*=none]) .run-now")?.scrollIntoView({ block: "nearest" }));
  },
  back() {
    const at = STEPS.indexOf(this.step);
    if (this.step === "kept" || at <= 1) { location.assign(this.$root.dataset.card); return; }
    this.stopCalls?.();
    this.go(STEPS[at - 1]);
  },
  // each thing that keeps it safe is ticked by itself, before it begins
  looked() {
    const ticks = [...this.$root.querySelectorAll("[name=worn], [name=adult]")];
    this.safe = ticks.every((tick) => tick.checked);
  },
  get beginWord() {
    if (!this.safe) return "Tick above first";
    return this.begun ? "Go on" : "Begin";
  },
  begin() {
    this.changedLane();
    this.go("do");
    if (!this.begun) this.askSlow(this.current);
  },
  get overWord() { return this.finished ? "Next" : "Enough"; },
  get mayGoOn() { return this.begun; },
  goOnFrom() { this.go("how"); },

  // the side that comes now is said, shown and felt
  changedLane() {
    const now = this.laneName();
    this.laneIsNew = Boolean(this.lane) && now !== this.lane;
    // lanes in turn change at every attempt: felt, not heard
    if (this.laneIsNew) { if (!this.turns?.length) beep(740); shake([30, 40, 30]); setTimeout(() => { this.laneIsNew = false; }, 1200); }
    this.lane = now;
  },
  get laneNow() { return this.laneName(); },
  get laneLook() { return this.laneIsNew ? "new" : ""; },
  spotLook(i) { return this.laneIndex() === i ? "now" : ""; },
  leadOn() {
    clearTimeout(this.leading);
    if (this.finished && this.step === "do" && !this.finishing) this.leading = setTimeout(() => { if (this.finished && this.step === "do") this.go("how"); }, LEAD_ON_MS);
  },

  hurting() { this.hurtNow = true; this.press("hurts", "yes"); this.$nextTick(() => this.$root.elements.hurt_where.focus()); },
  allFine() {
    this.hurtNow = false;
    this.press("hurts", "no");
    this.$root.requestSubmit();
  },
  press(name, value) {
    for (const radio of this.$root.querySelectorAll(`[name=${name}]`)) radio.checked = radio.value === value;
    keepForm(this.$root, [name]);
  },
  kept() { this.step = "kept"; },
  ask(id) { openSheet(id); },
  shut(id) { /** @type {HTMLDialogElement} */ (document.getElementById(id)).close(); },
  keepHands() { local.write("run-hands", { mirrored: this.mirrored, quiet: this.quiet }); settle(this); },
  flipHands() { this.mirrored = !this.mirrored; this.keepHands(); },
  flipSound() { this.quiet = !this.quiet; this.keepHands(); },
});

const PAD = pad();
const INSTRUMENT = instrument();
// getters are kept: an object spread would ask them once
export const over = (base, more) => Object.defineProperties(base, Object.getOwnPropertyDescriptors(more));
const BY_TAPS = new Set(["points", "streak", "to_n", "until_lost", "earned"]);
const whole = (row) => row.title.replace(/, set \d+$/i, "");
const lanesIn = (rows) => [...new Set(rows.map((row) => row.lane))];

export const runPad = () => over(over(pad(), steps()), {
  init() { PAD.init.call(this); },
  reload() { PAD.reload.call(this); this.open(); },
  laneName() { return this.current.lane ? whole(this.current) : ""; },
  laneIndex() { return lanesIn(this.entries).indexOf(this.current.lane); },
  get leftNow() { return this.left; },
  get saidNow() { return this.said; },
  get sumUp() { return this.turn < 0 ? "" : `${this.entries.reduce((all, one) => all + goodOf(one.strokes), 0)} good of ${this.entries.reduce((all, one) => all + attemptsOf(one.strokes), 0)}.`; },
  sum() {
    const before = this.lane;
    PAD.sum.call(this);
    if (this.step !== "do") return;
    if (before !== this.laneName()) this.changedLane();
    this.leadOn();
  },
  missed() {
    this.miss();
    this.asksWhy = true;
    clearTimeout(this.asking);
    this.asking = setTimeout(() => { this.asksWhy = false; }, ASK_MS);
  },
  hit() { this.asksWhy = false; PAD.hit.call(this); },
  // why the last one was missed: it becomes that stroke, and is no second one
  nameFault(i) {
    if (this.asksWhy) PAD.undo.call(this);
    this.asksWhy = false;
    this.fault(i);
  },
  get whyOpen() { return this.asksWhy; },
  rowsCounted() { return this.entries.reduce((all, one) => all + attemptsOf(one.strokes), 0); },
});

export const runInstrument = () => over(over(instrument(), steps()), {
  init() { INSTRUMENT.init.call(this); },
  reload() { INSTRUMENT.reload.call(this); this.open(); },
  laneName() { return this.current.lane ? whole(this.current) : ""; },
  laneIndex() { return lanesIn(this.given.entries).indexOf(this.current.lane); },
  get windowRuns() { return this.given.kind === "count" && this.isRunning; },
  get leftNow() { return this.windowRuns ? String(this.row.length) : this.said; },
  get saidNow() {
    if (this.windowRuns) return `${minutes(this.given.window_s * 1000 - this.passed)} left`;
    return [this.given.entries.length > 1 ? `${this.at + 1} of ${this.given.entries.length}` : "", this.goal].filter(Boolean).join(", ");
  },
  get ticks() { return this.given.kind === "checklist"; },
  get overWord() { return this.finished || this.ticks ? "Next" : "Enough"; },
  // a list that nobody touched says nothing, so it cannot be left as if it did
  get mayGoOn() { return this.ticks ? this.row !== "" : this.begun; },
  goOnFrom() {
    if (!this.ticks || this.at === this.given.entries.length - 1) { this.go("how"); return; }
    const before = this.current;
    this.at += 1;
    this.restAfter(before, this.current);
    this.changedLane();
  },
  // repetitions by taps, else whole tries
  rowsCounted() {
    if (BY_TAPS.has(this.given.kind)) return this.strokes.reduce((all, row) => all + row.length, 0);
    return this.given.entries.filter((entry, i) => this.complete(entry, i) && !(this.clockRuns && i === this.at)).length;
  },
  get sumUp() { return this.given.entries.map((_, i) => this.label(i)).filter((words) => words !== "–").join("; ") || "Nothing counted yet."; },
  ended() {
    INSTRUMENT.ended.call(this);
    this.changedLane();
    this.leadOn();
  },
});

// what no instrument counts is typed
export const runTyped = () => over(steps(), {
  begun: false, finished: false, rests: false, finishing: null,
  init() { this.open(); },
  reload() {}, undo() {}, endCalls() {}, callsOn() { return false; }, laneName() { return ""; }, laneIndex() { return -1; },
  leftNow: "", saidNow: "", sumUp: "", restWord: "", restClock: "", held: false, holdRest() {}, endRest() {}, nextRest() {}, askSlow() {}, slowly: false, restKey: "", current: null, getReady() {},
});

/** What lies around the form: the sheets over it. */
export const runPage = component(() => ({
  ask(id) { openSheet(id); },
  shut(id) { /** @type {HTMLDialogElement} */ (document.getElementById(id)).close(); },
}));
