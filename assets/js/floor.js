// Today in the hall, as an instrument: everybody who is here in one view, one touch on a tile for each entry. It works without
// a network, and what other devices tap appears by itself.
import { goalWords } from "./floor/goal.js";
import { now as moment } from "./clock.js";
import { minutes as clock } from "./instruments/clock.js";
import { dayWords } from "./days.js";
import { drawerOf } from "./floor/drawer.js";
import { button, el, fill, whenFree } from "./floor/dom.js";
import { openHall } from "./floor/hall.js";
import { panelOf } from "./floor/panel.js";
import { longestWait, queue } from "./floor/queue.js";
import { syncing } from "./floor/sync.js";
import { rotationOf } from "./floor/rotation.js";
import { stopsOf } from "./floor/stops.js";
import { tilesOf } from "./floor/tiles.js";
import { trialsView } from "./floor/trials.js";
import { teamsOf } from "./floor/teams.js";
import { sharedDrills, togetherOf } from "./floor/together.js";
import { sayHeld } from "./held.js";
import { sayUnreachable } from "./hurt.js";
import { keyCounts } from "./keys.js";
import { local } from "./local.js";

const SLOW_MS = 1_500;
const byId = (id) => document.getElementById(id);
const VIEWS = ["one", "together", "stations", "tests", "turns"];

/** Large words, and whom to tell: as long as a report of hurt is on this device alone. */
const hurtWords = (hall, again) => {
  let seen = 0; // how many of them somebody has looked at and put aside
  const box = byId("unreachable");
  box.querySelector("[data-hide]").addEventListener("click", () => { seen = hall.untold().length; });
  box.querySelector("[data-again]").addEventListener("click", again);
  return (state) => {
    const untold = hall.untold();
    seen = Math.min(seen, untold.length);
    if (!untold.length) box.hidden = true;
    if (untold.length === seen || (state.online && !state.out) || !box.hidden) return;
    const words = untold.map((tap) => `${hall.player(tap.player).name}: ${tap.value.word || "something hurts"}`).join("; ");
    sayUnreachable(words, state.out ? state.why : "This device has no connection to the program just now.");
  };
};

/** The state of this device in a word. */
const netWords = (state) => {
  const away = state.waiting && (!state.online || state.out || state.ask.length);
  const waits = away ? `${state.waiting} ${state.waiting === 1 ? "entry waits" : "entries wait"} on this device.` : "";
  const net = state.online ? "" : "No network: go on, everything is kept here.";
  return [net, waits, state.why].filter(Boolean).join(" ");
};

