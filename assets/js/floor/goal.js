// What a group works for together: good ones in all, so many in a row without a miss of anybody, or so many within a minute.
// Nobody's own count is named; a miss breaks the row of all, and of whom it was is not said.
import { attemptsOf, goodOf, isGood } from "../instruments/strokes.js";
import { alive } from "./state.js";

const MINUTE = 60_000;

/** Attempts in the order in which they were tapped: good or not, and when. Of a whole set as a number only its sums are known. */
const attempts = (taps) => {
  const found = [];
  for (const tap of alive(taps).sort((a, b) => (a.at < b.at ? -1 : 1))) {
    const at = new Date(tap.at).getTime();
    if (tap.act === "stroke" && attemptsOf(tap.value.stroke)) found.push({ good: goodOf(tap.value.stroke), missed: Number(!isGood(tap.value.stroke)), at });
    const { makes, attempts: tried } = tap.act === "result" ? tap.value.numbers ?? {} : {};
    if (makes !== undefined) found.push({ good: makes, missed: Math.max(0, (tried ?? makes) - makes), at });
  }
  return found;
};

const KINDS = {
  // good ones in a row: how many now, and the longest row of the day; of a set with a miss in it none is in a row
  row: (all) => {
    let [now, best] = [0, 0];
    for (const one of all) {
      now = one.missed ? 0 : now + one.good;
      best = Math.max(best, now);
    }
    return { now, best };
  },
  // good ones within any sixty seconds: those that end with the latest, and the most of the day
  minute: (all) => {
    let [first, now, best] = [0, 0, 0];
    for (const [i, one] of all.entries()) {
      now += one.good;
      while (all[first].at <= one.at - MINUTE) { now -= all[first].good; first += 1; }
      best = Math.max(best, i >= first ? now : 0);
    }
    return { now, best };
  },
};

/**
 * Points of the day: a good one brings its worth, and where an attempt is scored in points, these.
 * @param {any[]} taps @param {number} worth
 */
export const pointsOf = (taps, worth) => {
  const good = attempts(taps).reduce((sum, one) => sum + one.good, 0) * worth;
  const scored = alive(taps).filter((tap) => tap.act === "result").reduce((sum, tap) => sum + (tap.value.numbers?.points ?? 0), 0);
  return good + scored;
};

/** How far the group is: what stands now, and the best of the day. */
export const towards = (kind, taps) => KINDS[kind](attempts(taps));

/** Who plays with bibs, by what was said last of each. @param {any[]} taps @returns {Set<number>} */
export const withBibs = (taps) => {
  const said = new Map(alive(taps).filter((tap) => tap.act === "team").map((tap) => [tap.player, tap.value.on !== false]));
  return new Set([...said].filter(([, on]) => on).map(([player]) => player));
};
/** What two teams have: those with bibs, those without. @param {any[]} taps @param {number} worth */
export const teamPoints = (taps, worth) => {
  const bibs = withBibs(taps);
  return [true, false].map((on) => pointsOf(taps.filter((tap) => tap.stay && bibs.has(tap.player) === on), worth));
};
const teamWords = (goal, taps, worth) => {
  const [on, off] = teamPoints(taps, worth);
  const mark = (points) => (points >= goal ? " ✓" : "");
  return `With bibs ${on}${mark(on)} · without ${off}${mark(off)} · first to ${goal}`;
};

/** In words. all: the taps of the day; sum: good ones; worth: points of a good one. */
export const goalWords = (goal, kind, all, sum, worth = 1) => {
  if (!goal) return "";
  if (kind === "teams") return teamWords(goal, all, worth);
  const taps = all.filter((tap) => tap.stay);
  if (kind === "points") return `${pointsOf(taps, worth)} of ${goal} points, all together`;
  if (!(kind in KINDS)) return `${sum} of ${goal} good, all together`;
  const { now, best } = towards(kind, taps);
  const what = kind === "row" ? "in a row, all together" : "good within a minute, all together";
  const reached = best >= goal ? ` ✓ reached, best ${best}` : `, best ${best}`;
  return `${now} of ${goal} ${what}${reached}`;
};
