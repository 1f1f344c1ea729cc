// The caller of a rung in the hall: each call is seen and heard, and its answer is an entry of its own.
import { strokeOf } from "../instruments/answers.js";
import { calling } from "../instruments/calling.js";
import { button, el } from "./dom.js";

// how an answer is written down, by the words of the server
const WRITTEN = { hit: "hits", miss: "misses", touched: "false_alarms", left: "correct_leaves", done: "done", right: "right", wrong: "wrong" };
const SHOWS = ["go", "show", "nextCall", "endCalls"];

/**
 * One work's caller. at: which set is next; act: an entry; changed: something is to be drawn anew.
 * @param {any} work @param {() => number} at @param {(act: string, value: any) => Promise<void>} act @param {() => void} changed
 */
export const callerOf = (work, at, act, changed) => {
  const caller = {
    ...calling,
    caller: work.calls,
    startCalls() { caller.at = at(); calling.startCalls.call(caller); },
    answerCall(answer) {
      caller.callNo += 1;
      act("read", { word: WRITTEN[answer] });
      const stroke = strokeOf(answer);
      if (stroke) act("stroke", { stroke });
      caller.nextCall();
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

/** What it shows now. */
export const callerPart = (caller) => {
  if (!caller.callsOn()) return el("div.caller", {}, [button("Start the calls", () => caller.startCalls())]);
  const called = caller.isCalled();
  return el("div.caller", {}, [
    el(`p.call.${caller.caller.way}${caller.callClass() ? `.${caller.callClass()}` : ""}`, { "aria-live": "assertive" }, [caller.callWord(), called && caller.caller.way === "arrow" && caller.called.turn !== null ? arrow(caller) : null]),
    el("p.text-soft.text-sm", {}, [caller.callLeft()]),
    caller.isGo() && caller.caller.late_at ? button(`At ${caller.caller.late_at} now`, () => caller.show(), "button main") : null,
    called ? el("div.pad-buttons", {}, caller.choicesOf().map(([answer, words]) => button(words, () => caller.answerCall(answer), "pad-miss"))) : null,
    called && caller.rightThen() ? el("p", {}, [caller.rightThen()]) : null,
    button("Stop the calls", () => caller.endCalls(), "button quiet"),
  ]);
};
