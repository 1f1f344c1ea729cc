// A report of hurt goes out before the form that holds it. Where the server cannot be reached, the page says so in
// large words, names whom to ring, keeps the report on the device and tries again by itself.
import { kept } from "./draft.js";

const PATIENCE = 10_000; // ms until an answer is given up
const AGAIN = 15_000; // ms between tries
const KEY = "hurt-untold";

const wordsIn = (form) => {
  const value = (name) => form.elements[name]?.value?.trim() ?? "";
  if (form.elements.what) return value("what");
  return value("hurts") === "yes" || value("hurt_where") ? value("hurt_where") : null;
};

const report = (form) => {
  const words = wordsIn(form);
  if (words === null || form.dataset.heard === "yes") return null;
  const body = new URLSearchParams({ what: words });
  for (const name of ["csrfmiddlewaretoken", "player"]) if (form.elements[name]) body.set(name, form.elements[name].value);
  return { to: form.dataset.report, body: body.toString(), words: words || "Something hurts" };
};

const send = async ({ to, body }) => {
  const headers = { Accept: "application/json", "Content-Type": "application/x-www-form-urlencoded" };
  const answer = await fetch(to, { method: "POST", headers, body, signal: AbortSignal.timeout(PATIENCE), redirect: "manual" });
  if (answer.type === "opaqueredirect") throw new Error("You are signed out: sign in again in another window, then try again.");
  if (!answer.ok) throw new Error(`The server answered ${answer.status}.`);
  return (await answer.json()).told;
};

const shown = () => document.getElementById("unreachable");

const sayUnreachable = (untold, why) => {
  const box = shown();
  // on a device that several share, it is nobody else's business
  if (!box || !document.querySelector(`[data-report="${CSS.escape(untold.to)}"]`)) return;
  box.querySelector("[data-words]").textContent = untold.words;
  box.querySelector("[data-why]").textContent = why;
  box.hidden = false;
  box.querySelector("[data-again]").focus();
};

// an answer that is no answer has words of its own; without any answer it is the connection
const whyNot = (error) => (/^(The server|You are)/.test(error.message)
  ? error.message
  : "This device has no connection to the program just now.");

const tryAgain = async () => {
  const untold = kept.read(KEY);
  if (!untold) return;
  try {
    await send(untold);
    kept.drop(KEY);
    window.location.reload(); // what was told stands on the page now
  } catch (error) {
    sayUnreachable(untold, whyNot(error));
  }
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
    kept.drop(KEY);
    form.dataset.heard = "yes";
    form.requestSubmit();
  } catch (error) {
    kept.write(KEY, told);
    sayUnreachable(told, whyNot(error));
  }
  form.dataset.sending = "";
};

export const hurts = () => {
  document.addEventListener("submit", onSubmit, true);
  const box = shown();
  if (!box) return;
  box.querySelector("[data-again]").addEventListener("click", tryAgain);
  box.querySelector("[data-hide]").addEventListener("click", () => { box.hidden = true; });
  window.addEventListener("online", tryAgain);
  setInterval(tryAgain, AGAIN);
  tryAgain();
};
