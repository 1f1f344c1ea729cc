(() => {
"use strict";
// Something carried by its handle. Mixed into a component that says where it may be put down.
const carrying = {
  held: null,

  take(event, item, more) {
    this.held = { item, x: event.pageX, y: event.pageY, ...more };
    event.target.setPointerCapture(event.pointerId);
    event.preventDefault();
  },
  shift(across, down) {
    this.held.item.style.transform = `translate(${across}px, ${down}px)`;
    this.held.item.classList.add("dragged");
  },
  // back in its place; gives what was held
  putBack() {
    const held = this.held;
    if (held) {
      held.item.style.transform = "";
      held.item.classList.remove("dragged");
    }
    this.held = null;
    return held;
  },
};

// The handle that was used has the focus again when the server's answer stands in its place.
const focusAgain = (selector) => {
  document.body.addEventListener("htmx:afterSettle", () => document.querySelector(selector)?.focus(), { once: true });
};

// What is typed into a card or a log is kept on the device until the server says that it has it.
const store = {
  read(key) {
    try {
      const value = JSON.parse(localStorage.getItem(key));
      return value && typeof value === "object" ? value : null;
    } catch { return null; }
  },
  write(key, value) { try { localStorage.setItem(key, JSON.stringify(value)); } catch { /* private mode: nothing kept */ } },
  drop(key) { try { localStorage.removeItem(key); } catch { /* nothing was kept */ } },
};
const HURT = ["hurts", "hurt_where"];
const PRESSED = ["radio", "checkbox"];

const keepDraft = (form) => {
  const kept = {};
  for (const field of form.elements) {
    if (!field.name || field.name === "csrfmiddlewaretoken") continue;
    if (PRESSED.includes(field.type) && !field.checked) continue;
    kept[field.name] = field.value;
  }
  store.write(form.dataset.draft, kept);
};

const restore = (form) => {
  // a form that came back with something wrong holds what was typed
  const kept = form.dataset.bound === "yes" ? null : store.read(form.dataset.draft);
  if (!kept) return;
  for (const field of form.elements) {
    if (!(field.name in kept)) continue;
    if (PRESSED.includes(field.type)) field.checked = field.value === kept[field.name];
    else field.value = kept[field.name];
  }
};

// the server cleans what it hears, and cuts it where it is too long
const heard = (words, told) => {
  const plain = words.trim().replace(/\s+/g, " ");
  return plain === "" || told.some((one) => one === plain || (one.endsWith("…") && plain.startsWith(one.slice(0, -1))));
};

// a hurt that the server has heard is not told again by a draft: the next one is a new one
const forgetHurt = (told) => {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith("draft-"))) {
    const kept = store.read(key);
    if (!kept || !heard(kept.hurt_where ?? "", told)) continue;
    for (const name of HURT) delete kept[name];
    store.write(key, kept);
  }
};

const drafts = () => {
  const told = [...document.querySelectorAll("[data-told]")].map((one) => one.dataset.told);
  if (told.length) { try { forgetHurt(told); } catch { /* private mode */ } }
  for (const form of document.querySelectorAll("form[data-draft]")) {
    restore(form);
    form.addEventListener("input", () => keepDraft(form));
    form.addEventListener("change", () => keepDraft(form));
  }
};

// What is typed and not stored yet is not lost by a wrong touch: the browser asks before it leaves the page.
let unsaved = false;

const typed = () => { unsaved = true; };
const stored = () => { unsaved = false; };

const watch = () => {
  // a form that came back with something wrong holds what was typed before
  if (document.querySelector("form[data-guard] :is(.wrong, .wrong-all)")) typed();
  document.addEventListener("input", (event) => { if (event.target.closest("form[data-guard]")) typed(); });
  // sent as a whole; what htmx sends is prevented here, and stays on the page
  document.addEventListener("submit", (event) => { if (!event.defaultPrevented) stored(); });
  document.addEventListener("htmx:beforeOnLoad", (event) => { if (event.detail.xhr.getResponseHeader("HX-Redirect")) stored(); });
  document.addEventListener("click", (event) => { if (event.target.closest("[data-leave]")) stored(); });
  window.addEventListener("beforeunload", (event) => { if (unsaved) event.preventDefault(); });
};

