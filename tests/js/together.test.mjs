import assert from "node:assert/strict";
import { test } from "node:test";
import { page } from "./dom.mjs";

const judged = (place, done, finished = false) => ({ place, done, finished });

test("parts that go together are one group, whoever asks", async () => {
  page({});
  const { groupOf } = await import("../../assets/js/routine_run.js");
  const together = [false, true, true, false, true];
  assert.deepEqual([0, 1, 2, 3, 4].map((place) => groupOf(together, place)), [[0, 1, 2], [0, 1, 2], [0, 1, 2], [3, 4], [3, 4]]);
  assert.deepEqual(groupOf([false], 0), [0]);
  assert.deepEqual(groupOf([true, true], 1), [0, 1], "the first goes with nothing before it");
});

test("who is behind judges next, and what was judged last is taken back", async () => {
  page({});
  const { nextJudged, lastJudged } = await import("../../assets/js/routine_run.js");
  assert.equal(nextJudged([judged(0, 1), judged(1, 0)], 0), 1);
  assert.equal(nextJudged([judged(0, 1), judged(1, 1)], 1), 0);
  assert.equal(nextJudged([judged(0, 1), judged(1, 1, true)], 1), 0, "one that has its number waits for nobody");
  assert.equal(nextJudged([judged(0, 2, true), judged(1, 2, true)], 1), 1);
  assert.equal(lastJudged([judged(0, 2), judged(1, 1)], 1), 0);
  assert.equal(lastJudged([judged(0, 2), judged(1, 2)], 0), 1);
  assert.equal(lastJudged([judged(0, 0), judged(1, 0)], 1), 1, "nothing was judged: nothing moves");
});

test("whatever order they are counted in, two parts differ by one repetition at most", async () => {
  page({});
  const { nextJudged } = await import("../../assets/js/routine_run.js");
  let seed = 29;
  const random = () => { seed = (seed * 16807) % 2147483647; return seed / 2147483647; };
  for (let round = 0; round < 200; round += 1) {
    const asked = [1, 2, 3].slice(0, 2 + Math.floor(random() * 2)).map(() => 1 + Math.floor(random() * 9));
    const group = asked.map((_, place) => judged(place, 0));
    let now = 0;
    for (let n = 0; n < asked.reduce((a, b) => a + b); n += 1) {
      group[now].done += 1;
      group[now].finished = group[now].done >= asked[now];
      const open = group.filter((one) => !one.finished).map((one) => one.done);
      if (open.length) assert.ok(Math.max(...open) - Math.min(...open) <= 1);
      now = nextJudged(group, now);
    }
    assert.ok(group.every((one, place) => one.done === asked[place]), "each is judged as often as it asks");
  }
});
