// The floor plan's editor. The server draws and judges; this holds what is typed, dragged and undone.
import { component } from "./component.js";
import { typed } from "./guard.js";

const GRID = 0.5;
const UNITS = [{ key: "m", word: "metres" }, { key: "ft", word: "feet" }, { key: "yd", word: "yards" }];

export const floorPlan = component(() => ({
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
    typed();
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
      const tidy = (value) => Math.round(value * 1000) / 1000;
      return { id: zone.id, x, y, width: tidy(Math.max(...xs) - x), depth: tidy(Math.max(...ys) - y) };
    });
  },
  setZone(i, key, value) {
    const box = this.boxes[i];
    this.change((plan) => {
      const zone = plan.zones[i];
      if (key === "id") { zone.id = value; return; }
      const to = { ...box, [key]: Number(value) };
      const along = (point, from, size, start, length) => start + (size ? ((point - from) / size) * length : 0);
      zone.points = zone.points.map(([x, y]) => [
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
  setMargin(value) { this.change((plan) => { plan.margin = Number(value); }); },
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
    const { value: token } = /** @type {HTMLInputElement} */ (this.$root.querySelector("[name=csrfmiddlewaretoken]"));
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
}));
