import assert from "node:assert/strict";
import { test } from "node:test";
import { MACHINES, faultOfLanding } from "../../assets/js/instruments/machines.js";

const LANDINGS = [["corner", 3], ["side", 2], ["middle", 0], ["out", 0]];
const given = { kind: "points", entries: [], landings: LANDINGS };

test("a key is a place: it brings its points, and is counted by its name unless it is the best", () => {
  const machine = MACHINES.points(given);
  assert.deepEqual(machine.fields("0133"), { points: 5, attempts: 4, faults: "side:1;out:2" });
  assert.deepEqual(machine.fields(""), { points: "", attempts: "", faults: "" });
  assert.deepEqual(machine.fields("00"), { points: 6, attempts: 2, faults: "" });
  assert.equal(machine.said("012"), "5 points in 3");
});

test("points without places are as they were", () => {
  const machine = MACHINES.points({ kind: "points", entries: [] });
  assert.deepEqual(machine.fields("0133"), { points: 7, attempts: 4 });
});

test("in the hall one attempt has at most one name", () => {
  assert.deepEqual(LANDINGS.map((_, i) => faultOfLanding(LANDINGS, i)), [{}, { side: 1 }, { middle: 1 }, { out: 1 }]);
});
