// What the taps of a day come to, on the device itself: the page goes on counting without a network. The server folds the
// same taps for itself (core/hall/log.py) and its word is what is stored; both keep to one rule, and one test checks both.
import { faultToEase } from "../instruments/easing.js";
import { MACHINES } from "../instruments/machines.js";
import { nextOf } from "../instruments/order.js";
import { stopAfter } from "../instruments/stopping.js";
import { allowed, attemptsOf as attempts, faultCounts, goodOf as makes } from "../instruments/strokes.js";

const NOT_YET = Number.MAX_SAFE_INTEGER;
const moment = (tap) => `${new Date(tap.at).toISOString()} ${tap.id}`;
/** The order of taps: as the server received them, then those of this device that it has not, as they were tapped. No clock. */
export const inOrder = (a, b) => (a.n ?? NOT_YET) - (b.n ?? NOT_YET) || (a.c ?? 0) - (b.c ?? 0) || (moment(a) < moment(b) ? -1 : 1);

/** Taps that count, in their order: each once, without those that were taken back. */
export const alive = (taps) => {
  const known = new Map(taps.map((tap) => [tap.id, tap]));
  const back = new Set([...known.values()].filter((tap) => tap.act === "undo").map((tap) => tap.value.of));
  return [...known.values()].filter((tap) => tap.act !== "undo" && !back.has(tap.id)).sort(inOrder);
};

/** Whether a row of strokes is one whole set. */
export const ends = (work, strokes) => {
  if (work.kind === "streak") return attempts(strokes) > makes(strokes) || (work.cap && makes(strokes) >= work.cap);
  if (work.kind === "to_n") return makes(strokes) >= work.n;
  if (work.kind === "until_lost") return attempts(strokes) - makes(strokes) >= work.lost || (work.cap && makes(strokes) >= work.cap);
  if (work.kind === "earned") return attempts(strokes) >= allowed(work, makes(strokes));
  return Boolean(work.reps) && attempts(strokes) >= work.reps;
};

const newSet = (lane, now, at) => ({ lane, eased: now.eased, feeder: now.feeder, tempo: now.tempo, feed: now.feed, strokes: "", numbers: null, seen: null, begun: at, ended: null });

// what an answer to a call counts as; the last three are situations: read and carried out, read rightly alone, read wrongly
const COUNTS_AS = { hits: ["hits"], misses: ["misses"], late: ["misses", "late"], wrong_way: ["misses", "wrong_way"], false_alarms: ["false_alarms"], correct_leaves: ["correct_leaves"], done: ["right", "choices", "carried_out"], right: ["right", "choices"], wrong: ["choices"] };

// what was seen holds for the last set of its lane
const look = (found, tap) => {
  if (!tap.value.seen) { found.form = tap.value.numbers?.form ?? found.form; return; }
  const one = found.sets.filter((set) => set.lane === tap.lane || !tap.lane).at(-1);
  if (one) one.seen = [...new Set(tap.value.seen)].sort((a, b) => a - b);
};

const stroke = (work, tap, found) => {
  const { sets, begun } = found;
  let one = begun.get(tap.lane);
  if (!one || one.eased !== found.eased || one.feeder !== found.feeder || one.tempo !== found.tempo || one.feed !== found.feed) {
    one = newSet(tap.lane, found, tap.at);
    begun.set(tap.lane, one);
    sets.push(one);
  }
  one.strokes += tap.value.stroke;
  one.last = tap.at;
  if (ends(work, one.strokes)) { one.ended = tap.at; begun.delete(tap.lane); }
};

// what holds from a tap on
const SIGNS = {
  easier: (found, value) => { found.eased = value.on !== false; },
  feeder: (found, value) => { found.feeder = value.word ?? ""; },
  tempo: (found, value) => { found.tempo = value.numbers.share; },
  feed: (found, value) => { found.feed = value.word ?? ""; },
  tired: (found, value) => { found.tired = value.on !== false; },
  read: (found, value) => { for (const name of COUNTS_AS[value.word] ?? []) found.reads[name] = (found.reads[name] ?? 0) + 1; },
  more: (found) => { found.more += 1; found.closed = false; },
  enough: (found) => { found.closed = true; },
  told: (found, value) => { found.told = value; },
};

/** Sets in the order in which they were begun; what was asked beyond; whether somebody said that it is enough. */
export const fold = (work, taps) => {
  const sets = [];
  const found = { sets, begun: new Map(), more: 0, closed: false, eased: Boolean(work.eased), feeder: "", tempo: null, feed: work.feed ?? "", tired: false, reads: {}, form: null, told: null };
  for (const tap of alive(taps)) {
    if (tap.act === "stroke") stroke(work, tap, found);
    else if (tap.act === "look") look(found, tap);
    else if (tap.act === "result") sets.push({ ...newSet(tap.lane, found, tap.at), numbers: tap.value.numbers, last: tap.at, ended: tap.at });
    else SIGNS[tap.act]?.(found, tap.value);
  }
  return found;
};

