// A test day on the hall's page: the same tiles, with a protocol. Who is up next, one trial after the other with its rest, and
// what counts of them. A value that cannot be is said at the tile; what it means stands on the day's own page.
import { now as moment } from "../clock.js";
import { minutes as clock } from "../instruments/clock.js";
import { inOrder } from "./state.js";
import { button, el, fill } from "./dom.js";

const SCORE = {
  best: (values, higher) => (higher ? Math.max(...values) : Math.min(...values)),
  mean: (values) => values.reduce((sum, one) => sum + one, 0) / values.length,
  median: (values) => {
    const sorted = [...values].sort((a, b) => a - b);
    const half = Math.floor(sorted.length / 2);
    return sorted.length % 2 ? sorted[half] : (sorted[half - 1] + sorted[half]) / 2;
  },
};

/** What trials come to, as the test says; null for none. */
export const scoreOf = (test, values) => {
  const counted = values.slice(0, test.trials);
  return counted.length ? SCORE[test.score_by](counted, test.higher) : null;
};

/** Trials of one player on one side: what the server had, and what was measured here since, without what was taken back. */
export const trialsOf = (day, test, player, side, taps) => {
  const back = new Set(taps.filter((tap) => tap.act === "undo").map((tap) => tap.value.of));
  const mine = taps.filter((tap) => tap.act === "trial" && tap.value.battery === day.id && tap.value.test === test.id && tap.lane === side).sort(inOrder);
  const known = new Set(mine.map((tap) => tap.id));
  const before = day.done.filter((one) => one.player === player && one.test === test.id && one.side === side && !known.has(one.id));
  const all = [...before, ...mine.map((tap) => ({ id: tap.id, value: tap.value.numbers.trial, at: tap.at }))];
  return all.filter((one) => !back.has(one.id));
};

/** Who is up: the fewest trials first, in the order of the day, rested and well. */
export const nextUp = (lines) => lines.filter((one) => !one.whole && !one.rests && one.left <= 0).sort((a, b) => a.done - b.done || a.place - b.place)[0]?.player.id ?? null;