// A report of hurt goes out before the form that holds it. Where the server cannot be reached, the page says so in
// large words, names whom to ring, keeps the report on the device and tries again by itself.


const PATIENCE = 10_000; // ms until an answer is given up
const AGAIN = 15_000; // ms between tries
const KEY = "hurt-untold";

// Reports that have not arrived, the first one first. In memory too, as some devices keep nothing.
const whole = (one) => one && ["to", "what", "words"].every((name) => typeof one[name] === "string");
const before = store.read(KEY);
let untold = Array.isArray(before) ? before.filter(whole) : [];
const remember = () => { if (untold.length) store.write(KEY, untold); else store.drop(KEY); };
const same = (one, other) => one.to === other.to && one.words === other.words;
const add = (told) => { if (!untold.some((one) => same(one, told))) untold = [...untold, told]; remember(); };
const settle = (told) => { untold = untold.filter((one) => !same(one, told)); remember(); };

const wordsIn = (form) => {
  const value = (name) => form.elements[name]?.value?.trim() ?? "";
  if (form.elements.what) return value("what");
  return value("hurts") === "yes" || value("hurt_where") ? value("hurt_where") : null;
};

const report = (form) => {
  const words = wordsIn(form);
  if (words === null || form.dataset.heard === "yes") return null;
  if (form.elements.player && !form.elements.player.value) return null; // the page asks again, with the words in it
  const token = form.elements.csrfmiddlewaretoken?.value ?? "";
  return { to: form.dataset.report, token, player: form.elements.player?.value ?? "", what: words, words: words || "Something hurts" };
};

const send = async ({ to, token, player, what }) => {
  const headers = { Accept: "application/json", "Content-Type": "application/x-www-form-urlencoded" };
  // of the page as it is now: the one that was kept may be from before a sign-in
  const csrfmiddlewaretoken = document.querySelector("[name=csrfmiddlewaretoken]")?.value ?? token;
  const body = new URLSearchParams({ csrfmiddlewaretoken, what, ...(player && { player }) });
  const signal = AbortSignal.timeout?.(PATIENCE); // older phones wait as long as their own patience is
  const answer = await fetch(to, { method: "POST", headers, body, signal, redirect: "manual" });
  if (answer.type === "opaqueredirect") throw new Error("You are signed out: sign in again in another window, then try again.");
  if (!answer.ok) throw new Error(`The server answered ${answer.status}.`);
  return (await answer.json()).told;
};

const shown = () => document.getElementById("unreachable");
// on a device that several share, it is nobody else's business
const ours = () => untold.filter((one) => document.querySelector(`[data-report="${CSS.escape(one.to)}"]`));

const sayUnreachable = (why) => {
  const box = shown();
  const mine = ours();
  if (!box || !mine.length) return;
  box.querySelector("[data-words]").textContent = mine.map((one) => one.words).join("; ");
  box.querySelector("[data-why]").textContent = why;
  box.hidden = false;
  box.querySelector("[data-again]").focus();
};

// an answer that is no answer has words of its own; without any answer it is the connection
const whyNot = (error) => (/^(The server|You are)/.test(error.message)
  ? error.message
  : "This device has no connection to the program just now.");

const tryAgain = async () => {
  const waiting = ours().length;
  for (const told of [...untold]) {
    try {
      await send(told);
      settle(told);
    } catch (error) {
      sayUnreachable(whyNot(error));
    }
  }
  if (waiting && !ours().length) window.location.reload(); // what was told stands on the page now
};

const onSubmit = async (event) => {
  const form = event.target;
  if (!form.dataset?.report || !shown()) return;
  const told = report(form);
  if (!told) return;
  event.preventDefault();
  if (form.dataset.sending === "yes") return;
  form.dataset.sending = "yes";
  try {
    await send(told);
    settle(told);
    form.dataset.heard = "yes";
  } catch (error) {
    add(told);
    sayUnreachable(whyNot(error));
  }
  form.dataset.sending = "";
  if (form.dataset.heard !== "yes") return;
  if (form.requestSubmit) form.requestSubmit();
  else HTMLFormElement.prototype.submit.call(form);
};

const hurts = () => {
  document.addEventListener("submit", onSubmit, true);
  const box = shown();
  if (!box) return;
  box.querySelector("[data-again]").addEventListener("click", tryAgain);
  box.querySelector("[data-hide]").addEventListener("click", () => { box.hidden = true; });
  window.addEventListener("online", tryAgain);
  setInterval(() => { if (untold.length) tryAgain(); }, AGAIN);
  if (untold.length) tryAgain();
};

