// The floor plan's editor. The server draws and judges; this holds what is typed, dragged and undone.
import { component } from "./component.js";
import { typed } from "./guard.js";

const GRID = 0.5;
const UNITS = [{ key: "m", word: "metres" }, { key: "ft", word: "feet" }, { key: "yd", word: "yards" }];
const OWN = { pace: "paces", shoe: "shoe lengths" };
const METRES = { m: 1, ft: 0.3048, yd: 0.9144 };
const WAIT_MS = 120;

// as people type it: a comma may stand for the point; NaN while it is no number yet
const numberOf = (text) => (/^\s*[-+]?(\d+([.,]\d*)?|[.,]\d+)\s*$/.test(text) ? Number(String(text).replace(",", ".")) : NaN);
const tidy = (value) => Math.round(value * 1000) / 1000;

export const floorPlan = component(() => ({
  plan: { units: "m", markers: [], legs: [], zones: [], paths: [], walls: [], margin: 0.5 },
  before: [],
  faults: [],
  numbers: "",
  hold: null,
  held: null,
  questions: [],
  asked: null,
  typing: "",
  waits: null,
  sheet: null,

  init() {
    this.sheet = this.$refs.drawing;
    this.plan = JSON.parse(document.getElementById("plan-document").textContent);
    this.plan.paths = this.plan.paths || [];
    this.plan.zones = this.plan.zones || [];
    this.plan.walls = this.plan.walls || [];
    this.look();
  },
  // a plan in somebody's own paces stays in them until it is switched
  get units() {
    const own = OWN[this.plan.units];
    return own ? [...UNITS, { key: this.plan.units, word: own }] : UNITS;
  },
  get names() { return this.plan.markers.map((marker) => marker.id); },
  get canUndo() { return this.before.length > 0; },
  nameOf(what, i) { return `${what} ${i + 1}`; },

  change(act) {
    this.typing = "";
    this.before.push(JSON.stringify(this.plan));
    typed();
    act(this.plan);
    this.look();
  },
  // a number while it is typed: the drawing follows each key, and one undo takes all of them back
  type(field, text, act) {
    const value = numberOf(text);
    if (Number.isNaN(value)) return;
    if (this.typing !== field) this.before.push(JSON.stringify(this.plan));
    this.typing = field;
    typed();
    act(this.plan, value);
    clearTimeout(this.waits);
    this.waits = setTimeout(() => this.look(), WAIT_MS);
  },
  // what is typed stands as it is typed; when the field is left it shows what is kept
  show(input, value) {
    if (document.activeElement !== input) input.value = String(value);
    input.kept = value;
  },
  settle(input) {
    this.typing = "";
    const value = numberOf(input.value);
    if (Number.isNaN(value)) this.faults = [`“${input.value}” is no number: ${input.kept} is kept.`];
    input.value = String(input.kept);
  },
  undo() {
    if (!this.before.length) return;
    this.plan = JSON.parse(this.before.pop());
    this.look();
  },

  setMarker(i, key, value) {
    if (key !== "id") {
      this.type(`marker ${i} ${key}`, value, (plan, number) => { plan.markers[i][key] = number; });
      return;
    }
    this.change((plan) => {
      this.rename(plan, plan.markers[i].id, value);
      plan.markers[i].id = value;
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
  setPath(i, key, value) { this.change((plan) => { plan.paths[i][key] = value; }); },
  addPath() {
    this.change((plan) => {
      const [from, to] = [this.names[0], this.names[1] || this.names[0]];
      plan.paths.push({ from, to, kind: "ball" });
    });
  },
  dropPath(i) { this.change((plan) => plan.paths.splice(i, 1)); },

  // a zone is an outline; here it is typed as the box around it, and only what is typed changes
  get boxes() {
    return this.plan.zones.map((zone) => {
      const xs = zone.points.map((point) => point[0]);
      const ys = zone.points.map((point) => point[1]);
      const [x, y] = [Math.min(...xs), Math.min(...ys)];
      return { id: zone.id, x, y, width: tidy(Math.max(...xs) - x), depth: tidy(Math.max(...ys) - y) };
    });
  },
  setZone(i, key, value) {
    if (key === "id") {
      this.change((plan) => { plan.zones[i].id = value; });
      return;
    }
    const box = this.boxes[i];
    const along = (point, from, size, start, length) => start + (size ? ((point - from) / size) * length : 0);
    this.type(`zone ${i} ${key}`, value, (plan, number) => {
      const to = { ...box, [key]: number };
      plan.zones[i].points = plan.zones[i].points.map(([x, y]) => [
        along(x, box.x, box.width, to.x, to.width), along(y, box.y, box.depth, to.y, to.depth),
      ]);
    });
  },
  addZone() {
    this.change((plan) => {
      const at = plan.markers[plan.markers.length - 1] || { x: 0, y: 0 };
      const [x, y] = [at.x - 0.5, at.y - 0.5];
      const id = `target ${plan.zones.length + 1}`;
      plan.zones.push({ id, points: [[x, y], [x + 1, y], [x + 1, y + 1], [x, y + 1]] });
    });
  },
  dropZone(i) { this.change((plan) => plan.zones.splice(i, 1)); },
  setWall(i, end, axis, value) {
    this.type(`wall ${i} ${end} ${axis}`, value, (plan, number) => { plan.walls[i].points[end][axis] = number; });
  },
  addWall() {
    this.change((plan) => {
      const ys = plan.markers.map((marker) => marker.y);
      const y = Math.max(...ys) + 1;
      plan.walls.push({ points: [[-1.5, y], [1.5, y]] });
    });
  },
  dropWall(i) { this.change((plan) => plan.walls.splice(i, 1)); },
  setMargin(value) {
    this.type("margin", value, (plan, number) => { if (number >= 0) plan.margin = number; });
  },
  mirror() {
    this.change((plan) => {
      const across = (x) => (x ? -x : 0);
      for (const marker of plan.markers) marker.x = across(marker.x);
      for (const shape of [...plan.zones, ...plan.walls]) for (const point of shape.points) point[0] = across(point[0]);
    });
  },

  // another unit: either the numbers stay or the lengths do, and nothing changes before it is said
  askUnits(to) {
    const plan = this.plan;
    if (to === plan.units) { this.asked = null; return; }
    const each = plan.unit_m || METRES[plan.units];
    const most = Math.max(1, ...plan.markers.flatMap((marker) => [Math.abs(marker.x), Math.abs(marker.y)]));
    const word = UNITS.find((unit) => unit.key === to).word;
    const there = Math.round(((most * each) / METRES[to]) * 100) / 100;
    const from = plan.units in METRES ? plan.units : OWN[plan.units];
    this.asked = {
      to, factor: each / METRES[to],
      question: `From ${this.units.find((unit) => unit.key === plan.units).word} to ${word}: what stays?`,
      lengths: `The lengths: ${tidy(most)} ${from} becomes ${there} ${to}`,
      numbers: `The numbers: ${tidy(most)} ${from} becomes ${tidy(most)} ${to}`,
    };
  },
  takeUnits(factor) {
    const to = this.asked.to;
    this.asked = null;
    this.change((plan) => {
      const other = (value) => tidy(value * factor);
      for (const marker of plan.markers) { marker.x = other(marker.x); marker.y = other(marker.y); }
      for (const shape of [...plan.zones, ...plan.walls]) shape.points = shape.points.map(([x, y]) => [other(x), other(y)]);
      plan.margin = other(plan.margin);
      plan.units = to;
      delete plan.unit_m;
    });
  },
  keepLengths() { this.takeUnits(this.asked.factor); },
  keepNumbers() { this.takeUnits(1); },
  leaveUnits() {
    this.asked = null;
    this.$refs.units.value = this.plan.units;
  },

  async shape(box) {
    const asked = new URLSearchParams();
    for (const input of box.querySelectorAll("[data-number]")) asked.set(input.dataset.number, input.value.replace(",", "."));
    const answer = await (await fetch(`${box.dataset.shape}?${asked}`)).json();
    if (answer.plan) this.change((plan) => Object.assign(plan, answer.plan));
    else this.faults = [answer.wrong];
  },
  async look() {
    const body = new URLSearchParams({ plan: JSON.stringify(this.plan) });
    const { value: token } = /** @type {HTMLInputElement} */ (this.$root.querySelector("[name=csrfmiddlewaretoken]"));
    const answer = await fetch(this.$root.dataset.look, { method: "POST", body, headers: { "X-CSRFToken": token } });
    const found = await answer.json();
    this.faults = found.faults;
    this.questions = found.questions || [];
    if (!found.svg) return;
    this.numbers = found.numbers;
    this.hold = found.hold;
    this.sheet.innerHTML = found.svg;
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
}));
