// A window of so many seconds in the hall: three to get ready, then a touch for each, and the end is heard and felt. What was
// counted is one entry. With no hand free it is counted by eye and typed.
import { LEAD_MS, begin, clockOf, minutes, passedOf, phaseOf } from "../instruments/clock.js";
import { beep, shake, stayAwake } from "../sound.js";
import { button, el } from "./dom.js";

/**
 * @param {number} seconds @param {(count: number) => void} ended @param {() => void} changed
 * @param {{ began: () => void, halted: () => void }} along what begins with it and ends with it
 */
export const windowOf = (seconds, ended, changed, along = { began: () => {}, halted: () => {} }) => {
  let clock = clockOf({ lead: LEAD_MS, window: seconds * 1000 });
  let count = 0;
  let shown = "idle";
  const self = {
    get phase() { return phaseOf(clock, Date.now()); },
    get count() { return count; },
    get left() { return self.phase === "ready" ? -passedOf(clock, Date.now()) : clock.window - passedOf(clock, Date.now()); },
    get runs() { return ["ready", "running"].includes(self.phase); },
    start() { stayAwake(); count = 0; clock = begin(clock, Date.now()); shown = "ready"; changed(); },
    tap() { if (self.phase === "running") { count += 1; shake(15); changed(); } },
    halt() { clock = clockOf({ lead: LEAD_MS, window: seconds * 1000 }); shown = "idle"; along.halted(); changed(); },
    /** Look at the clock: what begins and ends by itself. */
    tick() {
      const now = self.phase;
      if (now === shown) return;
      shown = now;
      if (now === "running") { beep(660); along.began(); }
      if (now === "ended") { beep(440); shake([120, 60, 120]); clock = clockOf({ lead: LEAD_MS, window: seconds * 1000 }); shown = "idle"; ended(count); }
      changed();
    },
  };
  return self;
};

/** What it shows now. */
export const windowPart = (window_, seconds) => {
  if (!window_.runs) return [button(`Start ${seconds} s`, () => window_.start(), "pad-good", { "data-space": "" })];
  const ready = window_.phase === "ready";
  return [
    el("p.number.watch", { id: "hall-watch" }, [minutes(window_.left)]),
    ready ? button("Get ready", () => {}, "pad-good", { disabled: true }) : button(`Tap for each: ${window_.count}`, () => window_.tap(), "pad-good tall", { "data-space": "" }),
    button("Stop, this one does not count", () => window_.halt(), "button quiet"),
  ];
};
