// A tile for each player who is here: what to do now, what is left by lane, and one touch for one entry on the tile itself.
// Each is drawn for itself, so that a touch paints one tile and no other, and none ever moves.
import { minutes as clock } from "../instruments/clock.js";
import { faultOfLanding } from "../instruments/machines.js";
import { button, el, fill } from "./dom.js";
import { rowSaid } from "./state.js";

const FEW = 3; // lanes that have a key of their own on a tile
const MOST_KEYS = 5; // points that have one
const LONG_MS = 500; // a touch that long opens the tile

/** A long touch does something else, and then no click follows. */
const long = (made, then) => {
  let timer = null;
  let was = false;
  made.addEventListener("pointerdown", () => { was = false; timer = setTimeout(() => { was = true; then(); }, LONG_MS); });
  for (const name of ["pointerup", "pointerleave", "pointercancel"]) made.addEventListener(name, () => clearTimeout(timer));
  made.addEventListener("click", (event) => { if (was) { event.stopImmediatePropagation(); event.preventDefault(); } }, true);
  made.addEventListener("contextmenu", (event) => event.preventDefault());
  return made;
};

const NARROW = 215; // px of a tile that shows first names alone
const LETTERS = 17; // px of a letter's height as usual
const LEAST = { width: 176, height: 174, strip: 62 }; // px of a tile, and of what stands above them

/** In how many columns so many tiles stand: as few as fit without scrolling, as many as a name has room in. */
export const columns = (count, width, height) => {
  const most = Math.max(1, Math.floor(width / LEAST.width));
  const rows = Math.max(1, Math.floor((height - LEAST.strip) / LEAST.height));
  const few = count < 3 ? 1 : 2;
  return Math.min(most, Math.max(few, Math.ceil(count / rows), width > 900 ? Math.ceil(Math.sqrt(count)) : 1));
};

/**
 * hall: everything; panel: what is chosen on this device (lanes, clocks); open: opens a player; changed: after an entry.
 * @param {{ hall: any, panel: any, open: (player: any) => void, changed: () => void }} given
 */
