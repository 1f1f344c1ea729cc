// Counting by ear: asked for, learnt, counted, looked over. Mixed into whatever counts windows, runs and "until n": what is
// heard goes into the same row of strokes as a tap, so that it is kept, sent and corrected like one.
import { LEAD_MS, clockOf, minutes } from "../instruments/clock.js";
import { beep, onSound, shake } from "../sound.js";
import { Listening } from "./listening.js";
import { paceOf } from "./pace.js";

const LATE_MS = 120; // so long after a moment it is told
const GIVEN_UP_MS = 2_000; // a window that is over waits no longer for an ear that says nothing
const OWN_S = 0.05; // after a sound of the phone's own
const PATIENCE_MS = 12_000; // three hits are there by then, where they can be heard
const LOUD_DB = 30; // a full bar
const LONGEST = 400;

const WHY = {
  insecure: "This phone lets nobody listen here: the address is not a secure one (https). Count by touch.",
  refused: "The phone said no to the microphone. That is fine: count by touch. To change it, look for the microphone beside the address.",
  none: "No microphone was found here. Count by touch.",
  broken: "This phone cannot listen just now. Count by touch.",
  unheard: "I do not hear it yet. Put the phone closer, or hit a little louder.",
  loud: "Too loud here to hear. What was heard is kept; go on by touch.",
  hidden: "The page was hidden, so listening stopped. What was heard so far is kept.",
};

/**
 * @typedef {{ sound: string, most: number, silence_s: number }} Hearing
 * @typedef {"off" | "asking" | "opening" | "learning" | "ready" | "counting" | "checking"} EarState
 * @typedef {{ earState: EarState, earWhy: string, earLearnt: number, earCount: number, earTimes: number[], earFrom: number, earUntil: number,
 *   ear: any, earTimer: any, earShown: string, earLevel: number, makeEar(worklet: string, most: number, tell: (heard: any) => void): any,
 *   given?: any, row?: string, current?: any, full?: boolean, isRunning?: boolean, passed?: number, finished?: boolean,
 *   run?(clock: object): void, set?(row: string): void, field?(entry: any, name: string): any, ended?(): void, cancel?(): void, $root?: any, now?: number,
 *   initHearing(): void, earIs(...states: string[]): boolean, earBusy(): boolean, askEar(): void, leaveEar(): void, openEar(): Promise<void>,
 *   hearEar(heard: any): void, learnAnew(): void, awaitThree(): void, startByEar(): void, earHit(moment: number): void, awaitSilence(): void, earCounts(): boolean, earEnd(): number,
 *   stopEar(why?: string): void, earMore(): void, earFewer(): void, earRight(): void, earAgain(): void, tagHeard(): void, closeEar(why?: string): void,
 *   earWord(): string, earSaid(): string, earTook(): string, earDot(i: number): string, earBar(): object, earStartWord(): string, earPulse(): string, earFace(now?: number): number, earUnder(now?: number): string }} Hearkening
 */

