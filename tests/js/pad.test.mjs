import assert from "node:assert/strict";
import { test } from "node:test";
import { field, page, started } from "./dom.mjs";

const ENTRIES = [{ prefix: "e0", title: "Left", asked: 3 }, { prefix: "e1", title: "Right", asked: 2 }];

const form = () => {
  const elements = [];
  for (const { prefix } of ENTRIES) {
    for (const name of ["attempts", "makes", "faults", "strokes"]) {
      elements[`${prefix}-${name}`] = field();
      elements.push(Object.assign(elements[`${prefix}-${name}`], { name: `${prefix}-${name}`, type: "text" }));
    }
  }
  return { elements, dataset: { draft: "draft-1" } };
};

const fresh = async () => {
  page({ "pad-faults": ["late", "wide"], "pad-entries": ENTRIES });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  return { it: started(pad, { $root: root }), root };
};

test("strokes become totals with named misses, lane after lane", async () => {
  const { it, root } = await fresh();
  it.hit(); it.miss(0); it.miss();
  assert.equal(it.at, 1);
  assert.equal(root.elements["e0-makes"].value, 1);
  assert.equal(root.elements["e0-attempts"].value, 3);
  assert.equal(root.elements["e0-faults"].value, "late:1");
  it.miss(1); it.hit();
  assert.equal(it.finished, true);
  it.hit();
  assert.equal(it.entries[1].strokes, "1g", "a stroke too many counts for nothing");
});

test("undo goes back over lanes, and to nothing at all", async () => {
  const { it, root } = await fresh();
  it.hit(); it.hit(); it.hit(); it.hit();
  it.undo(); it.undo();
  assert.equal(it.at, 0);
  assert.equal(it.said, "2 good of 2");
  it.undo(); it.undo(); it.undo();
  assert.equal(root.elements["e0-attempts"].value, "", "what nobody counted is empty, not zero");
});

test("a total typed by hand takes the place of the strokes", async () => {
  const { it, root } = await fresh();
  it.hit();
  it.typed(0);
  assert.equal(root.elements["e0-strokes"].value, "");
  assert.equal(it.entries[0].strokes, "");
});

test("what is counted is kept on the device", async () => {
  const { it } = await fresh();
  it.hit();
  (await import("../../assets/js/draft.js")).writeDrafts();
  assert.equal(JSON.parse(localStorage.getItem("draft-1"))["e0-makes"], 1);
});
