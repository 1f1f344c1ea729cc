import assert from "node:assert/strict";
import { test } from "node:test";
import { faultToEase } from "../../assets/js/instruments/easing.js";
import { lastInTurn, nextInTurn, nextOf, turnsOf } from "../../assets/js/instruments/order.js";
import { faultCounts } from "../../assets/js/instruments/strokes.js";
import { fold, formSlips, offered, progress, restLeft } from "../../assets/js/floor/state.js";

/** The lanes as they come, where each is done as it comes. */
const walk = (turns, asked) => {
  const done = Object.fromEntries(Object.keys(asked).map((lane) => [lane, 0]));
  const lanes = [];
  for (let lane = nextInTurn(turns, done, asked); lane !== null; lane = nextInTurn(turns, done, asked)) {
    assert.equal(lanes.length ? lastInTurn(turns, done) : null, lanes.at(-1) ?? null);
    done[lane] += 1;
    lanes.push(lane);
  }
  return lanes.join(" ");
};

test("lanes go in turn until each has its number", () => {
  assert.equal(walk(["l", "r"], { l: 3, r: 3 }), "l r l r l r");
  assert.equal(walk(["s", "l", "r", "r"], { s: 1, l: 2, r: 3 }), "s l r r l r");
  assert.equal(walk(["l"], { l: 2, r: 2 }), "l l", "a lane that the order does not name has no turn in it");
  assert.equal(nextInTurn(["l", "r"], { l: 2, r: 0 }, { l: 3, r: 3 }), "r", "whoever went ahead by hand is waited for");
  assert.equal(nextInTurn([], {}, { l: 1 }), null);
  assert.equal(lastInTurn(["l", "r"], {}), null);
  assert.deepEqual(turnsOf({ turns: "left|ahead right" }), ["left", "ahead right"]);
  assert.deepEqual(turnsOf({ turns: "" }), []);
  assert.equal(nextOf(["l", "r"], [{ lane: "l", done: 1, asked: 2 }, { lane: "r", done: 0, asked: 2 }]), "r");
});

test("any order and any numbers come to an end with every named lane full", () => {
  let seed = 7;
  const dice = (n) => { seed = (seed * 1103515245 + 12345) % 2147483648; return seed % n; };
  for (let i = 0; i < 300; i += 1) {
    const turns = Array.from({ length: 1 + dice(6) }, () => "abc"[dice(3)]);
    const asked = { a: dice(5), b: dice(5), c: dice(5) };
    const lanes = walk(turns, asked).split(" ").filter(Boolean);
    for (const lane of "abc") assert.equal(lanes.filter((one) => one === lane).length, turns.includes(lane) ? asked[lane] : 0);
  }
});

test("faults are counted by kind on what was done as asked alone", () => {
  assert.deepEqual([...faultCounts("0gm0Az1y1", false)], [3, 1]);
  assert.deepEqual([...faultCounts("0y0", true)], [1], "what began easier counts from y on");
  assert.equal(faultToEase([2, 3], [], 3), 1);
  assert.equal(faultToEase([2, 5], [0, 3], 3), -1, "passed over: three more have to come");
  assert.equal(faultToEase([9], [], 0), -1);
});

const tap = (n, act, value, lane = "", at = n) => ({ id: `t${n}`, n, c: n, at: new Date(Date.UTC(2028, 4, 1, 10, 0, at)).toISOString(), act, value, lane });
const work = { kind: "makes", reps: 2, sets: 2, lanes: ["left", "right"], rest: 0, rest_each: 20, turns: ["left", "right"], ease_faults: 2, faults: ["late"] };

test("in the hall a player's next lane is the one whose turn it is", () => {
  const taps = [];
  const lanes = [];
  for (let n = 1; n <= 8; n += 1) {
    const lane = progress(work, fold(work, taps)).next;
    lanes.push(lane);
    taps.push(tap(n, "stroke", { stroke: "g" }, lane));
  }
  assert.equal(lanes.join(" "), "left right left right left right left right");
  assert.equal(progress(work, fold(work, taps)).whole, true);
});

test("in the hall the rest runs between any two, and the easier way is offered and passed over", () => {
  const taps = [tap(1, "stroke", { stroke: "0" }, "left")];
  const now = Date.UTC(2028, 4, 1, 10, 0, 6);
  assert.equal(restLeft(work, fold(work, taps), now), 15_000);
  assert.equal(offered(work, fold(work, taps), []), -1);
  taps.push(tap(2, "stroke", { stroke: "A" }, "right"));
  assert.equal(offered(work, fold(work, taps), []), 0);
  assert.equal(offered(work, fold(work, taps), [2]), -1);
  taps.push(tap(3, "easier", { on: true }));
  assert.equal(offered(work, fold(work, taps), []), -1, "nobody is offered what they do");
});

test("technique under its mark in the last third offers the easier way, and earlier or unseen it does not", () => {
  const looks = { sets: 3, lanes: ["left", "right"], form_min: 0.75, checkpoints: ["low", "still", "through", "finish"] };
  const sets = (...seen) => ({ eased: false, sets: seen.map((of_) => ({ lane: "left", eased: false, seen: of_ === null ? null : Array.from({ length: of_ }, (_, i) => i) })) });
  assert.equal(formSlips(looks, sets(0, 0, 0, 0)), null, "two thirds are warming up to it");
  assert.equal(formSlips(looks, sets(4, 4, 4, 4, 2)), 0.5);
  assert.equal(formSlips(looks, sets(4, 4, 4, 4, 2, 4)), null, "three of four, as asked");
  assert.equal(formSlips(looks, sets(4, 4, 4, 4, null)), null, "nobody looked");
  assert.equal(formSlips({ ...looks, form_min: null }, sets(4, 4, 4, 4, 0)), null);
  assert.equal(formSlips({ ...looks, sets: 1 }, sets(0, 0)), null, "too few sets for thirds");
  assert.equal(formSlips(looks, { ...sets(4, 4, 4, 4, 0), eased: true }), null);
});
