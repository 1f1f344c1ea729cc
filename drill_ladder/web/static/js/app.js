(() => {
"use strict";
// The stroke pad: counts good ones and misses, one set and lane after the other, into the form's own fields.
// Whatever it counts is kept on the device until it was sent, so a closed browser loses nothing.
const store = {
  read(key) { try { return JSON.parse(localStorage.getItem(key)); } catch { return null; } },
  write(key, value) { try { localStorage.setItem(key, JSON.stringify(value)); } catch { /* private mode: nothing kept */ } },
};

// one letter a stroke: g good, m a miss without a name, a digit: the miss with the fault of that number
const isGood = (stroke) => stroke === "g";

const pad = () => ({
  mode: "strokes",
  at: 0,
  entries: [],
  faults: [],
  draft: "",

  init() {
    const form = this.$root;
    this.draft = form.dataset.draft;
    this.faults = JSON.parse(document.getElementById("pad-faults").textContent);
    this.entries = JSON.parse(document.getElementById("pad-entries").textContent).map((entry) => ({ ...entry, strokes: "" }));
    this.restore();
    for (const entry of this.entries) entry.strokes = this.field(entry, "strokes").value;
    if (this.typedOnly()) this.mode = "typed";
    this.goOn();
    form.addEventListener("input", () => this.keep());
  },
  typedOnly() {
    return this.entries.some((entry) => !entry.strokes && this.field(entry, "makes").value);
  },
  field(entry, name) { return this.$root.elements[`${entry.prefix}-${name}`]; },

  get current() { return this.entries[this.at]; },
  get done() { return this.current.strokes.length; },
  get good() { return this.goodOf(this.current); },
  get marks() { return [...this.current.strokes].map((s) => (isGood(s) ? "good" : "miss")); },
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
    if (navigator.vibrate) navigator.vibrate(isGood(stroke) ? 15 : [10, 40, 10]);
    if (this.full) this.goOn();
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
    this.keep();
  },
  // typing a total by hand takes the place of the strokes of that set
  typed(i) {
    this.entries[i].strokes = "";
    this.field(this.entries[i], "strokes").value = "";
    this.field(this.entries[i], "faults").value = "";
  },

  keep() {
    const kept = {};
    for (const field of this.$root.elements) {
      if (!field.name || field.name === "csrfmiddlewaretoken") continue;
      if ((field.type === "radio" || field.type === "checkbox") && !field.checked) continue;
      kept[field.name] = field.value;
    }
    store.write(this.draft, kept);
  },
  restore() {
    const kept = this.$root.dataset.bound === "yes" ? null : store.read(this.draft);
    if (!kept) return;
    for (const field of this.$root.elements) {
      if (!(field.name in kept)) continue;
      if (field.type === "radio" || field.type === "checkbox") field.checked = field.value === kept[field.name];
      else field.value = kept[field.name];
    }
  },
});

// The floor plan's editor. The server draws and judges; this holds what is typed, dragged and undone.
const GRID = 0.5;
const UNITS = [{ key: "m", word: "metres" }, { key: "ft", word: "feet" }, { key: "yd", word: "yards" }];

const floorPlan = () => ({
  plan: { units: "m", markers: [], legs: [], zones: [], paths: [], margin: 0.5 },
  before: [],
  faults: [],
  numbers: "",
  hold: null,
  held: null,
  units: UNITS,

  init() {
    this.plan = JSON.parse(document.getElementById("plan-document").textContent);
    this.plan.paths = this.plan.paths || [];
    this.plan.zones = this.plan.zones || [];
    this.look();
  },
  get names() { return this.plan.markers.map((marker) => marker.id); },
  get canUndo() { return this.before.length > 0; },
  nameOf(what, i) { return `${what} ${i + 1}`; },

  change(act) {
    this.before.push(JSON.stringify(this.plan));
    act(this.plan);
    this.look();
  },
  undo() {
    if (!this.before.length) return;
    this.plan = JSON.parse(this.before.pop());
    this.look();
  },

  setMarker(i, key, value) {
    this.change((plan) => {
      if (key === "id") this.rename(plan, plan.markers[i].id, value);
      plan.markers[i][key] = key === "id" ? value : Number(value);
    });
  },
  rename(plan, old, name) {
    for (const way of [...plan.legs, ...plan.paths]) {
      for (const end of ["from", "to"]) if (way[end] === old) way[end] = name;
    }
  },
  addMarker() {
    this.change((plan) => {
      const taken = new Set(this.names);
      const name = [..."ABCDEFGHIJKLMNOPQRSTUVWXYZ"].find((letter) => !taken.has(letter)) || String(taken.size + 1);
      const last = plan.markers[plan.markers.length - 1] || { x: -2, y: 0 };
      plan.markers.push({ id: name, x: last.x + 2, y: last.y });
    });
  },
  dropMarker(i) {
    this.change((plan) => {
      const name = plan.markers[i].id;
      plan.markers.splice(i, 1);
      const stays = (way) => way.from !== name && way.to !== name;
      plan.legs = plan.legs.filter(stays);
      plan.paths = plan.paths.filter(stays);
    });
  },
  setLeg(i, key, value) { this.change((plan) => { plan.legs[i][key] = value; }); },
  addLeg() {
    this.change((plan) => {
      const last = plan.legs[plan.legs.length - 1];
      const from = last ? last.to : this.names[0];
      const to = this.names.find((name) => name !== from) || from;
      plan.legs.push({ from, to, way: "", do: "" });
    });
  },
  dropLeg(i) { this.change((plan) => plan.legs.splice(i, 1)); },
  earlier(i) { this.change((plan) => plan.legs.splice(i - 1, 0, plan.legs.splice(i, 1)[0])); },
  mirror() {
    this.change((plan) => {
      for (const marker of plan.markers) marker.x = marker.x ? -marker.x : 0;
      for (const zone of plan.zones) for (const point of zone.points) point[0] = -point[0];
    });
  },
  setUnits(units) { this.change((plan) => { plan.units = units; }); },

  async shape(box) {
    const asked = new URLSearchParams();
    for (const input of box.querySelectorAll("[data-number]")) asked.set(input.dataset.number, input.value);
    const answer = await (await fetch(`${box.dataset.shape}?${asked}`)).json();
    if (answer.plan) this.change(() => { this.plan = answer.plan; });
    else this.faults = [answer.wrong];
  },
  async look() {
    const body = new URLSearchParams({ plan: JSON.stringify(this.plan) });
    const token = this.$root.querySelector("[name=csrfmiddlewaretoken]").value;
    const answer = await fetch(this.$root.dataset.look, { method: "POST", body, headers: { "X-CSRFToken": token } });
    const found = await answer.json();
    this.faults = found.faults;
    if (!found.svg) return;
    this.numbers = found.numbers;
    this.hold = found.hold;
    this.$refs.drawing.innerHTML = found.svg;
  },

  // dragging: in the drawing's own pixels, to a grid of half a unit
  at(event) {
    const svg = this.$refs.drawing.querySelector("svg");
    const box = svg.getBoundingClientRect();
    const zoom = svg.viewBox.baseVal.width / box.width;
    const snap = (value) => Math.round(value / GRID) * GRID;
    return {
      x: snap(((event.clientX - box.left) * zoom - this.hold.left) / this.hold.pixels),
      y: snap((this.hold.top - (event.clientY - box.top) * zoom) / this.hold.pixels),
    };
  },
  grab(event) {
    const group = event.target.closest(".plan-marker");
    if (!group) return;
    event.preventDefault();
    this.held = { group, i: this.plan.markers.findIndex((marker) => marker.id === group.dataset.marker) };
    this.$refs.drawing.setPointerCapture(event.pointerId);
  },
  drag(event) {
    if (!this.held) return;
    const marker = this.plan.markers[this.held.i];
    const to = this.at(event);
    this.held.to = to;
    const dx = (to.x - marker.x) * this.hold.pixels;
    const dy = (marker.y - to.y) * this.hold.pixels;
    this.held.group.setAttribute("transform", `translate(${dx} ${dy})`);
  },
  release() {
    const held = this.held;
    this.held = null;
    if (held && held.to) this.change((plan) => Object.assign(plan.markers[held.i], held.to));
  },
  pack() { this.$refs.out.value = JSON.stringify(this.plan); },
});

// Keys for the review: one letter for each thing a coach can do with a proposal.
const KEYS = { c: "confirm", h: "hold", o: "override", l: "later", u: "undo" };

const reviewKeys = () => ({
  press(event) {
    const typing = event.target.closest("input, textarea, select");
    if (typing || event.ctrlKey || event.metaKey || event.altKey) return;
    const action = KEYS[event.key.toLowerCase()];
    const button = action && document.querySelector(`[data-action="${action}"]`);
    if (!button) return;
    event.preventDefault();
    button.click();
  },
});

// What is open, counted or timed on the device. The truth stays on the server.




document.addEventListener("alpine:init", () => {
  window.Alpine.data("pad", pad);
  window.Alpine.data("floorPlan", floorPlan);
  window.Alpine.data("reviewKeys", reviewKeys);
  window.Alpine.data("reveal", (open = false) => ({ open, toggle() { this.open = !this.open; } }));
  window.Alpine.data("toast", () => ({ shown: true, close() { this.shown = false; } }));
  // what was sent needs no draft any more
  window.Alpine.data("sent", () => ({ init() { localStorage.removeItem(this.$root.dataset.sent); } }));
  window.Alpine.data("copy", () => ({
    done: false,
    async take() {
      await navigator.clipboard.writeText(this.$refs.text.value);
      this.done = true;
    },
  }));
  window.Alpine.data("themes", () => ({
    dark: document.documentElement.dataset.theme === "dark",
    flip() {
      this.dark = !this.dark;
      document.documentElement.dataset.theme = this.dark ? "dark" : "light";
      localStorage.setItem("theme", this.dark ? "dark" : "light");
    },
  }));
});
})();
