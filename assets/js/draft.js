// What is typed into a card or a log is kept on the device until the server says that it has it.
export const store = {
  read(key) {
    try {
      const value = JSON.parse(localStorage.getItem(key));
      return value && typeof value === "object" ? value : null;
    } catch { return null; }
  },
  write(key, value) { try { localStorage.setItem(key, JSON.stringify(value)); } catch { /* private mode: nothing kept */ } },
  drop(key) { try { localStorage.removeItem(key); } catch { /* nothing was kept */ } },
};
const HURT = ["hurts", "hurt_where"];
const PRESSED = ["radio", "checkbox"];

const write = (form) => {
  const kept = {};
  for (const field of form.elements) {
    if (!field.name || field.name === "csrfmiddlewaretoken") continue;
    if (PRESSED.includes(field.type) && !field.checked) continue;
    kept[field.name] = field.value;
  }
  store.write(form.dataset.draft, kept);
};

const SOON = 300; // ms
const waiting = new Set();
export const writeDrafts = () => {
  for (const form of waiting) write(form);
  waiting.clear();
};

// To read a long form takes longer than a frame: it is written when the device has time, the stroke is on the screen
// before that. Whoever leaves the page finds it written too.
export const keepDraft = (root) => {
  const form = root.tagName === "FIELDSET" ? root.form : root; // a part of a routine's form
  if (!waiting.size) {
    if (window.requestIdleCallback) requestIdleCallback(writeDrafts, { timeout: SOON });
    else setTimeout(writeDrafts, SOON);
  }
  waiting.add(form);
};

const restore = (form) => {
  // a form that came back with something wrong holds what was typed
  const kept = form.dataset.bound === "yes" ? null : store.read(form.dataset.draft);
  if (!kept) return;
  for (const field of form.elements) {
    if (!(field.name in kept)) continue;
    if (PRESSED.includes(field.type)) field.checked = field.value === kept[field.name];
    else field.value = kept[field.name];
  }
};

// the server cleans what it hears, and cuts it where it is too long
const heard = (words, told) => {
  const plain = words.trim().replace(/\s+/g, " ");
  return plain === "" || told.some((one) => one === plain || (one.endsWith("…") && plain.startsWith(one.slice(0, -1))));
};

// a hurt that the server has heard is not told again by a draft: the next one is a new one
const forgetHurt = (told) => {
  for (const key of Object.keys(localStorage).filter((name) => name.startsWith("draft-"))) {
    const kept = store.read(key);
    if (!kept || !heard(kept.hurt_where ?? "", told)) continue;
    for (const name of HURT) delete kept[name];
    store.write(key, kept);
  }
};

export const drafts = () => {
  const told = [.../** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("[data-told]"))].map((one) => one.dataset.told);
  if (told.length) { try { forgetHurt(told); } catch { /* private mode */ } }
  for (const form of document.querySelectorAll("form[data-draft]")) {
    restore(form);
    form.addEventListener("input", () => keepDraft(form));
    form.addEventListener("change", () => keepDraft(form));
  }
  // two tabs on one block show and count the same strokes: what one of them wrote the other takes over
  addEventListener("storage", (event) => {
    for (const form of /** @type {NodeListOf<HTMLFormElement>} */ (document.querySelectorAll("form[data-draft]"))) {
      if (form.dataset.draft !== event.key || !event.newValue) continue;
      restore(form);
      for (const part of [form, ...form.querySelectorAll("fieldset[x-data]")]) part.dispatchEvent(new CustomEvent("taken"));
    }
  });
  addEventListener("pagehide", writeDrafts);
  document.addEventListener("visibilitychange", writeDrafts);
};
