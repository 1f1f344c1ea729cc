// What comes between sets in the hall: the rest, what is done and not counted, and calls that go on by themselves.
import { minutes } from "../instruments/clock.js";
import { toFinish } from "../instruments/rest.js";
import { now } from "../clock.js";
import { beep, shake } from "../sound.js";
import { button, el } from "./dom.js";
import { restLeft } from "./state.js";

const SLOWLY = "One slowly first: it is not counted";

/**
 * What is asked before the next set and is not counted: good ones that end the one before, then a slow one; "" for nothing.
 * place: what this device knows of the work.
 */
export const askedNow = (work, { at, over }, place) => {
  if (work.finish_good && at.fresh && at.set > 0 && place.finishIn !== at.set) return "finish";
  return work.slow_first && !over && at.fresh && place.slowIn !== at.set ? "slow" : "";
};
/** In words. */
export const askedWords = (work, asked) => (asked === "finish" ? toFinish(work.finish_good) : SLOWLY);
/** It was done; after a slow one its short rest begins. */
export const askedDone = (hall, work, place) => {
  const read = hall.read(work);
  if (askedNow(work, read, place) === "finish") { place.finishIn = read.at.set; return; }
  place.slowIn = read.at.set;
  hall.slow.set(work.stay, now() + work.slow_first * 1000);
};

export const askedPart = (hall, work, place, done) => {
  const asked = askedNow(work, hall.read(work), place);
  return asked ? el("div.hall-slow", {}, [
    el("p", {}, [el("strong", {}, [askedWords(work, asked)])]),
    button("Done", () => { askedDone(hall, work, place); done(); }, "button"),
  ]) : null;
};

/** The rest that is left, on the open player. */
export const restShown = (hall, work) => {
  const rest = document.getElementById("hall-rest");
  if (!rest) return;
  const left = Math.max(restLeft(work, hall.read(work).folded, now()), (hall.slow.get(work.stay) ?? 0) - now());
  rest.hidden = left <= 0;
  rest.textContent = `Rest: ${minutes(left)}`;
};

/** The rest after a slow one has ended: heard and felt. */
export const slowOver = (hall) => {
  for (const [stay, until] of hall.slow) {
    if (until > now()) continue;
    hall.slow.delete(stay);
    beep(660);
    shake([80, 60, 80]);
  }
};

/** Calls of the next set begin when the rest ends, as those of the set before were begun; not where somebody stopped them. */
export const callsGoOn = (work, { folded, over }, place) => {
  const { caller } = place;
  if (!caller || work.window || over || caller.callsOn()) { place.rested = false; return; }
  if (restLeft(work, folded, now()) > 0) { place.rested = true; return; }
  if (!place.rested) return;
  place.rested = false;
  caller.again?.();
};