// The stroke pad: counts good ones and misses, one set and lane after the other, into the form's own fields.
// Whatever it counts is kept on the device until it was sent, so a closed browser loses nothing.


// one letter a stroke: g good, m a miss without a name, a digit: the miss with the fault of that number
const isGood = (stroke) => stroke === "g";

const pad = () => ({
  mode: "strokes",
  at: 0,
  entries: [],
  faults: [],

  init() {
    const form = this.$root;
    this.faults = JSON.parse(document.getElementById("pad-faults").textContent);
    this.entries = JSON.parse(document.getElementById("pad-entries").textContent).map((entry) => ({ ...entry, strokes: "" }));
    for (const entry of this.entries) entry.strokes = this.field(entry, "strokes").value;
    if (this.typedOnly()) this.mode = "typed";
    this.goOn();
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

  keep() { keepDraft(this.$root); },
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

// Moving a rung: dragged by its handle, or with the arrow keys. The server puts the rows in order.


const EDGE = 70;

const rungOrder = () => ({
  ...carrying,

  rows() { return [...this.$root.querySelectorAll(".builder > li")]; },
  grab(event) {
    this.take(event, event.target.closest("li"), { from: Number(event.target.dataset.row), to: null });
  },
  drag(event) {
    if (!this.held) return;
    // rows are tall: near the edge the page comes along
    if (event.clientY < EDGE) window.scrollBy(0, -EDGE / 4);
    else if (event.clientY > window.innerHeight - 2 * EDGE) window.scrollBy(0, EDGE / 4);
    const { item, y, from } = this.held;
    const down = event.pageY > y;
    this.shift(0, event.pageY - y);
    // the list is drawn from the bottom up: the first rung is the lowest on the page; a third of a row is enough
    const below = this.rows().filter((row) => row !== item).filter((row) => {
      const box = row.getBoundingClientRect();
      return event.clientY < (down ? box.top + box.height / 3 : box.bottom - box.height / 3);
    });
    this.held.to = below.length === from ? null : below.length;
  },
  release() {
    const held = this.putBack();
    if (held && held.to !== null) this.move(held.from, held.to);
  },
  cancel() { this.putBack(); },
  key(event, by) {
    const from = Number(event.target.dataset.row);
    const to = from + by;
    if (to < 0 || to >= this.rows().length) return;
    this.move(from, to);
  },
  move(from, to) {
    const mover = this.$refs.mover;
    mover.value = `to-${from}-${to}`;
    focusAgain(`.rung-handle[data-row="${to}"]`);
    mover.click();
  },
});

// A dose run by the clock: work, rest, lanes, and a caller. What happens when is computed on the server.
const TICK = 100;

const beep = (pitch) => {
  try {
    const sound = (beep.context = beep.context || new AudioContext());
    const tone = sound.createOscillator();
    tone.frequency.value = pitch;
    tone.connect(sound.destination);
    tone.start();
    tone.stop(sound.currentTime + 0.12);
  } catch { /* no sound here: the words are still there */ }
};

const runner = () => ({
  phases: [],
  at: 0,
  passed: 0,
  since: null,
  timer: null,
  call: "",
  called: 0,
  aloud: false,

  init() { this.phases = JSON.parse(document.getElementById("run-phases").textContent); },
  destroy() { clearInterval(this.timer); },
  get phase() { return this.phases[this.at]; },
  get over() { return this.at >= this.phases.length; },
  get running() { return this.timer !== null; },
  get begun() { return this.at > 0 || this.passed > 0 || this.running; },
  get kind() { return this.phase && this.begun ? this.phase.kind : ""; },
  get word() { return this.running ? "Pause" : this.over ? "Again" : this.begun ? "Go on" : "Start"; },
  get title() {
    if (!this.phases.length) return "Set up a dose first";
    if (this.over) return "Done";
    return this.phase.title;
  },
  // where everybody is, or goes to in a change; after the end where they were last
  get slot() {
    const shown = this.phase || this.phases[this.phases.length - 1];
    return shown ? shown.slot : 0;
  },
  get heading() { return this.kind === "rest" ? "go there now" : `slot ${this.slot}`; },
  get left() { return this.phase ? Math.max(0, this.phase.seconds - this.passed) : 0; },
  get clock() {
    const seconds = Math.ceil(this.left - 0.001);
    return `${Math.floor(seconds / 60)}:${String(seconds % 60).padStart(2, "0")}`;
  },
  // an object, not text: the content security policy refuses style attributes
  get bar() { return { width: this.phase ? `${(100 * this.left) / this.phase.seconds}%` : "0" }; },
  get ahead() {
    const next = this.phases[this.at + 1];
    return next ? `Then: ${next.title}, ${Math.round(next.seconds)} s` : this.over ? "" : "Then it is done";
  },

  toggle() {
    if (this.over) this.reset();
    if (!this.phases.length) return;
    if (this.running) { this.halt(); return; }
    this.since = performance.now() - this.passed * 1000;
    this.timer = setInterval(() => this.tick(), TICK);
    if (!this.passed) this.announce();
  },
  halt() { clearInterval(this.timer); this.timer = null; },
  reset() { this.halt(); Object.assign(this, { at: 0, passed: 0, call: "", called: 0 }); },
  next() {
    const running = this.running;
    this.halt();
    Object.assign(this, { at: Math.min(this.at + 1, this.phases.length), passed: 0, call: "", called: 0 });
    if (running && !this.over) this.toggle();
  },
  tick() {
    this.passed = (performance.now() - this.since) / 1000;
    const due = this.phase.calls[this.called];
    if (due && this.passed >= due.at) {
      this.called += 1;
      this.call = due.leave ? `Leave ${due.cue}` : due.cue;
      this.say(this.call);
      if (!this.aloud) beep(due.leave ? 330 : 880);
    }
    if (this.left <= 0) this.next();
    if (this.over) { this.halt(); this.call = ""; beep(440); this.say("Done"); }
  },
  announce() { beep(this.phase.kind === "work" ? 660 : 440); this.say(this.phase.title); },
  say(words) {
    if (this.aloud && window.speechSynthesis) window.speechSynthesis.speak(new SpeechSynthesisUtterance(words));
  },
});

// A block of the week: dragged to another day, or moved with the arrow keys. The server says what that breaks.


const weekBoard = () => ({
  ...carrying,

  days() { return [...this.$root.querySelectorAll(".week-day")]; },
  grab(event) { this.take(event, event.target.closest(".week-block"), { day: null }); },
  drag(event) {
    if (!this.held) return;
    this.shift(event.pageX - this.held.x, event.pageY - this.held.y);
    const day = this.days().find((one) => {
      const box = one.getBoundingClientRect();
      return event.clientX >= box.left && event.clientX <= box.right && event.clientY >= box.top && event.clientY <= box.bottom;
    });
    for (const one of this.days()) one.classList.toggle("target", one === day);
    this.held.day = day;
  },
  release(event) {
    const held = this.cancel();
    if (held && held.day && held.day !== held.item.closest(".week-day")) this.move(event.target, held.day);
  },
  cancel() {
    for (const one of this.days()) one.classList.remove("target");
    return this.putBack();
  },
  key(event, by) {
    const days = this.days();
    const to = days[days.indexOf(event.target.closest(".week-day")) + by];
    if (to) this.move(event.target, to);
  },
  move(grip, day) {
    const form = grip.closest("form");
    form.elements.on.value = day.dataset.on;
    focusAgain(`.grip[data-block="${grip.dataset.block}"]`);
    form.requestSubmit();
  },
});

// What is open, counted or timed on the device. The truth stays on the server.










drafts();
hurts();
watch();
document.addEventListener("alpine:init", () => {
  window.Alpine.data("pad", pad);
  window.Alpine.data("floorPlan", floorPlan);
  window.Alpine.data("reviewKeys", reviewKeys);
  window.Alpine.data("rungOrder", rungOrder);
  window.Alpine.data("runner", runner);
  window.Alpine.data("weekBoard", weekBoard);
  window.Alpine.data("reveal", (open = false) => ({ open, toggle() { this.open = !this.open; } }));
  window.Alpine.data("toast", () => ({ shown: true, close() { this.shown = false; } }));
  // what was sent needs no draft any more
  window.Alpine.data("sent", () => ({ init() { store.drop(this.$root.dataset.sent); } }));
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
