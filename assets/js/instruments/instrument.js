// One panel that counts or times every kind of measure but good ones (those have the stroke pad): it writes into the
// form's own fields, so that counting and typing are one number. Strokes are kept on the device as they are tapped.
import { component } from "../component.js";
import { keepForm } from "../kept_form.js";
import { hearing } from "../hearing/counting.js";
import { beep, shake, stayAwake } from "../sound.js";
import { strokeOf } from "./answers.js";
import { calling } from "./calling.js";
import { LEAD_MS, begin, clockOf, end, minutes, passedOf, phaseOf, randomWait, seconds } from "./clock.js";
import { easing } from "./easing.js";
import { bestRun, MACHINES, ticked } from "./machines.js";
import { lastOf, nextOf, turnsOf } from "./order.js";
import { resting } from "./rest.js";
import { stopAfter } from "./stopping.js";
import { tempoed } from "./tempo.js";
import { fed } from "./feed.js";
import { faultsOn, lapsOf, withFault, withLap } from "./timed.js";

const TICK = 50;
const LONGEST = 400;
const TAGS = ["strokes", "seconds", "faults", "eased", "tempo", "feed", "reads", "heard", "rested"]; // beside the numbers of a set

/** @type {import("./machines.js").Given} */
const NOTHING = { kind: "done", entries: [] };

