// Counting by ear in the hall: the tablet hears what one player does; what it heard is looked over and is one entry, which
// says how many were heard. One ear at a time: there is one microphone.
import { hearing } from "../hearing/counting.js";
import { LEAD_MS } from "../instruments/clock.js";
import { MACHINES } from "../instruments/machines.js";
import { beep, stayAwake } from "../sound.js";
import { button, el } from "./dom.js";

const SHOWS = ["askEar", "openEar", "hearEar", "learnAnew", "startByEar", "stopEar", "earMore", "earFewer", "earRight", "earAgain", "closeEar"];
let listening = null;

/**
 * One work's ear. keep: what was counted, as the numbers of an entry; changed: something is to be drawn anew.
 * @param {any} work @param {(numbers: Record<string, number>) => void} keep @param {() => void} changed
 */
export const earOf = (work, keep, changed) => {
  const given = { kind: work.kind, heard: work.heard, window_s: work.window, n: work.n, cap: work.cap ?? null };
  const machine = MACHINES[work.kind](/** @type {any} */ (given));
  const fields = { heard: { value: "" }, count: { value: "" } };
  let under = null;
  const ear = {
    ...hearing,
    given,
    row: "",
    get full() { return machine.over(this.row, null); },
    set(row) { this.row = row; if (!row) fields.heard.value = ""; },
    field: (_, name) => fields[name],
    run(clock) {
      stayAwake();
      under = [setTimeout(() => beep(880), LEAD_MS), setTimeout(() => ear.stopEar(), clock.lead + clock.window)];
    },
    cancel() { under?.forEach(clearTimeout); under = null; beep(440); },
    ended() {
      const numbers = Object.fromEntries(Object.entries(machine.fields(ear.row)).filter(([, value]) => value !== ""));
      if (work.kind === "count" && !ear.row) numbers.count = 0;
      const heard = parseInt(fields.heard.value, 10);
      if (heard >= 0) numbers.heard = heard;
      ear.set("");
      keep(numbers);
    },
  };
  const looks = () => [ear.earState, ear.earLearnt, ear.earWhy, ear.row].join();
  for (const name of SHOWS) {
    const own = hearing[name];
    ear[name] = (...told) => {
      if (name === "openEar") { listening?.closeEar(); listening = ear; }
      const before = looks();
      const done = own.apply(ear, told);
      if (looks() !== before) changed(); // it speaks ten times a second: only what is seen is drawn anew
      return Promise.resolve(done).then((value) => { if (name === "openEar") changed(); return value; });
    };
  }
  ear.makeEar = hearing.makeEar;
  ear.initHearing();
  return ear;
};

const asking = (ear, sound) => [
  el("p", {}, [`The tablet listens for each ${sound} and counts it; lay it close by. Nothing is recorded, kept or sent, only the number.`]),
  el("div.actions", {}, [button("Listen", () => ear.openEar(), "button main"), button("Count by touch", () => ear.leaveEar(), "button quiet")]),
];
const learning = (ear) => [
  el("p", { role: "status" }, [ear.earWord()]),
  el("p.ear-dots", { "aria-hidden": "true" }, [0, 1, 2].map((i) => el(["i", ear.earDot(i)].filter(Boolean).join(".")))),
  button("Count by touch", () => ear.leaveEar(), "button quiet"),
];
const ready = (ear, sound) => [
  button(ear.earStartWord(), () => ear.startByEar(), "pad-good"),
  el("div.actions", {}, [button(`Learn the ${sound} anew`, () => ear.learnAnew(), "button quiet"), button("Count by touch", () => ear.leaveEar(), "button quiet")]),
];
const counting = (ear) => [
  el("p.number.watch", { id: "hall-heard" }, [String(ear.earFace())]),
  el("p.ear-under", { id: "hall-ear" }, [ear.earUnder()]),
  ear.given.kind === "count" ? button("Stop, this one does not count", () => ear.earAgain(), "button quiet") : button("It is over", () => ear.stopEar(), "pad-miss"),
];
const checking = (ear) => [
  el("p", { role: "status" }, ["Heard ", el("strong", {}, [ear.earSaid()]), ". Is that right?"]),
  el("div.pad-buttons", {}, [button("−", () => ear.earFewer(), "pad-miss", { "aria-label": "One fewer" }), button("+", () => ear.earMore(), "pad-miss", { "aria-label": "One more" })]),
  el("div.actions", {}, [button("That is right", () => ear.earRight(), "button main"), button("Do it again", () => ear.earAgain(), "button quiet")]),
];
const PARTS = { asking, opening: () => [el("p", { role: "status" }, ["The tablet asks for its microphone."])], learning, ready, counting, checking };

/** What it shows now: one key where nobody asked for it. */
export const earPart = (ear, sound) => el("section.ear", { "aria-label": "Counting by ear" }, [
  ...(ear.earIs("off") ? [button(`Count each ${sound} by ear`, () => ear.askEar())] : PARTS[ear.earState](ear, sound)),
  ear.earWhy ? el("p.text-sm", { role: "status" }, [ear.earWhy]) : null,
]);
