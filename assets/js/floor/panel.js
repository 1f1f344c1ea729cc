// The open player: what to do now, its instrument, and what is done with the whole block. Another player is one touch away,
// and what was begun here waits as it is.
import { minutes as clock } from "../instruments/clock.js";
import { button, el, fill } from "./dom.js";
import { isGood } from "../instruments/strokes.js";
import { callerOf, callerPart } from "./caller.js";
import { earOf, earPart } from "./ear.js";
import { wordPart } from "./words.js";
import { instrumentOf } from "./instruments.js";
import { askedDone, askedNow, askedPart, askedWords, callsGoOn, restShown, slowOver } from "./between.js";
import { faultsSoFar, formSlips, offered, stopped } from "./state.js";
import { spotPlan } from "./tiles.js";
import { windowOf } from "./window.js";

// what was counted; how many a phone heard of it is told elsewhere
const numbersOf = ({ numbers }) => Object.entries(numbers ?? {}).filter(([name]) => name !== "heard").map(([, number]) => number);

const FEW = 4; // names that need not be folded
const WATCH = "Watch this one: the last pass has to be seen by a coach.";

/** @param {any} hall @param {() => void} changed */
export const panelOf = (hall, changed) => {
  const places = new Map(); // stay -> lane, watch, what is ticked: of this device alone
  let turned = 0; // what this device alone has changed: a lane, a clock, a tick

  const placeOf = (work) => {
    if (!places.has(work.stay)) places.set(work.stay, { lane: null, but: false, watch: { begun: null }, counted: null, ticked: new Set(), passedOver: [] });
    return places.get(work.stay);
  };

  const marks = (work) => {
    const { folded } = hall.read(work);
    const strokes = folded.sets.map((set) => el("span.tally-set", { title: set.lane }, [set.strokes ? [...set.strokes].map((s) => (isGood(s) ? "❘" : "○")).join("") : numbersOf(set).join(" ")]));
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

  // the rung's easier way, offered once one kind of fault has come so often; never forced
  const easierWay = (work, act) => {
    const { folded } = hall.read(work);
    const place = placeOf(work);
    const fault = offered(work, folded, place.passedOver);
    const slips = work.easier && !place.formPassed ? formSlips(work, folded) : null;
    if (fault < 0 && slips === null) return null;
    const counts = faultsSoFar(work, folded);
    const pass = () => { place.passedOver = counts; place.formPassed = slips !== null; turned += 1; };
    const percent = (share) => `${Math.round(100 * share)} %`;
    const why = fault < 0 ? `Technique in the last third: ${percent(slips ?? 0)}, needs ${percent(work.form_min)}` : `${counts[fault]} times “${work.faults[fault]}”`;
    return el("div.ease-offer", { role: "status" }, [
      el("p", {}, [`${why}. Easier: ${work.easier}`]),
      button("Easier from now on", () => { pass(); act("easier", { on: true }); }, "button main"),
      button("Leave it as it is", () => { pass(); changed(); }),
    ]);
  };

  const comfort = (player, work) => {
    if (!player.comfort || hall.tapsOf(`p${player.id}`).some((tap) => tap.act === "comfort")) return null;
    const say = async (level) => { await hall.tap(player, null, "comfort", { numbers: { level }, about: work.stay }); changed(); };
    return el("div.hall-comfort", { role: "group", "aria-label": "How at ease are you with it?" }, [
      el("span", {}, ["How at ease, 1 to 5?"]), ...[1, 2, 3, 4, 5].map((level) => button(String(level), () => say(level), "button")),
    ]);
  };

  const feeder = (player, work, act) => {
    if (!work.fed) return null;
    const { folded } = hall.read(work);
    const field = el("input", { type: "text", maxLength: 60, value: folded.feeder, "aria-label": "Who feeds?" });
    field.addEventListener("change", () => act("feeder", { word: field.value.trim() }));
    // whoever is here is named in one touch
    const others = hall.present().filter((one) => one !== player && !one.rests);
    const chip = ({ name }) => button(name, () => act("feeder", { word: folded.feeder === name ? "" : name }), "hall-chip", { "aria-pressed": String(folded.feeder === name) });
    return el("div.hall-feeding", {}, [
      el("label.hall-feeder", {}, ["Who feeds?", field]),
      others.length ? el("details", others.length > FEW ? {} : { open: true }, [el("summary", {}, ["Of those here"]), el("div.hall-chips", {}, others.map(chip))]) : null,
    ]);
  };

  const tempos = (work, act) => {
    if (!work.tempos.length) return null;
    const { folded } = hall.read(work);
    return el("div.switch.small", { role: "group", "aria-label": "Tempo" }, work.tempos.map(([share, words]) => button(words, () => act("tempo", { numbers: { share } }), "plain-key", { "aria-pressed": String(folded.tempo === share) })));
  };

  const feeds = (work, act) => {
    if (!work.feeds.length) return null;
    const { folded } = hall.read(work);
    const keys = work.feeds.map((word) => button(word, () => act("feed", { word }), "plain-key", { "aria-pressed": String(folded.feed === word) }));
    return el("div", {}, [el("span.text-soft.text-sm", {}, ["Feed"]), el("div.switch.small", { role: "group", "aria-label": "Feed" }, keys)]);
  };

  // the technique of the set that was done last; what nobody looked at stays unknown
  const technique = (work, act) => {
    if (!work.form) return null;
    const { folded } = hall.read(work);
    if (work.form === "share") return shareSeen(folded, act);
    const set = folded.sets.at(-1);
    if (!set) return el("p.text-soft.text-sm", {}, ["Technique can be ticked once something is counted."]);
    const keep = (seen) => act("look", { seen }, set.lane);
    const flip = (i) => keep(set.seen?.includes(i) ? set.seen.filter((n) => n !== i) : [...(set.seen ?? []), i]);
    const where = set.lane ? `, ${work.said[work.lanes.indexOf(set.lane)] ?? set.lane}` : "";
    return el("div.hall-looks", { role: "group", "aria-label": "Technique of the last set" }, [
      el("p", {}, [el("strong", {}, [`Technique of the last set${where}: `]), set.seen ? `${set.seen.length} of ${work.checkpoints.length} looked right` : "not looked at yet", work.form_min ? `, needs ${Math.round(100 * work.form_min)} %` : ""]),
      el("div.hall-ticks", {}, work.checkpoints.map((words, i) => button(words, () => flip(i), "button", { "aria-pressed": String(Boolean(set.seen?.includes(i))) }))),
      el("div.pad-small", {}, [button("All of it right", () => keep(work.checkpoints.map((_, i) => i))), button("None of it", () => keep([]))]),
    ]);
  };
  const shareSeen = (folded, act) => el("label.hall-number", {}, [
    "Technique that looked right, %",
    el("input", { type: "number", min: "0", max: "100", inputMode: "numeric", value: folded.form === null ? "" : String(Math.round(100 * folded.form)), onchange: (event) => { const n = event.target.valueAsNumber; if (n >= 0 && n <= 100) act("look", { numbers: { form: n / 100 } }); } }),
  ]);

  const tired = (work, act) => {
    if (!work.tired_too) return null;
    const { folded } = hall.read(work);
    return button(folded.tired ? "Done tired" : "Done fresh", () => act("tired", { on: !folded.tired }), "button", { "aria-pressed": String(folded.tired) });
  };

  /** A window of so many seconds: what was tapped in it is one entry, on tile and panel alike. */
  const windowFor = (player, work) => {
    const place = placeOf(work);
    const ended = async (count) => {
      const faults = place.counted && { ...place.counted };
      const lane = place.lane ?? hall.read(work).at.next;
      Object.assign(place, { counted: null, lane: null });
      const keep = async (number) => { await hall.tap(player, work.stay, "result", { numbers: { count: number }, faults }, lane); changed(); };
      place.caller?.callsOver();
      // nobody stood at the tablet: how many they were is asked with their calls
      if (!count && place.caller?.isTelling()) { place.caller.asks = keep; turned += 1; changed(); } else await keep(count);
    };
    // its calls begin and end with it
    const along = { began: () => { if (place.caller && !place.caller.callsOn()) place.caller.startAlone(); }, halted: () => place.caller?.endCalls() };
    place.window ??= windowOf(work.window, ended, () => { turned += 1; place.turned = (place.turned ?? 0) + 1; changed(); }, along);
    return place.window;
  };

  /** Its instrument, with the ear over it where it can be heard; while that listens nothing is tapped beside. */
  const heardOr = (work, place, keep, drawn, instrument) => {
    if (!work.heard) return instrument();
    place.ear ??= earOf(work, keep, drawn);
    const part = earPart(place.ear, work.heard.sound);
    return place.ear.earIs("off") ? [part, ...instrument()] : [part];
  };

  // who could be called along: those here who stand on the same rung, and whose calls do not go with a window
  const roomOf = (player, work) => {
    const here = () => hall.present().filter((one) => one !== player && !one.rests);
    const same = (one) => one.work.find((other) => other.ladder === work.ladder && other.position === work.position && other.calls && !hall.read(other).over);
    const entry = (one, theirs) => (name, value) => hall.tap(one, theirs.stay, name, value, name === "stroke" ? hall.read(theirs).at.next : "");
    return {
      name: player.name,
      others: () => here().map((one) => ({ one, theirs: same(one) })).filter(({ theirs }) => theirs).map(({ one, theirs }) => ({ id: one.id, name: one.name, act: entry(one, theirs) })),
      names: () => here().map((one) => one.name.split(" ")[0]).sort(() => Math.random() - 0.5),
    };
  };

  const controls = (player, work) => {
    const place = placeOf(work);
    const { at, folded } = hall.read(work);
    const act = async (name, value, lane = "") => { await hall.tap(player, work.stay, name, value, lane); place.lane = null; changed(); };
    const again = () => { turned += 1; changed(); };
    // one thing at a time is called or runs: it stays with its player when another one is opened
    if (work.window) windowFor(player, work);
    place.caller ??= work.calls ? callerOf(work, () => hall.read(work).folded.sets.length, (name, value) => act(name, value, name === "stroke" ? place.now : ""), again, roomOf(player, work)) : null;
    if (place.caller && place.window) place.caller.under = () => (place.window.runs ? `${clock(place.window.left)} left` : "");
    place.told ??= () => { const told = place.counted && { ...place.counted }; place.counted = null; return told; };
    place.now = place.lane ?? at.next;
    const state = {
      ...place, progress: at, lane: place.lane ?? at.next,
      turn: (name, value) => { place[name] = value; again(); },
      startWatch: () => { place.watch.begun = Date.now(); place.counted = {}; again(); },
      stopWatch: () => { place.watch.begun = null; },
      count: (fault) => { place.counted = { ...place.counted, [fault]: (place.counted?.[fault] ?? 0) + 1 }; again(); },
      clean: () => { place.counted = {}; again(); },
      tick: (i) => { if (!place.ticked.delete(i)) place.ticked.add(i); again(); },
      clearTicks: () => { place.ticked = new Set(); },
    };
    const parts = heardOr(work, place, (numbers) => act("result", { numbers, faults: null }, place.now), again, () => instrumentOf(work, state, act, (lane) => { place.lane = lane; again(); }));
    const plan = spotPlan(work, at, state.lane, (lane) => { place.lane = lane; again(); });
    parts.push(wholeSet(work, act, state.lane));
    if (plan) parts.unshift(plan);
    return { act, parts: place.caller ? [callerPart(place.caller), ...parts] : parts, stop: stopLine(work, folded) };
  };

  // one touch: the stop holds at once, here and wherever there is a network; where it hurts can be added
  const hurtButton = (player) => {
    const where = el("input", { type: "text", maxLength: 300, "aria-label": `Where does it hurt ${player.name}?`, placeholder: "Where? (may stay empty)" });
    return el("div.hall-hurt", {}, [where, button("Something hurts: stop", () => hall.hurt(player, where.value.trim()), "button stop")]);
  };

  const stopLine = (work, folded) => {
    const lanes = (work.lanes.length ? work.lanes : [""]).filter((lane) => stopped(work, folded.sets.filter((set) => set.lane === lane)));
    if (!lanes.length) return null;
    return el("p.enough", { role: "status" }, [`Enough${lanes[0] ? `, ${lanes.join(", ")}` : ""}: the rounds have got slower than the first ones. More would train something else.`]);
  };
  // what is read before it is done: the one cue, what is new, what keeps it safe
  const line = (said, look = "p.note-line") => (said ? el(look, {}, [said]) : null);
  const standing = (work) => [
    line(work.new_here && `New here: ${work.new_here}`, "p.text-soft"),
    line(work.recheck && "Back after a break: the rung below, once."),
    line(work.eased && `Easier for now: ${work.easier}`),
    line(work.tempo_why, "p.text-soft"),
    line(work.feed_why, "p.text-soft"),
  ];
  const howTo = (work) => el("details", {}, [
    el("summary", {}, ["How it is done"]), el("p", {}, [work.text]),
    el("ul.cues", {}, work.cues.map((cue) => el("li", {}, [cue]))), work.set_to.length ? el("p", {}, [`Set ${work.set_to.join("; ")}.`]) : null, ...work.kit.map((one) => el("p", {}, [one])),
  ]);
  const words = (work) => [
    ...standing(work),
    work.cue ? el("p.one-cue", {}, [el("span.text-soft.text-sm", {}, ["Cue of the day "]), el("strong", {}, [work.cue])]) : null,
    line(work.begin.length > 0 && `Begin with ${work.begin.join(", ")}.`, "p"),
    work.text ? howTo(work) : null,
  ];
  const safety = (work) => [
    line(work.note && `Safety first: ${work.note}`),
    line(work.worn.length > 0 && `Worn now: ${work.worn.join(", ")}`),
    line(work.seen && WATCH),
  ];
  const restPart = (work) => (work.rest || work.rest_each || work.slow_first ? el("p.hall-rest", { id: "hall-rest", hidden: true, role: "status" }) : null);

  const slow = (work) => askedPart(hall, work, placeOf(work), () => { turned += 1; changed(); });

  const draw = (box, player, work, choose) => {
    const key = work ? `${player.rests} ${player.id} ${work.stay} ${turned} ${hall.tapsOf(work.stay).length} ${hall.tapsOf(`p${player.id}`).length}` : `${player.id}`;
    fill(box, key, () => inside(player, work, choose));
  };

  // a whole set that somebody else counted: two numbers, one entry
  const wholeSet = (work, act, lane) => {
    if (!["makes", "streak"].includes(work.kind)) return null;
    const field = (words, value) => el("input", { type: "number", min: "0", inputMode: "numeric", value, "aria-label": words });
    const good = field(work.kind === "makes" ? "Good ones" : "Longest run", "");
    const of = field("Attempts", work.reps ?? "");
    const keep = () => {
      const [makes, attempts] = [good.valueAsNumber, of.valueAsNumber];
      const numbers = work.kind === "makes" ? { makes, attempts } : { best_run: makes };
      if (!(makes >= 0) || (work.kind === "makes" && !(attempts >= makes && attempts > 0))) { good.focus(); return; }
      act("result", { numbers, faults: null }, lane);
    };
    return el("details.hall-set", {}, [
      el("summary", {}, ["A whole set as a number"]),
      el("div.hall-number", {}, [el("label", {}, [work.kind === "makes" ? "Good" : "Longest run", good]), work.kind === "makes" ? el("label", {}, ["of", of]) : null, button("Keep it", keep)]),
    ]);
  };
  const head = (player, work, choose) => {
    const tabs = player.work.map((one) => button(`${one.ladder}${hall.read(one).over ? " ✓" : ""}`, () => choose(one), "plain-key", { "aria-pressed": String(one === work) }));
    return [el("header.hall-open-head", {}, [el("h2", {}, [player.name]), button("Close", () => hall.close(), "button", { "data-close": "" })]), player.work.length > 1 ? el("div.switch.hall-works", { role: "group", "aria-label": "Work" }, tabs) : null];
  };
  const inside = (player, work, choose) => {
    const top = head(player, work, choose);
    if (player.rests) return [...top, el("p.error-box", { role: "alert" }, ["A stop is open: this player rests until a coach has ended it. What is tapped now is not counted."])];
    if (!work) return [...top, el("p.text-soft", {}, ["Nothing is asked in the hall."]), wordPart(hall, player, null, changed), hurtButton(player)];
    const { act, parts, stop } = controls(player, work);
    return [
      ...top,
      el("p", {}, [el("strong", {}, [`Rung ${work.position} of ${work.rungs}, ${work.title}`])]),
      el("p.text-soft", {}, [`${work.dose}. ${work.target}`]),
      ...words(work), ...safety(work),
      told(work), easierWay(work, act), marks(work), slow(work), restPart(work), stop, tempos(work, act), feeds(work, act), ...parts, technique(work, act),
      whole(player, work, act), tired(work, act), feeder(player, work, act), comfort(player, work), wordPart(hall, player, work, changed), hurtButton(player),
    ];
  };

  const earShown = (work) => {
    const [face, under] = ["hall-heard", "hall-ear"].map((id) => document.getElementById(id));
    const ear = work && places.get(work.stay)?.ear;
    if (face && ear) face.textContent = String(ear.earFace());
    if (under && ear) under.textContent = ear.earUnder();
  };
  // what a tile asks: the lane that was chosen by hand, and its watch
  const tileSide = {
    asked: (work) => { const asked = askedNow(work, hall.read(work), placeOf(work)); return asked && askedWords(work, asked); },
    askedIsDone: (work) => { askedDone(hall, work, placeOf(work)); turned += 1; placeOf(work).turned = (placeOf(work).turned ?? 0) + 1; },
    laneOf: (work) => placeOf(work).lane,
    take: (work, lane) => { placeOf(work).lane = lane; turned += 1; placeOf(work).turned = (placeOf(work).turned ?? 0) + 1; },
    forget: (work) => { placeOf(work).lane = null; },
    begun: (work) => placeOf(work).watch.begun,
    startWatch: (work) => { placeOf(work).watch.begun = Date.now(); placeOf(work).counted = null; placeOf(work).turned = (placeOf(work).turned ?? 0) + 1; },
    stopWatch: (work) => { const seconds = Math.round((Date.now() - placeOf(work).watch.begun) / 10) / 100; placeOf(work).watch.begun = null; return seconds; },
    windowFor,
    windowOn: (work) => places.get(work.stay)?.window ?? null,
    turnedAt: (work) => places.get(work.stay)?.turned ?? 0,
    turnedOf: (player) => player.work.map((work) => places.get(work.stay)?.turned ?? 0).join(" "),
  };
  const windowShown = (shown, { left }) => {
    const called = document.getElementById("hall-call-window");
    if (shown) shown.textContent = clock(left);
    if (called) called.textContent = `${clock(left)} left`;
  };
  /** What runs says its time. */
  const tick = (work) => {
    const shown = document.getElementById("hall-watch");
    const { watch, window: window_ } = (work && places.get(work.stay)) ?? { watch: { begun: null } };
    if (shown && watch.begun) shown.textContent = clock(Date.now() - watch.begun);
    if (window_?.runs) windowShown(shown, window_);
    earShown(work);
    for (const one of places.values()) one.window?.tick();
    slowOver(hall);
    if (!work) return;
    restShown(hall, work);
    callsGoOn(work, hall.read(work), placeOf(work));
  };
  return { draw, tick, ...tileSide };
};
