// What waits is sent, one by one, reports of hurt first and then the oldest; the server answers each for itself, and what it
// does not take holds nothing up behind it. By the page, and by the worker where a browser wakes it up for that.
import { moment } from "./clock.js";
import { work } from "./work.js";

const PATIENCE = 10_000; // ms until an answer is given up
// the server is there, and cannot take anything just now
const AWAY = [408, 425, 429, 502, 503, 504];
const CLOSED = "This link is closed: open the new one from your coach, and it is sent there.";
const OUT = "You are signed out: sign in again in another window, then try again.";

const answered = async (url, body) => {
  const headers = { Accept: "application/json" };
  // an older phone waits as long as its own patience is; what was begun goes on when the page is left
  const signal = AbortSignal.timeout?.(PATIENCE);
  return fetch(url, { method: "POST", headers, body, signal, redirect: "manual", keepalive: String(body).length < 60_000 });
};

// what came back: stored, refused (with the reason), asking (for the day), closed, later, or "away": nothing at all
const post = async (item) => {
  const body = new URLSearchParams(item.sent);
  body.set("done_at", item.doneAt);
  body.set("page_day", item.pageDay);
  body.set("device_now", moment());
  const answer = await answered(item.url, body);
  if (answer.status === 404) return { state: "closed", why: [CLOSED] };
  if (AWAY.includes(answer.status)) return { state: "away" };
  const told = await answer.json().catch(() => null);
  if (told?.state && (answer.ok || answer.status === 422)) return told;
  if (answer.status === 401) return { state: "later", why: ["The card asks for its PIN first: open it, and this is sent."] };
  if (answer.status >= 500 || answer.type === "opaqueredirect") return { state: "later", why: ["Something broke on our side: it is sent again later."] };
  return { state: "refused", why: [`The server does not take it (${answer.status}).`] };
};

const KEPT_AS = { closed: "refused", refused: "refused", ask: "asking", later: "waiting", pin: "waiting" };

/** One item goes out; what the server said, or null where it could not be reached. */
export const sendOne = async (item) => {
  let answer;
  try { answer = await post(item); } catch { return null; }
  if (answer.state === "away") return null;
  if (answer.state === "stored") await work.drop(item.id);
  else await work.put({ ...item, state: KEPT_AS[answer.state] ?? "waiting", why: answer.why ?? [], days: answer.days, closed: answer.state === "closed" });
  return answer;
};

/**
 * A report of hurt goes out. Throws, with what to say, where it did not arrive; a link that is closed hears it all the same.
 * @param {{ id: string, hurt?: any }} item
 * @returns {Promise<string>} the words that the coach reads
 */
export const sendHurt = async ({ id, hurt }) => {
  const { to, token, player, what, at } = hurt;
  const shown = /** @type {HTMLInputElement} */ (globalThis.document?.querySelector("[name=csrfmiddlewaretoken]"))?.value;
  const body = new URLSearchParams({ csrfmiddlewaretoken: shown ?? token, what, report: id, told_at: at, device_now: moment(), ...(player && { player }) });
  const answer = await answered(to, body);
  if (answer.type === "opaqueredirect") throw new Error(OUT);
  if (answer.status === 401 || answer.status === 403) throw new Error(OUT);
  if (!answer.ok) throw new Error(`The server answered ${answer.status}.`);
  return (await answer.json()).told;
};

const alone = (then) => (globalThis.navigator?.locks ? navigator.locks.request("sending", { ifAvailable: true }, (lock) => (lock ? then() : true)) : then());

/**
 * Everything that waits, in order; false where something has to be tried again later.
 * @param {(answer: any, item: any) => void} [told]
 */
export const sendAll = (told = () => {}) => alone(async () => {
  let through = true;
  const all = await work.all();
  for (const item of all.filter((one) => one.state === "hurt")) {
    try { await sendHurt(item); await work.drop(item.id); told({ state: "heard" }, item); } catch { through = false; }
  }
  for (const item of all.filter((one) => one.state === "waiting")) {
    const answer = await sendOne(item);
    if (answer === null) return false; // nobody is there: the others would not get through either
    if (answer.state === "later") through = false;
    told(answer, item);
  }
  return through;
});
