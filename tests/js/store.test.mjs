import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";
import { page } from "./dom.mjs";

beforeEach(() => page());

const openAnew = async () => {
  const { openPlace, held, whenHeld } = await import(`../../assets/js/store.js?${Math.random()}`);
  return { place: openPlace({ name: "n", version: 1, prefix: "p-", noted: ["taps"], upgrade() {} }), held, whenHeld };
};
const full = () => { throw new Error("full"); };

test("without a database the little place keeps it, and says on which rung", async () => {
  const { place, held } = await openAnew();
  assert.equal(await place.put("work", { id: "a", n: 1 }), "small");
  assert.deepEqual(await place.all("work"), [{ id: "a", n: 1 }]);
  assert.equal(held(), 0);
  const again = await openAnew();
  assert.deepEqual(await again.place.all("work"), [{ id: "a", n: 1 }], "and a reload finds it");
});

test("where nothing keeps it the page does, and everybody who wants to know hears of it", async () => {
  const { place, held, whenHeld } = await openAnew();
  const heard = [];
  whenHeld(() => heard.push(held()));
  localStorage.setItem = full;
  assert.equal(await place.put("work", [{ id: "a" }, { id: "b" }]), "memory");
  assert.equal(held(), 2);
  await place.drop("work", ["a"]);
  assert.deepEqual(await place.all("work"), [{ id: "b" }]);
  assert.deepEqual(heard, [0, 2, 1]);
});

test("what a fuller device said last is what is read: an older one never comes back over it", async () => {
  const { place } = await openAnew();
  await place.put("work", { id: "a", n: 1 });
  const room = localStorage.setItem;
  localStorage.setItem = full;
  await place.put("work", { id: "a", n: 2 });
  assert.deepEqual(await place.all("work"), [{ id: "a", n: 2 }]);
  localStorage.setItem = room;
  await place.put("work", { id: "a", n: 3 });
  assert.deepEqual(await place.all("work"), [{ id: "a", n: 3 }]);
});

test("two stores of one place do not see each other's records", async () => {
  const { place } = await openAnew();
  await place.put("taps", { id: "a" });
  await place.put("seen", { id: "b" });
  assert.deepEqual(await place.all("taps"), [{ id: "a" }]);
  assert.deepEqual(await place.all("seen"), [{ id: "b" }]);
});

test("what a page that is closed had not written yet is found again", async () => {
  const { place } = await openAnew();
  place.put("taps", [{ id: "a", n: 1 }]); // nobody waits for it
  const again = await openAnew();
  assert.deepEqual(await again.place.all("taps"), [{ id: "a", n: 1 }]);
});
