// Today in the hall: who is here, what each should do now, and one touch for each entry. It works without a network, and
// what other devices tap appears by itself.
import { now as moment } from "./clock.js";
import { minutes as clock } from "./instruments/clock.js";
import { button, el, fill, whenFree } from "./floor/dom.js";
import { openHall } from "./floor/hall.js";
import { panelOf } from "./floor/panel.js";
import { idleShare, queue } from "./floor/queue.js";
import { syncing } from "./floor/sync.js";
import { sharedDrills, togetherOf } from "./floor/together.js";
import { dayWords } from "./days.js";
import { sayHeld } from "./held.js";
import { sayUnreachable } from "./hurt.js";
import { keyCounts } from "./keys.js";
import { local } from "./local.js";

const byId = (id) => document.getElementById(id);
const SAID = { in: "here", late: "here, late", gone: "gone" };

const FEW = 3; // lanes that a tile has room for
const countWords = (work, lanes) => {
  if (lanes.length <= FEW) return lanes.map((lane, i) => `${work.said[i] ? `${work.said[i]} ` : ""}${lane.done}/${lane.asked}`).join("  ");
  const sum = (name) => lanes.reduce((all, lane) => all + lane[name], 0);
  return `${sum("done")}/${sum("asked")} in ${lanes.length} places`;
};

