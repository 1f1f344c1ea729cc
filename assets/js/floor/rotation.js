// Stations on the hall's page: who is where, by the clock, with each worker's keys on their place. At a change everybody's
// number can be typed, where nobody counted by touch. The clock is this device's own, and goes on when the page is opened anew.
import { minutes as clock } from "../instruments/clock.js";
import { local } from "../local.js";
import { beep, shake, stayAwake } from "../sound.js";
import { button, el, fill } from "./dom.js";

/** Slots and the changes between them, each so many seconds long. */
export const phasesOf = (group) => group.slots.flatMap((slot, i) => {
  const work = { kind: "work", slot: i, seconds: group.slot_s };
  const last = i === group.slots.length - 1;
  if (group.turn_reps) return [{ kind: "work", slot: i, seconds: Infinity }]; // by turns: it ends when everybody is through
  return group.change_s && !last ? [work, { kind: "change", slot: i, seconds: group.change_s }] : [work];
});

/** Where a clock is: its phase, and the seconds that have passed in it. It runs since a moment, or stands. */
export const standing = (phases, kept, now) => {
  let { at, passed } = kept;
  if (kept.since !== null) passed += (now - kept.since) / 1000;
  while (at < phases.length && passed >= phases[at].seconds) { passed -= phases[at].seconds; at += 1; }
  return { at, passed };
};

const START = { at: 0, passed: 0, since: null, base: {} };

/** How far a slot is by turns: the fewest that one of those who work has done in it; null where nobody works. */
export const fewestDone = (works, done, base) => (works.length ? Math.min(...works.map((work) => done(work) - (base[work.stay] ?? 0))) : null);

/**
 * @param {{ hall: any, tiles: any, changed: () => void }} given tiles: draws what a player is counted with
 */
