import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";

const PHASES = [
  { kind: "work", title: "Set 1 of 2", seconds: 30, calls: [], slot: 1 },
  { kind: "rest", title: "Rest", seconds: 20, calls: [], slot: 2 },
];

const fresh = async () => {
  page({ "run-phases": PHASES });
  const { runner } = await import("../../assets/js/runner.js");
  const it = runner();
  it.init();
  return it;
};

test("the clock says minutes and seconds, and never less than nothing", async () => {
  const it = await fresh();
  assert.equal(it.clock, "0:30");
  it.passed = 29.2;
  assert.equal(it.clock, "0:01");
  it.passed = 31;
  assert.equal(it.clock, "0:00");
});

test("part after part, and then it is over", async () => {
  const it = await fresh();
  assert.equal(it.word, "Start");
  assert.equal(it.ahead, "Then: Rest, 20 s");
  it.next();
  assert.equal(it.kind, "rest");
  it.next();
  assert.deepEqual([it.over, it.title, it.word, it.slot], [true, "Done", "Again", 2]);
});
