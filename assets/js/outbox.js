// What a player did goes out by itself: kept on the device when it is complete, sent when the network is there, answered
// one by one. Nothing is lost by a closed browser, and nothing is stored twice: each session has the id that this device
// gave it.
import { openDB } from "idb";
import { store, writeDrafts } from "./draft.js";

const PATIENCE = 10_000; // ms until an answer is given up
const FIRST_MS = 4_000; // until the next try, doubled after each
const LONGEST_MS = 300_000;

/**
 * @typedef {{ id: string, card: string, player: string, url: string, title: string, fields: [string, string][],
 *   doneAt: string, pageDay: string, state: "waiting" | "refused", why: string[] }} Item
 */

const base = () => openDB("drill-ladder", 1, { upgrade(db) { db.createObjectStore("outbox", { keyPath: "id" }); } });

/** @returns {Promise<Item[]>} the oldest first */
export const waiting = async () => {
  const rows = await (await base()).getAll("outbox");
  return rows.sort((a, b) => (a.doneAt < b.doneAt ? -1 : 1));
};
const put = async (item) => { await (await base()).put("outbox", item); };
const drop = async (id) => { await (await base()).delete("outbox", id); };

// what came back: stored, refused (with the reason), closed (the link opens nothing any more), or nothing at all
const post = async (item) => {
  const body = new URLSearchParams(item.fields);
  body.set("done_at", item.doneAt);
  body.set("page_day", item.pageDay);
  body.set("device_now", new Date().toISOString());
  const signal = AbortSignal.timeout?.(PATIENCE);
  const answer = await fetch(item.url, { method: "POST", headers: { Accept: "application/json" }, body, signal });
  if (answer.status === 404) return { state: "closed" };
  if (answer.status === 422 || answer.ok) return answer.json();
  throw new Error(String(answer.status)); // the server is there, and cannot take it now
};

/** One item goes out; what the server said, or null where it could not be reached. */
export const sendOne = async (item) => {
  try {
    const answer = await post(item);
    if (answer.state === "stored") await drop(item.id);
    else await put({ ...item, state: "refused", why: answer.why ?? ["This link is closed: ask your coach for the new one."] });
    return answer;
  } catch { return null; }
};

const newId = () => {
  if (crypto.randomUUID) return crypto.randomUUID();
  // not in a secure context: the same by hand (RFC 4122, version 4)
  const bytes = crypto.getRandomValues(new Uint8Array(16));
  bytes[6] = (bytes[6] & 0x0f) | 0x40;
  bytes[8] = (bytes[8] & 0x3f) | 0x80;
  const hex = [...bytes].map((byte) => byte.toString(16).padStart(2, "0")).join("");
  return hex.replace(/^(.{8})(.{4})(.{4})(.{4})/, "$1-$2-$3-$4-");
};

// A page that is kept on the device has the ids of the day on which it came: each time it is opened it is another session,
// unless a draft takes it up again (which brings its own).
export const freshIds = () => {
  const form = /** @type {HTMLFormElement} */ (document.querySelector("form[data-outbox=yes][data-bound=no]"));
  if (!form) return;
  const fields = /** @type {HTMLInputElement[]} */ ([...form.elements]);
  for (const field of fields) if (/^(?:.*-)?(?:session_id|e\d+-id)$/.test(field.name)) field.value = newId();
};

// --- the page

const page = () => /** @type {HTMLElement | null} */ (document.querySelector("[data-card]"));
const many = (n, one) => `${n} ${one}${n === 1 ? "" : "s"}`;
const tell = (text) => { const bar = document.getElementById("outbox-ask"); if (bar) { bar.textContent = text; bar.hidden = !text; } };

const refusedRow = (item) => {
  const row = document.createElement("li");
  row.textContent = `${item.title}: ${item.why.join(" ")} `;
  const open = document.createElement("button");
  const away = document.createElement("button");
  Object.assign(open, { type: "button", className: "button", textContent: "Look at it again" });
  Object.assign(away, { type: "button", className: "button quiet", textContent: "Throw it away" });
  open.addEventListener("click", async () => {
    const draft = item.fields.find(([name]) => name === "draft_key");
    if (draft) store.write(draft[1], Object.fromEntries(item.fields));
    await drop(item.id);
    location.assign(item.url);
  });
  away.addEventListener("click", async () => { await drop(item.id); await show(); });
  row.append(open, away);
  return row;
};

