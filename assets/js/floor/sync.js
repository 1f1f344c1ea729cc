// What was tapped goes out, what others tapped comes in: at once where there is a network, later and later where there is
// none. Nothing is thrown away before the server has named it.
import { deviceId } from "../local.js";
import { kept } from "./keep.js";

const SOON = 1_200; // ms between two looks: others' entries are here within two seconds
const LONGEST = 30_000;
const AT_ONCE = 400;
const PATIENCE = 8_000;

/**
 * @param {{ me: number, token: string, taps: Map<string, any>, changed: () => void, say: (state: { online: boolean, waiting: number, why: string }) => void }} hall
 */
export const syncing = (hall) => {
  let after = Math.max(0, ...[...hall.taps.values()].map((tap) => tap.n ?? 0));
  let pause = SOON;
  let timer;
  let running = false;
  let again = false;
  const state = { online: true, waiting: 0, why: "" };

  const waits = () => [...hall.taps.values()].filter((tap) => tap.waits).length;

  const send = async (waiting) => {
    const headers = { "Content-Type": "application/json", "X-CSRFToken": hall.token, Accept: "application/json" };
    const taps = waiting.slice(0, AT_ONCE).map(({ id, at, player, stay, act, lane, value }) => ({ id, at, player, stay, act, lane, value }));
    const body = JSON.stringify({ device: deviceId(), after, taps });
    const asked = waiting.length ? { method: "POST", headers, body } : { headers };
    const answer = await fetch(waiting.length ? "/floor/taps/" : `/floor/feed/?after=${after}`, { ...asked, signal: AbortSignal.timeout?.(PATIENCE) });
    if (!answer.ok) throw new Error(String(answer.status));
    if (!answer.headers.get("Content-Type")?.includes("json")) throw new Error("signed out");
    return answer.json();
  };

  const taken = async (answer) => {
    const refused = Object.entries(answer.refused ?? {});
    for (const [id, why] of refused) {
      const tap = hall.taps.get(id);
      if (tap) { Object.assign(tap, { refused: why, waits: false }); state.why = why; }
    }
    await kept.drop([...(answer.stored ?? []), ...refused.map(([id]) => id)]);
    for (const id of answer.stored ?? []) { const tap = hall.taps.get(id); if (tap) tap.waits = false; }
    await kept.see(answer.taps.map((tap) => ({ ...tap, on: answer.on })));
    for (const tap of answer.taps) {
      hall.taps.set(tap.id, tap);
      after = Math.max(after, tap.n);
    }
    return answer.taps.length + (answer.stored?.length ?? 0) + refused.length > 0;
  };

  const once = async () => {
    const waiting = await kept.all(hall.me);
    try {
      const news = await taken(await send(waiting));
      pause = SOON;
      state.online = true;
      if (news) hall.changed();
      again = again || waits() > 0;
    } catch (error) {
      state.online = false;
      if (error.message === "signed out") state.why = "You are signed out. Sign in in another window: what was counted is kept here and goes out then.";
      pause = Math.min(LONGEST, pause * 1.6);
    }
    state.waiting = waits();
    hall.say(state);
  };

  const run = async () => {
    clearTimeout(timer);
    if (running) { again = true; return; }
    running = true;
    do { again = false; await once(); } while (again && state.online);
    running = false;
    if (!document.hidden) timer = setTimeout(run, pause);
  };
  const now = () => { pause = SOON; run(); };
  addEventListener("online", now);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) now(); });
  return { now };
};
