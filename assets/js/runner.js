// A dose run by the clock: work, rest, lanes, and a caller. What happens when is computed on the server.
import { component } from "./component.js";
import { minutes } from "./instruments/clock.js";
import { beep } from "./sound.js";
const TICK = 100;

export const runner = component(() => ({
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
  get word() {
    if (this.running) return "Pause";
    if (this.over) return "Again";
    return this.begun ? "Go on" : "Start";
  },
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
    return minutes(this.left * 1000);
  },
  // an object, not text: the content security policy refuses style attributes
  get bar() { return { width: this.phase ? `${(100 * this.left) / this.phase.seconds}%` : "0" }; },
  get ahead() {
    const next = this.phases[this.at + 1];
    if (next) return `Then: ${next.title}, ${Math.round(next.seconds)} s`;
    return this.over ? "" : "Then it is done";
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
}));
