// A row of strokes of a set of good ones, one letter each: what the pad writes and practice/beside.py reads.
// g good, m a miss, a digit: a miss with the fault of that number, a capital: a good one with a fault (A the first);
// v a bad feed, r once more: neither make nor miss; z: easier from here on, y: as asked again.
const A = "A".charCodeAt(0);
const SIGNS = "zy";
const SIGN = { true: "z", false: "y" };
const SPOILED = "vr";

export const missWith = (fault) => (fault === undefined ? "m" : String(fault));
export const goodWith = (fault) => (fault === undefined ? "g" : String.fromCharCode(A + fault));
export const isGood = (stroke) => stroke === "g" || (stroke >= "A" && stroke <= "Z");
const isSpoiled = (stroke) => SPOILED.includes(stroke);
const isSign = (stroke) => SIGNS.includes(stroke);

const faultOf = (stroke) => {
  if (/\d/.test(stroke)) return Number(stroke);
  return stroke >= "A" && stroke <= "Z" ? stroke.charCodeAt(0) - A : null;
};

/** The attempts of a row: spoiled ones and signs are none. */
export const attemptsOf = (strokes) => [...strokes].filter((stroke) => !isSpoiled(stroke) && !isSign(stroke)).length;
export const goodOf = (strokes) => [...strokes].filter(isGood).length;

/** How often each fault, by its number, came on what was done as asked. before: whether the row begins easier. */
export const faultCounts = (strokes, before, counts = []) => {
  let easier = before;
  for (const stroke of strokes) {
    if (isSign(stroke)) easier = stroke === "z";
    const fault = isSign(stroke) || easier ? null : faultOf(stroke);
    if (fault !== null) counts[fault] = (counts[fault] ?? 0) + 1;
  }
  return counts;
};

/** Faults by name, on misses and on good ones, as the form has them: late:2;wide:1. */
export const faultsOf = (strokes, names) => {
  const counts = new Map();
  for (const stroke of strokes) {
    const name = names[faultOf(stroke) ?? -1];
    if (name) counts.set(name, (counts.get(name) ?? 0) + 1);
  }
  return [...counts].map(([name, times]) => `${name}:${times}`).join(";");
};

/** The marks of a tally: good, flawed (good with a fault), miss, spoiled. */
export const marksOf = (strokes) => [...strokes].filter((stroke) => !isSign(stroke)).map((stroke) => {
  if (isSpoiled(stroke)) return "spoiled";
  if (!isGood(stroke)) return "miss";
  return stroke === "g" ? "good" : "good flawed";
});

/** Whether the next stroke of a row is done easier. */
export const easierAfter = (strokes, before) => {
  const last = [...strokes].reverse().find(isSign);
  return last === undefined ? before : last === "z";
};
/** A stroke put to a row, with the sign where it was made easier or harder before it. */
export const put = (strokes, stroke, easier, before) => {
  const changed = easierAfter(strokes, before) !== easier;
  return strokes + (changed ? SIGN[String(easier)] : "") + stroke;
};
/** Without the last stroke, and without the sign before it. */
export const without = (strokes) => strokes.slice(0, -1).replace(/[zy]+$/, "");

/** Attempts that so many good ones allow: every so many earn as many more, up to the cap. */
export const allowed = ({ n, earn, cap }, good) => Math.min(cap, n + earn * Math.floor(good / earn));
