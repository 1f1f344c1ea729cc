// What taps come to, one machine for each kind of measure: a row of strokes (one letter or digit each) gives the numbers
// of a set. Nothing here knows a page, a clock or a device.
import { allowed } from "./strokes.js";
/**
 * @typedef {{ prefix: string, title: string, lane?: string, asked: number | null, number: number }} Entry
 * @typedef {{ kind: string, entries: Entry[], cap?: number | null, n?: number, lost?: number, earn?: number, window_s?: number, items?: string[],
 *   landings?: [string, number][], stop_drop?: number | null, faults?: string[] }} Given
 */
const count = (strokes, letter) => [...strokes].filter((stroke) => stroke === letter).length;
const worthOf = (strokes, landings) => (landings.length ? [...strokes].reduce((all, stroke) => all + (landings[parseInt(stroke, 36)]?.[1] ?? 0), 0) : sum(strokes));
const bestOf = (landings) => Math.max(...landings.map(([, points]) => points));
/** Names of where attempts ended that were not worth the most, as the form has them: side:2;out:1. */
const endedElsewhere = (strokes, landings) => landings
  .map(([name, points], i) => [name, points < bestOf(landings) ? [...strokes].filter((stroke) => parseInt(stroke, 36) === i).length : 0])
  .filter(([, times]) => times).map(([name, times]) => `${name}:${times}`).join(";");
/** Where a landing is not worth the most, its name as a fault of one attempt. @param {[string, number][]} landings @param {number} i */
export const faultOfLanding = (landings, i) => (landings[i][1] < bestOf(landings) ? { [landings[i][0]]: 1 } : {});
const sum = (strokes) => [...strokes].reduce((all, stroke) => all + parseInt(stroke, 36), 0);

/** The longest of several runs. */
export const bestRun = (rows) => Math.max(0, ...rows.map((row) => count(row, "g")));

// fields: what is written into the form ("" where nobody counted); over: no further tap counts; said, goal: in words
export const MACHINES = {
  // a try is a run: a miss or the cap ends it
  streak: ({ cap }) => ({
    over: (strokes) => strokes.includes("m") || (cap !== null && count(strokes, "g") >= cap),
    fields: (strokes) => ({ best_run: strokes ? count(strokes, "g") : "" }),
    said: (strokes) => `${count(strokes, "g")} in a row`,
    goal: () => (cap === null ? "a miss ends the try" : `a miss or ${cap} ends the turn`),
  }),
  to_n: ({ n }) => ({
    over: (strokes) => count(strokes, "g") >= n,
    // before the last good one nobody knows how many attempts it took
    fields: (strokes) => ({ attempts: count(strokes, "g") >= n ? strokes.length : "" }),
    said: (strokes) => `${count(strokes, "g")} good of ${strokes.length}`,
    goal: () => `until ${n} are good`,
  }),
  until_lost: ({ lost, cap }) => ({
    over: (strokes) => count(strokes, "m") >= lost || (cap !== null && count(strokes, "g") >= cap),
    fields: (strokes) => (strokes ? { makes: count(strokes, "g"), attempts: strokes.length } : { makes: "", attempts: "" }),
    said: (strokes) => `${count(strokes, "g")} good, ${count(strokes, "m")} of ${lost} lost`,
    goal: () => (cap === null ? `until ${lost} ${lost === 1 ? "is" : "are"} lost` : `until ${lost} ${lost === 1 ? "is" : "are"} lost, or ${cap} good`),
  }),
  // every so many good ones earn as many more, up to the cap
  earned: ({ n, earn, cap }) => ({
    over: (strokes) => strokes.length >= allowed({ n, earn, cap }, count(strokes, "g")),
    fields: (strokes) => (strokes ? { makes: count(strokes, "g"), attempts: strokes.length } : { makes: "", attempts: "" }),
    said: (strokes) => `${count(strokes, "g")} good, ${allowed({ n, earn, cap }, count(strokes, "g")) - strokes.length} left`,
    goal: () => `${n} to begin with, each ${earn} good earn ${earn} more, up to ${cap}`,
  }),
  // where places are named, a stroke is the place, and each that is not the best is told by its name
  points: ({ landings = [] }) => ({
    over: (strokes, asked) => strokes.length >= asked,
    fields: (strokes) => {
      const numbers = strokes ? { points: worthOf(strokes, landings), attempts: strokes.length } : { points: "", attempts: "" };
      return landings.length ? { ...numbers, faults: endedElsewhere(strokes, landings) } : numbers;
    },
    said: (strokes) => `${worthOf(strokes, landings)} points in ${strokes.length}`,
    goal: (asked) => `to do: ${asked}`,
  }),
  checklist: ({ items }) => ({
    over: () => false,
    fields: (strokes) => ({ ticks: strokes ? count(strokes, "x") : "" }),
    said: (strokes) => `${count(strokes, "x")} of ${items.length} seen`,
    goal: () => "tick what you see",
  }),
  done: () => ({
    over: (strokes) => strokes.length > 0,
    fields: (strokes) => ({ share: { d: 100, h: 50, n: 0 }[strokes] ?? "" }),
    said: (strokes) => ({ d: "Done", h: "Half of it", n: "Not done" })[strokes] ?? "Not answered yet",
    goal: () => "",
  }),
  count: ({ window_s: seconds }) => ({
    over: () => false,
    fields: (strokes) => ({ count: strokes ? strokes.length : "" }),
    said: (strokes) => `${strokes.length} in ${seconds} s`,
    goal: () => `a window of ${seconds} s`,
  }),
  time: () => ({ over: () => false, fields: () => ({}), said: () => "", goal: () => "timed by hand" }),
};

// a tick of a checklist: one letter for each line, x seen, o not
export const ticked = (strokes, i, lines) => {
  const row = [...strokes.padEnd(lines, "o")];
  row[i] = row[i] === "x" ? "o" : "x";
  return row.join("");
};
