// The open player: what to do now, its instrument, and what is done with the whole block. Another player is one touch away,
// and what was begun here waits as it is.
import { minutes as clock } from "../instruments/clock.js";
import { button, el, fill } from "./dom.js";
import { isGood } from "../instruments/strokes.js";
import { instrumentOf } from "./instruments.js";

const WATCH = "Watch this one: the last pass has to be seen by a coach.";

/** @param {any} hall @param {() => void} changed */
export const panelOf = (hall, changed) => {
  const places = new Map(); // stay -> lane, watch, what is ticked: of this device alone
  let turned = 0; // what this device alone has changed: a lane, a clock, a tick

  const placeOf = (work) => {
    if (!places.has(work.stay)) places.set(work.stay, { lane: null, but: false, watch: { begun: null }, counted: {}, ticked: new Set() });
    return places.get(work.stay);
  };

  const marks = (work) => {
    const { folded } = hall.read(work);
    const strokes = folded.sets.map((set) => el("span.tally-set", { title: set.lane }, [set.strokes ? [...set.strokes].map((s) => (isGood(s) ? "❘" : "○")).join("") : Object.values(set.numbers ?? {}).join(" ")]));
    return el("p.hall-tally", { "aria-hidden": "true" }, strokes);
  };

  const whole = (player, work, act) => {
    const { folded } = hall.read(work);
    return el("div.hall-whole", {}, [
      button("Undo", async () => { const last = hall.last(work); if (last) await act("undo", { of: last.id }); }),
      button(folded.eased ? "As asked again" : "Easier", () => act("easier", { on: !folded.eased }), "button", { "aria-pressed": String(folded.eased) }),
      button("One more set", () => act("more", {})),
      button("Enough for today", () => act("enough", {})),
    ]);
  };

  const told = (work) => {
    const { folded, over } = hall.read(work);
    if (!over && !folded.told) return null;
    if (folded.told?.why) return el("p.error-box", { role: "alert" }, [folded.told.why]);
    if (!folded.told?.headline) return el("p.text-soft", {}, [over ? "Done here. The verdict comes with the network." : ""]);
    return el("div.hall-told", { role: "status" }, [el("strong", {}, [folded.told.headline]), ...folded.told.lines.map((line) => el("p", {}, [line]))]);
  };

  const comfort = (player) => {
    if (!player.comfort || hall.tapsOf(`p${player.id}`).some((tap) => tap.act === "comfort")) return null;
    const say = async (level) => { await hall.tap(player, null, "comfort", { numbers: { level } }); changed(); };
    return el("div.hall-comfort", { role: "group", "aria-label": "How at ease are you with it?" }, [
      el("span", {}, ["How at ease, 1 to 5?"]), ...[1, 2, 3, 4, 5].map((level) => button(String(level), () => say(level), "button")),
    ]);
  };

  const feeder = (work, act) => {
    if (!work.fed) return null;
    const { folded } = hall.read(work);
    const field = el("input", { type: "text", maxLength: 60, value: folded.feeder, "aria-label": "Who feeds?" });
    field.addEventListener("change", () => act("feeder", { word: field.value.trim() }));
    return el("label.hall-feeder", {}, ["Who feeds?", field]);
  };

  const tempos = (work, act) => {
    if (!work.tempos.length) return null;
    const { folded } = hall.read(work);
    return el("div.switch.small", { role: "group", "aria-label": "Tempo" }, work.tempos.map(([share, words]) => button(words, () => act("tempo", { numbers: { share } }), "plain-key", { "aria-pressed": String(folded.tempo === share) })));
  };

  const READS = [["hits", "Answered"], ["misses", "Not answered"], ["false_alarms", "Touched, should not"], ["correct_leaves", "Left, rightly"]];
  const reads = (work, act) => {
    if (!work.reads) return null;
    const { folded } = hall.read(work);
    return el("div.pad-small", { role: "group", "aria-label": "How the call was answered" }, READS.map(([word, words]) => button(`${words} ${folded.reads[word] ?? 0}`, () => act("read", { word }))));
  };

  const tired = (work, act) => {
    if (!work.tired_too) return null;
    const { folded } = hall.read(work);
    return button(folded.tired ? "Done tired" : "Done fresh", () => act("tired", { on: !folded.tired }), "button", { "aria-pressed": String(folded.tired) });
  };

  const controls = (player, work) => {
    const place = placeOf(work);
    const { at } = hall.read(work);
    const act = async (name, value, lane = "") => { await hall.tap(player, work.stay, name, value, lane); place.lane = null; changed(); };
    const again = () => { turned += 1; changed(); };
    const state = {
      ...place, progress: at, lane: place.lane ?? at.next,
      turn: (name, value) => { place[name] = value; again(); },
      startWatch: () => { place.watch.begun = Date.now(); place.counted = {}; again(); },
      stopWatch: () => { place.watch.begun = null; },
      count: (fault) => { place.counted[fault] = (place.counted[fault] ?? 0) + 1; again(); },
      tick: (i) => { if (!place.ticked.delete(i)) place.ticked.add(i); again(); },
      clearTicks: () => { place.ticked = new Set(); },
    };
    return { act, parts: instrumentOf(work, state, act, (lane) => { place.lane = lane; again(); }) };
  };

  // one touch: the stop holds at once, here and wherever there is a network; where it hurts can be added
  const hurtButton = (player) => {
    const where = el("input", { type: "text", maxLength: 300, "aria-label": `Where does it hurt ${player.name}?`, placeholder: "Where? (may stay empty)" });
    return el("div.hall-hurt", {}, [where, button("Something hurts: stop", () => hall.hurt(player, where.value.trim()), "button stop")]);
  };

  const draw = (box, player, work, choose) => {
    const key = work ? `${player.rests} ${player.id} ${work.stay} ${turned} ${hall.tapsOf(work.stay).length} ${hall.tapsOf(`p${player.id}`).length}` : `${player.id}`;
    fill(box, key, () => inside(player, work, choose));
  };

  const inside = (player, work, choose) => {
    const tabs = player.work.map((one) => button(`${one.ladder}${hall.read(one).over ? " ✓" : ""}`, () => choose(one), "plain-key", { "aria-pressed": String(one === work) }));
    const head = [el("h2", {}, [player.name]), player.work.length > 1 ? el("div.switch.hall-works", { role: "group", "aria-label": "Work" }, tabs) : null];
    if (player.rests) return [...head, el("p.error-box", { role: "alert" }, ["A stop is open: this player rests until a coach has ended it. What is tapped now is not counted."])];
    if (!work) return [...head, el("p.text-soft", {}, ["Nothing is asked in the hall."]), hurtButton(player)];
    const { act, parts } = controls(player, work);
    return [
      ...head,
      el("p", {}, [el("strong", {}, [`Rung ${work.position}, ${work.title}`])]),
      el("p.text-soft", {}, [`${work.dose}. ${work.target}`]),
      work.worn.length ? el("p.note-line", {}, [`Worn now: ${work.worn.join(", ")}`]) : null,
      work.watch ? el("p.note-line", {}, [WATCH]) : null,
      told(work), marks(work), tempos(work, act), ...parts, reads(work, act), whole(player, work, act), tired(work, act), feeder(work, act), comfort(player), hurtButton(player),
    ];
  };

  /** A stopwatch that runs says its time. */
  const tick = (work) => {
    const shown = document.getElementById("hall-watch");
    const place = work && places.get(work.stay);
    if (shown && place?.watch.begun) shown.textContent = clock(Date.now() - place.watch.begun);
  };
  return { draw, tick };
};
