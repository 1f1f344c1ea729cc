// Folds what comes in on stdin, for tests/db/test_folds_alike.py: [[work, taps], ...] -> what they come to.
import { readFileSync } from "node:fs";
import { fold, progress } from "../../assets/js/floor/state.js";

const asked = JSON.parse(readFileSync(0, "utf8"));
console.log(JSON.stringify(asked.map(([work, taps]) => {
  const found = fold(work, taps);
  const sets = found.sets.map((one) => [one.lane, one.strokes, one.eased, one.feeder, one.tempo, one.feed, one.seen]);
  return { sets, more: found.more, closed: found.closed, tired: found.tired, reads: found.reads, form: found.form, whole: progress(work, { ...found, more: 0 }).whole };
})));
