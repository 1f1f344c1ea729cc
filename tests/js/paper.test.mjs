import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";

page();
const { goesTo } = await import("../../assets/js/paper.js");
const cell = (name) => ({ name });

test("Enter goes down its column, then to how hard it was, then to the next block", () => {
  assert.ok(goesTo(cell("s7-line-1-e0-makes"), cell("s7-line-1-e1-makes")));
  assert.ok(!goesTo(cell("s7-line-1-e0-makes"), cell("s7-line-1-e1-attempts")));
  assert.ok(goesTo(cell("s7-line-1-e9-seconds"), cell("s7-line-1-effort")));
  assert.ok(goesTo(cell("s7-line-1-effort"), cell("s8-line-1-e0-count")));
});
