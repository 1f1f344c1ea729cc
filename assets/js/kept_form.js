// What is typed and tapped into a card or a log is kept on the device as it is, until the server says that it has it.
import { moment, now } from "./clock.js";
import { pageDay } from "./days.js";
import { flush, later } from "./later.js";
import { deviceId, local, newId } from "./local.js";
import { work } from "./work.js";

const HURT = ["hurts", "hurt_where"];
const PRESSED = ["radio", "checkbox"];
const IDS = /^(?:.*-)?(?:session_id|e\d+-id)$/;

/** @type {WeakMap<HTMLFormElement, import("./work.js").Work>} */
const records = new WeakMap();
const heardFrom = globalThis.BroadcastChannel ? new BroadcastChannel("work") : null;

// by name, and not by looking at every field of the form for each
const fieldsOf = (form, name) => {
  const found = form.elements.namedItem(name);
  if (!found) return [];
  return found.tagName ? [found] : [...found];
};
const valuesOf = (form, name) => fieldsOf(form, name)
  .filter((field) => !PRESSED.includes(field.type) || field.checked).map((field) => field.value);
const names = (form) => new Set([...form.elements].map((field) => field.name).filter((name) => name && name !== "csrfmiddlewaretoken"));

// --- written as it is tapped: one writing at a time, the last state wins, and nobody waits for it

/** @type {Map<import("./work.js").Work, boolean>} a record that is being written -> whether it changed meanwhile */
const writing = new Map();
let idle = Promise.resolve();
const write = (record) => {
  if (writing.has(record)) { writing.set(record, true); return; }
  writing.set(record, false);
  idle = (async () => {
    do {
      writing.set(record, false);
      await work.put({ ...record, fields: { ...record.fields } });
    } while (writing.get(record));
    writing.delete(record);
    heardFrom?.postMessage(record.key);
  })();
};
/** When everything that was tapped is written. */
export const written = () => { flush(); return idle; };

/** @type {Map<any, Set<string>>} a form -> its fields that changed since they were kept last */
const changed = new Map();
const keepChanged = () => {
  for (const [form, names_] of changed) {
    const record = records.get(form);
    if (!record) continue;
    for (const name of names_) record.fields[name] = valuesOf(form, name);
    write(record);
  }
  changed.clear();
};

/**
 * Keep what stands in a form (or in a part of one), all of it or some of its fields.
 * @param {any} root
 * @param {Iterable<string>} [only]
 */
export const keepForm = (root, only) => {
  const form = root.tagName === "FIELDSET" ? root.form : root;
  if (!records.has(form)) return;
  const first = changed.size === 0;
  const fields = changed.get(form) ?? new Set();
  for (const name of only ?? names(form)) fields.add(name);
  changed.set(form, fields);
  if (first) later(keepChanged);
};

/** The record of a form, for whoever completes it. */
export const recordOf = (form) => { flush(); return records.get(form); };

const put = (form, fields) => {
  for (const field of form.elements) {
    const values = fields[field.name];
    if (!values) continue;
    if (PRESSED.includes(field.type)) field.checked = values.includes(field.value);
    else field.value = values[0] ?? "";
  }
};

// a form of an earlier version, which was kept by its day
const old = (key) => {
  try {
    const found = Object.keys(localStorage).filter((name) => name.startsWith(`${key}-`)).sort().pop();
    const kept = found ? local.read(found) : null;
    if (!found || !kept) return null;
    local.drop(found);
    return Object.fromEntries(Object.entries(kept).map(([name, value]) => [name, [value]]));
  } catch { return null; }
};

// A page that is kept on the device has the ids of the day on which it came: each time it is opened it is another session,
// unless a kept form takes it up again (which brings its own).
const freshIds = (form) => {
  for (const field of form.elements) if (IDS.test(field.name)) field.value = newId();
};

/** @returns {import("./work.js").Work} */
const begin = (form, key) => {
  const fields = Object.fromEntries([...names(form)].map((name) => [name, valuesOf(form, name)]));
  return { id: fields.session_id?.[0] || newId(), key, state: "tapped", began: moment(), fields };
};

// what was begun on another day is shown with its day, and may be begun anew
const sayOld = (form, record) => {
  const box = form.querySelector("[data-old]");
  const day = new Date(record.began);
  if (!box || day.toDateString() === new Date(now()).toDateString()) return;
  box.querySelector("[data-when]").textContent = day.toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });
  box.hidden = false;
  box.querySelector("button").addEventListener("click", async () => { await work.drop(record.id); location.reload(); });
};

// what was tapped before is put back: kept by this version, or by the one before it
const takeUp = async (form, key) => {
  const kept = await work.tapped(key);
  if (kept) {
    put(form, kept.fields);
    sayOld(form, kept);
    return kept;
  }
  const before = old(key);
  if (!before) return null;
  put(form, before);
  const record = begin(form, key);
  write(record);
  return record;
};

const open = async (form) => {
  const key = form.dataset.kept;
  if (form.elements.device) form.elements.device.value = deviceId();
  const bound = form.dataset.bound === "yes"; // it came back with something wrong, and holds what was typed
  if (form.dataset.waits === "yes" && !bound) freshIds(form);
  const taken = bound ? null : await takeUp(form, key);
  if (!bound) pageDay(form, Boolean(taken?.fields.on?.[0]));
  records.set(form, taken ?? begin(form, key));
  if (taken) tell(form);
};

// whatever counts in a form takes over what stands in its fields
const tell = (form) => {
  for (const part of [form, ...form.querySelectorAll("fieldset[x-data]")]) part.dispatchEvent(new CustomEvent("taken"));
};

// the server cleans what it hears, and cuts it where it is too long
const heard = (words, told) => {
  const plain = words.trim().replace(/\s+/g, " ");
  return plain === "" || told.some((one) => one === plain || (one.endsWith("…") && plain.startsWith(one.slice(0, -1))));
};

// a hurt that the server has heard is not told again by a kept form: the next one is a new one
const forgetHurt = async (told) => {
  for (const one of await work.all()) {
    if (one.state !== "tapped" || !heard(one.fields.hurt_where?.[0] ?? "", told)) continue;
    for (const name of HURT) delete one.fields[name];
    await work.put(one);
  }
};

// two tabs on one block show and count the same strokes: what one of them wrote the other takes over
const follow = (forms) => heardFrom?.addEventListener("message", async ({ data: key }) => {
  for (const form of forms) {
    const kept = form.dataset.kept === key ? await work.tapped(key) : null;
    if (!kept) continue;
    put(form, kept.fields);
    records.set(form, kept);
    tell(form);
  }
});

export const keptForms = async () => {
  const forms = /** @type {HTMLFormElement[]} */ ([...document.querySelectorAll("form[data-kept]")]);
  const told = [.../** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("[data-told]"))].map((one) => one.dataset.told);
  for (const form of forms) form.inert = true; // for some milliseconds: nothing is tapped before what was tapped is back
  try {
    if (told.length) await forgetHurt(told);
    for (const form of forms) {
      await open(form);
      form.addEventListener("input", (event) => keepForm(form, [/** @type {HTMLInputElement} */ (event.target).name]));
      form.addEventListener("change", (event) => keepForm(form, [/** @type {HTMLInputElement} */ (event.target).name]));
    }
    follow(forms);
  } catch { /* a device that keeps nothing counts all the same */ }
  for (const form of forms) form.inert = false;
  document.documentElement.dataset.keptForms = "ready";
};
