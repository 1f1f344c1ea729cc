import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";
import { page } from "./dom.mjs";

beforeEach(() => page());

test("a device that keeps nothing breaks nothing", async () => {
  const { store } = await import("../../assets/js/draft.js");
  localStorage.getItem = () => { throw new Error("private mode"); };
  localStorage.setItem = () => { throw new Error("private mode"); };
  store.write("a", { b: 1 });
  assert.equal(store.read("a"), null);
});

test("what is no draft is read as none", async () => {
  const { store } = await import("../../assets/js/draft.js");
  localStorage.setItem("a", "no JSON");
  assert.equal(store.read("a"), null);
  localStorage.setItem("a", "7");
  assert.equal(store.read("a"), null);
});

test("a draft holds what is typed and pressed, and no token", async () => {
  const { keepDraft, store, writeDrafts } = await import("../../assets/js/draft.js");
  const elements = [
    { name: "csrfmiddlewaretoken", type: "hidden", value: "secret" },
    { name: "word", type: "text", value: "Felt good" },
    { name: "hurts", type: "radio", value: "no", checked: false },
    { name: "hurts", type: "radio", value: "yes", checked: true },
  ];
  keepDraft({ elements, dataset: { draft: "draft-7" } });
  assert.equal(store.read("draft-7"), null); // the stroke is painted first
  elements[1].value = "Felt very good";
  writeDrafts();
  assert.deepEqual(store.read("draft-7"), { word: "Felt very good", hurts: "yes" });
  store.drop("draft-7");
  writeDrafts(); // nothing has changed since
  assert.equal(store.read("draft-7"), null);
});
