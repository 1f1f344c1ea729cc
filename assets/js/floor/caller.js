// The caller of a rung in the hall: each call is seen and heard, and its answer is an entry of its own. Several who stand
// on one rung can be called at once: the calls fill the screen, and afterwards it is told for each how they went.
import { allWell, oneMore, strokeOf, sumsOf } from "../instruments/answers.js";
import { calling } from "../instruments/calling.js";
import { button, el } from "./dom.js";

// how an answer is written down, by the words of the server
const WRITTEN = { hit: "hits", miss: "misses", late: "late", way: "wrong_way", touched: "false_alarms", left: "correct_leaves", done: "done", right: "right", wrong: "wrong" };
const SHOWS = ["setOff", "show", "nextCall", "endCalls", "callOn", "moreOf", "otherWay", "callsOver"];

const A_NAME = "a name"; // a call that is one of those who are here

/**
 * One work's caller. at: which set is next; act: an entry; changed: something is to be drawn anew; room: the player's
 * name, who else could be called along (id, name, act), and the names that can be called.
 * @param {any} work @param {() => number} at @param {(act: string, value: any) => Promise<void>} act @param {() => void} changed
 * @param {{ name: string, others: () => { id: number, name: string, act: (act: string, value: any) => Promise<void> }[], names: () => string[] }} room
 */
