// What a player did goes out by itself: complete, it waits on the device, and is sent when the network is there, answered
// one by one. Nothing is lost by a closed browser, and nothing is stored twice: each session has the id that this device
// gave it.
import { moment } from "./clock.js";
import { dayIsChosen } from "./days.js";
import { keepForm, recordOf, written } from "./kept_form.js";
import { sendAll, sendOne } from "./sending.js";
import { MEMORY } from "./store.js";
import { work } from "./work.js";

const FIRST_MS = 4_000; // until the next try, doubled after each
const LONGEST_MS = 300_000;

const page = () => /** @type {HTMLElement | null} */ (document.querySelector("[data-card]"));
const many = (n, one) => `${n} ${one}${n === 1 ? "" : "s"}`;
const tell = (text) => { const bar = document.getElementById("unsent-ask"); if (bar) { bar.textContent = text; bar.hidden = !text; } };

const row = (words, buttons) => {
  const made = document.createElement("li");
  made.textContent = `${words} `;
  for (const [textContent, then, look] of buttons) {
    const one = document.createElement("button");
    Object.assign(one, { type: "button", className: look ?? "button", textContent });
    one.addEventListener("click", then);
    made.append(one);
  }
  return made;
};

const refusedRow = (item) => row(`${item.title}: ${item.why.join(" ")}`, [
  ["Look at it again", async () => { await work.put({ ...item, state: "tapped" }); location.assign(item.url); }],
  ["Throw it away", async () => { await work.drop(item.id); await show(); }, "button quiet"],
]);

const named = (day) => new Date(`${day}T12:00:00`).toLocaleDateString("en-GB", { weekday: "long", day: "numeric", month: "long" });

// the device's clock says another day than the program's: nothing is stored before somebody has said which day it was
const askingRow = (item) => row(`${item.title}: ${item.why.join(" ")} When was it done?`, (item.days ?? []).map((day) => [
  named(day),
  async () => {
    const sent = [...item.sent.filter(([name]) => name !== "on" && name !== "day_asked"), ["on", day], ["day_asked", "yes"]];
    await work.put({ ...item, state: "waiting", why: [], sent });
    await flush();
  },
]));

// a block whose work waits is done: it says so, and "Start" goes past it
const mark = (still) => {
  const urls = new Set(still.map((item) => item.url));
  const links = [.../** @type {NodeListOf<HTMLAnchorElement>} */ (document.querySelectorAll("a.block-card"))];
  for (const link of links) {
    const waits = urls.has(link.dataset.url ?? link.pathname);
    link.classList.toggle("waits", waits);
    link.querySelector("[data-waits]").textContent = waits ? "Done, and waits to be sent" : "";
  }
  const start = /** @type {HTMLAnchorElement} */ (document.querySelector("a.start"));
  if (!start) return;
  const open = links.find((link) => !link.matches(".later, .waits"));
  start.hidden = !open;
  if (open) start.href = open.href;
};

const waitingWords = (still) => {
  const why = still.flatMap((item) => item.why ?? []).at(-1);
  if (why) return `${many(still.length, "session")} not sent yet. ${why}`;
  return still.length ? `${many(still.length, "session")} ${still.length === 1 ? "waits" : "wait"} for a network. You can close this: it is kept here.` : "";
};

export const show = async () => {
  const card = page();
  const bar = document.getElementById("unsent");
  if (!card || !bar) return;
  const mine = (await work.all()).filter((item) => item.player === card.dataset.player);
  const [still, refused, asking] = ["waiting", "refused", "asking"].map((state) => mine.filter((item) => item.state === state));
  bar.hidden = still.length + refused.length + asking.length === 0;
  bar.querySelector("[data-waiting]").textContent = waitingWords(still);
  mark([...still, ...asking]);
  bar.querySelector("[data-refused]").replaceChildren(...asking.map(askingRow), ...refused.map(refusedRow));
};

// a link that was made anew: what waits for the one before goes out by this one
const moveOver = async () => {
  const here = page()?.dataset;
  if (!here?.player || !here.card) return;
  const mine = (item) => item.player === here.player && item.card !== here.card && item.url?.startsWith(item.card) && item.state !== "tapped";
  for (const item of (await work.all()).filter(mine)) {
    const state = item.closed ? "waiting" : item.state;
    await work.put({ ...item, state, closed: false, card: here.card, url: item.url.replace(item.card, here.card) });
  }
};

let timer;
let pause = FIRST_MS;
let going = null; // what this page alone keeps and may not be left before it is sent: its id, and where to go then
/** Send everything that waits, in order; where nothing gets through, try again later and later. */
export const flush = async () => {
  clearTimeout(timer);
  const reached = await sendAll((answer, item) => {
    if (going && item.id === going.id && answer.state === "stored") location.assign(going.next || answer.next);
  });
  pause = reached ? FIRST_MS : Math.min(pause * 2, LONGEST_MS);
  if (!reached) timer = setTimeout(flush, pause);
  await show();
};

// where a browser can, it wakes the worker as soon as there is a network, also after this page was closed
const wakeLater = async () => {
  try {
    const worker = /** @type {any} */ (await navigator.serviceWorker.getRegistration());
    await worker.sync.register("work");
  } catch { /* it is sent on the next opening */ }
};

const complete = (form) => {
  keepForm(form);
  const sent = /** @type {[string, string][]} */ ([...new FormData(form)].filter(([, value]) => typeof value === "string"));
  const doneAt = moment();
  return {
    ...recordOf(form), state: "waiting", sent, doneAt, pageDay: form.dataset.day, card: form.dataset.card, player: form.dataset.player,
    url: form.dataset.url ?? location.pathname, title: form.dataset.title ?? document.querySelector("h1").textContent.trim(), why: [],
  };
};

// a page that alone keeps it is not left before it is sent
const stay = (form, item, next) => {
  going = { id: item.id, next };
  form.inert = true;
  tell("Not sent yet, and this device cannot keep it. Keep this page open: it is sent as soon as there is a network.");
  timer = setTimeout(flush, FIRST_MS);
};

const goOn = async (form, item, answer, next) => {
  if (!answer) await wakeLater();
  // a run says by itself that it is kept, and what comes next
  if (!answer && form.dataset.first !== undefined) { form.dispatchEvent(new CustomEvent("kept")); return; }
  // without a network today goes on all the same; a day that is asked for is asked on the card
  location.assign(answer?.state === "stored" ? answer.next : next || item.card);
};

// A report of hurt goes its own way, at once and in large words (hurt.js); everything else goes through here.
const isMine = (event, form) => !event.defaultPrevented && form.dataset.waits === "yes" && recordOf(form)
  && new FormData(form).get("hurts") === "no";

const after = async (form, item, where, answer) => {
  if (["refused", "closed", "later", "pin"].includes(answer?.state)) {
    await work.put({ ...item, state: "tapped" });
    form.submit();
  } else if (!answer && where === MEMORY) stay(form, item, form.dataset.next);
  else await goOn(form, item, answer, answer ? "" : form.dataset.next);
};

// What the server does not take comes back as its page, with the reasons in their places.
const onSubmit = async (event) => {
  const form = /** @type {HTMLFormElement} */ (event.target);
  if (!isMine(event, form)) return;
  event.preventDefault();
  if (!dayIsChosen(form)) return;
  const item = /** @type {import("./work.js").Work} */ (complete(form));
  await written(); // a stroke that is still being written must not come after
  const where = await work.put(item);
  await after(form, item, where, await sendOne(item));
};

export const unsent = () => {
  document.addEventListener("submit", onSubmit);
  addEventListener("online", flush);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) flush(); });
  moveOver().then(flush);
};
