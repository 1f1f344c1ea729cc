import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";

page();
globalThis.addEventListener = () => {};
const { fewestDone, phasesOf, standing } = await import("../../assets/js/floor/rotation.js");
const { pauseOf } = await import("../../assets/js/floor/sync.js");
const { nextUp, scoreOf, trialsOf } = await import("../../assets/js/floor/trials.js");

const group = { slots: [{}, {}, {}], slot_s: 60, change_s: 20 };

test("slots with changes between them, and none after the last one", () => {
  assert.deepEqual(phasesOf(group).map((one) => [one.kind, one.slot, one.seconds]), [
    ["work", 0, 60], ["change", 0, 20], ["work", 1, 60], ["change", 1, 20], ["work", 2, 60],
  ]);
  assert.deepEqual(phasesOf({ ...group, change_s: 0 }).map((one) => one.kind), ["work", "work", "work"]);
});

test("the clock goes on while nobody looks, over as many phases as have passed", () => {
  const phases = phasesOf(group);
  assert.deepEqual(standing(phases, { at: 0, passed: 10, since: null }, 99_000), { at: 0, passed: 10 });
  assert.deepEqual(standing(phases, { at: 0, passed: 10, since: 1_000 }, 61_000), { at: 1, passed: 10 });
  assert.deepEqual(standing(phases, { at: 1, passed: 0, since: 0 }, 81_000), { at: 3, passed: 1 });
  assert.equal(standing(phases, { at: 4, passed: 0, since: 0 }, 600_000).at, 5);
});

const sprint = { id: 3, trials: 3, score_by: "best", higher: false };

test("what counts of trials: the best in its own direction, mean and median, of so many", () => {
  assert.equal(scoreOf(sprint, [2.4, 2.2, 2.3]), 2.2);
  assert.equal(scoreOf({ ...sprint, higher: true }, [2.4, 2.2, 2.3]), 2.4);
  assert.equal(scoreOf(sprint, [2.4, 2.5, 2.6, 1.0]), 2.4); // the fourth is none of three
  assert.equal(scoreOf({ ...sprint, score_by: "mean" }, [1, 2, 6]), 3);
  assert.equal(scoreOf({ ...sprint, score_by: "median" }, [9, 1, 2]), 2);
  assert.equal(scoreOf({ ...sprint, score_by: "median" }, [1, 2]), 1.5);
  assert.equal(scoreOf(sprint, []), null);
});

const day = { id: 7, done: [{ id: "a", player: 1, test: 3, side: "", value: 2.4, at: "2026-11-29T09:00:00Z" }] };
const tap = (id, value, more = {}) => ({ id, act: "trial", lane: "", at: "2026-11-29T09:05:00Z", c: 1, value: { battery: 7, test: 3, numbers: { trial: value } }, ...more });

test("trials of the server and of this device are one list, each once, without what was taken back", () => {
  const values = (taps, player = 1) => trialsOf(day, sprint, player, "", taps).map((one) => one.value);
  assert.deepEqual(values([]), [2.4]);
  assert.deepEqual(values([tap("b", 2.2)]), [2.4, 2.2]);
  assert.deepEqual(values([tap("a", 2.4), tap("b", 2.2)]), [2.4, 2.2]);
  assert.deepEqual(values([tap("b", 2.2), { id: "c", act: "undo", value: { of: "a" } }]), [2.2]);
  assert.deepEqual(values([tap("b", 2.2, { lane: "left" }), tap("d", 2, { value: { battery: 8, test: 3, numbers: { trial: 2 } } })]), [2.4]);
  assert.deepEqual(values([], 2), []);
});

test("up is who has the fewest trials, in the order of the day, rested and well", () => {
  const line = (id, place, more = {}) => ({ player: { id }, place, done: 0, left: 0, whole: false, rests: false, ...more });
  assert.equal(nextUp([line(1, 0, { done: 1 }), line(2, 1), line(3, 2)]), 2);
  assert.equal(nextUp([line(1, 0, { left: 5_000 }), line(2, 1, { rests: true }), line(3, 2, { done: 2 })]), 3);
  assert.equal(nextUp([line(1, 0, { whole: true }), line(2, 1, { left: 1 })]), null);
});

test("by turns a slot is over when the slowest who works is through, counted from where it began", () => {
  assert.deepEqual(phasesOf({ ...group, turn_reps: 5 }).map((one) => [one.kind, one.seconds]), [["work", Infinity], ["work", Infinity], ["work", Infinity]]);
  const done = ({ n }) => n;
  const works = [{ stay: 1, n: 9 }, { stay: 2, n: 4 }];
  assert.equal(fewestDone(works, done, { 1: 3 }), 4);
  assert.equal(fewestDone(works, done, { 1: 8, 2: 0 }), 1);
  assert.equal(fewestDone([], done, {}), null);
});

test("with a line hardly anything is asked, without one less and less while nothing happens", () => {
  assert.deepEqual([pauseOf(true, 0), pauseOf(true, 99)], [30_000, 30_000]);
  assert.deepEqual([pauseOf(false, 0), pauseOf(false, 30), pauseOf(false, 31)], [1200, 1200, 5000]);
});