/** @param {{ hall: any, changed: () => void }} given */
export const trialsView = ({ hall, changed }) => {
  const view = { day: 0, test: 0 };
  const begun = new Map(); // player -> when the watch of a trial was started, on this device
  const typing = new Map(); // player and side -> what was typed and not kept
  const faults = new Map(); // player and side -> why it was not
  const day = () => hall.tests[view.day] ?? hall.tests[0];
  const test = () => day().tests[view.test] ?? day().tests[0];
  const taps = (player) => hall.tapsOf(`p${player.id}`);

  const lineOf = (player, place) => {
    const sides = test().sides.map((side) => ({ side, trials: trialsOf(day(), test(), player.id, side, taps(player)) }));
    const all = sides.flatMap((one) => one.trials);
    const last = Math.max(0, ...all.map((one) => new Date(one.at).getTime()));
    const left = last ? last + 1000 * test().rest - moment() : 0;
    const owed = sides.filter((one) => one.trials.length < test().trials);
    const whole = test().own ? owed.length < sides.length : owed.length === 0;
    // on one's own side: the one that was begun, or either; on both: one after the other
    const begunOn = owed.filter((one) => one.trials.length);
    const onOwn = begunOn.length ? begunOn : owed;
    const open = whole ? [] : (test().own ? onOwn : owed.slice(0, 1)).map((one) => one.side);
    return { open, player, place, sides, done: all.length, left, whole, rests: player.rests, refused: [...hall.taps.values()].filter((tap) => tap.refused && tap.act === "trial" && tap.player === player.id).at(-1)?.refused ?? "" };
  };
  const lines = () => day().players.map((pk) => hall.player(pk)).filter(Boolean).map(lineOf);

  const wrong = (value) => {
    if (!(value >= 0)) return "A number, please.";
    if (value > test().most) return `At most ${test().most}.`;
    if (value < test().least) return `At least ${test().least}.`;
    if (test().whole && !Number.isInteger(value)) return "Whole numbers, please.";
    return "";
  };
  const put = async (player, side, value) => {
    const key = `${player.id} ${side}`;
    const fault = wrong(value);
    faults.set(key, fault);
    if (!fault) {
      typing.delete(key);
      await hall.tap(player, null, "trial", { battery: day().id, test: test().id, numbers: { trial: value } }, side);
    }
    changed();
  };
  const undo = async (line) => {
    const last = line.sides.flatMap((one) => one.trials).sort((a, b) => new Date(a.at).getTime() - new Date(b.at).getTime()).at(-1);
    if (last) await hall.tap(line.player, null, "undo", { of: last.id });
    changed();
  };

  const field = (line, side) => {
    const key = `${line.player.id} ${side}`;
    const words = test().attempts ? `Good of ${test().attempts}` : test().label;
    const made = el("input", { type: "number", min: "0", step: test().whole ? "1" : "any", inputMode: "decimal", value: typing.get(key) ?? "", "aria-label": `${words}, ${line.player.name} ${side}` });
    made.addEventListener("input", () => typing.set(key, made.value));
    made.addEventListener("keydown", (event) => { if (event.key === "Enter") put(line.player, side, made.valueAsNumber); });
    return el("div.hall-number", {}, [el("label", {}, [[side, words].filter(Boolean).join(", "), made]), button("Keep it", () => put(line.player, side, made.valueAsNumber))]);
  };
  const watch = (line, side) => {
    const { player } = line;
    if (!begun.has(player.id)) return button(line.open.length > 1 ? `Start ${side}` : "Start", () => { begun.set(player.id, Date.now()); changed(); }, "tile-good");
    const stop = () => { const seconds = Math.round((Date.now() - begun.get(player.id)) / 10) / 100; begun.delete(player.id); put(player, side, seconds); };
    return el("button.tile-miss", { type: "button", onclick: stop, "data-trial-watch": String(player.id) }, ["Stop"]);
  };
  const values = (one) => one.trials.map((trial) => (test().kind === "time" ? trial.value.toFixed(2) : String(trial.value))).join("  ");
  const scored = (one) => {
    const score = scoreOf(test(), one.trials.map((trial) => trial.value));
    if (score === null) return "";
    return `${{ best: "best", mean: "mean", median: "median" }[test().score_by]} ${test().kind === "time" ? `${score.toFixed(2)} s` : Math.round(score * 10) / 10}`;
  };
  const sideLine = (line, one) => el("p.trial-values", {}, [one.side ? el("small", {}, [`${one.side} `]) : null, el("span.number", {}, [values(one) || "–"]), " ", el("strong", {}, [scored(one)]), el("small.text-soft", {}, [` ${one.trials.length} of ${test().trials}`])]);

  const head = (line, up) => el("div.tile-head", {}, [
    el("p.tile-name", {}, [el("strong", {}, [line.player.name]), el("span", {}, [up ? el("b.tile-sign", {}, ["▶ next"]) : el("b.tile-rest", { "data-trial-rest": String(line.player.id) }, [line.left > 0 ? `◷ ${clock(line.left)}` : ""])])]),
    line.rests ? null : button("↶", () => undo(line), "tile-key", { "aria-label": `Undo for ${line.player.name}` }),
    line.rests ? null : button("Hurt", () => hall.hurt(line.player, ""), "tile-key hall-stop", { "aria-label": `Hurt: stop ${line.player.name}` }),
  ]);
  const inside = (line, up) => {
    if (line.rests) return [head(line, false), el("p.tile-halt", {}, ["■ Stopped: something hurts"])];
    const why = [...test().sides.map((side) => faults.get(`${line.player.id} ${side}`)).filter(Boolean), line.refused].find(Boolean);
    return [
      head(line, up), ...line.sides.map((one) => sideLine(line, one)),
      why ? el("p.error-box", { role: "alert" }, [why]) : null,
      line.whole ? el("p.tile-done", {}, ["✓ All trials"]) : null,
      test().kind === "time" && line.open.length ? el("div.tile-zones", {}, line.open.map((side) => watch(line, side))) : null,
      ...line.open.map((side) => field(line, side)),
    ].filter((one) => one !== null);
  };

  const rules = () => [`${test().trials} ${test().trials === 1 ? "trial" : "trials"}, ${{ best: "the best", mean: "the mean", median: "the median" }[test().score_by]} counts`, test().attempts ? `${test().attempts} attempts each` : "", `${test().rest} s of rest between`, test().counts, test().ends && `over: ${test().ends}`].filter(Boolean).join(" · ");
  const switchOf = (label, list, at, choose) => (list.length < 2 ? null : el("div.switch", { role: "group", "aria-label": label }, list.map((one, i) => button(one.title, () => choose(i), "plain-key", { "aria-pressed": String(i === at) }))));
  const strip = () => el("div.station-strip", {}, [
    switchOf("Which test day", hall.tests, view.day, (i) => { view.day = i; view.test = 0; changed(); }) ?? el("h2", {}, [day().title]),
    switchOf("Which test", day().tests, view.test, (i) => { view.test = i; changed(); }) ?? el("strong", {}, [test().title]),
    el("p.text-soft.text-sm", {}, [rules()]),
    test().steps?.length ? el("ol.trial-steps", {}, test().steps.map((step) => el("li", {}, [step]))) : null,
    el("a.button.quiet", { href: `/test-days/${day().id}/?test=${test().id}` }, ["What each says"]),
  ]);
  const empty = () => [el("p", {}, ["No test day today. ", el("a", { href: "/tests/" }, ["Tests and test days"]), "."])];

  const draw = (box) => {
    if (!hall.tests.length) { fill(box, "none", empty); return; }
    const found = lines();
    const up = nextUp(found);
    const key = [day().id, test().id, up, ...found.map((one) => [one.rests, one.done, one.left > 0, begun.has(one.player.id), one.refused, ...test().sides.map((side) => faults.get(`${one.player.id} ${side}`))])].join(" ");
    fill(box, key, () => [strip(), el("ul.trial-tiles", {}, found.map((line) => el(`li.hall-tile${line.player.id === up ? ".due" : ""}${line.whole ? ".done" : ""}${line.rests ? ".halted" : ""}`, { "data-trial-of": String(line.player.id) }, inside(line, line.player.id === up))))]);
  };
  /** What runs says its time. */
  const tick = () => {
    for (const [player, at] of begun) {
      const made = document.querySelector(`[data-trial-watch="${player}"]`);
      if (made) made.textContent = `Stop ${clock(Date.now() - at)}`;
    }
  };
  return { draw, tick };
};