export const instrument = component(() => ({
  mode: "strokes",
  given: NOTHING,
  machine: null,
  at: 0,
  last: null, // the trial that was timed last
  changes: 0, // fields are no part of what is watched: this is
  strokes: [],
  turns: [], // lanes in turn; none: one after the other
  clock: clockOf({}),
  now: 0,
  timer: null,
  phase: "idle",
  enough: "",

  init() {
    this.given = JSON.parse(document.getElementById(`${this.$root.dataset.ids ?? ""}instrument`).textContent);
    this.machine = MACHINES[this.given.kind](this.given);
    this.turns = turnsOf(this.$root.dataset);
    this.initEasing();
    this.initTempo();
    this.initFeed();
    this.initCalling();
    this.initHearing();
    this.reload();
  },
  destroy() { clearInterval(this.timer); clearInterval(this.restTimer); this.stopTicking(); this.endCalls(); this.closeEar(); },
  reload() {
    this.strokes = this.given.entries.map((entry) => this.field(entry, "strokes").value);
    if (this.given.entries.some((entry, i) => !this.strokes[i] && this.typedIn(entry))) this.mode = "typed";
    this.changes += 1;
    this.goOn();
    this.lookForStop();
  },
  field(entry, name) { return this.$root.elements[`${entry.prefix}-${name}`]; },
  // a time has no strokes: its field is what was timed
  typedIn(entry) { return this.given.kind !== "time" && this.names(entry).some((name) => this.field(entry, name).value !== ""); },
  names(entry) { return Object.keys(this.machine.fields("")).filter((name) => this.field(entry, name)); },

  get current() { return this.given.entries[this.at]; },
  get row() { return this.strokes[this.at] ?? ""; },
  get strokesOn() { return this.mode === "strokes"; },
  get typedOn() { return this.mode === "typed"; },
  get finished() { return this.changes >= 0 && this.given.entries.every((entry, i) => this.complete(entry, i)); },
  get full() { return this.machine.over(this.row, this.current.asked); },
  get said() {
    if (this.timed) return this.face;
    return this.machine.said(this.row);
  },
  // the best of several turns, where there are several
  get best() {
    const runs = this.strokes.filter((row) => row !== "");
    return this.given.kind === "streak" && runs.length > 1 ? `best so far: ${bestRun(runs)}` : "";
  },
  get laps() { return lapsOf(this.row).map((lap, i) => `${i + 1}: ${lap.toFixed(1)} s`).join("  "); },
  get begun() { return this.changes >= 0 && this.given.entries.some((entry, i) => this.strokes[i] || this.typedIn(entry) || this.complete(entry, i)); },
  get goal() { return this.machine.goal(this.current.asked); },
  complete(entry, i) {
    if (this.given.kind === "time") return this.field(entry, "seconds").value !== "" || this.stopped(entry.lane);
    if (this.given.kind === "count") return this.field(entry, "count").value !== "";
    return this.machine.over(this.strokes[i], entry.asked);
  },
  label(i) {
    const entry = this.given.entries[i];
    if (this.changes < 0) return "";
    if (this.given.kind === "time") return this.field(entry, "seconds").value ? `${this.field(entry, "seconds").value} s` : "–";
    return this.strokes[i] ? this.machine.said(this.strokes[i]) : "–";
  },
  isAt(i) { return this.at === i; },
  isSeen(i) { return this.row[i] === "x"; },
  use(mode) { this.mode = mode; },
  choose(i) { if (!this.clockRuns && !this.earBusy()) { this.at = i; this.clock = clockOf({}); this.phase = "idle"; } },

  tap(stroke) {
    if (this.full || this.row.length >= LONGEST) return;
    if (!this.row && !this.clockRuns) this.restEnds(this.current);
    else if (this.rests) this.endRest();
    this.restBegins(this.current);
    this.set(this.row + stroke);
    shake(stroke === "m" ? [10, 40, 10] : 15);
    if (this.full) this.ended();
    else if (!this.clockRuns) this.between();
  },
  // attempts of one set: the next lane's turn, and the rest between any two
  between() {
    const entry = this.current;
    if (this.turns.length && this.byAttempt()) this.goOn();
    this.restAfter(entry, this.current);
  },
  byAttempt() { return this.given.kind === "points"; },
  answer(stroke) {
    this.set(stroke);
    this.ended();
  },
  tick(i) { this.set(ticked(this.row, i, this.given.items.length)); },
  undo() {
    if (this.given.kind === "time") {
      this.field(this.current, "seconds").value = "";
      this.field(this.current, "faults").value = "";
      this.lookForStop();
    }
    this.unanswer();
    if (this.turns.length && this.byAttempt()) this.at = this.lastTurn();
    this.set(["checklist", "time"].includes(this.given.kind) ? "" : this.row.slice(0, -1));
  },
  set(strokes) {
    stayAwake();
    this.strokes[this.at] = strokes;
    const entry = this.current;
    for (const [name, value] of Object.entries(this.machine.fields(strokes))) {
      if (this.field(entry, name)) this.field(entry, name).value = value;
    }
    this.field(entry, "strokes").value = strokes;
    // begun anew: it is not known yet who counts it
    if (!strokes) this.field(entry, "heard").value = "";
    this.tag(entry);
  },
  // what goes with every set, however it was counted
  tag(entry) {
    this.changes += 1;
    this.field(entry, "eased").value = this.easier ? "yes" : "no";
    this.field(entry, "tempo").value = this.tempo;
    this.field(entry, "feed").value = this.feed;
    keepForm(this.$root, [...this.names(entry), ...TAGS].map((name) => `${entry.prefix}-${name}`));
  },
  ended() {
    const entry = this.current;
    this.lookForStop();
    this.goOn();
    this.restAfter(entry, this.current === entry ? null : this.current);
  },
  goOn() {
    const next = this.given.entries.findIndex((entry, i) => !this.complete(entry, i));
    if (next >= 0) this.at = this.turns.length ? this.turnFrom(next) : next;
  },
  // the entry whose lane has its turn: attempt by attempt inside a set, or try by try
  turnFrom(next) {
    const { number } = this.given.entries[next];
    const lane = nextOf(this.turns, this.rowsOf(number));
    const at = this.given.entries.findIndex((entry, i) => entry.lane === lane && !this.complete(entry, i) && (!this.byAttempt() || entry.number === number));
    return at < 0 ? next : at;
  },
  lastTurn() {
    const began = this.given.entries.filter((_, i) => this.strokes[i]);
    const number = Math.max(...began.map((entry) => entry.number));
    const lane = lastOf(this.turns, this.rowsOf(number));
    return Math.max(0, this.given.entries.findIndex((entry) => entry.lane === lane && entry.number === number));
  },
  rowsOf(number) {
    const rows = this.given.entries.map((entry, i) => (this.byAttempt()
      ? { ...entry, done: this.strokes[i].length, asked: entry.asked ?? 0 }
      : { ...entry, done: Number(this.complete(entry, i)), asked: 1 }));
    return this.byAttempt() ? rows.filter((row) => row.number === number) : rows;
  },
  // typing by hand takes the place of what was tapped
  typed(i) {
    this.strokes[i] = "";
    for (const name of ["strokes", "eased", "reads", "heard"]) this.field(this.given.entries[i], name).value = "";
    if (this.given.landings?.length) this.field(this.given.entries[i], "faults").value = "";
    this.field(this.given.entries[i], "tempo").value = this.tempo;
    this.field(this.given.entries[i], "feed").value = this.feed;
  },

  // --- a speed block that stops itself: what would follow trains something else
  times(lane) {
    const rows = this.given.entries.filter((entry) => entry.lane === lane).map((entry) => this.field(entry, "seconds").value);
    return rows.filter((value) => value !== "").map(Number);
  },
  stopped(lane) {
    const limit = this.given.stop_drop;
    return Boolean(limit) && stopAfter(this.times(lane), limit).after !== null;
  },
  lookForStop() {
    this.enough = "";
    if (!this.given.stop_drop) return;
    const lane = this.current.lane;
    const { after, drop } = stopAfter(this.times(lane), this.given.stop_drop);
    if (after === null) return;
    const where = lane ? `${lane}: ` : "";
    this.enough = `Enough, ${where}the rounds have got slower, the last by ${Math.round(drop * 100)} % of the usual. More would train something else.`;
  },

  // --- the clock of windows and of times
  get timed() { return this.given.kind === "time" || (this.given.kind === "count" && this.clockRuns); },
  // what is touched, where nobody listens instead
  get handsCount() { return !this.clockRuns && !this.earBusy(); },
  get tapsCount() { return this.isRunning && !this.earBusy(); },
  get clockRuns() { return this.phase === "ready" || this.phase === "running"; },
  get isReady() { return this.phase === "ready"; },
  get isRunning() { return this.phase === "running"; },
  get face() {
    if (this.phase === "ready") return this.given.kind === "count" ? String(Math.ceil(-this.passed / 1000)) : "Ready …";
    if (this.given.kind === "count") return `${this.row.length}, ${minutes(this.given.window_s * 1000 - this.passed)}`;
    if (this.phase === "running") return `${(this.passed / 1000).toFixed(1)} s`;
    const kept = this.field(this.current, "seconds").value;
    return kept ? `${kept} s` : "0.0 s";
  },
  get passed() { return passedOf(this.clock, this.now); },
  startWindow() {
    this.set("");
    this.run(clockOf({ lead: LEAD_MS, window: this.given.window_s * 1000 }));
  },
  startByTap() { this.run(clockOf({})); beep(880); },
  startByCall() { this.run(clockOf({ lead: randomWait() })); },
  run(clock) {
    stayAwake();
    this.restEnds(this.current);
    this.endRest();
    this.clock = begin(clock, performance.now());
    clearInterval(this.timer);
    this.timer = setInterval(() => this.beat(), TICK);
    this.beat();
  },
  beat() {
    this.now = performance.now();
    const before = this.phase;
    this.phase = phaseOf(this.clock, this.now);
    if (before !== "running" && this.phase === "running" && this.clock.lead) { beep(880); shake(60); this.callAlong(); }
    if (this.phase === "ended") this.stopClock(this.now);
  },
  // nobody stood at the phone: what the window came to is asked with its calls
  asksHowMany() { return this.given.kind === "count" && this.isTelling() && !this.strokes[this.callAt]; },
  howMany(event) {
    const entry = this.given.entries[this.callAt];
    this.field(entry, "count").value = event.target.value;
    this.typed(this.callAt);
    this.tag(entry);
    this.goOn();
  },
  windowLeft() { return this.given.kind === "count" && this.isRunning ? `${minutes(this.given.window_s * 1000 - this.passed)} left` : ""; },
  // the calls of a window begin and end with it
  callAlong() { if (this.given.kind === "count" && this.caller && !this.callsOn()) this.startAlone(); },
  stop() {
    const now = performance.now();
    if (phaseOf(this.clock, now) === "ready") { this.cancel(); return; }
    this.stopClock(now);
  },
  cancel() {
    clearInterval(this.timer);
    Object.assign(this, { clock: clockOf({}), phase: "idle" });
  },
  stopClock(now) {
    clearInterval(this.timer);
    this.clock = end(this.clock, now);
    this.phase = "ended";
    this.restBegins(this.current);
    beep(440);
    shake([120, 60, 120]);
    if (this.given.kind === "time") {
      this.field(this.current, "seconds").value = seconds(this.passed);
      this.last = this.at;
      this.tag(this.current);
    } else this.set(this.row);
    this.callsOver();
    if (this.earCounts()) this.stopEar();
    else this.ended();
  },
  lap() {
    if (!this.isRunning) return;
    this.set(withLap(this.row, passedOf(this.clock, performance.now())));
    shake(15);
  },
  // faults of the trial that was timed last, or is running: they are named once it is over
  trial() { return this.given.entries[this.clockRuns ? this.at : this.last ?? this.at]; },
  trialFault(name) {
    const field = this.field(this.trial(), "faults");
    field.value = withFault(field.value, name);
    this.countedFaults();
  },
  noFault() {
    this.field(this.trial(), "faults").value = "";
    this.countedFaults();
  },
  // c: somebody counted them, also where there were none
  countedFaults() {
    const entry = this.trial();
    const i = this.given.entries.indexOf(entry);
    if (!this.strokes[i].includes("c")) this.strokes[i] += "c";
    this.field(entry, "strokes").value = this.strokes[i];
    this.tag(entry);
  },
  trialSaid() {
    if (this.changes < 0) return "";
    const entry = this.trial();
    const i = this.given.entries.indexOf(entry);
    if (!this.strokes[i].includes("c")) return "not counted";
    return faultsOn(this.field(entry, "faults").value) || "none";
  },
  answerStroke(answer) {
    const stroke = strokeOf(answer);
    if (stroke && ["streak", "to_n", "until_lost", "earned"].includes(this.given.kind)) this.tap(stroke);
    else keepForm(this.$root);
  },
}), { ...resting, ...easing, ...tempoed, ...fed, ...calling, ...hearing });
