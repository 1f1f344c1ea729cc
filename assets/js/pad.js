// The stroke pad: counts good ones and misses, one set and lane after the other, into the form's own fields.
// Whatever it counts is kept on the device until it was sent, so a closed browser loses nothing.
import { component } from "./component.js";
import { keepDraft } from "./draft.js";
import { resting } from "./instruments/rest.js";
import { shake, stayAwake } from "./sound.js";

// one letter a stroke: g good, m a miss without a name, a digit: the miss with the fault of that number
const isGood = (stroke) => stroke === "g";

export const pad = component(() => ({
  mode: "strokes",
  at: 0,
  entries: [],
  faults: [],

  init() {
    this.faults = JSON.parse(document.getElementById("pad-faults").textContent);
    this.entries = JSON.parse(document.getElementById("pad-entries").textContent).map((entry) => ({ ...entry, strokes: "" }));
    this.reload();
    if (this.typedOnly()) this.mode = "typed";
    this.goOn();
  },
  reload() { for (const entry of this.entries) entry.strokes = this.field(entry, "strokes").value; },
  typedOnly() {
    return this.entries.some((entry) => !entry.strokes && this.field(entry, "makes").value);
  },
  field(entry, name) { return this.$root.elements[`${entry.prefix}-${name}`]; },

  get current() { return this.entries[this.at]; },
  get done() { return this.current.strokes.length; },
  get good() { return this.goodOf(this.current); },
  // one mark a stroke; by hand, as a list that is compared anew at every tap costs an old phone half a frame
  draw() {
    const marks = [...this.current.strokes].map((stroke) => (isGood(stroke) ? "good" : "miss"));
    const row = this.$refs.strokes;
    while (row.childElementCount > marks.length) row.lastElementChild.remove();
    marks.forEach((mark, i) => {
      const shown = row.children[i] ?? row.appendChild(document.createElement("span"));
      if (shown.className !== `pad-stroke ${mark}`) shown.className = `pad-stroke ${mark}`;
    });
  },
  get full() { return this.done >= this.current.asked; },
  get finished() { return this.entries.every((e) => e.strokes.length >= e.asked); },
  get strokesOn() { return this.mode === "strokes"; },
  get typedOn() { return this.mode === "typed"; },
  get said() { return `${this.good} good of ${this.done}`; },
  goodOf(entry) { return [...entry.strokes].filter(isGood).length; },
  label(i) { return `${this.goodOf(this.entries[i])} good, ${this.entries[i].strokes.length} of ${this.entries[i].asked}`; },
  isAt(i) { return this.at === i; },

  use(mode) { this.mode = mode; },
  choose(i) { this.at = i; },
  hit() { this.add("g"); },
  miss(fault) { this.add(fault === undefined ? "m" : String(fault)); },
  add(stroke) {
    if (this.finished) return;
    if (this.full) this.goOn();
    this.current.strokes += stroke;
    this.write(this.current);
    shake(isGood(stroke) ? 15 : [10, 40, 10]);
    stayAwake();
    if (!this.full) return;
    const done = this.current;
    this.goOn();
    if (this.current !== done) this.restAfter(done, this.current);
  },
  goOn() {
    const next = this.entries.findIndex((e) => e.strokes.length < e.asked);
    if (next >= 0) this.at = next;
  },
  undo() {
    let entry = this.current;
    if (!entry.strokes) {
      const before = this.entries.slice(0, this.at).reverse().find((e) => e.strokes);
      if (!before) return;
      this.at = this.entries.indexOf(before);
      entry = before;
    }
    entry.strokes = entry.strokes.slice(0, -1);
    this.write(entry);
  },
  write(entry) {
    const counts = {};
    for (const stroke of entry.strokes) {
      if (/\d/.test(stroke)) counts[this.faults[Number(stroke)]] = (counts[this.faults[Number(stroke)]] || 0) + 1;
    }
    const n = entry.strokes.length;
    this.field(entry, "attempts").value = n || "";
    this.field(entry, "makes").value = n ? this.goodOf(entry) : "";
    this.field(entry, "faults").value = Object.entries(counts).map(([name, times]) => `${name}:${times}`).join(";");
    this.field(entry, "strokes").value = entry.strokes;
    keepDraft(this.$root);
  },
  // typing a total by hand takes the place of the strokes of that set
  typed(i) {
    this.entries[i].strokes = "";
    this.field(this.entries[i], "strokes").value = "";
    this.field(this.entries[i], "faults").value = "";
  },
}), resting);