export const tilesOf = ({ hall, panel, open, changed }) => {
  const nodes = new Map();
  let narrow = false;

  const befores = new Map(); // stay -> what is said before anything is counted there
  const put = async (player, work, act, value, lane = "") => {
    await befores.get(work.stay)?.();
    await hall.tap(player, work.stay, act, value, lane);
    panel.forget(work);
    changed();
  };
  const zone = (player, work, words, look, then) => long(button(words, then, look), () => open(player));

  const strokes = (player, work, lane) => {
    const said = hall.saidOf(work, lane);
    const key = (words, stroke, look) => {
      const made = zone(player, work, words, look, () => put(player, work, "stroke", { stroke }, lane));
      made.setAttribute("aria-label", `${words} for ${player.name}${said ? `, ${said}` : ""}`);
      return made;
    };
    return [key("Miss", "m", "tile-miss"), key("Good", "g", "tile-good")];
  };
  const landings = (player, work, lane) => work.landings.map(([name, n], i) => {
    const faults = faultOfLanding(work.landings, i);
    const look = Object.keys(faults).length ? "tile-miss" : "tile-good";
    return zone(player, work, `${name} ${n}`, `${look} tile-named`, () => put(player, work, "result", { numbers: { points: n, attempts: 1 }, faults }, lane));
  });
  const points = (player, work, lane) => Array.from({ length: Math.floor(work.top ?? 3) + 1 }, (_, n) => zone(player, work, String(n), "tile-good", () => put(player, work, "result", { numbers: { points: n, attempts: 1 }, faults: null }, lane)));
  const timed = (player, work, lane) => {
    const begun = panel.begun(work);
    const stop = () => put(player, work, "result", { numbers: { seconds: panel.stopWatch(work) }, faults: null }, lane);
    if (begun !== null) return [zone(player, work, "Stop", "tile-miss tile-watch", stop)];
    return [zone(player, work, "Start", "tile-good", () => { panel.startWatch(work); changed(); })];
  };
  const windowed = (player, work) => {
    const one = panel.windowFor(player, work);
    if (!one.runs) return [zone(player, work, `Start ${work.window} s`, "tile-good", () => one.start())];
    if (one.phase === "ready") return [button("Get ready", () => {}, "tile-good", { disabled: true })];
    return [zone(player, work, `Tap: ${one.count}`, "tile-good", () => one.tap())];
  };
  const shares = (player, work, lane) => [["Not done", 0], ["Half", 0.5], ["Done", 1]].map(([words, share]) => zone(player, work, words, share === 1 ? "tile-good" : "tile-miss", () => put(player, work, "result", { numbers: { share }, faults: null }, lane)));
  const opens = (player) => [button("Open", () => open(player), "tile-good")];

  const scored = (player, work, lane) => {
    if (work.landings?.length) return work.landings.length <= MOST_KEYS ? landings(player, work, lane) : opens(player);
    const top = work.top ?? 3;
    return top < MOST_KEYS && Number.isInteger(top) ? points(player, work, lane) : opens(player);
  };
  const KEYS = { makes: strokes, streak: strokes, to_n: strokes, until_lost: strokes, earned: strokes, time: timed, count: windowed, done: shares, points: scored };
  const uncounted = (player, work) => [zone(player, work, `${panel.asked(work)} ✓`, "tile-miss", () => { panel.askedIsDone(work); changed(); })];
  const keysOf = (player, work, lane) => {
    if (panel.asked(work)) return uncounted(player, work);
    if (work.faults_needed && !["makes", "streak", "to_n", "until_lost", "earned"].includes(work.kind)) return opens(player);
    if (work.window && work.calls) return opens(player); // the calls are seen in the open one
    return (KEYS[work.kind] ?? opens)(player, work, lane);
  };

  /** Whoever's clock can be started now: by one touch, all of them. */
  const clocks = (players) => players.filter((one) => !one.rests).flatMap((one) => {
    const work = hall.now(one);
    const free = work?.kind === "time" ? panel.begun(work) === null : work?.kind === "count" && work.window && !work.calls && !panel.windowFor(one, work).runs;
    return free && !work.faults_needed ? [[one, work]] : [];
  });
  const startAll = (players) => {
    for (const [player, work] of clocks(players)) {
      if (work.kind === "time") panel.startWatch(work);
      else panel.windowFor(player, work).start();
    }
    changed();
  };

  // what is left, lane by lane: a touch takes that lane next; where there are many, on a small plan
  const lanesOf = (player, work, { at, folded }, lane) => {
    const take = (name) => { panel.take(work, name); changed(); };
    if (work.lanes.length > FEW) return spotsOf(work, at, lane, take);
    return el("div.tile-lanes", { role: "group", "aria-label": "Lane" }, at.lanes.map((one, i) => {
      const count = `${one.done}/${one.asked}`;
      const row = rowSaid(work, folded, one.lane);
      const begun = row ? [" ", el("span.tile-row", {}, [row])] : [];
      if (work.lanes.length < 2) return el("span.tile-lane", {}, [el("span", {}, [count, ...begun])]);
      const words = [el("small", {}, [work.said[i]]), " ", el("b", {}, [count]), ...begun];
      return el("button.tile-lane", { type: "button", onclick: () => take(one.lane), "aria-pressed": String(one.lane === lane) }, words);
    }));
  };
  const next = (work, lane) => work.lanes[(work.lanes.indexOf(lane) + 1) % work.lanes.length];
  const spotsOf = (work, at, lane, take) => {
    const done = at.lanes.reduce((all, one) => all + one.done, 0);
    const asked = at.lanes.reduce((all, one) => all + one.asked, 0);
    const now = at.lanes[Math.max(0, work.lanes.indexOf(lane))];
    return el("div.tile-lanes", {}, [
      el("button.tile-lane", { type: "button", onclick: () => take(next(work, lane)), "aria-label": `Lane ${hall.saidOf(work, lane)}: take the next one` }, [el("small", {}, [hall.saidOf(work, lane)]), " ", el("b", {}, [`${now.done}/${now.asked}`])]),
      el("span.tile-all", {}, [`${done}/${asked}`]),
      spotPlan(work, at, lane, null),
    ]);
  };

  const head = (player, words, turn) => el("div.tile-head", {}, [
    el("button.tile-name", { type: "button", onclick: () => open(player), "aria-haspopup": "dialog" }, [
      el("strong", {}, [short(player)]),
      el("span", { "data-whole": "" }, [turn === "up" ? el("b.tile-sign", {}, ["▶ next "]) : el("b.tile-rest", { "data-rest": String(player.id) }), words]),
    ]),
    player.rests ? null : button("↶", () => undo(player), "tile-key", { "aria-label": `Undo for ${player.name}` }),
    player.rests ? null : button("Hurt", () => hall.hurt(player, ""), "tile-key hall-stop", { "aria-label": `Hurt: stop ${player.name}` }),
  ]);
  // a narrow tile has room for a first name, where nobody else has the same
  const short = (player) => {
    const [first] = player.name.split(" ");
    const alone = hall.players.filter((one) => one.name.split(" ")[0] === first).length === 1;
    return narrow && alone ? first : player.name;
  };
  const undo = async (player) => {
    const last = hall.lastOf(player);
    if (last) await hall.tap(player, last.stay, "undo", { of: last.id });
    changed();
  };

  const inside = (player, turn) => {
    if (player.rests) return [head(player, "", turn), el("p.tile-halt", {}, ["■ Stopped: something hurts"])];
    const work = hall.now(player);
    if (!work) {
      const verdict = player.work.map((one) => hall.read(one).folded.told?.headline).filter(Boolean).at(-1) ?? "";
      return [head(player, verdict, turn), el("p.tile-done", {}, [player.work.length ? "✓ All done" : "Nothing is asked in the hall"])];
    }
    const read = hall.read(work);
    const lane = panel.laneOf(work) ?? read.at.next;
    // two jobs in one repetition: which of them is judged now
    const words = [work.beside?.length && `Now: ${work.ladder}`, work.title, work.cue && `“${work.cue}”`].filter(Boolean).join(" · ");
    return [head(player, words, turn), lanesOf(player, work, read, lane), el("div.tile-zones", {}, keysOf(player, work, lane))];
  };

  const keyOf = (player, turn) => [player.rests, turn === "up", panel.turnedOf(player), ...player.work.map((one) => hall.tapsOf(one.stay).length)].join(" ");
  const lookOf = (player, turn) => `hall-tile${player.rests ? " halted" : ""}${turn === "up" ? " due" : ""}${hall.now(player) ? "" : " done"}`;

  /** Draw those who are here, in their order. @param {any} box @param {any[]} players @param {Map<number, string>} turns */
  const draw = (box, players, turns) => {
    // who reads large letters has fewer and larger tiles
    const scale = Math.max(1, parseFloat(getComputedStyle(document.documentElement).fontSize) / LETTERS);
    const cols = columns(players.length, innerWidth / scale, innerHeight / scale);
    narrow = innerWidth / scale / cols < NARROW;
    box.style.setProperty("--cols", String(cols));
    const now = players.map((player) => {
      if (!nodes.has(player.id)) nodes.set(player.id, el("li", { "data-player": String(player.id) }, []));
      const node = nodes.get(player.id);
      node.className = lookOf(player, turns.get(player.id));
      fill(node, keyOf(player, turns.get(player.id)), () => inside(player, turns.get(player.id)));
      return node;
    });
    if (now.length !== box.children.length || now.some((node, i) => box.children[i] !== node)) box.replaceChildren(...now);
  };

  /** What runs says its time: a watch, a rest. */
  const tick = (players, now) => {
    for (const player of players) {
      const work = player.work.length ? hall.now(player) : null;
      const node = nodes.get(player.id);
      if (!work || !node) continue;
      const watch = node.querySelector(".tile-watch");
      panel.windowOn(work)?.tick();
      if (watch && panel.begun(work) !== null) watch.textContent = `Stop ${clock(Date.now() - panel.begun(work))}`;
      const rest = node.querySelector(".tile-rest");
      const left = hall.rested(player, now);
      if (rest) rest.textContent = left > 0 ? `◷ ${clock(left)} ` : "";
    }
  };
  /** What a player is counted with at one piece of work; before: said before anything is counted. */
  const keys = (player, work, before) => {
    befores.set(work.stay, before);
    const read = hall.read(work);
    const lane = panel.laneOf(work) ?? read.at.next;
    return [lanesOf(player, work, read, lane), el("div.tile-zones", {}, keysOf(player, work, lane))];
  };
  return { draw, tick, keys, undo, clocks, startAll, turned: (work) => panel.turnedAt(work) };
};

/** The lanes where they lie; the one that is on is lit, the done ones are full. take: a touch takes one, or nothing. */
export const spotPlan = (work, at, lane, take) => {
  if (!work.spots.length) return null;
  const picture = document.createElementNS("http://www.w3.org/2000/svg", "svg");
  picture.setAttribute("viewBox", "-12 -12 124 124");
  picture.setAttribute("class", take ? "spot-plan large" : "spot-plan");
  picture.setAttribute("aria-hidden", "true");
  work.spots.forEach(([x, y], i) => {
    const one = document.createElementNS("http://www.w3.org/2000/svg", "circle");
    for (const [name, value] of [["cx", x], ["cy", y], ["r", take ? 9 : 10]]) one.setAttribute(name, String(value));
    one.setAttribute("class", [work.lanes[i] === lane ? "now" : "", at.lanes[i].over ? "full" : ""].join(" ").trim());
    if (take) one.addEventListener("click", () => take(work.lanes[i]));
    picture.append(one);
  });
  return picture;
};
