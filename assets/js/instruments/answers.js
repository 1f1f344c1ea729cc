// How calls were answered. Nothing here knows a page or a clock.
const NOBODY = [0, 0, 0, 0, 0, 0, 0, 0, 0];

const ONE = {
  hit: [1, 0, 0, 0, 0, 0, 0, 0, 0],
  miss: [0, 1, 0, 0, 0, 0, 0, 0, 0],
  late: [0, 1, 0, 0, 0, 0, 0, 1, 0],
  // the right place with the wrong foot, hand or tool
  way: [0, 1, 0, 0, 0, 0, 0, 0, 1],
  touched: [0, 0, 1, 0, 0, 0, 0, 0, 0],
  left: [0, 0, 0, 1, 0, 0, 0, 0, 0],
  // a situation: read rightly and carried out, read rightly only, read wrongly
  done: [0, 0, 0, 0, 1, 1, 1, 0, 0],
  right: [0, 0, 0, 0, 1, 1, 0, 0, 0],
  wrong: [0, 0, 0, 0, 0, 1, 0, 0, 0],
};
// what an answer is on a stroke pad; a call to be left is no attempt
const STROKES = { hit: "g", miss: "m", late: "m", way: "m", done: "g", right: "m", wrong: "m" };

/**
 * The numbers as the form has them, with one answer more (or, by -1, taken back): hits, misses, touched, left, read
 * rightly, situations, carried out, late, the wrong way.
 */
export const withAnswer = (text, answer, times = 1) => {
  const before = text ? text.split(",").map(Number) : NOBODY;
  return ONE[answer].map((n, i) => Math.max(0, (before[i] ?? 0) + times * n)).join(",");
};
export const strokeOf = (answer) => STROKES[answer] ?? null;

// what was not as called: the wrong foot, the wrong hand
const wrongWay = (by) => {
  const [, part] = /\b(foot|hand|side|leg)$/i.exec(by) ?? [];
  return `Wrong ${part?.toLowerCase() ?? "way"}`;
};

/** The answers that a call may have, each with its word, the good one first. */
export const answersTo = ({ leave, action, by }) => {
  if (leave) return [["left", "Left it"], ["touched", "Went for it"]];
  if (action) return [["done", "Read it, did it"], ["right", "Read it, missed"], ["wrong", "Read it wrong"]];
  if (by) return [["hit", "Got it"], ["way", wrongWay(by)], ["late", "Late"], ["miss", "Missed"]];
  return [["hit", "Got it"], ["late", "Late"], ["miss", "Missed"]];
};

// what is asked after calls that went on by themselves: the good of each kind; the others were the kind's other answer
/** @type {[string, string, string, (call: any) => boolean][]} */
const KINDS = [
  ["hit", "miss", "Got", (call) => !call.leave && !call.action],
  ["done", "wrong", "Read and done", (call) => !call.leave && Boolean(call.action)],
  ["left", "touched", "Left alone, as called", (call) => call.leave],
];

/** Every call went well, to begin with. */
export const allWell = (row) => row.map((call) => answersTo(call)[0][0]);

/** A line for each kind of call that there was: how many went well. */
export const sumsOf = (row, outcomes) => KINDS
  .map(([name, , words, is]) => ({ name, words, of: row.filter(is).length, n: row.filter((call, i) => is(call) && outcomes[i] === name).length }))
  .filter((sum) => sum.of);

/** One more of a kind that went well, or (by -1) one fewer: the last that can be. */
export const oneMore = (row, outcomes, name, by) => {
  const [, other, , is] = KINDS.find(([good]) => good === name);
  const at = row.findLastIndex((call, i) => is(call) && (outcomes[i] === name) === by < 0);
  const answer = by > 0 ? name : other;
  return outcomes.map((outcome, i) => (i === at ? answer : outcome));
};

/** The next of the answers that a call may have, round and round. */
export const nextAnswer = (call, outcome) => {
  const all = answersTo(call).map(([name]) => name);
  return all[(all.indexOf(outcome) + 1) % all.length];
};