// a block whose work waits is done: it says so, and "Start" goes past it
const mark = (still) => {
  const urls = new Set(still.map((item) => item.url));
  const links = [.../** @type {NodeListOf<HTMLAnchorElement>} */ (document.querySelectorAll("a.block-card"))];
  for (const link of links) {
    const waits = urls.has(link.pathname);
    link.classList.toggle("waits", waits);
    link.querySelector("[data-waits]").textContent = waits ? "Done, and waits to be sent" : "";
  }
  const start = /** @type {HTMLAnchorElement} */ (document.querySelector("a.start"));
  if (!start) return;
  const open = links.find((link) => !link.matches(".later, .waits"));
  start.hidden = !open;
  if (open) start.href = open.href;
};

export const show = async () => {
  const card = page();
  const bar = document.getElementById("outbox");
  if (!card || !bar) return;
  const mine = (await waiting()).filter((item) => item.player === card.dataset.player);
  const still = mine.filter((item) => item.state === "waiting");
  const refused = mine.filter((item) => item.state === "refused");
  bar.hidden = mine.length === 0;
  bar.querySelector("[data-waiting]").textContent = still.length
    ? `${many(still.length, "session")} ${still.length === 1 ? "waits" : "wait"} for a network. You can close this: it is kept here.` : "";
  mark(still);
  bar.querySelector("[data-refused]").replaceChildren(...refused.map(refusedRow));
};

let timer;
let pause = FIRST_MS;
let busy = false;
/** Send everything that waits, in order; where nothing gets through, try again later and later. */
export const flush = async () => {
  if (busy) return;
  busy = true;
  clearTimeout(timer);
  let reached = true;
  try {
    for (const item of (await waiting()).filter((one) => one.state === "waiting")) {
      const answer = await sendOne(item);
      reached = answer !== null;
      if (!reached) break;
      if (answer.ask) tell(answer.ask);
    }
  } finally { busy = false; }
  pause = reached ? FIRST_MS : Math.min(pause * 2, LONGEST_MS);
  if (!reached) timer = setTimeout(flush, pause);
  await show();
};

const itemOf = (form) => {
  const fields = /** @type {[string, string][]} */ ([...new FormData(form)].filter(([, value]) => typeof value === "string"));
  const value = (name) => fields.find(([key]) => key === name)?.[1] ?? "";
  return {
    id: value("session_id"), card: form.dataset.card, player: form.dataset.player, url: location.pathname,
    title: document.querySelector("h1").textContent.trim(), doneAt: new Date().toISOString(), pageDay: form.dataset.day,
    fields: [...fields, ["draft_key", form.dataset.draft]], state: "waiting", why: [],
  };
};

// A report of hurt goes its own way, at once and in large words (hurt.js); everything else goes through the outbox. What
// the server does not take comes back as its page, with the reasons in their places.
const onSubmit = async (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (event.defaultPrevented || form.dataset.outbox !== "yes" || !window.indexedDB) return;
  const hurts = new FormData(form).get("hurts");
  if (hurts !== "no") return;
  event.preventDefault();
  const item = /** @type {Item} */ (itemOf(form));
  try { await put(item); } catch { form.submit(); return; } // a device that keeps nothing sends as it always did
  const answer = await sendOne(item);
  if (answer && answer.state !== "stored") {
    await drop(item.id);
    form.submit();
    return;
  }
  writeDrafts(); // what is still to be written would be written on leaving, after it was dropped
  store.drop(form.dataset.draft);
  if (answer?.ask) sessionStorage.setItem("outbox-ask", answer.ask);
  location.assign(answer ? answer.next : form.dataset.next || item.card); // without a network today goes on all the same
};

export const outbox = () => {
  document.addEventListener("submit", onSubmit);
  if (!window.indexedDB) return;
  try {
    tell(sessionStorage.getItem("outbox-ask") ?? "");
    sessionStorage.removeItem("outbox-ask");
  } catch { /* private mode */ }
  addEventListener("online", flush);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) flush(); });
  flush().catch(() => { /* a device that keeps nothing has nothing to send */ });
};
