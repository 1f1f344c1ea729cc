// The stroke pad: counts good ones and misses, one set and lane after the other, into the form's own fields.
// Whatever it counts is kept on the device until it was sent, so a closed browser loses nothing.
import { component } from "./component.js";
import { keepForm } from "./kept_form.js";
import { flush, later } from "./later.js";
import { calling } from "./instruments/calling.js";
import { easing } from "./instruments/easing.js";
import { lastOf, nextOf, turnsOf } from "./instruments/order.js";
import { resting } from "./instruments/rest.js";
import { strokeOf } from "./instruments/answers.js";
import { attemptsOf, easierAfter, faultsOf, goodOf, goodWith, isGood, marksOf, missWith, put, without } from "./instruments/strokes.js";
import { tempoed } from "./instruments/tempo.js";
import { fed } from "./instruments/feed.js";
import { shake, stayAwake } from "./sound.js";

const NAMES = ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "rested"];
const LONGEST = 390; // strokes of one set that the server keeps

export const pad = component(() => ({
  mode: "strokes",
  at: 0,
  entries: [], // each by itself is not watched: what many things show is told once, by `turn`, after a touch is painted
  turn: 0,
  faults: [],
  turns: [], // lanes in turn; none: one after the other
  trail: [], // entries as they were counted on this page, where lanes go in turn
  but: false, // the next fault belongs to a good one
  // what many buttons look at: fields, which are told only when they change, where a getter is asked anew at every tap
  finished: false,
  begun: false,
  said: "",
  left: "",

  // its own form: what is done later cannot ask which element was touched, as that may be gone by then
  form() { return this.root ?? this.$root; },
  root: null,

  init() {
    this.root = this.$root;
    const ids = this.$root.dataset.ids ?? ""; // several pads on one page
    this.faults = JSON.parse(document.getElementById(`${ids}pad-faults`).textContent);
    this.entries = JSON.parse(document.getElementById(`${ids}pad-entries`).textContent).map((entry) => ({ ...entry, strokes: "", __v_skip: true }));
    this.turns = turnsOf(this.$root.dataset);
    this.initEasing();
    this.initTempo();
    this.initFeed();
    this.initCalling();
    this.reload();
  },
  destroy() { clearInterval(this.restTimer); this.stopTicking(); this.endCalls(); },
  reload() {
    for (const entry of this.entries) entry.strokes = this.field(entry, "strokes").value;
    const last = [...this.entries].reverse().find((entry) => entry.strokes);
    this.easier = last ? easierAfter(last.strokes, this.easierBefore) : this.easierBefore;
    if (this.typedOnly()) this.mode = "typed";
    this.goOn();
    this.sum();
  },
  typedOnly() {
    return this.entries.some((entry) => !entry.strokes && this.field(entry, "makes").value);
  },
  field(entry, name) { return this.form().elements[`${entry.prefix}-${name}`]; },

  get current() { return this.entries[this.at]; },
  // one mark a stroke; by hand, as a list that is compared anew at every tap costs an old phone half a frame
  draw() {
    if (this.turn < 0) return;
    const marks = marksOf(this.current.strokes);
    const row = this.$refs?.strokes;
    if (!row) return;
    while (row.childElementCount > marks.length) row.lastElementChild.remove();
    marks.forEach((mark, i) => {
      const shown = row.children[i] ?? row.appendChild(document.createElement("span"));
      if (shown.className !== `pad-stroke ${mark}`) shown.className = `pad-stroke ${mark}`;
    });
  },
  isFull(entry) { return attemptsOf(entry.strokes) >= entry.asked || entry.strokes.length >= LONGEST; },
  get full() { return this.isFull(this.current); },
  /** What a touch shows at once. */
  count() {
    const [done, asked] = [attemptsOf(this.current.strokes), this.current.asked];
    this.said = `${goodOf(this.current.strokes)} good of ${done}`;
    this.left = `${Math.max(0, asked - done)} to go`;
    this.draw();
  },
  sum() {
    const finished = this.entries.every((entry) => this.isFull(entry));
    const begun = this.entries.some((entry) => entry.strokes);
    Object.assign(this, { finished, begun, turn: this.turn + 1 });
    this.count();
  },
  get strokesOn() { return this.mode === "strokes"; },
  get typedOn() { return this.mode === "typed"; },
  label(i) { return this.turn < 0 ? "" : `${goodOf(this.entries[i].strokes)} good, ${attemptsOf(this.entries[i].strokes)} of ${this.entries[i].asked}`; },
  isAt(i) { return this.at === i; },

  use(mode) { this.mode = mode; },
  choose(i) { flush(); this.at = i; this.endCalls(); this.sum(); },
  hit() { this.add("g"); },
  miss() { this.add("m"); },
  fault(i) {
    this.add(this.but ? goodWith(i) : missWith(i));
    this.but = false;
  },
  onGood(yes) { this.but = yes; },
  spoiled(stroke) { this.add(stroke); },
  add(stroke) {
    flush();
    if (this.finished) return;
    if (this.full) this.goOn();
    if (!this.current.strokes) this.restEnds(this.current);
    else if (this.rests) this.endRest();
    this.restBegins(this.current);
    this.trail.push(this.current);
    this.current.strokes = put(this.current.strokes, stroke, this.easier, this.easierBefore);
    this.count();
    shake(isGood(stroke) ? 15 : [10, 40, 10]);
    const entry = this.current;
    later(() => this.added(entry));
  },
  added(done) {
    stayAwake();
    this.write(done);
    this.lookForEasing(this.entries.map((entry) => entry.strokes), this.faults);
    if (this.isFull(done) || this.turns.length) {
      this.goOn();
      this.sum();
    }
    this.restAfter(done, this.finished ? null : this.current);
  },
  goOn() {
    const next = this.entries.findIndex((entry) => !this.isFull(entry));
    if (next < 0) return;
    const lane = this.turns.length ? nextOf(this.turns, this.rowsOf(this.entries[next].number)) : null;
    this.at = lane === null ? next : this.entries.findIndex((entry) => entry.lane === lane && entry.number === this.entries[next].number);
  },
  rowsOf(number) {
    return this.entries.filter((entry) => entry.number === number).map((entry) => ({ lane: entry.lane, done: attemptsOf(entry.strokes), asked: entry.asked }));
  },
  // what was counted last: on this page, else as far as the order of lanes tells
  lastCounted() {
    if (!this.turns.length) return this.current.strokes ? this.current : this.entries.slice(0, this.at).reverse().find((entry) => entry.strokes);
    const known = this.trail.pop();
    if (known?.strokes) return known;
    const number = Math.max(...this.entries.filter((entry) => entry.strokes).map((entry) => entry.number));
    const lane = lastOf(this.turns, this.rowsOf(number));
    return this.entries.find((entry) => entry.number === number && entry.lane === lane && entry.strokes);
  },
  undo() {
    flush();
    const entry = this.lastCounted();
    if (!entry) return;
    this.at = this.entries.indexOf(entry);
    const answer = this.unanswer();
    // a call that was to be left is no stroke
    if (!answer || strokeOf(answer)) entry.strokes = without(entry.strokes);
    this.write(entry);
  },
  write(entry) {
    const n = attemptsOf(entry.strokes);
    this.field(entry, "attempts").value = n || "";
    this.field(entry, "makes").value = n ? goodOf(entry.strokes) : "";
    this.field(entry, "faults").value = faultsOf(entry.strokes, this.faults);
    this.field(entry, "strokes").value = entry.strokes;
    this.field(entry, "eased").value = this.easierBefore ? "yes" : "no";
    this.field(entry, "tempo").value = this.tempo;
    this.field(entry, "feed").value = this.feed;
    this.sum();
    keepForm(this.form(), NAMES.map((name) => `${entry.prefix}-${name}`));
  },
  answerStroke(answer) {
    const stroke = strokeOf(answer);
    if (stroke) this.add(stroke);
    else keepForm(this.form());
  },
  // typing a total by hand takes the place of the strokes of that set
  typed(i) {
    flush();
    this.entries[i].strokes = "";
    for (const name of ["strokes", "faults", "eased", "reads"]) this.field(this.entries[i], name).value = "";
    this.sum();
    this.field(this.entries[i], "tempo").value = this.tempo;
    this.field(this.entries[i], "feed").value = this.feed;
  },
}), { ...resting, ...easing, ...tempoed, ...fed, ...calling });