export const rotationOf = ({ hall, tiles, changed }) => {
  let shown = ""; // the phase that was heard last
  let chosen = 0;
  const group = () => hall.stations[chosen] ?? hall.stations[0];
  const name = () => `hall-stations-${group().id}`;
  const kept = () => local.read(name()) ?? START;
  const keep = (next) => { local.write(name(), next); changed(); };
  const now = () => standing(phasesOf(group()), kept(), Date.now());

  const toggle = () => {
    stayAwake();
    const { at, passed } = now();
    const begins = group().turn_reps && at === 0 && kept().since === null && !passed;
    keep({ at, passed, since: kept().since === null ? Date.now() : null, base: begins ? baseOf(0) : kept().base ?? {} });
  };
  const workOf = (place, drill) => hall.player(place.player)?.work.find((one) => one.drill === drill);
  // by turns: who works in a slot and can be counted, what each has done today, and had done when the slot began
  const worksIn = (at) => (group().slots[at]?.stations ?? []).flatMap((station) => station.places.filter((place) => place.works && !hall.player(place.player)?.rests).map((place) => workOf(place, station.drill))).filter((work) => work && !hall.read(work).folded.closed);
  const doneOf = (work) => hall.read(work).at.lanes.reduce((sum, lane) => sum + lane.done, 0);
  const baseOf = (at) => Object.fromEntries(worksIn(at).map((work) => [work.stay, doneOf(work)]));
  const turn = (at) => fewestDone(worksIn(at), doneOf, kept().base ?? {});

  const next = () => {
    const at = Math.min(now().at + 1, phasesOf(group()).length);
    keep({ at, passed: 0, since: kept().since === null ? null : Date.now(), base: baseOf(at) });
  };
  const again = () => keep({ ...START, base: baseOf(0) });
  const feed = async (place, work) => {
    if (place.feeder && work.fed && hall.read(work).folded.feeder !== place.feeder) await hall.tap(hall.player(place.player), work.stay, "feeder", { word: place.feeder.slice(0, 60) });
  };

  // a number for the whole slot, where nobody touched a key
  const typed = (place, work) => {
    const field = (words, value) => el("input", { type: "number", min: "0", inputMode: "numeric", value, "aria-label": `${words}, ${hall.player(place.player).name}` });
    const [good, of] = [field("Good ones", ""), field("Attempts", "")];
    const put = async () => {
      const [makes, attempts] = [good.valueAsNumber, of.valueAsNumber];
      if (!(makes >= 0)) { good.focus(); return; }
      if (!(attempts >= makes && attempts > 0)) { of.focus(); return; }
      await feed(place, work);
      await hall.tap(hall.player(place.player), work.stay, "result", { numbers: { makes, attempts }, faults: null }, hall.read(work).at.next);
      changed();
    };
    return el("div.hall-number", {}, [el("label", {}, ["Good", good]), el("label", {}, ["of", of]), button("Keep it", put)]);
  };

  const placed = (place, station, change) => {
    const player = hall.player(place.player);
    if (!player) return el("p.text-soft", {}, ["Somebody who is not of this club any more"]);
    const role = place.role ? el("span.text-soft", {}, [` ${place.role}`]) : null;
    if (!place.works) return el("p.station-beside", {}, [el("strong", {}, [player.name]), role]);
    const work = workOf(place, station.drill);
    if (player.rests) return el("p.tile-halt", {}, [`■ ${player.name}: stopped, something hurts`]);
    if (!work) return el("p.station-beside", {}, [el("strong", {}, [player.name]), role, el("small.text-soft", {}, [" is on no ladder with this drill: nothing is counted"])]);
    const head = el("div.tile-head", {}, [el("strong", {}, [player.name, role]), button("↶", () => tiles.undo(player), "tile-key", { "aria-label": `Undo for ${player.name}` }), button("Hurt", () => hall.hurt(player, ""), "tile-key hall-stop", { "aria-label": `Hurt: stop ${player.name}` })]);
    const inside = change && work.kind === "makes" ? [typed(place, work)] : tiles.keys(player, work, () => feed(place, work));
    return el("div.station-tile", {}, [head, ...inside]);
  };

  const cards = (slot, change) => el("div.station-cards", {}, [
    ...slot.stations.map((station) => el("section.station-card", { "aria-label": station.name }, [el("h3", {}, [station.name]), ...station.places.map((place) => placed(place, station, change))])),
    slot.rest.length ? el("section.station-card", {}, [el("h3", {}, ["Rest"]), el("p.text-soft", {}, [slot.rest.join(", ")])]) : null,
  ]);

  const words = (phases, at) => {
    if (at >= phases.length) return "Done";
    const { kind, slot } = phases[at];
    const n = group().slots[slot].n;
    return kind === "work" ? `Slot ${n}` : `Change: on to slot ${n + 1}`;
  };
  const startWords = (at, count) => {
    if (at >= count) return "Again";
    if (kept().since !== null) return "Pause";
    return at || kept().passed ? "Go on" : "Start";
  };
  const strip = (phases, at) => el("div.station-strip", {}, [
    hall.stations.length > 1 ? el("div.switch", { role: "group", "aria-label": "Which session" }, hall.stations.map((one, i) => button(one.title, () => { chosen = i; changed(); }, "plain-key", { "aria-pressed": String(one === group()) }))) : el("h2", {}, [group().title]),
    el("strong", { role: "status" }, [words(phases, at)]),
    el("span.number.station-clock", { id: "station-clock" }, [""]),
    button(startWords(at, phases.length), at >= phases.length ? again : toggle, "button main"),
    button("Next", next, "button"),
    el("a.button.quiet", { href: `/stations/${group().id}/` }, ["Who comes late, who goes"]),
  ]);

  const keyOf = (at) => {
    const players = group().slots.flatMap((slot) => slot.stations.flatMap((station) => station.places.map((place) => place.player)));
    const taps = [...new Set(players)].map((pk) => hall.player(pk)).filter(Boolean).map((one) => `${one.rests}${one.work.map((work) => `${hall.tapsOf(work.stay).length}${tiles.turned(work)}`)}`);
    return [group().id, at, kept().since === null, ...taps].join(" ");
  };
  const inside = (at) => {
    const phases = phasesOf(group());
    const { slot, kind } = phases[Math.min(at, phases.length - 1)];
    return [strip(phases, at), cards(group().slots[slot], kind === "change" || at >= phases.length)];
  };
  const empty = () => [el("p", {}, ["No stations today. ", el("a", { href: "/stations/" }, ["Set up stations for a group"]), "."])];

  const draw = (box) => {
    if (!hall.stations.length) { fill(box, "none", empty); return; }
    const { at } = now();
    fill(box, keyOf(at), () => inside(at));
    tick();
  };
  const left = (phases, at, passed) => {
    if (at >= phases.length) return "";
    if (group().turn_reps) return `${Math.max(0, turn(at) ?? 0)} of ${group().turn_reps} each`;
    return clock(1000 * Math.max(0, phases[at].seconds - passed));
  };
  const turnIsOver = (at) => Boolean(group().turn_reps) && kept().since !== null && at < group().slots.length && (turn(at) ?? 0) >= group().turn_reps;
  /** What runs says its time; a change is heard and felt, and drawn. */
  const tick = () => {
    const place = document.getElementById("station-clock");
    if (!hall.stations.length || !place) return;
    const phases = phasesOf(group());
    const { at, passed } = now();
    place.textContent = left(phases, at, passed);
    if (turnIsOver(at)) { next(); return; }
    const news = shown && shown !== `${group().id} ${at}`;
    shown = `${group().id} ${at}`; // before anything is drawn: drawing looks at the clock too
    if (kept().since === null) return;
    if (news) { beep(phases[at]?.kind === "work" ? 660 : 440); shake([120, 60, 120]); changed(); }
    if (at >= phases.length) keep({ at, passed: 0, since: null });
  };
  return { draw, tick };
};