const start = async (given, token) => {
  const hall = await openHall(given);
  sayHeld();
  const view = { player: null, work: null, tab: "one", group: 0, others: false, places: local.read("hall-places")?.n ?? 2 };
  const draw = () => whenFree(drawNow);
  const changed = draw;
  const sync = syncing({ me: given.me, token, taps: hall.taps, changed, rest: hall.rest, say: (state) => say(state) });
  const tapped = () => { draw(); sync.now(); };
  // the stop is the first thing that goes out, and holds on this device from now on
  hall.hurt = async (player, words) => {
    player.rests = true;
    draw();
    await hall.tap(player, null, "hurt", { word: words });
    tapped();
  };
  const panel = panelOf(hall, tapped);
  const together = togetherOf(hall, tapped);

  const here = () => hall.players.filter((one) => ["in", "late"].includes(hall.here(one)));
  const askDay = (days) => {
    const box = byId("hall-clock");
    box.hidden = days.length === 0;
    fill(box, days.join(" "), () => [
      el("p", {}, [el("strong", {}, ["This device’s clock does not fit the program’s. "]), "On which day were these entries made? Nothing of them is stored before."]),
      el("div.actions", {}, days.map((day) => button(dayWords(day), () => sync.chosen(day)))),
    ]);
  };
  // large words, and whom to tell: as long as a report of hurt is on this device alone
  let seen = 0; // how many of them somebody has looked at and put aside
  const sayHurt = (state) => {
    const untold = hall.untold();
    seen = Math.min(seen, untold.length);
    if (!untold.length) byId("unreachable").hidden = true;
    if (untold.length === seen || (state.online && !state.out) || !byId("unreachable").hidden) return;
    const words = untold.map((tap) => `${hall.player(tap.player).name}: ${tap.value.word || "something hurts"}`).join("; ");
    sayUnreachable(words, state.out ? state.why : "This device has no connection to the program just now.");
  };
  byId("unreachable").querySelector("[data-hide]").addEventListener("click", () => { seen = hall.untold().length; });
  byId("unreachable").querySelector("[data-again]").addEventListener("click", () => sync.now());
  const say = (state) => {
    const away = state.waiting && (!state.online || state.out || state.ask.length);
    const waits = away ? `${state.waiting} ${state.waiting === 1 ? "entry waits" : "entries wait"} on this device.` : "";
    const net = state.online ? "" : "No network: go on, everything is kept here.";
    byId("hall-net").textContent = [net, waits, state.why].filter(Boolean).join(" ");
    document.documentElement.dataset.sent = state.online && !state.out && !state.waiting ? "yes" : "no";
    askDay(state.ask);
    sayHurt(state);
  };

  const mark = async (player, word) => { await hall.tap(player, null, "here", { word }); tapped(); };
  const chip = (player) => {
    const state = hall.here(player);
    const next = { "": "in", in: "gone", late: "gone", gone: "in" }[state];
    const main = button(`${player.name}${state ? `, ${SAID[state]}` : ""}`, () => mark(player, next), "hall-chip", { "aria-pressed": String(state === "in" || state === "late") });
    const late = state === "in" ? button("late", () => mark(player, "late"), "plain-key") : null;
    return el("li", {}, [main, late]);
  };
  const drawWho = () => {
    const listed = hall.players.filter((one) => one.planned || hall.here(one));
    const rest = hall.players.filter((one) => !one.planned && !hall.here(one));
    const states = (list) => list.map((one) => `${one.id}${hall.here(one)}`).join(" ");
    fill(byId("hall-who"), states(listed), () => listed.map(chip));
    fill(byId("hall-others"), `${view.others} ${states(rest)}`, () => (view.others ? rest : []).map(chip));
    byId("hall-add").setAttribute("aria-expanded", String(view.others));
    byId("hall-count").textContent = `${here().length} here`;
  };

  const tileKey = (player, turns) => `${player.rests} ${player.id} ${view.player === player} ${turns.get(player.id)} ${player.work.map((one) => hall.tapsOf(one.stay).length)}`;
  const lookOf = (player, turns) => [view.player === player ? "open" : "", turns.get(player.id) === "up" ? "due" : "", player.rests ? "halted" : ""].filter(Boolean).map((word) => `.${word}`).join("");
  const linesOf = (player, turns) => {
    if (player.rests) return ["", "", "Stopped: something hurts"];
    const work = hall.now(player);
    const verdict = player.work.map((one) => hall.read(one).folded.told?.headline).filter(Boolean).at(-1) ?? "";
    const sign = turns.get(player.id) === "up" ? "next" : "";
    return work ? [work.title, countWords(work, hall.read(work).at.lanes), sign] : [verdict, "All done", sign];
  };
  const tile = (player, turns) => {
    const open = view.player === player;
    const [title, counted, sign] = linesOf(player, turns);
    return el("li", {}, [
      el(`button.hall-tile${lookOf(player, turns)}`, { type: "button", "aria-pressed": String(open), onclick: () => openPlayer(player) }, [
        el("strong", {}, [player.name]),
        el("span", {}, [title]),
        el("span.number", {}, [counted]),
        el("span.text-sm", { "data-rest": String(player.id) }, [sign]),
      ]),
      player.rests ? null : button("Hurt", () => hall.hurt(player, ""), "hall-stop", { "aria-label": `Hurt: stop ${player.name}` }),
    ]);
  };
  const openPlayer = (player) => {
    view.player = player;
    view.work = hall.now(player) ?? player.work.at(0) ?? null;
    byId("hall-people").removeAttribute("open");
    draw();
    if (matchMedia("(max-width: 61.9rem)").matches) byId("hall-panel").scrollIntoView({ block: "start" });
  };
  const drawSwitch = () => {
    const key = here().map((one) => `${one.id}${view.player === one}`).join(" ");
    fill(byId("hall-switch"), key, () => (view.player ? here() : []).map((one) => button(one.name.split(" ")[0], () => openPlayer(one), "hall-name", { "aria-pressed": String(view.player === one) })));
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
    const share = idleShare(here().filter((one) => hall.came(one)).map((one) => hall.span(one, now)));
    const lines = [names(found.up) || "nobody: all places are taken, or all rest", names(found.busy), then, String(Math.round(100 * share))];
    fill(byId("hall-queue"), lines.join("|"), () => [
      el("p", {}, [el("strong", {}, ["Next: "]), lines[0]]),
      lines[1] ? el("p", {}, [`At it: ${lines[1]}`]) : null,
      then ? el("p.text-soft", {}, [`Then: ${then}`]) : null,
      el("p.text-sm.text-soft", {}, [`Standing idle so far: ${lines[3]} % of everybody’s time.`]),
    ]);
  };

  const drawGoal = () => {
    const bar = byId("hall-goal");
    if (!bar || !hall.goal) return;
    const good = hall.good();
    bar.textContent = `${good} of ${hall.goal} good ones, all together.`;
  };

  function drawNow() {
    const asked = turnsNow();
    drawWho();
    drawGoal();
    fill(byId("hall-tiles"), here().map((one) => tileKey(one, asked.turns)).join("|"), () => here().map((one) => tile(one, asked.turns)));
    byId("hall-empty").hidden = here().length > 0;
    drawQueue(asked);
    byId("hall-one").hidden = view.tab !== "one";
    byId("hall-together").hidden = view.tab !== "together";
    for (const key of ["one", "together"]) byId(`tab-${key}`).setAttribute("aria-pressed", String(view.tab === key));
    if (view.tab === "together") together.draw(byId("hall-together"), sharedDrills(hall, here().filter((one) => !one.rests)), view.group, (i) => { view.group = i; draw(); });
    else if (view.player) panel.draw(byId("hall-panel"), view.player, view.work, choose);
    byId("hall-panel").hidden = !view.player;
    drawSwitch();
    document.querySelector(".hall").classList.toggle("opened", Boolean(view.player) && view.tab === "one");
  }

  const tick = () => {
    panel.tick(view.work);
    together.tick();
  };
  for (const key of ["one", "together"]) byId(`tab-${key}`).addEventListener("click", () => { view.tab = key; draw(); });
  byId("hall-add").addEventListener("click", () => { view.others = !view.others; draw(); });
  const places = /** @type {HTMLInputElement} */ (byId("hall-places"));
  places.value = String(view.places);
  places.addEventListener("change", () => { view.places = Math.max(1, Math.min(60, Number(places.value) || 1)); local.write("hall-places", { n: view.places }); draw(); });
  addEventListener("keydown", (event) => { if (event.code === "Space" && event.target === document.body && keyCounts(event)) { event.preventDefault(); /** @type {HTMLElement} */ (document.querySelector("#hall-panel [data-space]"))?.click(); } });
  // from a station: whose turn it is, at which drill, fed by whom
  const asked = new URLSearchParams(location.search);
  const comes = hall.players.find((one) => String(one.id) === asked.get("player"));
  if (comes) {
    if (!["in", "late"].includes(hall.here(comes))) await hall.tap(comes, null, "here", { word: "in" });
    openPlayer(comes);
    const work = comes.work.find((one) => String(one.drill) === asked.get("drill"));
    if (work) {
      view.work = work;
      if (asked.get("feeder") && hall.read(work).folded.feeder !== asked.get("feeder")) await hall.tap(comes, work.stay, "feeder", { word: asked.get("feeder").slice(0, 60) });
    } else if (asked.get("drill")) {
      byId("hall-net").textContent = `${comes.name} is on no ladder with this drill: nothing is counted for it.`;
    }
  }
  setInterval(tick, 100);
  setInterval(() => { if (!document.hidden) draw(); }, 2_000);
  draw();
  sync.now();
  document.documentElement.dataset.hall = "open";
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
if (held) start(JSON.parse(held.textContent), document.querySelector("main [data-token]").getAttribute("data-token")).then(keepPage);
