// What a player did goes out by itself: complete, it waits on the device, and is sent when the network is there, answered
// one by one. Nothing is lost by a closed browser, and nothing is stored twice: each session has the id that this device
// gave it.
import { moment } from "./clock.js";
import { keepDraft, recordOf, written } from "./draft.js";
import { sendAll, sendOne } from "./sending.js";
import { work } from "./work.js";

const FIRST_MS = 4_000; // until the next try, doubled after each
const LONGEST_MS = 300_000;

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
    await work.put({ ...item, state: "tapped" });
    location.assign(item.url);
  });
  away.addEventListener("click", async () => { await work.drop(item.id); await show(); });
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
  const mine = (await work.all()).filter((item) => item.player === card.dataset.player);
  const still = mine.filter((item) => item.state === "waiting");
  const refused = mine.filter((item) => item.state === "refused");
  bar.hidden = still.length + refused.length === 0;
  bar.querySelector("[data-waiting]").textContent = still.length
    ? `${many(still.length, "session")} ${still.length === 1 ? "waits" : "wait"} for a network. You can close this: it is kept here.` : "";
  mark(still);
  bar.querySelector("[data-refused]").replaceChildren(...refused.map(refusedRow));
};

let timer;
let pause = FIRST_MS;
/** Send everything that waits, in order; where nothing gets through, try again later and later. */
export const flush = async () => {
  clearTimeout(timer);
  const reached = await sendAll((answer) => { if (answer.ask) tell(answer.ask); });
  pause = reached ? FIRST_MS : Math.min(pause * 2, LONGEST_MS);
  if (!reached) timer = setTimeout(flush, pause);
  await show();
};

// where a browser can, it wakes the worker as soon as there is a network, also after this page was closed
const wakeLater = async () => {
  try {
    const { sync } = /** @type {any} */ (await navigator.serviceWorker.ready);
    await sync.register("work");
  } catch { /* it is sent on the next opening */ }
};

const complete = (form) => {
  keepDraft(form);
  const sent = /** @type {[string, string][]} */ ([...new FormData(form)].filter(([, value]) => typeof value === "string"));
  const doneAt = moment();
  return {
    ...recordOf(form), state: "waiting", sent, doneAt, pageDay: form.dataset.day, card: form.dataset.card, player: form.dataset.player,
    url: location.pathname, title: document.querySelector("h1").textContent.trim(), why: [],
  };
};

const goOn = async (item, answer, next) => {
  if (!answer) await wakeLater();
  if (answer?.ask) sessionStorage.setItem("outbox-ask", answer.ask);
  location.assign(answer ? answer.next : next || item.card); // without a network today goes on all the same
};

// A report of hurt goes its own way, at once and in large words (hurt.js); everything else goes through here.
const isMine = (event, form) => !event.defaultPrevented && form.dataset.outbox === "yes" && recordOf(form)
  && new FormData(form).get("hurts") === "no";

// What the server does not take comes back as its page, with the reasons in their places.
const onSubmit = async (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (!isMine(event, form)) return;
  event.preventDefault();
  const item = /** @type {import("./work.js").Work} */ (complete(form));
  await written(); // a stroke that is still being written must not come after
  try { await work.put(item); } catch { form.submit(); return; } // a device that keeps nothing sends as it always did
  const answer = await sendOne(item);
  if (answer && answer.state !== "stored") {
    await work.put({ ...item, state: "tapped" });
    form.submit();
    return;
  }
  await goOn(item, answer, form.dataset.next);
};

export const outbox = () => {
  document.addEventListener("submit", onSubmit);
  try {
    const ask = sessionStorage.getItem("outbox-ask");
    if (ask && document.getElementById("outbox-ask")) {
      tell(ask);
      sessionStorage.removeItem("outbox-ask");
    }
  } catch { /* private mode */ }
  addEventListener("online", flush);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) flush(); });
  flush().catch(() => { /* a device that keeps nothing has nothing to send */ });
};
