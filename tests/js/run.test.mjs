import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";

test("the run's steps lie over what counts, and share no name with it", async () => {
  page({});
  const { steps } = await import("../../assets/js/run.js");
  const { pad } = await import("../../assets/js/pad.js");
  const { instrument } = await import("../../assets/js/instruments/instrument.js");
  for (const make of [pad, instrument]) {
    const own = Object.getOwnPropertyDescriptors(make());
    assert.deepEqual(Object.keys(own).filter((name) => name in steps()), []);
  }
});
