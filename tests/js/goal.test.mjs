import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";
import { goalWords, teamPoints, towards } from "../../assets/js/floor/goal.js";

let count = 0;
const tap = (second, value, act = "stroke") => { count += 1; return { id: `t${count}`, at: new Date(second * 1000).toISOString(), act, stay: 1, player: 1, lane: "", value, n: count }; };
const strokes = (text, first = 0, each = 1) => [...text].map((stroke, i) => tap(first + i * each, { stroke }));

test("a row goes on over all players, and a miss of anybody breaks it", () => {
  assert.deepEqual(towards("row", strokes("ggmggBv1gg")), { now: 2, best: 3 });
  assert.deepEqual(towards("row", []), { now: 0, best: 0 });
});

test("what was taken back breaks no row", () => {
  const taps = strokes("ggmg");
  const undo = tap(9, { of: taps[2].id }, "undo");
  assert.deepEqual(towards("row", [...taps, undo]), { now: 3, best: 3 });
});

test("a whole set goes on with a row where nothing was missed in it", () => {
  const taps = [...strokes("gg"), tap(5, { numbers: { makes: 6, attempts: 6 } }, "result"), ...strokes("g", 6)];
  assert.deepEqual(towards("row", taps), { now: 9, best: 9 });
  assert.deepEqual(towards("row", [...taps, tap(8, { numbers: { makes: 9, attempts: 10 } }, "result")]), { now: 0, best: 9 });
  assert.deepEqual(towards("row", [tap(1, { numbers: { seconds: 9 } }, "result")]), { now: 0, best: 0 });
});

test("a minute is any sixty seconds", () => {
  assert.deepEqual(towards("minute", strokes("gggggg", 0, 20)), { now: 3, best: 3 }, "20, 40, 60: the first is a minute ago");
  assert.deepEqual(towards("minute", [...strokes("ggmgg", 0, 5), ...strokes("g", 200)]), { now: 1, best: 4 });
});

test("taps of devices come in any order", () => {
  assert.deepEqual(towards("row", strokes("ggmg").reverse()), { now: 1, best: 2 });
});

test("it is said without a name", () => {
  assert.equal(goalWords(null, "row", [], 0), "");
  assert.equal(goalWords(50, "sum", [], 7), "7 of 50 good, all together");
  assert.equal(goalWords(20, "row", strokes("ggg"), 3), "3 of 20 in a row, all together, best 3");
  assert.equal(goalWords(2, "minute", strokes("ggm"), 2), "2 of 2 good within a minute, all together ✓ reached, best 2");
});

test("points: a good one brings its worth, and what is scored in points brings these", () => {
  const scored = { id: "p", at: "2026-12-02T10:00:00Z", act: "result", stay: 2, lane: "", value: { numbers: { points: 2, attempts: 1 } } };
  assert.equal(goalWords(30, "points", [...strokes("ggm"), scored], 2, 5), "12 of 30 points, all together");
  assert.equal(goalWords(30, "points", [], 0, 5), "0 of 30 points, all together");
});

test("two teams: whoever wears a bib, by what was said last; nobody is named", () => {
  const of = (player, tap) => ({ ...tap, player });
  const says = (player, on) => ({ ...of(player, tap(0, { on }, "team")), stay: null });
  const taps = [says(1, true), says(2, true), says(2, false), ...strokes("ggm").map((one) => of(1, one)), ...strokes("g").map((one) => of(2, one)), of(3, strokes("g")[0])];
  assert.deepEqual(teamPoints(taps, 1), [2, 2]);
  assert.deepEqual(teamPoints(taps, 3), [6, 6]);
  assert.equal(goalWords(2, "teams", taps, 0), "With bibs 2 ✓ · without 2 ✓ · first to 2");
  assert.equal(goalWords(0, "teams", taps, 0), "");
});

test("shared out, teams differ by one at most", async () => {
  page();
  globalThis.addEventListener = () => {};
  const { sharedOut } = await import("../../assets/js/floor/teams.js");
  const five = sharedOut([1, 2, 3, 4, 5].map((id) => ({ id })));
  assert.deepEqual([five.filter((one) => one.on).length, new Set(five.map((one) => one.player.id)).size], [3, 5]);
});
