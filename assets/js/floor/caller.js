// The caller of a rung in the hall: each call is seen and heard, and its answer is an entry of its own.
import { strokeOf } from "../instruments/answers.js";
import { calling } from "../instruments/calling.js";
import { button, el } from "./dom.js";

// how an answer is written down, by the words of the server
const WRITTEN = { hit: "hits", miss: "misses", late: "late", touched: "false_alarms", left: "correct_leaves", done: "done", right: "right", wrong: "wrong" };
const SHOWS = ["setOff", "show", "nextCall", "endCalls", "callOn", "moreOf", "otherWay", "callsOver"];

/**
 * One work's caller. at: which set is next; act: an entry; changed: something is to be drawn anew.
 * @param {any} work @param {() => number} at @param {(act: string, value: any) => Promise<void>} act @param {() => void} changed
 */
export const callerOf = (work, at, act, changed) => {
  const caller = {
    ...calling,
    caller: work.calls,
    asks: null, // what keeps the number of a window that nobody counted meanwhile
    typed: "",
    under: () => "", // what is left of the window
    startCalls() { caller.at = at(); calling.startCalls.call(caller); },
    startAlone() { caller.at = at(); calling.startAlone.call(caller); },
    async write(answer) {
      await act("read", { word: WRITTEN[answer] });
      const stroke = strokeOf(answer);
      if (stroke) await act("stroke", { stroke });
    },
    answerCall(answer) {
      caller.callNo += 1;
      caller.write(answer);
      caller.nextCall();
    },
    async tellSums() {
      const answers = [...caller.outcomes];
      caller.keepCount();
      caller.endCalls();
      for (const answer of answers) await caller.write(answer); // one after the other: their order is kept
    },
    /** The number of the window, where it was told. */
    keepCount() {
      const keep = caller.asks;
      const count = caller.typed === "" ? -1 : Number(caller.typed);
      Object.assign(caller, { asks: null, typed: "" });
      if (keep && count >= 0) keep(count);
    },
  };
  for (const name of SHOWS) caller[name] = (...given) => { calling[name].apply(caller, given); changed(); };
  return caller;
};

const arrow = (caller) => {
  const shown = el("span.call-arrow", { "aria-hidden": "true" }, ["↑"]);
  shown.style.transform = caller.arrow().transform;
  return shown;
};

const howMany = (caller) => (caller.asks ? el("label.hall-number", {}, [
  "How many in the window?",
  el("input", { type: "number", min: "0", inputMode: "numeric", value: caller.typed, oninput: (event) => { caller.typed = event.target.value; } }),
]) : null);

const told = (caller) => el("div.caller", {}, [
  howMany(caller),
  el("p", {}, [el("strong", {}, ["How did they go?"])]),
  ...caller.sums.map((sum) => el("div.sum-line", {}, [
    el("span", { "aria-live": "polite" }, [caller.sumWords(sum)]),
    button("−", () => caller.fewer(sum), "button", { "aria-label": `One fewer: ${sum.words}` }),
    button("+", () => caller.another(sum), "button", { "aria-label": `One more: ${sum.words}` }),
  ])),
  el("details", {}, [
    el("summary", {}, ["Call by call"]),
    el("div.calls-told", {}, caller.oneByOne().map((one) => el("div.sum-line", {}, [el("span", {}, [one.call]), button(one.words, () => caller.otherWay(one.i), "button", { "aria-label": `${one.call}: ${one.words}. Touch for another` })]))),
  ]),
  button("That is right", () => caller.tellSums(), "button main"),
  button("Count none of them", () => { caller.keepCount(); caller.endCalls(); }, "button quiet"),
]);

const begin = (caller) => el("div.caller", {}, [
  button("Calls by themselves", () => caller.startAlone()),
  button("Start the calls, answer each", () => caller.startCalls(), "button quiet"),
]);

const shown = (caller) => {
  const { way } = caller.caller;
  const turned = caller.isCalled() && way === "arrow" && caller.called.turn !== null;
  const look = ["p.call", way, ...caller.callClass().split(" ")].filter(Boolean).join(".");
  return el(look, { "aria-live": "assertive" }, [caller.callWord(), turned ? arrow(caller) : null]);
};

const going = (caller) => el(["div.caller", caller.aloneClass()].filter(Boolean).join("."), {}, [
  shown(caller),
  el("p.text-soft.text-sm", {}, [caller.callLeft()]),
  el("p.number", { id: "hall-call-window" }, [caller.under()]),
  caller.isGo() && caller.caller.late_at ? button(`At ${caller.caller.late_at} now`, () => caller.show(), "button main") : null,
  caller.asksNow() ? el("div.pad-buttons", {}, caller.choicesOf().map(([answer, words]) => button(words, () => caller.answerCall(answer), "pad-miss"))) : null,
  caller.rightThen() ? el("p", {}, [caller.rightThen()]) : null,
  button("Stop the calls", () => caller.endCalls(), "button quiet"),
]);

/** What it shows now. */
export const callerPart = (caller) => {
  if (!caller.callsOn()) return begin(caller);
  return caller.isTelling() ? told(caller) : going(caller);
};
