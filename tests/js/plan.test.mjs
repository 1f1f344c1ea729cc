import assert from "node:assert/strict";
import { test } from "node:test";
import { page, started } from "./dom.mjs";

const PLAN = {
  units: "m",
  margin: 0.5,
  markers: [{ id: "A", x: 0, y: 0 }, { id: "B", x: 2, y: 0 }],
  legs: [{ from: "A", to: "B", way: "", do: "" }],
};

const fresh = async () => {
  page({ "plan-document": PLAN });
  const { floorPlan } = await import("../../assets/js/plan.js");
  const it = started(() => Object.defineProperties({}, Object.getOwnPropertyDescriptors(floorPlan())), { look() {}, $refs: {} });
  it.look = () => {};
  return it;
};

test("a marker that is renamed keeps its legs", async () => {
  const it = await fresh();
  it.setMarker(0, "id", "start");
  assert.deepEqual(it.plan.legs[0], { from: "start", to: "B", way: "", do: "" });
});

test("a marker that goes takes its legs along, and undo brings both back", async () => {
  const it = await fresh();
  it.dropMarker(1);
  assert.equal(it.plan.legs.length, 0);
  it.undo();
  assert.deepEqual(it.plan.legs, PLAN.legs);
});

test("mirrored twice is as before, and zero has no sign", async () => {
  const it = await fresh();
  it.addZone();
  const before = JSON.stringify(it.plan);
  it.mirror();
  assert.equal(Object.is(it.plan.markers[0].x, -0), false);
  it.mirror();
  assert.equal(JSON.stringify(it.plan), before);
});

test("a zone is typed as the box around it", async () => {
  const it = await fresh();
  it.addZone();
  it.setZone(0, "width", 3);
  const { width, depth } = it.boxes[0];
  assert.deepEqual([width, depth], [3, 1]);
});
