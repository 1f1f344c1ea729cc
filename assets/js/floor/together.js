// Many players at the same drill: a row for each, one touch for each entry, and one stopwatch for all of them.
import { newId } from "../local.js";
import { minutes as clock } from "../instruments/clock.js";
import { button, el, fill } from "./dom.js";

/** Drills that two at least of those here should do: title -> [player, work]. */
export const sharedDrills = (hall, players) => {
  const by = new Map();
  for (const player of players) {
    for (const work of player.work) by.set(work.drill, [...(by.get(work.drill) ?? []), [player, work]]);
  }
  return [...by.values()].filter((rows) => rows.length > 1);
};

/** @param {any} hall @param {() => void} changed */
export const togetherOf = (hall, changed) => {
  const begun = new Map(); // stay -> ms, of those whose clock runs
  const stopped = []; // what one undo takes back

  const put = async (player, work, act, value, lane) => {
    const tap = await hall.tap(player, work.stay, act, value, lane);
    stopped.push([player, work, tap]);
    changed();
  };
  const start = (rows) => { const now = Date.now(); for (const [, work] of rows) if (!begun.has(work.stay)) begun.set(work.stay, now); changed(); };
  const stop = (player, work) => {
    const seconds = Math.round((Date.now() - begun.get(work.stay)) / 10) / 100;
    begun.delete(work.stay);
    return put(player, work, "result", { numbers: { seconds }, faults: null }, hall.read(work).at.next);
  };
  const undo = async () => {
    const last = stopped.pop();
    if (!last) return;
    const [player, work, tap] = last;
    await hall.tap(player, work.stay, "undo", { of: tap.id });
    changed();
  };

  // the same players and drill as stations with a clock: a form, so that it is stored before it begins
  const begin = (rows, turn) => {
    const field = (name, value) => el("input", { type: "hidden", name, value: String(value) });
    const form = el("form", { method: "post", action: "/stations/begin/", hidden: true }, [
      field("csrfmiddlewaretoken", hall.token), field("form_id", newId()), field("title", rows[0][1].title), field("drill", rows[0][1].drill),
      ...rows.map(([player]) => field("players", player.id)), ...(turn ? [field("turn_reps", turn)] : []),
    ]);
    document.body.append(form);
    form.submit();
  };
  const timed = ([player, work]) => {
    const runs = begun.has(work.stay);
    const { folded } = hall.read(work);
    const last = folded.sets.at(-1)?.numbers?.seconds;
    return [
      el("td.number", { "data-runs": String(work.stay) }, [runs ? clock(Date.now() - begun.get(work.stay)) : ""]),
      el("td", {}, [runs ? button("Stop", () => stop(player, work), "pad-miss") : button("Start", () => start([[player, work]]), "button")]),
      el("td.number", {}, [last === undefined ? "" : `${last.toFixed(2)} s`]),
    ];
  };
  const counted = ([player, work]) => hall.read(work).at.lanes.map((lane, i) => el("td", {}, [el("div.hall-pair", {}, [
    button("○", () => put(player, work, "stroke", { stroke: "m" }, lane.lane), "pad-miss", { "aria-label": `${player.name} ${work.said[i] ?? ""} missed` }),
    el("span.number", {}, [`${lane.good}/${lane.tried}`]),
    button("❘", () => put(player, work, "stroke", { stroke: "g" }, lane.lane), "pad-good", { "aria-label": `${player.name} ${work.said[i] ?? ""} good` }),
    work.fed ? button("Bad feed", () => put(player, work, "stroke", { stroke: "v" }, lane.lane), "button", { "aria-label": `${player.name} ${work.said[i] ?? ""} bad feed` }) : null,
    work.said[i] && work.said[i] !== lane.lane ? el("small", {}, [`for ${player.name}: ${work.said[i]}`]) : null,
  ])]));
  const keyed = ([player, work]) => [el("td", {}, [el("div.hall-keys", {}, Array.from({ length: Math.min(10, work.top ?? 3) + 1 }, (_, n) => button(String(n), () => put(player, work, "result", { numbers: { points: n, attempts: 1 }, faults: null }, hall.read(work).at.next), "button")))])];
  const CELLS = { time: timed, points: keyed };
  const cells = (row) => (CELLS[row[1].kind] ?? counted)(row);
  const fits = (rows) => ["makes", "streak", "to_n", "until_lost", "earned", "time", "points"].includes(rows[0][1].kind);

  const draw = (box, groups, chosen, choose) => {
    const rows = groups[chosen] ?? groups[0] ?? [];
    const key = rows.map(([, work]) => `${work.stay} ${hall.tapsOf(work.stay).length} ${begun.has(work.stay)}`).join("|");
    fill(box, `${groups.length} ${chosen} ${key}`, () => inside(groups, rows, choose));
  };

  const inside = (groups, rows, choose) => {
    if (!rows.length) return [el("p.text-soft", {}, ["Nobody shares a drill just now: two players at least, here and on the same one."])];
    const pick = el("div.switch.hall-works", { role: "group", "aria-label": "Drill" }, groups.map((group, i) => button(`${group[0][1].title} (${group.length})`, () => choose(i), "plain-key", { "aria-pressed": String(group === rows) })));
    if (!fits(rows)) return [pick, el("p.text-soft", {}, ["This one is logged player by player."])];
    const heads = rows[0][1].kind === "makes" ? rows[0][1].lanes : [];
    const table = el("table.hall-matrix", {}, [
      el("thead", {}, [el("tr", {}, [el("th", { scope: "col" }, ["Player"]), ...heads.map((lane) => el("th", { scope: "col" }, [lane]))])]),
      el("tbody", {}, rows.map((row) => el("tr", {}, [el("th", { scope: "row" }, [row[0].name, hall.read(row[1]).over ? " ✓" : ""]), ...cells(row)]))),
    ]);
    const all = rows[0][1].kind === "time" ? button("Start all", () => start(rows), "button") : null;
    const rotate = button("By the clock, in its roles", () => begin(rows), "button");
    const each = el("input", { type: "number", min: "1", max: "100", value: "5", inputMode: "numeric", "aria-label": "Attempts each, then all change" });
    const turns = el("span.hall-turn", {}, [button("In turns of", () => begin(rows, each.valueAsNumber || 5), "button"), each, "each"]);
    return [pick, el("div.actions", {}, [all, button("Undo", undo), rotate, turns]), el("div.scrolled", { tabIndex: 0, role: "region", "aria-label": "Everybody at one drill" }, [table])];
  };
  const tick = () => {
    for (const [stay, at] of begun) {
      const cell = document.querySelector(`[data-runs="${stay}"]`);
      if (cell) cell.textContent = clock(Date.now() - at);
    }
  };
  return { draw, tick };
};
