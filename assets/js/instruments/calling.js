// The caller of a rung, while sets are counted: each call is seen and heard, and answered. What is called in which order
// comes with the page; when, is drawn here. Mixed into whatever counts sets, which says what an answer is to it.
// By itself it waits for no hand: it goes on at its own pace, and is answered afterwards, in sums.
import { beep, shake, speak, stayAwake } from "../sound.js";
import { allWell, answersTo, nextAnswer, oneMore, sumsOf, withAnswer } from "./answers.js";

/** What is called, with what it is to be done with. */
const wordsOf = (call) => {
  const named = call.by ? `${call.cue}, ${call.by}` : call.cue;
  return call.leave ? `Leave ${call.cue}` : named;
};
const LAST_MS = 2_500; // how long the last call stands before it is asked how it went

/**
 * @typedef {{ cue: string, action: string, by: string, leave: boolean, wait: number, turn: number | null, on?: string }} Call
 * @typedef {{ calls: Call[][], late_s: number | null, late_at: string, reached: number | null, way: string }} Calls
 * @typedef {{ prefix: string }} Row
 * @typedef {{ caller: Calls | null, callNo: number, callAt: number, called: Call | null, callState: string, answered: string[], callTimer: number | null,
 *   at: number, given?: any, entries?: any, $root?: any, alone: boolean, sums: Sum[], outcomes: string[], came: Call[],
 *   initCalling(): void, callRow(): Row, startCalls(): void, nextCall(): void, setOff(): void, show(): void, answerCall(answer: string): void,
 *   endCalls(): void, callsOn(): boolean, isCalled(): boolean, isGo(): boolean, callWord(): string, callClass(): string,
 *   arrow(): object, callLeft(): string, windowLeft?(): string, rightThen(): string, choicesOf(): string[][], writeReads(answer: string, times?: number): void, answerStroke?(answer: string): void,
 *   callAgain: string, finished?: boolean, afterRest(): void, stopCalls(): void, unanswer(): string, startAlone(): void, callOn(): void, isTelling(): boolean, moreOf(name: string, by: number): void, sumWords(sum: Sum): string,
 *   tellSums(): void, rowNow(): Call[], askHow(row: Call[]): void, callsOver(): void, tell(outcomes: string[]): void, oneByOne(): { i: number, call: string, words: string }[], otherWay(i: number): void, isAlone(): boolean, showsCalls(): boolean, asksNow(): boolean, aloneClass(): string, fewer(sum: Sum): void,
 *   another(sum: Sum): void, fewerWords(sum: Sum): string, anotherWords(sum: Sum): string }} Calling
 * @typedef {{ name: string, words: string, of: number, n: number }} Sum
 */

