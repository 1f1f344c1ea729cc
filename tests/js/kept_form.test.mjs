import assert from "node:assert/strict";
import { beforeEach, test } from "node:test";
import { page } from "./dom.mjs";

beforeEach(() => page());

const ID = "5b7bb2b2-6a5c-4a4e-9f1c-111111111111";
const field = (name, value, more = {}) => ({ name, type: "text", value, ...more });
const formOf = (fields, more = {}) => {
  const elements = [...fields];
  for (const one of fields) elements[one.name] = one;
  elements.namedItem = (name) => { const found = fields.filter((one) => one.name === name); return found.length ? found : null; };
  const heard = [];
  return {
    elements, dataset: { kept: "draft-7", bound: "no", ...more }, inert: false, heard,
    addEventListener() {}, querySelector: () => null, querySelectorAll: () => [], dispatchEvent: (event) => heard.push(event.type),
  };
};
const shown = (...forms) => { document.querySelectorAll = (css) => (css === "form[data-kept]" ? forms : []); };
const kept = () => Object.keys(localStorage).filter((key) => key.startsWith("work-")).map((key) => JSON.parse(localStorage.getItem(key)));

test("a device that keeps nothing breaks nothing", async () => {
  const { local } = await import("../../assets/js/local.js");
  localStorage.getItem = () => { throw new Error("private mode"); };
  localStorage.setItem = () => { throw new Error("private mode"); };
  local.write("a", { b: 1 });
  assert.equal(local.read("a"), null);
});

test("what is no draft is read as none", async () => {
  const { local } = await import("../../assets/js/local.js");
  localStorage.setItem("a", "no JSON");
  assert.equal(local.read("a"), null);
  localStorage.setItem("a", "7");
  assert.equal(local.read("a"), null);
});

test("a draft holds what is typed and every box that is pressed, and no token", async () => {
  const { keptForms, keepForm, written } = await import("../../assets/js/kept_form.js");
  const form = formOf([
    field("csrfmiddlewaretoken", "secret"), field("session_id", ID), field("word", "Felt good"),
    field("hurts", "no", { type: "radio", checked: false }), field("hurts", "yes", { type: "radio", checked: true }),
    field("e0-seen", "0", { type: "checkbox", checked: true }), field("e0-seen", "1", { type: "checkbox", checked: true }),
  ]);
  shown(form);
  await keptForms();
  assert.equal(form.inert, false);
  assert.deepEqual(kept(), [], "nothing was tapped yet");
  keepForm(form);
  await written();
  const [one] = kept();
  assert.deepEqual([one.id, one.key, one.state], [ID, "draft-7", "tapped"]);
  assert.deepEqual(one.fields, { session_id: [ID], word: ["Felt good"], hurts: ["yes"], "e0-seen": ["0", "1"] });
});

test("it is taken up again under its own id, whatever the day, and the form hears of it", async () => {
  const { keptForms } = await import("../../assets/js/kept_form.js");
  const record = { id: ID, key: "draft-7", state: "tapped", began: "2026-03-01T22:59:00Z", fields: { session_id: [ID], "e0-strokes": ["ggm"] } };
  localStorage.setItem(`work-${ID}`, JSON.stringify(record));
  const form = formOf([field("session_id", ""), field("e0-strokes", "")], { waits: "yes" });
  shown(form);
  await keptForms();
  assert.deepEqual([form.elements.session_id.value, form.elements["e0-strokes"].value], [ID, "ggm"]);
  assert.deepEqual(form.heard, ["taken"]);
});

test("a page kept on the device is another session each time it is opened", async () => {
  const { keptForms } = await import("../../assets/js/kept_form.js");
  const form = formOf([field("session_id", "old"), field("p2-session_id", "old"), field("p2-e0-id", "old"), field("word", "x")], { waits: "yes" });
  shown(form);
  await keptForms();
  const ids = form.elements.slice(0, 3).map((one) => one.value);
  assert.equal(new Set(ids).size, 3);
  assert.ok(ids.every((id) => /^[0-9a-f-]{36}$/.test(id)));
  assert.equal(form.elements.word.value, "x");
});

test("what came back with something wrong holds what was typed, not the draft", async () => {
  const { keptForms } = await import("../../assets/js/kept_form.js");
  localStorage.setItem(`work-${ID}`, JSON.stringify({ id: ID, key: "draft-7", state: "tapped", began: "2026-03-01", fields: { word: ["old"] } }));
  const form = formOf([field("session_id", ID), field("word", "typed")], { bound: "yes", waits: "yes" });
  shown(form);
  await keptForms();
  assert.deepEqual([form.elements.word.value, form.elements.session_id.value], ["typed", ID]);
});

test("a draft of an earlier version is taken over once", async () => {
  const { keptForms, written } = await import("../../assets/js/kept_form.js");
  localStorage.setItem("draft-7-2026-11-25", JSON.stringify({ "e0-strokes": "gg" }));
  const form = formOf([field("session_id", ID), field("e0-strokes", "")]);
  shown(form);
  await keptForms();
  await written();
  assert.equal(form.elements["e0-strokes"].value, "gg");
  assert.equal(localStorage.getItem("draft-7-2026-11-25"), null);
  assert.equal(kept().length, 1);
});