const start = async (given, token) => {
  const hall = await openHall(given);
  hall.token = token;
  sayHeld();
  const view = { player: null, work: null, tab: "one", group: 0, places: local.read("hall-places")?.n ?? 2 };
  const draw = () => whenFree(drawNow);
  const sync = syncing({ me: given.me, token, live: byId("main")?.dataset.live ?? "", taps: hall.taps, changed: draw, rest: hall.rest, say: (state) => say(state) });
  const tapped = () => { draw(); sync.now(); };
  // the stop is the first thing that goes out, and holds on this device from now on
  hall.hurt = async (player, words) => {
    player.rests = true;
    draw();
    await hall.tap(player, null, "hurt", { word: words });
    tapped();
  };
  hall.close = () => { view.player = null; draw(); };
  const panel = panelOf(hall, tapped);
  const together = togetherOf(hall, tapped);
  const teams = teamsOf(hall, tapped);
  const tiles = tilesOf({ hall, panel, open: (player) => openPlayer(player), changed: tapped });
  const rotation = rotationOf({ hall, tiles, changed: tapped });
  const trials = trialsView({ hall, changed: tapped });
  const here = () => hall.present();
  const mark = async (players, word) => { for (const player of players) await hall.tap(player, null, "here", { word }); tapped(); };
  const drawer = drawerOf(hall, mark);
  const stops = stopsOf(hall, here);
  const sayHurt = hurtWords(hall, () => sync.now());

  const askDay = (days) => {
    const box = byId("hall-clock");
    box.hidden = days.length === 0;
    fill(box, days.join(" "), () => [
      el("p", {}, [el("strong", {}, ["This device’s clock does not fit the program’s. "]), "On which day were these entries made? Nothing of them is stored before."]),
      el("div.actions", {}, days.map((day) => button(dayWords(day), () => sync.chosen(day)))),
    ]);
  };
  let slow = null; // what is sent at once needs no word
  const say = (state) => {
    const words = netWords(state);
    clearTimeout(slow);
    byId("hall-net").textContent = words;
    if (!words && state.waiting) slow = setTimeout(() => { byId("hall-net").textContent = "Sending …"; }, SLOW_MS);
    document.documentElement.dataset.sent = state.online && !state.out && !state.waiting ? "yes" : "no";
    askDay(state.ask);
    sayHurt(state);
  };

  // the open tile grows where it stands, over its neighbours
  const place = () => {
    const box = byId("hall-panel");
    const tile = [.../** @type {NodeListOf<HTMLElement>} */ (document.querySelectorAll("#hall-tiles > li"))].find((one) => one.dataset.player === String(view.player?.id));
    if (!tile || innerWidth < 700) { box.style.cssText = ""; return; }
    const from = tile.getBoundingClientRect();
    const rem = parseFloat(getComputedStyle(document.documentElement).fontSize);
    const width = Math.min(Math.max(27 * rem, from.width), innerWidth - 24);
    box.style.width = `${width}px`;
    box.style.left = `${Math.max(12, Math.min(from.left, innerWidth - width - 12))}px`;
    const top = byId("hall-tiles").getBoundingClientRect().top;
    box.style.top = `${Math.max(top, Math.min(from.top, innerHeight - box.offsetHeight - 12))}px`;
  };
  const openPlayer = (player) => {
    view.player = player;
    view.work = hall.now(player) ?? player.work.at(0) ?? null;
    draw();
    byId("hall-panel").scrollTop = 0;
  };
  const choose = (work) => { view.work = work; draw(); };

  const turnsNow = () => {
    const now = moment();
    const found = queue(here().filter((one) => !one.rests).map((one) => hall.waiting(one, now)), view.places, now);
    const turns = new Map();
    for (const one of found.busy) turns.set(one.id, "busy");
    for (const one of found.up) turns.set(one.id, "up");
    return { now, found, turns };
  };
  const names = (list) => list.map((one) => hall.player(one.id).name).join(", ");
  const drawQueue = ({ now, found }) => {
    const then = found.then.slice(0, 4).map((one) => `${hall.player(one.id).name}${one.readyAt > now ? ` (${clock(one.readyAt - now)})` : ""}`).join(", ");
    const wait = longestWait(here().filter((one) => hall.came(one)).map((one) => ({ name: one.name, ...hall.span(one, now) })));
    const waited = wait ? `Longest wait so far: ${clock(wait.ms)} (${wait.name}), with ${view.places} ${view.places === 1 ? "place" : "places"}.` : "Nobody has had to wait yet.";
    const lines = [names(found.up) || "nobody: all places are taken, or all rest", names(found.busy), then, waited];
    fill(byId("hall-queue"), lines.join("|"), () => [
      el("p", {}, [el("strong", {}, ["Next: "]), lines[0]]),
      lines[1] ? el("p", {}, [`At it: ${lines[1]}`]) : null,
      then ? el("p.text-soft", {}, [`Then: ${then}`]) : null,
      el("p.text-sm.text-soft", {}, [lines[3]]),
    ]);
  };
  const drawGoal = () => { byId("hall-goal").textContent = goalWords(hall.goal, hall.goal_kind, [...hall.taps.values()].filter((tap) => !tap.refused), hall.good(), hall.goal_worth); };

  const drawOpen = () => {
    const box = byId("hall-panel");
    box.hidden = !view.player || view.tab !== "one";
    if (box.hidden) return;
    panel.draw(box, view.player, view.work, choose);
    place();
  };
  const drawViews = (asked) => {
    for (const key of VIEWS) byId(`tab-${key}`).setAttribute("aria-pressed", String(view.tab === key));
    byId("hall-tiles").hidden = view.tab !== "one";
    for (const key of VIEWS.slice(1)) byId(`hall-${key}`).hidden = view.tab !== key;
    byId("hall-empty").hidden = view.tab !== "one" || here().length > 0;
    if (view.tab === "together") together.draw(byId("hall-together"), sharedDrills(hall, here().filter((one) => !one.rests)), view.group, (i) => { view.group = i; draw(); });
    if (view.tab === "turns") { drawQueue(asked); teams.draw(byId("hall-teams"), here()); }
    if (view.tab === "stations") rotation.draw(byId("hall-stations"));
    if (view.tab === "tests") trials.draw(byId("hall-tests"));
    const free = view.tab === "one" ? tiles.clocks(here()).length : 0;
    byId("hall-clocks").hidden = free < 2;
    byId("hall-clocks").textContent = `Start ${free} clocks`;
  };
  function drawNow() {
    const asked = turnsNow();
    drawer.draw();
    stops.draw();
    drawGoal();
    drawViews(asked);
    if (view.tab === "one") tiles.draw(byId("hall-tiles"), here(), asked.turns);
    drawOpen();
  }

  for (const key of VIEWS) byId(`tab-${key}`).addEventListener("click", () => { view.tab = key; draw(); });
  byId("hall-clocks").addEventListener("click", () => tiles.startAll(here()));
  byId("hall-first").addEventListener("click", () => drawer.open());
  const places = /** @type {HTMLInputElement} */ (byId("hall-places"));
  places.value = String(view.places);
  places.addEventListener("change", () => { view.places = Math.max(1, Math.min(60, Number(places.value) || 1)); local.write("hall-places", { n: view.places }); draw(); });
  addEventListener("keydown", (event) => {
    if (event.key === "Escape") { drawer.shut(); stops.shut(); hall.close(); }
    if (event.code === "Space" && event.target === document.body && keyCounts(event)) { event.preventDefault(); /** @type {HTMLElement} */ (document.querySelector("#hall-panel [data-space]"))?.click(); }
  });
  addEventListener("resize", draw);
  const asked = new URLSearchParams(location.search).get("view");
  if (VIEWS.includes(asked)) view.tab = asked;
  await fromStation(hall, openPlayer, view);
  setInterval(() => { panel.tick(view.work); together.tick(); tiles.tick(here(), moment()); rotation.tick(); trials.tick(); }, 100);
  setInterval(() => { if (!document.hidden) draw(); }, 2_000);
  draw();
  sync.now();
  document.documentElement.dataset.hall = "open";
};

