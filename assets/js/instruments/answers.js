// How calls were answered. Nothing here knows a page or a clock.
const NOBODY = [0, 0, 0, 0, 0, 0, 0];

const ONE = {
  hit: [1, 0, 0, 0, 0, 0, 0],
  miss: [0, 1, 0, 0, 0, 0, 0],
  touched: [0, 0, 1, 0, 0, 0, 0],
  left: [0, 0, 0, 1, 0, 0, 0],
  // a situation: read rightly and carried out, read rightly only, read wrongly
  done: [0, 0, 0, 0, 1, 1, 1],
  right: [0, 0, 0, 0, 1, 1, 0],
  wrong: [0, 0, 0, 0, 0, 1, 0],
};
// what an answer is on a stroke pad; a call to be left is no attempt
const STROKES = { hit: "g", miss: "m", done: "g", right: "m", wrong: "m" };

/**
 * The numbers as the form has them, with one answer more (or, by -1, taken back): hits, misses, touched, left, read
 * rightly, situations, carried out.
 */
export const withAnswer = (text, answer, times = 1) => {
  const before = text ? text.split(",").map(Number) : NOBODY;
  return before.map((n, i) => Math.max(0, n + times * ONE[answer][i])).join(",");
};
export const strokeOf = (answer) => STROKES[answer] ?? null;

/** The answers that a call may have, each with its word. */
export const answersTo = ({ leave, action }) => {
  if (leave) return [["left", "Left it"], ["touched", "Went for it"]];
  if (action) return [["done", "Read it, did it"], ["right", "Read it, missed"], ["wrong", "Read it wrong"]];
  return [["hit", "Got it"], ["miss", "Missed"]];
};

// what is asked after calls that went on by themselves: the good of each kind; the others were the kind's other answer
const KINDS = [
  ["hit", "miss", "Got", (call) => !call.leave && !call.action],
  ["done", "wrong", "Read and done", (call) => !call.leave && call.action],
  ["left", "touched", "Left alone, as called", (call) => call.leave],
];

/** A line for each kind of call that there was: how many went well, all of them to begin with. */
export const sumsOf = (row) => KINDS
  .map(([name, , words, is]) => ({ name, words, of: row.filter(is).length, n: row.filter(is).length }))
  .filter((sum) => sum.of);

/** The answers behind such lines, one a call. */
export const answersOf = (sums) => sums.flatMap(({ name, of, n }) => {
  const other = KINDS.find(([good]) => good === name)[1];
  return [...Array(n).fill(name), ...Array(of - n).fill(other)];
});