const IN_ROWS = new Set(["streak", "to_n", "until_lost", "earned"]);
const TRIALS = new Set([...IN_ROWS, "time", "count", "checklist", "done"]);
// what one set of a lane comes to
const sizeOf = (work) => (TRIALS.has(work.kind) ? 1 : work.reps ?? 10);
const perLane = (work) => (TRIALS.has(work.kind) ? work.sets * (work.kind === "time" ? work.reps ?? 1 : 1) : work.sets * (work.reps ?? 10));
const units = (work, set) => {
  if (!TRIALS.has(work.kind)) return set.numbers ? set.numbers.attempts ?? 1 : attempts(set.strokes);
  return Number(Boolean(set.ended));
};

/** Whether rounds got so much slower that the block ends itself. */
export const stopped = (work, sets) => Boolean(work.stop_drop) && stopAfter(sets.map((set) => set.numbers?.seconds).filter(Boolean), work.stop_drop).after !== null;

/** Lane by lane how much is done and asked; the lane that comes next, whether everything is there; which set is next, and whether it is untouched. */
export const progress = (work, folded) => {
  const lanes = (work.lanes.length ? work.lanes : [""]).map((lane) => {
    const sets = folded.sets.filter((set) => set.lane === lane);
    const good = sets.reduce((sum, set) => sum + makes(set.strokes) + (set.numbers?.makes ?? 0), 0);
    const asked = perLane(work) + folded.more * sizeOf(work);
    const done = sets.reduce((sum, set) => sum + units(work, set), 0);
    return { lane, asked, good, done, over: done >= asked || stopped(work, sets), tried: sets.reduce((sum, set) => sum + attempts(set.strokes), 0) };
  });
  const size = sizeOf(work);
  const setOf = (one) => Math.floor(one.done / size);
  const open = lanes.filter((one) => !one.over);
  const fewest = Math.min(...(open.length ? open : lanes).map(setOf));
  const first = open.find((one) => setOf(one) === fewest)?.lane ?? lanes[0].lane;
  const last = folded.sets.at(-1);
  const fresh = !(last && !last.ended) && lanes.every((one) => one.done <= fewest * size);
  return { lanes, next: inTurn(work, open, fewest) ?? first, whole: open.length === 0, set: fewest, fresh };
};

// the lane whose turn it is, in the set that is under way: of tries each is one
const inTurn = (work, open, fewest) => {
  if (!work.turns?.length) return null;
  const size = sizeOf(work);
  const all = TRIALS.has(work.kind);
  return nextOf(work.turns, open.map((one) => ({ lane: one.lane, done: all ? one.done : one.done - fewest * size, asked: all ? one.asked : size })));
};

/** The fault that has come so often that the easier way is offered, by its number; -1 for none. passedOver: so often had each come when that was passed over. */
export const offered = (work, folded, passedOver) => (folded.eased ? -1 : faultToEase(faultsSoFar(work, folded), passedOver, work.ease_faults));
/** How often each fault came on what was done as asked. */
export const faultsSoFar = (work, folded) => folded.sets.filter((set) => !set.eased).reduce((counts, set) => faultCounts(set.strokes, false, counts), []);

/** The share of technique that was seen in the last third of the sets, where it is under what a pass needs; null elsewhere. */
export const formSlips = (work, folded) => {
  const asked = work.sets * Math.max(1, work.lanes.length);
  const last = folded.sets.slice(Math.ceil((2 * asked) / 3)).filter((set) => set.seen && !set.eased);
  if (asked < 3 || !last.length || !work.form_min || folded.eased) return null;
  const share = last.reduce((sum, set) => sum + set.seen.length, 0) / (last.length * work.checkpoints.length);
  return share < work.form_min ? share : null;
};

/** What a set that ends itself has come to so far, in words; "" where none is under way. */
export const rowSaid = (work, folded, lane) => {
  const set = folded.sets.filter((one) => one.lane === lane).at(-1);
  const row = set && !set.ended ? plainRow(set.strokes) : "";
  return row && IN_ROWS.has(work.kind) ? MACHINES[work.kind]({ ...work, cap: work.cap ?? null }).said(row) : "";
};
const plainRow = (strokes) => "g".repeat(makes(strokes)) + "m".repeat(attempts(strokes) - makes(strokes));

/** Milliseconds of rest that are left: from the end of the last set on, where none is under way. */
export const restLeft = (work, folded, now) => {
  const last = folded.sets.at(-1);
  const until = (moment, seconds) => (moment && seconds ? new Date(moment).getTime() + seconds * 1000 - now : 0);
  return Math.max(0, until(last?.ended, work.rest), until(last?.last, work.rest_each));
};

/** Whether a player is in the middle of a set just now. */
export const isBusy = (folded, now, patience = 45_000) => {
  const last = folded.sets.at(-1);
  return Boolean(last && !last.ended && now - new Date(last.last).getTime() < patience);
};
