// What one player's work is counted with, on the hall's page: strokes, a stopwatch, keys for points, a number, ticks. Every
// touch is a tap of its own and is stored before the next one.
import { faultOfLanding } from "../instruments/machines.js";
import { goodWith, missWith } from "../instruments/strokes.js";
import { minutes as clock } from "../instruments/clock.js";
import { button, el } from "./dom.js";
import { windowPart } from "./window.js";

const LABELS = { done: "or type the share done, %" };
const FIELD = { count: "count", done: "share", points: "points", time: "seconds", checklist: "ticks" };

const laneRow = (work, at, choose) => (work.lanes.length < 2 ? null : el("div.switch", { role: "group", "aria-label": "Lane" }, work.lanes.map((lane, i) => {
  const one = at.progress.lanes[i];
  return button(`${work.said[i]} ${one.done}/${one.asked}`, () => choose(lane), "plain-key", { "aria-pressed": String(lane === at.lane) });
})));

const strokes = (work, at, tap) => {
  const put = (stroke) => tap("stroke", { stroke }, at.lane);
  const faults = work.faults.map((fault, i) => button(fault, () => put(at.but ? goodWith(i) : missWith(i))));
  const but = work.faults.length ? el("div.switch.small", { role: "group", "aria-label": "A fault by name" }, [
    button("Missed because", () => at.turn("but", false), "plain-key", { "aria-pressed": String(!at.but) }),
    button("Good, but", () => at.turn("but", true), "plain-key", { "aria-pressed": String(at.but) }),
  ]) : null;
  return [
    el("div.pad-buttons", {}, [button("Miss", () => put(missWith()), "pad-miss"), button("Good", () => put(goodWith()), "pad-good", { "data-space": "" })]),
    but,
    faults.length ? el("div.pad-faults", {}, faults) : null,
    el("div.pad-small", {}, [work.fed ? button("Bad feed", () => put("v")) : null, button("Again", () => put("r"))]),
  ];
};

const stopwatch = (work, at, tap) => {
  const running = at.watch.begun !== null;
  const stop = () => {
    const seconds = Math.round((Date.now() - at.watch.begun) / 10) / 100;
    at.stopWatch();
    tap("result", { numbers: { seconds }, faults: work.faults.length ? { ...at.counted } : null }, at.lane);
  };
  return [
    el("p.number.watch", { id: "hall-watch" }, [running ? clock(Date.now() - at.watch.begun) : "0.00"]),
    button(running ? "Stop" : "Start", running ? stop : at.startWatch, running ? "pad-miss" : "pad-good", { "data-space": "" }),
    work.faults.length ? el("div.pad-faults", {}, work.faults.map((fault) => button(`${fault} ${at.counted[fault] ?? 0}`, () => at.count(fault)))) : null,
    number(work, at, tap, "or type the seconds"),
  ];
};

/** Faults of what is counted next; where nobody touches any, nobody counted them. */
const faultKeys = (work, at) => (work.faults.length && work.faults_needed ? el("div.pad-faults", { role: "group", "aria-label": "Faults of this one" }, [
  ...work.faults.map((fault) => button(`${fault} ${at.counted?.[fault] ?? 0}`, () => at.count(fault))),
  button("No fault", () => at.clean(), "button", { "aria-pressed": String(Boolean(at.counted) && !Object.keys(at.counted).length) }),
]) : null);

const number = (work, at, tap, label) => {
  const field = el("input", { type: "number", min: "0", step: "any", inputMode: "decimal", "aria-label": label });
  const keep = () => {
    const typed = field.valueAsNumber;
    if (!Number.isFinite(typed) || typed < 0) { field.focus(); return; }
    const value = work.kind === "done" ? Math.min(1, typed / 100) : typed;
    tap("result", { numbers: { [FIELD[work.kind]]: value }, faults: at.told() }, at.lane);
  };
  field.addEventListener("keydown", (event) => { if (event.key === "Enter") keep(); });
  return el("div.hall-number", {}, [el("label", {}, [label, field]), button("Keep it", keep, "button")]);
};

const points = (work, at, tap) => {
  const top = Math.min(20, work.top ?? 3);
  if (work.landings?.length) {
    const land = (i) => tap("result", { numbers: { points: work.landings[i][1], attempts: 1 }, faults: faultOfLanding(work.landings, i) }, at.lane);
    return [el("div.hall-keys.named", {}, work.landings.map(([name, n], i) => button(`${name} ${n}`, () => land(i), "pad-good")))];
  }
  const keys = Array.from({ length: Math.floor(top) + 1 }, (_, n) => n);
  return [el("div.hall-keys", {}, keys.map((n) => button(String(n), () => tap("result", { numbers: { points: n, attempts: 1 }, faults: at.told() }, at.lane), "pad-good"))), faultKeys(work, at)];
};

const ticks = (work, at, tap) => [
  el("div.hall-ticks", {}, work.items.map((item, i) => button(item, () => at.tick(i), "button", { "aria-pressed": String(at.ticked.has(i)) }))),
  faultKeys(work, at),
  button(`Keep ${at.ticked.size} of ${work.items.length}`, () => { tap("result", { numbers: { ticks: at.ticked.size }, faults: at.told() }, at.lane); at.clearTicks(); }, "pad-good"),
];

const counted = (work, at, tap) => [...windowPart(at.window, work.window), faultKeys(work, at), number(work, at, tap, "or type the repetitions")];

const shares = (work, at, tap) => [
  el("div.pad-buttons.three", {}, [["Not done", 0], ["Half of it", 0.5], ["Done", 1]].map(([words, share]) => button(words, () => tap("result", { numbers: { share }, faults: at.told() }, at.lane), share === 1 ? "pad-good" : "pad-miss"))),
  number(work, at, tap, LABELS.done),
];

const KINDS = {
  makes: strokes, streak: strokes, to_n: strokes, until_lost: strokes, earned: strokes, time: stopwatch, points, checklist: ticks,
  count: counted, done: shares,
};

/** Everything between the lanes and what is done with the whole block. */
export const instrumentOf = (work, at, tap, choose) => [laneRow(work, at, choose), ...KINDS[work.kind](work, at, tap)];
