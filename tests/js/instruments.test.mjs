import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { field, page } from "./dom.mjs";
import { begin, clockOf, end, minutes, passedOf, phaseOf, randomWait, seconds } from "../../assets/js/instruments/clock.js";
import { MACHINES, ticked } from "../../assets/js/instruments/machines.js";
import { lapsOf, withFault, withLap } from "../../assets/js/instruments/timed.js";
import { stopAfter } from "../../assets/js/instruments/stopping.js";

test("a run ends at a miss or at the cap, and an empty one is not counted", () => {
  const free = MACHINES.streak({ cap: null });
  assert.deepEqual(free.fields(""), { best_run: "" });
  assert.deepEqual([free.fields("ggm"), free.over("ggm"), free.over("gg")], [{ best_run: 2 }, true, false]);
  assert.deepEqual(free.fields("m"), { best_run: 0 });
  assert.equal(MACHINES.streak({ cap: 3 }).over("ggg"), true);
});

test("to n counts its attempts only once the last good one is there", () => {
  const five = MACHINES.to_n({ n: 2 });
  assert.deepEqual([five.fields("gm"), five.over("gm")], [{ attempts: "" }, false]);
  assert.deepEqual([five.fields("gmg"), five.over("gmg")], [{ attempts: 3 }, true]);
});

test("until so many are lost: the last of them ends it, or the cap", () => {
  const three = MACHINES.until_lost({ lost: 2, cap: null });
  assert.deepEqual([three.fields("gmg"), three.over("gmg")], [{ makes: 2, attempts: 3 }, false]);
  assert.deepEqual([three.over("gmgm"), three.said("gmgm"), three.goal()], [true, "2 good, 2 of 2 lost", "until 2 are lost"]);
  assert.deepEqual(three.fields(""), { makes: "", attempts: "" });
  const one = MACHINES.until_lost({ lost: 1, cap: 3 });
  assert.deepEqual([one.over("ggg"), one.goal()], [true, "until 1 is lost, or 3 good"]);
});

test("every two good ones earn two more, up to the cap", () => {
  const six = MACHINES.earned({ n: 3, earn: 2, cap: 6 });
  assert.deepEqual([six.over("gmm"), six.over("ggm"), six.over("ggmgg")], [true, false, false]);
  assert.deepEqual([six.over("ggmggg"), six.said("ggm"), six.fields("gmm")], [true, "2 good, 2 left", { makes: 1, attempts: 3 }]);
  assert.equal(six.goal(), "3 to begin with, each 2 good earn 2 more, up to 6");
});

test("points are summed, a ten is a letter", () => {
  const points = MACHINES.points({});
  assert.deepEqual(points.fields("0a3"), { points: 13, attempts: 3 });
  assert.deepEqual(points.fields(""), { points: "", attempts: "" });
  assert.equal(points.over("03", 2), true);
});

test("ticks go on and off, each on its line", () => {
  let row = ticked("", 1, 3);
  assert.equal(row, "oxo");
  row = ticked(row, 2, 3);
  assert.equal(MACHINES.checklist({ items: ["a", "b", "c"] }).fields(row).ticks, 2);
  assert.equal(ticked(row, 1, 3), "oox");
});

test("work done is an answer, never a percentage to type", () => {
  const done = MACHINES.done({});
  assert.deepEqual([done.fields("d").share, done.fields("h").share, done.fields("n").share, done.fields("").share], [100, 50, 0, ""]);
});

test("a window runs after its lead-in and ends itself", () => {
  const clock = begin(clockOf({ lead: 3000, window: 30000 }), 1000);
  assert.equal(phaseOf(clockOf({}), 5), "idle");
  assert.deepEqual([phaseOf(clock, 2000), passedOf(clock, 2000)], ["ready", -2000]);
  assert.deepEqual([phaseOf(clock, 5000), passedOf(clock, 5000)], ["running", 1000]);
  assert.deepEqual([phaseOf(clock, 34000), passedOf(clock, 40000)], ["ended", 30000]);
});