export const callerOf = (work, at, act, changed, room) => {
  const caller = {
    ...calling,
    caller: work.calls,
    asks: null, // what keeps the number of a window that nobody counted meanwhile
    typed: "",
    under: () => "", // what is left of the window
    name: room.name,
    names: /** @type {string[]} */ ([]), // that can be called
    chosen: new Set(), // ids of those who are called along
    along: [], // they, with how their calls went
    others: () => (work.window ? [] : room.others()),
    choose(id) { if (!caller.chosen.delete(id)) caller.chosen.add(id); changed(); },
    again: /** @type {null | (() => void)} */ (null), // how those of the next set begin, by themselves
    startCalls() { caller.begin(calling.startCalls, caller.startCalls); },
    startAlone() { caller.begin(calling.startAlone, caller.startAlone); },
    begin(how, again) {
      Object.assign(caller, { at: at(), names: room.names(), again });
      how.call(caller);
    },
    stopCalls() { caller.again = null; caller.endCalls(); },
    rowNow() { return calling.rowNow.call(caller).map((call, i) => named(call, caller.names, i)); },
    askHow(row) {
      const along = row.length ? caller.others().filter((one) => caller.chosen.has(one.id)) : [];
      caller.along = along.map((one) => ({ ...one, outcomes: allWell(row), sums: sumsOf(row, allWell(row)) }));
      calling.askHow.call(caller, row);
    },
    moreFor(one, name, by) {
      one.outcomes = oneMore(caller.came, one.outcomes, name, by);
      one.sums = sumsOf(caller.came, one.outcomes);
      changed();
    },
    answerCall(answer) {
      caller.callNo += 1;
      written(act, answer);
      caller.nextCall();
    },
    async tellSums() {
      const told = [{ act, outcomes: [...caller.outcomes] }, ...caller.along];
      caller.keepCount();
      caller.endCalls();
      caller.along = [];
      for (const one of told) for (const answer of one.outcomes) await written(one.act, answer); // one after the other: their order is kept
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

const written = async (act, answer) => {
  await act("read", { word: WRITTEN[answer] });
  const stroke = strokeOf(answer);
  if (stroke) await act("stroke", { stroke });
};

// somebody who is here, another one each time
const named = (call, names, i) => (call.cue === A_NAME && names?.length ? { ...call, cue: names[i % names.length] } : call);

const arrow = (caller) => {
  const shown = el("span.call-arrow", { "aria-hidden": "true" }, ["↑"]);
  shown.style.transform = caller.arrow().transform;
  return shown;
};

const howMany = (caller) => (caller.asks ? el("label.hall-number", {}, [
  "How many in the window?",
  el("input", { type: "number", min: "0", inputMode: "numeric", value: caller.typed, oninput: (event) => { caller.typed = event.target.value; } }),
]) : null);

const sumLines = (caller, name, sums, more) => sums.map((sum) => {
  const of = name ? `${name}: ` : "";
  return el("div.sum-line", {}, [
    el("span", { "aria-live": "polite" }, [of + caller.sumWords(sum)]),
    button("−", () => more(sum, -1), "button", { "aria-label": `${of}One fewer: ${sum.words}` }),
    button("+", () => more(sum, 1), "button", { "aria-label": `${of}One more: ${sum.words}` }),
  ]);
});

const told = (caller) => el("div.caller", {}, [
  howMany(caller),
  el("p", {}, [el("strong", {}, ["How did they go?"])]),
  ...sumLines(caller, caller.along.length ? caller.name : "", caller.sums, (sum, by) => caller.moreOf(sum.name, by)),
  ...caller.along.flatMap((one) => sumLines(caller, one.name, one.sums, (sum, by) => caller.moreFor(one, sum.name, by))),
  el("details", {}, [
    el("summary", {}, [caller.along.length ? `Call by call, ${caller.name}` : "Call by call"]),
    el("div.calls-told", {}, caller.oneByOne().map((one) => el("div.sum-line", {}, [el("span", {}, [one.call]), button(one.words, () => caller.otherWay(one.i), "button", { "aria-label": `${one.call}: ${one.words}. Touch for another` })]))),
  ]),
  button("That is right", () => caller.tellSums(), "button main"),
  button("Count none of them", () => { caller.keepCount(); caller.stopCalls(); }, "button quiet"),
]);

const along = (caller) => {
  const others = caller.others();
  if (!others.length) return null;
  const chip = ({ id, name }) => button(name, () => caller.choose(id), "hall-chip", { "aria-pressed": String(caller.chosen.has(id)) });
  return el("div", { role: "group", "aria-label": "Called together with" }, [el("p.text-soft", {}, ["On the same rung: call them together?"]), el("div.hall-chips", {}, others.map(chip))]);
};

const begin = (caller) => el("div.caller", {}, [
  along(caller),
  button(caller.chosen.size ? "Call them all, on the whole screen" : "Calls by themselves", () => caller.startAlone()),
  caller.chosen.size ? null : button("Start the calls, answer each", () => caller.startCalls(), "button quiet"),
]);

const shown = (caller) => {
  const { way } = caller.caller;
  const turned = caller.isCalled() && way === "arrow" && caller.called.turn !== null;
  const look = ["p.call", way, ...caller.callClass().split(" ")].filter(Boolean).join(".");
  return el(look, { "aria-live": "assertive" }, [caller.callWord(), turned ? arrow(caller) : null]);
};

// who answers, where it is more than one
const calledNow = (caller) => (caller.chosen.size ? [caller.name, ...caller.others().filter((one) => caller.chosen.has(one.id)).map((one) => one.name)] : []);

const going = (caller) => el(["div.caller", caller.aloneClass()].filter(Boolean).join("."), {}, [
  shown(caller),
  el("p.text-soft.text-sm", {}, [[caller.callLeft(), ...calledNow(caller)].join(" · ")]),
  el("p.number", { id: "hall-call-window" }, [caller.under()]),
  caller.isGo() && caller.caller.late_at ? button(`At ${caller.caller.late_at} now`, () => caller.show(), "button main") : null,
  caller.asksNow() ? el("div.pad-buttons", {}, caller.choicesOf().map(([answer, words]) => button(words, () => caller.answerCall(answer), "pad-miss"))) : null,
  caller.rightThen() ? el("p", {}, [caller.rightThen()]) : null,
  button("Stop the calls", () => caller.stopCalls(), "button quiet"),
]);

/** What it shows now. */
export const callerPart = (caller) => {
  if (!caller.callsOn()) return begin(caller);
  return caller.isTelling() ? told(caller) : going(caller);
};
