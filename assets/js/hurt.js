// A report of hurt goes out before the form that holds it. Where the server cannot be reached, the page says so in
// large words, names whom to ring, keeps the report on the device and tries again by itself.
import { local } from "./local.js";

const PATIENCE = 10_000; // ms until an answer is given up
const AGAIN = 15_000; // ms between tries
const KEY = "hurt-untold";

// Reports that have not arrived, the first one first. In memory too, as some devices keep nothing.
const whole = (one) => one && ["to", "what", "words"].every((name) => typeof one[name] === "string");
const before = local.read(KEY);
let untold = Array.isArray(before) ? before.filter(whole) : [];
const remember = () => { if (untold.length) local.write(KEY, untold); else local.drop(KEY); };
const same = (one, other) => one.to === other.to && one.words === other.words;
const add = (told) => { if (!untold.some((one) => same(one, told))) untold = [...untold, told]; remember(); };
const settle = (told) => { untold = untold.filter((one) => !same(one, told)); remember(); };

const wordsIn = (form) => {
  const value = (name) => form.elements[name]?.value?.trim() ?? "";
  if (form.elements.what) return value("what");
  return value("hurts") === "yes" || value("hurt_where") ? value("hurt_where") : null;
};

const report = (form) => {
  const words = wordsIn(form);
  if (words === null || form.dataset.heard === "yes") return null;
  if (form.elements.player && !form.elements.player.value) return null; // the page asks again, with the words in it
  const token = form.elements.csrfmiddlewaretoken?.value ?? "";
  return { to: form.dataset.report, token, player: form.elements.player?.value ?? "", what: words, words: words || "Something hurts" };
};

const send = async ({ to, token, player, what }) => {
  const headers = { Accept: "application/json", "Content-Type": "application/x-www-form-urlencoded" };
  // of the page as it is now: the one that was kept may be from before a sign-in
  const csrfmiddlewaretoken = /** @type {HTMLInputElement} */ (document.querySelector("[name=csrfmiddlewaretoken]"))?.value ?? token;
  const body = new URLSearchParams({ csrfmiddlewaretoken, what, ...(player && { player }) });
  const signal = AbortSignal.timeout?.(PATIENCE); // older phones wait as long as their own patience is
  const answer = await fetch(to, { method: "POST", headers, body, signal, redirect: "manual" });
  if (answer.type === "opaqueredirect") throw new Error("You are signed out: sign in again in another window, then try again.");
  if (!answer.ok) throw new Error(`The server answered ${answer.status}.`);
  return (await answer.json()).told;
};

const shown = () => document.getElementById("unreachable");
// on a device that several share, it is nobody else's business
const ours = () => untold.filter((one) => document.querySelector(`[data-report="${CSS.escape(one.to)}"]`));

const sayUnreachable = (why) => {
  const box = shown();
  const mine = ours();
  if (!box || !mine.length) return;
  box.querySelector("[data-words]").textContent = mine.map((one) => one.words).join("; ");
  box.querySelector("[data-why]").textContent = why;
  box.hidden = false;
  /** @type {HTMLElement} */ (box.querySelector("[data-again]")).focus();
};

// an answer that is no answer has words of its own; without any answer it is the connection
const whyNot = (error) => (/^(The server|You are)/.test(error.message)
  ? error.message
  : "This device has no connection to the program just now.");

const tryAgain = async () => {
  const waiting = ours().length;
  for (const told of [...untold]) {
    try {
      await send(told);
      settle(told);
    } catch (error) {
      sayUnreachable(whyNot(error));
    }
  }
  if (waiting && !ours().length) window.location.reload(); // what was told stands on the page now
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
    await send(told);
    settle(told);
    form.dataset.heard = "yes";
  } catch (error) {
    add(told);
    sayUnreachable(whyNot(error));
  }
  form.dataset.sending = "";
  if (form.dataset.heard !== "yes") return;
  if (form.requestSubmit) form.requestSubmit();
  else HTMLFormElement.prototype.submit.call(form);
};

export const hurts = () => {
  document.addEventListener("submit", onSubmit, true);
  const box = shown();
  if (!box) return;
  box.querySelector("[data-again]").addEventListener("click", tryAgain);
  box.querySelector("[data-hide]").addEventListener("click", () => { box.hidden = true; });
  window.addEventListener("online", tryAgain);
  setInterval(() => { if (untold.length) tryAgain(); }, AGAIN);
  if (untold.length) tryAgain();
};