test("a time is to the hundredth, a clock to the second that is still to come", () => {
  const clock = end(begin(clockOf({ lead: 2500 }), 0), 7345);
  assert.equal(seconds(passedOf(clock, 99999)), 4.85);
  assert.equal(phaseOf(clock, 99999), "ended");
  assert.deepEqual([minutes(59999), minutes(60000), minutes(0), minutes(-5)], ["1:00", "1:00", "0:00", "0:00"]);
  assert.deepEqual([randomWait(() => 0), randomWait(() => 1)], [2000, 5000]);
});

const at = async (given, kept) => {
  page({ instrument: { kind: "streak", cap: null, ...given } });
  const elements = [];
  for (const { prefix } of given.entries) {
    for (const name of ["best_run", "attempts", "points", "ticks", "share", "count", "seconds", "strokes", "faults", "eased", "tempo", "feed", "reads", "heard"]) {
      const key = `${prefix}-${name}`;
      elements[key] = Object.assign(field(kept?.[key] ?? ""), { name: key, type: "text" });
      elements.push(elements[key]);
    }
  }
  const { instrument } = await import("../../assets/js/instruments/instrument.js");
  const it = instrument();
  it.$root = { elements, dataset: { kept: "draft-9", rest: "30" } };
  it.init();
  return { it, elements };
};
const TWO = [{ prefix: "e0", title: "Set 1", asked: null, number: 1 }, { prefix: "e1", title: "Set 2", asked: null, number: 2 }];

test("an ended try goes on to the next, after the rest that the rung asks for", async () => {
  const { it, elements } = await at({ entries: TWO });
  it.tap("g"); it.tap("g"); it.tap("m");
  assert.equal(elements["e0-best_run"].value, 2);
  assert.equal(it.at, 1);
  assert.equal(it.rests, true);
  assert.equal(it.restClock, "0:30");
  it.endRest();
  assert.equal(it.rests, false);
  it.tap("m");
  assert.deepEqual([elements["e1-best_run"].value, it.finished, it.rests], [0, true, false]);
});

test("what was tapped before is taken up, and undone stroke by stroke", async () => {
  const { it, elements } = await at({ kind: "to_n", n: 2, entries: TWO.slice(0, 1) }, { "e0-strokes": "gm" });
  assert.equal(it.said, "1 good of 2");
  it.tap("g");
  assert.equal(elements["e0-attempts"].value, 3);
  it.tap("g");
  assert.equal(elements["e0-strokes"].value, "gmg", "a stroke too many counts for nothing");
  it.undo();
  assert.equal(elements["e0-attempts"].value, "");
});

test("a number typed before shows as typed, and takes the place of taps", async () => {
  const { it, elements } = await at({ kind: "count", window_s: 30, entries: TWO }, { "e0-count": "17" });
  assert.equal(it.typedOn, true);
  it.choose(1);
  it.set("ggg");
  it.typed(1);
  assert.equal(elements["e1-strokes"].value, "");
});

test("a time that is stopped in its wait is no time", async () => {
  const { it, elements } = await at({ kind: "time", entries: TWO.slice(0, 1) });
  it.startByCall();
  assert.equal(it.isReady, true);
  it.stop();
  assert.deepEqual([it.phase, elements["e0-seconds"].value], ["idle", ""]);
  it.startByTap();
  it.stop();
  assert.notEqual(elements["e0-seconds"].value, "");
  assert.equal(it.finished, true);
});

test("a speed block stops by what adds up", () => {
  // the same cases as tests/core/test_days_that_differ.py
  assert.equal(stopAfter([5, 5.6, 5.7, 5], 0.05).after, 3);
  assert.equal(stopAfter([5, 5.05, 4.95, 5.4, 5.4], 0.05).after, 4);
  assert.equal(stopAfter([5, 5.05, 4.95, 5.15, 5.15, 5.15], 0.05).after, null);
  assert.equal(stopAfter([], 0.05).after, null);
});