// from a station: whose turn it is, at which drill, fed by whom
const fromStation = async (hall, openPlayer, view) => {
  const asked = new URLSearchParams(location.search);
  const comes = hall.players.find((one) => String(one.id) === asked.get("player"));
  if (!comes) return;
  if (!["in", "late"].includes(hall.here(comes))) await hall.tap(comes, null, "here", { word: "in" });
  openPlayer(comes);
  const work = comes.work.find((one) => String(one.drill) === asked.get("drill"));
  if (work) {
    view.work = work;
    if (asked.get("feeder") && hall.read(work).folded.feeder !== asked.get("feeder")) await hall.tap(comes, work.stay, "feeder", { word: asked.get("feeder").slice(0, 60) });
  } else if (asked.get("drill")) {
    byId("hall-net").textContent = `${comes.name} is on no ladder with this drill: nothing is counted for it.`;
  }
};

const keepPage = async () => {
  if (!navigator.serviceWorker || !window.caches) return;
  try {
    await navigator.serviceWorker.register("/floor/sw.js", { scope: "/floor/" });
    await navigator.serviceWorker.ready;
    const answer = await fetch(location.pathname, { headers: { Accept: "text/html" } });
    if (answer.ok && !answer.redirected) await (await caches.open("floor-pages")).put(location.pathname, answer);
    document.documentElement.dataset.kept = "yes";
  } catch { /* no worker here: the page is one like any other */ }
};

const held = byId("hall-document");
if (held) start(JSON.parse(held.textContent), document.querySelector("main[data-token]").getAttribute("data-token")).then(keepPage);