/** @type {Calling} */
export const calling = {
  caller: null,
  callNo: 0,
  callAt: 0, // the set that is called: it may be over before it is told how the calls went
  called: null,
  callState: "idle", // idle, wait (for the next call), go (late: set off, the call comes), called
  answered: [],
  callTimer: null,
  callAgain: "", // how the next set is called once the rest before it is over: alone, answered, or not by itself
  alone: false, // it goes on by itself
  sums: [],
  outcomes: [], // of calls that went on by themselves, one a call
  came: [], // these calls
  at: 0,

  initCalling() {
    const given = document.getElementById(`${this.$root.dataset.ids ?? ""}caller`);
    this.caller = given ? JSON.parse(given.textContent) : null;
  },
  callRow() { return (this.entries ?? this.given.entries)[this.callAt]; },
  callsOn() { return this.callState !== "idle"; },
  isCalled() { return this.callState === "called"; },
  isGo() { return this.callState === "go"; },
  isTelling() { return this.callState === "tell"; },
  isAlone() { return this.alone && this.callsOn() && !this.isTelling(); },
  startCalls() {
    stayAwake();
    Object.assign(this, { callNo: 0, callAt: this.at, answered: [], alone: false });
    this.nextCall();
  },
  startAlone() {
    stayAwake();
    Object.assign(this, { callNo: 0, callAt: this.at, answered: [], alone: true });
    this.nextCall();
  },
  // the next one comes without anybody's answer; after the last it is asked how they went
  callOn() {
    const row = this.rowNow();
    this.callNo += 1;
    if (this.callNo < row.length) { this.called = row[this.callNo]; this.setOff(); return; }
    this.askHow(row);
  },
  // how those that came went; before the first of them there is nothing to ask
  askHow(row) {
    clearTimeout(this.callTimer);
    if (!row.length) { this.endCalls(); return; }
    Object.assign(this, { callState: "tell", came: row });
    this.tell(allWell(row));
    beep(660);
  },
  // what they went along with is over: a window, with its calls
  callsOver() {
    if (this.isAlone()) this.askHow(this.rowNow().slice(0, this.callNo + Number(this.isCalled())));
  },
  rowNow() { return this.caller.calls[this.callAt % this.caller.calls.length]; },
  tell(outcomes) { Object.assign(this, { outcomes, sums: sumsOf(this.came, outcomes) }); },
  moreOf(name, by) { this.tell(oneMore(this.came, this.outcomes, name, by)); },
  // each call can be put right by itself
  oneByOne() {
    if (!this.isTelling()) return [];
    return this.came.map((call, i) => ({
      i, call: wordsOf(call), words: answersTo(call).find(([name]) => name === this.outcomes[i])[1],
    }));
  },
  otherWay(i) { this.tell(this.outcomes.map((one, n) => (n === i ? nextAnswer(this.came[i], one) : one))); },
  showsCalls() { return this.callsOn() && !this.isTelling(); },
  asksNow() { return this.isCalled() && !this.isAlone(); },
  aloneClass() { return this.isAlone() ? "calls-alone" : ""; },
  fewer(sum) { this.moreOf(sum.name, -1); },
  another(sum) { this.moreOf(sum.name, 1); },
  fewerWords(sum) { return `One fewer: ${sum.words}`; },
  anotherWords(sum) { return `One more: ${sum.words}`; },
  sumWords(sum) { return `${sum.words}: ${sum.n} of ${sum.of}`; },
  tellSums() {
    const before = this.at;
    for (const answer of this.outcomes) {
      if (this.at !== before) break; // that set is full
      this.answered.push(answer);
      this.writeReads(answer);
      this.answerStroke(answer);
    }
    this.endCalls();
    this.callAgain = "alone";
  },
  nextCall() {
    clearTimeout(this.callTimer);
    const row = this.rowNow();
    if (this.callNo >= row.length) { this.endCalls(); return; }
    Object.assign(this, { called: row[this.callNo], callState: "wait" });
    this.callTimer = setTimeout(() => this.setOff(), this.called.wait * 1000);
  },
  // a late call: the player sets off first
  setOff() {
    if (!this.caller.late_s && !this.caller.late_at) { this.show(); return; }
    this.callState = "go";
    beep(520);
    // by the marker's distance and a told speed; with nobody at the phone and neither told, a moment after the start
    const late = this.caller.late_s ?? this.caller.reached ?? (this.alone ? 1.5 : null);
    if (late) this.callTimer = setTimeout(() => this.show(), late * 1000);
  },
  show() {
    clearTimeout(this.callTimer);
    this.callState = "called";
    shake(60);
    const said = wordsOf(this.called);
    if (this.caller.way !== "voice" || !speak(said)) beep(this.called.leave ? 330 : 880);
    if (!this.alone) return;
    const after = this.rowNow()[this.callNo + 1];
    this.callTimer = setTimeout(() => this.callOn(), after ? after.wait * 1000 : LAST_MS);
  },
  callWord() {
    if (this.callState === "go") return "Go";
    if (this.callState !== "called") return "…";
    return wordsOf(this.called);
  },
  callClass() {
    if (!this.isCalled()) return this.callState;
    const look = this.called.leave ? "leave" : "called";
    return this.called.on ? `${look} on-${this.called.on}` : look;
  },
  // an object, not text: the content security policy refuses style attributes
  arrow() {
    const turn = this.isCalled() ? this.called.turn : null;
    return { display: turn === null ? "none" : "block", transform: `rotate(${turn ?? 0}deg)` };
  },
  callLeft() {
    const words = `call ${this.callNo + 1} of ${this.rowNow().length}`;
    const left = this.windowLeft?.();
    return left ? `${words}, ${left}` : words;
  },
  rightThen() { return this.isCalled() && this.called.action ? `Right: ${this.called.action}` : ""; },
  choicesOf() { return this.isCalled() && !this.alone ? answersTo(this.called) : []; },
  answerCall(answer) {
    this.answered.push(answer);
    this.callNo += 1;
    this.callState = "wait";
    this.writeReads(answer);
    const before = this.at;
    this.answerStroke(answer);
    // that set is full: the next one begins with calls of its own
    if (this.at !== before) { this.endCalls(); this.callAgain = "answered"; } else this.nextCall();
  },
  // calls go through the rest: those of the next set begin when it ends; those of a window, with the window
  afterRest() {
    if (!this.caller || this.callsOn() || this.finished || this.given?.kind === "count") return;
    if (this.callAgain === "alone") this.startAlone();
    else if (this.callAgain === "answered") this.startCalls();
  },
  stopCalls() {
    this.endCalls();
    this.callAgain = "";
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
    Object.assign(this, { callTimer: null, callState: "idle", called: null, alone: false, sums: [], outcomes: [], came: [] });
  },
};
