// The caller of a rung, while sets are counted: each call is seen and heard, and answered. What is called in which order
// comes with the page; when, is drawn here. Mixed into whatever counts sets, which says what an answer is to it.
import { beep, shake, speak, stayAwake } from "../sound.js";
import { answersTo, withAnswer } from "./answers.js";

/**
 * @typedef {{ cue: string, action: string, leave: boolean, wait: number, turn: number | null }} Call
 * @typedef {{ calls: Call[][], late_s: number | null, late_at: string, way: string }} Calls
 * @typedef {{ prefix: string }} Row
 * @typedef {{ caller: Calls | null, callNo: number, called: Call | null, callState: string, answered: string[], callTimer: number | null,
 *   at: number, given?: any, entries?: any, $root?: any,
 *   initCalling(): void, callRow(): Row, startCalls(): void, nextCall(): void, go(): void, show(): void, answerCall(answer: string): void,
 *   endCalls(): void, callsOn(): boolean, isCalled(): boolean, isGo(): boolean, callWord(): string, callClass(): string,
 *   arrow(): object, callLeft(): string, rightThen(): string, choicesOf(): string[][], writeReads(answer: string, times?: number): void, answerStroke?(answer: string): void,
 *   unanswer(): string }} Calling
 */

/** @type {Calling} */
export const calling = {
  caller: null,
  callNo: 0,
  called: null,
  callState: "idle", // idle, wait (for the next call), go (late: set off, the call comes), called
  answered: [],
  callTimer: null,
  at: 0,

  initCalling() {
    const given = document.getElementById(`${this.$root.dataset.ids ?? ""}caller`);
    this.caller = given ? JSON.parse(given.textContent) : null;
  },
  callRow() { return (this.entries ?? this.given.entries)[this.at]; },
  callsOn() { return this.callState !== "idle"; },
  isCalled() { return this.callState === "called"; },
  isGo() { return this.callState === "go"; },
  startCalls() {
    stayAwake();
    Object.assign(this, { callNo: 0, answered: [] });
    this.nextCall();
  },
  nextCall() {
    clearTimeout(this.callTimer);
    const row = this.caller.calls[this.at % this.caller.calls.length];
    if (this.callNo >= row.length) { this.endCalls(); return; }
    Object.assign(this, { called: row[this.callNo], callState: "wait" });
    this.callTimer = setTimeout(() => this.go(), this.called.wait * 1000);
  },
  // a late call: the player sets off first
  go() {
    if (!this.caller.late_s && !this.caller.late_at) { this.show(); return; }
    this.callState = "go";
    beep(520);
    if (this.caller.late_s) this.callTimer = setTimeout(() => this.show(), this.caller.late_s * 1000);
  },
  show() {
    clearTimeout(this.callTimer);
    this.callState = "called";
    shake(60);
    const said = this.called.leave ? `Leave ${this.called.cue}` : this.called.cue;
    if (this.caller.way !== "voice" || !speak(said)) beep(this.called.leave ? 330 : 880);
  },
  callWord() {
    if (this.callState === "go") return "Go";
    if (this.callState !== "called") return "…";
    return this.called.leave ? `Leave ${this.called.cue}` : this.called.cue;
  },
  callClass() { return this.isCalled() && this.called.leave ? "leave" : this.callState; },
  // an object, not text: the content security policy refuses style attributes
  arrow() {
    const turn = this.isCalled() ? this.called.turn : null;
    return { display: turn === null ? "none" : "block", transform: `rotate(${turn ?? 0}deg)` };
  },
  callLeft() { return `call ${this.callNo + 1} of ${this.caller.calls[this.at % this.caller.calls.length].length}`; },
  rightThen() { return this.isCalled() && this.called.action ? `Right: ${this.called.action}` : ""; },
  choicesOf() { return this.isCalled() ? answersTo(this.called) : []; },
  answerCall(answer) {
    this.answered.push(answer);
    this.callNo += 1;
    this.callState = "wait";
    this.writeReads(answer);
    const before = this.at;
    this.answerStroke(answer);
    if (this.at !== before) this.endCalls(); // that set is full: the next one begins with calls of its own
    else this.nextCall();
  },
  writeReads(answer, times = 1) {
    const field = this.$root.elements[`${this.callRow().prefix}-reads`];
    field.value = withAnswer(field.value, answer, times);
  },
  // the last answer is taken back; what it was
  unanswer() {
    const last = this.answered.pop();
    if (!last) return "";
    this.callNo = Math.max(0, this.callNo - 1);
    this.writeReads(last, -1);
    return last;
  },
  endCalls() {
    clearTimeout(this.callTimer);
    Object.assign(this, { callTimer: null, callState: "idle", called: null });
  },
};
