import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { test } from "node:test";
import { idleShare, queue } from "../../assets/js/floor/queue.js";
import { fold, isBusy, progress, restLeft, rowSaid } from "../../assets/js/floor/state.js";

// the same cases as tests/core/test_hall.py reads: the device and the server fold alike
const cases = JSON.parse(readFileSync(new URL("../hall_cases.json", import.meta.url), "utf8"));

for (const one of cases) {
  test(`folded as on the server: ${one.name}`, () => {
    const found = fold(one.work, [...one.taps].reverse().concat(one.taps));
    assert.deepEqual(found.sets.map((set) => [set.lane, set.strokes, set.eased]), one.sets);
    const at = progress({ ...one.work, said: one.work.lanes }, found);
    assert.equal(at.whole, one.whole);
    if (!at.whole) assert.equal(at.next, one.next);
  });
}

const work = { kind: "makes", reps: 2, sets: 2, lanes: [], rest: 30 };
const stroke = (second, text = "g") => ({ id: `t${second}`, at: new Date(second * 1000).toISOString(), act: "stroke", lane: "", value: { stroke: text } });

test("rest begins with the end of a set, and not in the middle of one", () => {
  const ended = fold(work, [stroke(1), stroke(2)]);
  assert.equal(restLeft(work, ended, 12_000), 20_000);
  assert.equal(restLeft(work, ended, 40_000), 0);
  const begun = fold(work, [stroke(1), stroke(2), stroke(40)]);
  assert.equal(restLeft(work, begun, 41_000), 0);
  assert.ok(isBusy(begun, 41_000));
  assert.ok(!isBusy(begun, 200_000));
  assert.ok(!isBusy(ended, 3_000));
});

test("a set that ends itself says what it has come to, until it is over", () => {
  const lives = { kind: "until_lost", lost: 2, cap: null, sets: 1, lanes: [], rest: 0 };
  const said = (...strokes) => rowSaid(lives, fold(lives, strokes.map((one, i) => stroke(i + 1, one))), "");
  assert.equal(said("g", "1", "A"), "2 good, 1 of 2 lost");
  assert.equal(said("g", "1", "m"), "");
  assert.equal(said(), "");
  assert.equal(rowSaid(work, fold(work, [stroke(1)]), ""), "");
});

test("who has waited longest is next, and rest by intent is kept", () => {
  const players = [
    { id: 1, open: true, busy: true, readyAt: 0 },
    { id: 2, open: true, busy: false, readyAt: 50 },
    { id: 3, open: true, busy: false, readyAt: 20 },
    { id: 4, open: true, busy: false, readyAt: 900 },
    { id: 5, open: false, busy: false, readyAt: 0 },
  ];
  const found = queue(players, 2, 100);
  assert.deepEqual(found.busy.map((one) => one.id), [1]);
  assert.deepEqual(found.up.map((one) => one.id), [3]);
  assert.deepEqual(found.then.map((one) => one.id), [2, 4]);
  assert.deepEqual(queue(players, 1, 100).up, []);
});

test("idle is neither work nor rest, by hand", () => {
  // 100 s there: 20 s of work, 30 s of rest, 50 s of nothing
  assert.equal(idleShare([{ came: 0, until: 100, sets: [[0, 20]], rest: 30 }]), 0.5);
  // the next set cuts the rest short: 10 work, 10 rest, 10 work, 30 rest of 60
  assert.equal(idleShare([{ came: 0, until: 60, sets: [[0, 10], [20, 30]], rest: 30 }]), 0);
  assert.equal(idleShare([]), 0);
});
