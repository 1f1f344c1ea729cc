// What was tapped goes out, what others tapped comes in: at once where there is a network, later and later where there is
// none. Nothing is thrown away before the server has named it. A stop that somebody told anywhere comes with every answer.
import { moment } from "../clock.js";
import { deviceId } from "../local.js";
import { kept } from "./keep.js";

const SOON = 1_200; // ms between two looks: others' entries, and stops, are here within two seconds
const LONGEST = 30_000;
const AT_ONCE = 400;
const PATIENCE = 8_000;
const OUT = "You are signed out. Sign in in another window: what was counted is kept here and goes out then.";

/**
 * state: online: whether the server answers; out: signed out; waiting: entries that only this device has; why: what it said;
 * ask: days among which somebody has to choose, as this device's clock is wrong.
 * @param {{ me: number, token: string, taps: Map<string, any>, changed: () => void, rest: (ids: number[]) => boolean, say: (state: any) => void }} hall
 */
export const syncing = (hall) => {
  let after = Math.max(0, ...[...hall.taps.values()].map((tap) => tap.n ?? 0));
  let pause = SOON;
  let timer;
  let running = false;
  let again = false;
  let day = ""; // chosen by whoever was asked
  const state = { online: true, out: false, waiting: 0, why: "", ask: [] };

  const waits = () => [...hall.taps.values()].filter((tap) => tap.waits).length;

  const send = async (waiting) => {
    const headers = { "Content-Type": "application/json", "X-CSRFToken": hall.token, Accept: "application/json" };
    const taps = waiting.slice(0, AT_ONCE).map(({ id, at, player, stay, act, lane, value, c }) => ({ id, at, player, stay, act, lane, value, c: c ?? 0 }));
    const body = JSON.stringify({ device: deviceId(), after, taps, device_now: moment(), ...(day && { day }) });
    const asked = waiting.length ? { method: "POST", headers, body } : { headers };
    const answer = await fetch(waiting.length ? "/floor/taps/" : `/floor/feed/?after=${after}`, { ...asked, redirect: "manual", signal: AbortSignal.timeout?.(PATIENCE) });
    if (answer.type === "opaqueredirect" || answer.status === 401 || answer.status === 403) throw new Error("signed out");
    if (!answer.ok) throw new Error(String(answer.status));
    return answer.json();
  };

  const settle = (id, now) => { const tap = hall.taps.get(id); if (tap) Object.assign(tap, now); };
  const taken = async (answer) => {
    const { stored = [], refused = {}, ask = [], rests: resting = [] } = answer;
    for (const [id, why] of Object.entries(refused)) settle(id, { refused: why, waits: false });
    for (const id of stored) settle(id, { waits: false });
    state.why = Object.values(refused).at(-1) ?? state.why;
    await kept.drop([...stored, ...Object.keys(refused)]);
    await kept.see(answer.taps.map((tap) => ({ ...tap, on: answer.on })));
    for (const tap of answer.taps) {
      hall.taps.set(tap.id, tap);
      after = Math.max(after, tap.n);
    }
    state.ask = ask;
    const rests = hall.rest(resting);
    return rests || answer.taps.length + stored.length + Object.keys(refused).length > 0;
  };

  const failed = (error) => {
    state.out = error.message === "signed out";
    state.online = state.out;
    if (state.out) state.why = OUT;
    pause = Math.min(LONGEST, pause * 1.6);
  };

  const once = async () => {
    try {
      const news = await taken(await send(await kept.all(hall.me)));
      pause = SOON;
      Object.assign(state, { online: true, out: false, why: state.why === OUT ? "" : state.why });
      if (news) hall.changed();
      again = again || (waits() > 0 && !state.ask.length);
    } catch (error) { failed(error); }
    state.waiting = waits();
    hall.say(state);
  };

  const run = async () => {
    clearTimeout(timer);
    if (running) { again = true; return; }
    running = true;
    do { again = false; await once(); } while (again && state.online && !state.out);
    running = false;
    if (!document.hidden) timer = setTimeout(run, pause);
  };
  const now = () => { pause = SOON; run(); };
  addEventListener("online", now);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) now(); });
  /** Somebody said on which day this device's entries were made. */
  const chosen = (given) => { day = given; now(); };
  return { now, chosen };
};
