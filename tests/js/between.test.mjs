// What comes between sets in the hall: a slow one first, its short rest, and calls that go on by themselves.
import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";
import { fold, progress } from "../../assets/js/floor/state.js";

page();
globalThis.addEventListener = () => {};
const { askedDone, askedNow, askedWords, callsGoOn, slowOver } = await import("../../assets/js/floor/between.js");

const WORK = { kind: "makes", lanes: [], said: [], sets: 2, reps: 2, rest: 0, slow_first: 20 };
const stroke = (n) => ({ id: `${n}`, at: new Date(Date.now() - 1000 + n).toISOString(), act: "stroke", lane: "", value: { stroke: "g" }, n });
const read = (work, taps) => {
  const folded = fold(work, taps);
  const at = progress(work, folded);
  return { folded, at, over: folded.closed || at.whole };
};

test("a slow one comes before each set, once, and its rest runs", () => {
  const place = {};
  const none = read(WORK, []);
  const hall = { slow: new Map(), read: () => none };
  assert.equal(askedNow(WORK, none, place), "slow");
  askedDone(hall, { ...WORK, stay: 7 }, place);
  assert.equal(askedNow(WORK, none, place), "");
  const left = hall.slow.get(7) - Date.now();
  assert.ok(left > 19_000 && left <= 21_000, `${left}`);
  slowOver(hall);
  assert.equal(hall.slow.size, 1, "it runs on");
  hall.slow.set(7, 0);
  slowOver(hall);
  assert.equal(hall.slow.size, 0);
  assert.equal(askedNow(WORK, read(WORK, [1].map(stroke)), place), "", "in the middle of a set");
  assert.equal(askedNow(WORK, read(WORK, [1, 2].map(stroke)), place), "slow", "before the second");
  assert.equal(askedNow(WORK, read(WORK, [1, 2, 3, 4].map(stroke)), place), "", "all is done");
  assert.equal(askedNow({ ...WORK, slow_first: 0 }, none, {}), "");
});

test("whoever counted without it is not asked in the middle of a set, other lanes of it included", () => {
  const lanes = { ...WORK, lanes: ["left", "right"], said: ["left", "right"] };
  const left = [1, 2].map((n) => ({ ...stroke(n), lane: "left" }));
  assert.equal(askedNow(lanes, read(lanes, left), {}), "");
});

test("a turn that is under way is a set that was begun", () => {
  const turns = { ...WORK, kind: "streak", reps: null };
  assert.equal(askedNow(turns, read(turns, [stroke(1)]), {}), "");
  assert.equal(askedNow(turns, read(turns, []), {}), "slow");
});

test("calls of the next set begin when the rest has ended, unless they were stopped", () => {
  let begun = 0;
  const caller = { callsOn: () => false, again: () => { begun += 1; } };
  const rests = { ...WORK, rest: 60 };
  const place = { caller };
  callsGoOn(WORK, read(WORK, [1, 2].map(stroke)), place);
  assert.equal(begun, 0, "without a rest nothing begins by itself");
  callsGoOn(rests, read(rests, [1, 2].map(stroke)), place);
  assert.deepEqual([begun, place.rested], [0, true]);
  const over = { ...rests, rest: 0 };
  callsGoOn(over, read(over, [1, 2].map(stroke)), place);
  callsGoOn(over, read(over, [1, 2].map(stroke)), place);
  assert.equal(begun, 1, "once");
  Object.assign(place, { rested: true, caller: { ...caller, again: null } });
  callsGoOn(over, read(over, [1, 2].map(stroke)), place);
  assert.equal(begun, 1);
  Object.assign(place, { rested: true, caller });
  callsGoOn(over, read(over, [1, 2, 3, 4].map(stroke)), place);
  assert.deepEqual([begun, place.rested], [1, false], "all is done");
});

test("good ones that end a set come before the slow one of the next, and after the last set too", () => {
  const work = { ...WORK, stay: 8, finish_good: 4 };
  const place = {};
  let taps = [1, 2].map(stroke);
  const hall = { slow: new Map(), read: () => read(work, taps) };
  assert.equal(askedNow(work, read(work, []), place), "slow", "nothing is ended yet");
  assert.equal(askedNow(work, hall.read(), place), "finish");
  assert.equal(askedWords(work, "finish"), "To finish: 4 good ones, not counted");
  askedDone(hall, work, place);
  assert.equal(askedNow(work, hall.read(), place), "slow");
  askedDone(hall, work, place);
  assert.equal(askedNow(work, hall.read(), place), "");
  taps = [1, 2, 3, 4].map(stroke);
  assert.equal(askedNow(work, hall.read(), place), "finish");
});
