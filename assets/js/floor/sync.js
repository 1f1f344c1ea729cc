// What was tapped goes out, what others tapped comes in: at once where there is a network, later and later where there is
// none. Nothing is thrown away before the server has named it. A stop that somebody told anywhere comes with every answer.
import { moment } from "../clock.js";
import { deviceId } from "../local.js";
import { kept } from "./keep.js";

// ms between two looks: without a line others' entries, and stops, are here within two seconds; once it was quiet for a
// while, within five. With a line it tells when there is something to look for, and a look now and then is for safety.
const SOON = 1_200;
const QUIET_LOOKS = 30; // in a row that brought nothing
const SELDOM = 5_000;
const TOLD = 30_000;
const LONGEST = 30_000;
/** How long until the next look. @param {boolean} line whether a line tells what is new @param {number} quiet looks in a row that brought nothing */
export const pauseOf = (line, quiet) => {
  if (line) return TOLD;
  return quiet > QUIET_LOOKS ? SELDOM : SOON;
};
const AT_ONCE = 400;
const PATIENCE = 8_000;
const OUT = "You are signed out. Sign in in another window: what was counted is kept here and goes out then.";

/**
 * The line on which the server tells that something is new. Where there is none, or it is refused, everything is looked for.
 * @param {string} address @param {{ told: (n: number) => void, changed: () => void }} then
 */
const lineOf = (address, then) => {
  let open = false;
  if (!address || typeof EventSource === "undefined") return { open: () => false };
  const source = new EventSource(address, { withCredentials: true });
  const now = (is) => {
    if (open === is) return;
    open = is;
    document.documentElement.dataset.line = is ? "open" : "cut";
    then.changed();
  };
  source.onopen = () => { now(true); then.told(0); };
  source.onerror = () => now(false);
  source.onmessage = (event) => then.told(Number(event.data));
  return { open: () => open };
};

/**
 * state: online: whether the server answers; out: signed out; waiting: entries that only this device has; why: what it said;
 * ask: days among which somebody has to choose, as this device's clock is wrong.
 * @param {{ me: number, token: string, live: string, taps: Map<string, any>, changed: () => void, rest: (ids: number[]) => boolean, say: (state: any) => void }} hall
 */
export const syncing = (hall) => {
  let after = Math.max(0, ...[...hall.taps.values()].map((tap) => tap.n ?? 0));
  let pause = SOON;
  let timer;
  let running = false;
  let again = false;
  let day = ""; // chosen by whoever was asked
  let quiet = 0; // looks since anything was new
  let told = 0; // the highest number that the line told of
  let anything = false; // it told of something without a number
  const line = lineOf(hall.live, {
    told: (n) => {
      if (n) told = Math.max(told, n);
      else anything = true;
      if (!document.hidden && !running && (anything || told > after)) run();
    },
    changed: () => { quiet = 0; if (!running && !document.hidden) { clearTimeout(timer); timer = setTimeout(run, between()); } },
  });
  const between = () => pauseOf(line.open(), quiet);
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
    anything = false;
    const heard = told;
    try {
      const news = await taken(await send(await kept.all(hall.me)));
      quiet = news ? 0 : quiet + 1;
      if (told === heard) told = 0; // answered, whether it was of today or not
      pause = between();
      Object.assign(state, { online: true, out: false, why: state.why === OUT ? "" : state.why });
      if (news) hall.changed();
      again = again || anything || told > after || (waits() > 0 && !state.ask.length);
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
  const now = () => { quiet = 0; pause = SOON; run(); };
  addEventListener("online", now);
  document.addEventListener("visibilitychange", () => { if (!document.hidden) now(); });
  /** Somebody said on which day this device's entries were made. */
  const chosen = (given) => { day = given; now(); };
  return { now, chosen };
};
