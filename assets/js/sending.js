// What waits is sent, one by one and the oldest first; the server answers each for itself. By the page, and by the worker
// where a browser wakes it up for that.
import { moment } from "./clock.js";
import { work } from "./work.js";

const PATIENCE = 10_000; // ms until an answer is given up

// what came back: stored, refused (with the reason), closed (the link opens nothing any more), or nothing at all
const post = async (item) => {
  const body = new URLSearchParams(item.sent);
  body.set("done_at", item.doneAt);
  body.set("page_day", item.pageDay);
  body.set("device_now", moment());
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
    if (answer.state === "stored") await work.drop(item.id);
    else await work.put({ ...item, state: "refused", why: answer.why ?? ["This link is closed: ask your coach for the new one."] });
    return answer;
  } catch { return null; }
};

const alone = (then) => (globalThis.navigator?.locks ? navigator.locks.request("sending", { ifAvailable: true }, (lock) => (lock ? then() : true)) : then());

/**
 * Everything that waits, in order; false where nothing gets through.
 * @param {(answer: any) => void} [told]
 */
export const sendAll = (told = () => {}) => alone(async () => {
  for (const item of (await work.all()).filter((one) => one.state === "waiting")) {
    const answer = await sendOne(item);
    if (answer === null) return false;
    told(answer);
  }
  return true;
});