test("the page says that it is enough, and asks for no more rounds", async () => {
  const FOUR = [1, 2, 3, 4, 5].map((n) => ({ prefix: `e${n - 1}`, title: `Set ${n}`, lane: "", asked: null, number: n }));
  const { it, elements } = await at({ kind: "time", stop_drop: 0.05, entries: FOUR }, { "e0-seconds": "5", "e1-seconds": "5", "e2-seconds": "5" });
  assert.deepEqual([it.enough, it.at, it.finished], ["", 3, false]);
  elements["e3-seconds"].value = "5.5";
  it.choose(3);
  it.ended();
  assert.match(it.enough, /^Enough, the rounds have got slower, the last by 10 % of the usual/);
  assert.equal(it.finished, true);
  assert.equal(it.rests, false);
});

test("laps are told one from the next, faults by name", () => {
  const row = withLap(withLap("", 5120), 10_400);
  assert.equal(row, "l512l1040");
  assert.deepEqual(lapsOf(row).map((lap) => lap.toFixed(2)), ["5.12", "5.28"]);
  assert.equal(withFault(withFault("cone: red:1", "late"), "late"), "cone: red:1;late:2");
});

test("the faults of a trial are unknown until somebody says so, and none is an answer", async () => {
  const { it, elements } = await at({ kind: "time", entries: TWO, faults: ["late"], penalty: 0.5 });
  it.startByTap(); it.stop();
  assert.equal(it.trialSaid(), "not counted");
  it.noFault();
  assert.deepEqual([it.trialSaid(), elements["e0-strokes"].value], ["none", "c"]);
  it.trialFault("late");
  assert.deepEqual([elements["e0-faults"].value, it.at], ["late:1", 1], "the next trial is shown, the last one is named");
});

test("every set says whether it was easier, at which tempo and with which feed", async () => {
  const { it, elements } = await at({ kind: "streak", cap: null, entries: TWO });
  it.useTempo("75"); it.useFeed("rolled"); it.tap("m");
  it.flip(); it.tap("m");
  assert.deepEqual([elements["e0-feed"].value, it.isFeed("rolled")], ["rolled", true]);
  assert.deepEqual([elements["e0-eased"].value, elements["e0-tempo"].value, elements["e1-eased"].value], ["no", "75", "yes"]);
  assert.equal(it.best, "best so far: 0");
});

test("the calls of a window begin with it, end with it, and are asked for then", async () => {
  mock.timers.enable({ apis: ["setTimeout", "setInterval"] });
  try {
    const calls = [{ cue: "near", action: "", leave: false, wait: 2, turn: null }, { cue: "far", action: "", leave: false, wait: 2, turn: null }, { cue: "near", action: "", leave: false, wait: 2, turn: null }];
    const { it, elements } = await at({ kind: "count", window_s: 30, entries: TWO });
    it.caller = { calls: [calls, calls], late_s: null, late_at: "", reached: null, way: "word" };
    it.startWindow();
    assert.equal(it.callsOn(), false, "not in the lead-in");
    it.clock = { ...it.clock, begun: performance.now() - 3100 };
    it.beat();
    assert.equal(it.isAlone(), true);
    mock.timers.tick(2001);
    mock.timers.tick(2001);
    assert.equal(it.callWord(), "far");
    it.set("gg");
    it.stopClock(performance.now());
    assert.deepEqual(it.sums.map((sum) => it.sumWords(sum)), ["Got: 2 of 2"], "the third never came");
    it.otherWay(0);
    assert.equal(it.at, 1, "the next set is there already");
    it.tellSums();
    assert.deepEqual([elements["e0-reads"].value, elements["e1-reads"].value], ["1,1,0,0,0,0,0,1,0", ""]);
  } finally { mock.timers.reset(); }
});
