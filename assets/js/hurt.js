// A report of hurt goes out before the form that holds it. Where the server cannot be reached, the page says so in
// large words, names whom to ring, keeps the report on the device and tries again by itself: from any page, and by the
// worker when none is open.
import { moment } from "./clock.js";
import { local, newId } from "./local.js";
import { sendHurt } from "./sending.js";
import { work } from "./work.js";

const AGAIN = 15_000; // ms between tries
const OLD = "hurt-untold"; // where an earlier version kept them

const untold = async () => (await work.all()).filter((one) => one.state === "hurt");
const keep = async (told) => {
  await work.put({ id: told.id, key: "", state: "hurt", began: told.at, fields: {}, hurt: told });
  try {
    const worker = /** @type {any} */ (await navigator.serviceWorker?.getRegistration());
    await worker?.sync?.register("work");
  } catch { /* no worker: the next page tells it */ }
};

const wordsIn = (form) => {
  const value = (name) => form.elements[name]?.value?.trim() ?? "";
  if (form.elements.what) return value("what");
  return value("hurts") === "yes" || value("hurt_where") ? value("hurt_where") : null;
};

// the form itself is sent afterwards: it names the same report, so that it is not told twice
const named = (form, id) => {
  const field = form.elements.report ?? form.appendChild(Object.assign(document.createElement("input"), { type: "hidden", name: "report" }));
  field.value = id;
};

// a form that came back with something wrong holds a report that stands on its page already
const isTold = (form, words) => form.dataset.bound === "yes"
  && [.../** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("[data-told]"))].some((one) => one.dataset.told === words);

const report = (form) => {
  const words = wordsIn(form);
  if (words === null || form.dataset.heard === "yes" || isTold(form, words)) return null;
  if (form.elements.player && !form.elements.player.value) return null; // the page asks again, with the words in it
  const token = form.elements.csrfmiddlewaretoken?.value ?? "";
  const id = newId();
  named(form, id);
  return { id, at: moment(), to: form.dataset.report, token, player: form.elements.player?.value ?? "", what: words, words: words || "Something hurts" };
};

const shown = () => document.getElementById("unreachable");
// on a device that several share, it is nobody else's business
const ours = async () => (await untold()).filter(({ hurt }) => document.querySelector(`[data-report="${CSS.escape(hurt.to)}"]`));

/** Say in large words that something was not heard. */
export const sayUnreachable = (words, why) => {
  const box = shown();
  if (!box || !words) return;
  box.querySelector("[data-words]").textContent = words;
  box.querySelector("[data-why]").textContent = why;
  box.hidden = false;
  /** @type {HTMLElement} */ (box.querySelector("[data-again]")).focus();
};
const sayOurs = async (why, more = []) => {
  const mine = new Map([...(await ours()).map((one) => one.hurt), ...more].map((one) => [one.id, one.words]));
  sayUnreachable([...mine.values()].join("; "), why);
};

// an answer that is no answer has words of its own; without any answer it is the connection
const whyNot = (error) => (/^(The server|You are)/.test(error.message)
  ? error.message
  : "This device has no connection to the program just now.");

const tryAgain = async () => {
  const waiting = (await ours()).length;
  for (const item of await untold()) {
    try {
      await sendHurt(item);
      await work.drop(item.id);
    } catch (error) {
      await sayOurs(whyNot(error));
    }
  }
  if (waiting && !(await ours()).length) window.location.reload(); // what was told stands on the page now
};

const onSubmit = async (event) => {
  const form = event.target;
  if (!form.dataset?.report || !shown()) return;
  const told = report(form);
  if (!told) return;
  event.preventDefault();
  if (form.dataset.sending === "yes") return;
  form.dataset.sending = "yes";
  try {
    // kept before it is sent: a page that is left, or a browser that ends, loses none
    await keep(told);
    await sendHurt({ id: told.id, hurt: told });
    await work.drop(told.id);
    form.dataset.heard = "yes";
  } catch (error) {
    await sayOurs(whyNot(error), [told]);
  }
  form.dataset.sending = "";
  if (form.dataset.heard !== "yes") return;
  if (form.requestSubmit) form.requestSubmit();
  else HTMLFormElement.prototype.submit.call(form);
};

// what an earlier version kept is told by this one
const takeOver = async () => {
  const before = local.read(OLD);
  if (!Array.isArray(before)) return;
  for (const one of before) {
    if (["to", "what", "words"].every((name) => typeof one?.[name] === "string")) await keep({ token: "", player: "", ...one, id: newId(), at: moment() });
  }
  local.drop(OLD);
};

export const hurts = async () => {
  document.addEventListener("submit", onSubmit, true);
  const box = shown();
  box?.querySelector("[data-again]").addEventListener("click", tryAgain);
  box?.querySelector("[data-hide]").addEventListener("click", () => { box.hidden = true; });
  addEventListener("online", tryAgain);
  await takeOver();
  setInterval(async () => { if ((await untold()).length) await tryAgain(); }, AGAIN);
  if ((await untold()).length) await tryAgain();
};