/** @type {Hearkening} */
export const hearing = {
  earState: "off",
  earWhy: "",
  earLearnt: 0,
  earCount: 0,
  earTimes: [],
  earFrom: 0, // ms on the page's clock: what was heard before is not meant
  earUntil: 0, // up to here everything was told
  ear: null,
  earTimer: null,
  earShown: "",
  earLevel: 0, // how loud it is over the usual, 0 to 1
  makeEar: (worklet, most, tell) => new Listening(worklet, most, tell),

  initHearing() {
    if (!this.given.heard) return;
    onSound((seconds) => this.ear?.deafen(seconds + OWN_S));
    document.addEventListener("visibilitychange", () => { if (document.hidden) this.closeEar("hidden"); });
  },
  earIs(...states) { return states.includes(this.earState); },
  // while it listens or asks, nothing is tapped beside
  earBusy() { return !this.earIs("off"); },
  earCounts() { return this.earState === "counting"; },

  askEar() { Object.assign(this, { earState: "asking", earWhy: "" }); },
  leaveEar() { this.closeEar(); },
  async openEar() {
    this.earState = "opening";
    const worklet = document.querySelector("[data-ear]").getAttribute("data-ear");
    this.ear = this.makeEar(worklet, this.given.heard.most, (heard) => this.hearEar(heard));
    const ear = this.ear;
    const why = await ear.open();
    if (ear !== this.ear) { ear.close(); return; } // left meanwhile
    if (why) { this.closeEar(why); return; }
    this.awaitThree();
  },
  learnAnew() {
    this.ear.anew();
    this.awaitThree();
  },
  awaitThree() {
    clearTimeout(this.earTimer);
    Object.assign(this, { earState: "learning", earLearnt: 0, earWhy: "" });
    this.earTimer = setTimeout(() => { if (this.earState === "learning") this.earWhy = WHY.unheard; }, PATIENCE_MS);
  },

  // what the ear tells: numbers
  hearEar(heard) {
    this.earLevel = Math.max(0, Math.min(1, heard.level / LOUD_DB));
    if (this.earState === "learning") {
      if (heard.learning > this.earLearnt) shake(20);
      this.earLearnt = heard.learning;
      if (heard.learnt) {
        clearTimeout(this.earTimer);
        Object.assign(this, { earState: "ready", earWhy: "" });
        beep(660);
      }
      return;
    }
    if (this.earState !== "counting") return;
    for (const moment of heard.moments) this.earHit(moment);
    this.earUntil = heard.until;
    if (heard.tooLoud) this.stopEar("loud");
    else if (this.earUntil > this.earEnd()) this.stopEar();
  },
  startByEar() {
    this.set("");
    Object.assign(this, { earState: "counting", earWhy: "", earTimes: [], earCount: 0, earFrom: performance.now(), earUntil: 0 });
    if (this.given.kind !== "count") { beep(880); return; }
    this.earFrom += LEAD_MS;
    this.run(clockOf({ lead: LEAD_MS, window: this.given.window_s * 1000 }));
  },
  earHit(moment) {
    const window = this.given.kind === "count" ? this.given.window_s * 1000 : Infinity;
    if (moment < this.earFrom || moment > this.earFrom + window || this.row.length >= LONGEST || this.full) return;
    this.earTimes.push(moment);
    this.set(`${this.row}g`);
    this.earCount = this.earTimes.length;
    this.tagHeard();
    this.earShown = this.earShown === "heard" ? "again" : "heard"; // a class that changes: each hit is seen
    if (this.full) { this.stopEar(); return; }
    if (this.given.kind === "streak") this.awaitSilence();
  },
  // a rally ends by a silence
  awaitSilence() {
    clearTimeout(this.earTimer);
    this.earTimer = setTimeout(() => this.stopEar(), this.given.heard.silence_s * 1000 + LATE_MS);
  },
  earEnd() { return this.given.kind === "count" ? this.earFrom + this.given.window_s * 1000 + LATE_MS : Infinity; },
  stopEar(why = "") {
    clearTimeout(this.earTimer);
    if (this.earState !== "counting") return;
    // a window's last hit may still be under way: the ear itself says when it has heard all of it
    if (!why && this.earUntil <= this.earEnd() && this.given.kind === "count") {
      this.earTimer = setTimeout(() => this.stopEar("silent"), GIVEN_UP_MS);
      return;
    }
    Object.assign(this, { earState: "checking", earWhy: WHY[why] ?? "" });
    if (this.given.kind === "count") this.cancel();
    else { beep(440); shake([120, 60, 120]); }
    // where it was too loud nobody heard all of it
    if (why === "loud") this.field(this.current, "heard").value = "";
  },

  // how many the phone heard, a minute, and whether evenly: what is added or taken away leaves it as it was
  tagHeard() {
    const pace = paceOf(this.earTimes);
    const words = pace ? [this.earTimes.length, pace.aMinute, pace.steady ? "y" : "n"] : [this.earTimes.length];
    this.field(this.current, "heard").value = words.join(";");
    this.set(this.row);
  },
  earMore() { if (this.row.length < LONGEST && !this.full) this.set(`${this.row}g`); },
  earFewer() { this.set(this.row.slice(0, -1) || ""); },
  earRight() {
    this.earState = this.ear ? "ready" : "off";
    this.earWhy = "";
    if (!this.row && this.given.kind === "count") { // heard nothing, and that is right
      this.field(this.current, "count").value = "0";
      if (this.ear) this.field(this.current, "heard").value = "0";
    }
    // a run that a silence ended is over, as a miss ends it
    if (this.given.kind === "streak" && !this.full) this.set(`${this.row}m`);
    if (this.given.kind !== "to_n" || this.full) this.ended();
  },
  earAgain() {
    clearTimeout(this.earTimer);
    if (this.earState === "counting" && this.given.kind === "count") this.cancel();
    this.set("");
    this.earState = this.ear ? "ready" : "off";
  },
  closeEar(why = "") {
    clearTimeout(this.earTimer);
    if (this.earState === "counting") this.stopEar(why || "hidden");
    this.ear?.close();
    this.ear = null;
    const checking = this.earState === "checking";
    Object.assign(this, { earState: checking ? "checking" : "off", earWhy: WHY[why] ?? (checking ? this.earWhy : "") });
  },

  earWord() {
    const { sound } = this.given.heard;
    if (this.earState === "learning") return `Three times, so that I know the ${sound}: ${Math.min(3, this.earLearnt)} of 3`;
    return "";
  },
  // an object, not text: the content security policy refuses style attributes
  earBar() { return { width: `${Math.round(100 * this.earLevel)}%` }; },
  earDot(i) { return i < this.earLearnt ? "on" : ""; },
  earStartWord() { return this.given.kind === "count" ? `Start ${this.given.window_s} s by ear` : "Start by ear"; },
  earPulse() { return this.earShown; },
  // the number that is seen from where the ball is: what was heard, or the seconds until it begins
  earFace(now = this.now || performance.now()) {
    const lead = this.given.kind === "count" ? this.earFrom - now : 0;
    return lead > 0 ? Math.ceil(lead / 1000) : this.earCount;
  },
  // what stands under the number while it counts
  earUnder(now = this.now || performance.now()) {
    const { kind, heard, n, window_s: seconds } = this.given;
    if (kind === "streak") return `${heard.silence_s} s of silence end it`;
    if (kind === "to_n") return `until ${n}`;
    const left = this.earFrom + seconds * 1000 - now;
    return left > seconds * 1000 ? "Get ready" : `${minutes(left)} left`;
  },
  // until so many: what counts beside the attempts is how long it took, from the start on
  earTook() {
    const last = this.earTimes[this.earTimes.length - 1];
    return last ? ` in ${((last - this.earFrom) / 1000).toFixed(1)} s` : "";
  },
  earSaid() {
    const { kind, heard } = this.given;
    const n = [...this.row].filter((stroke) => stroke === "g").length;
    const plural = heard.sound === "catch" ? "catches" : `${heard.sound}s`;
    const pace = paceOf(this.earTimes);
    const words = `${n} ${n === 1 ? heard.sound : plural}${kind === "streak" ? " in a row" : ""}${kind === "to_n" ? this.earTook() : ""}`;
    return pace ? `${words}, ${pace.aMinute} a minute, ${pace.steady ? "steady" : "not steady"}` : words;
  },
};
