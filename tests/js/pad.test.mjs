import assert from "node:assert/strict";
import { mock, test } from "node:test";
import { field, page, started } from "./dom.mjs";

const ENTRIES = [{ prefix: "e0", title: "Left", asked: 3 }, { prefix: "e1", title: "Right", asked: 2 }];

const form = () => {
  const elements = [];
  for (const { prefix } of ENTRIES) {
    for (const name of ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "heard"]) {
      elements[`${prefix}-${name}`] = field();
      elements.push(Object.assign(elements[`${prefix}-${name}`], { name: `${prefix}-${name}`, type: "text" }));
    }
  }
  return { elements, dataset: { kept: "draft-1" } };
};

const fresh = async (more = {}) => {
  page({ "pad-faults": ["late", "wide"], "pad-entries": ENTRIES, ...more });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  return { it: started(pad, { $root: root }), root };
};

test("strokes become totals with named misses, lane after lane", async () => {
  const { it, root } = await fresh();
  it.hit(); it.fault(0); it.miss();
  assert.equal(it.at, 1);
  assert.equal(root.elements["e0-makes"].value, 1);
  assert.equal(root.elements["e0-attempts"].value, 3);
  assert.equal(root.elements["e0-faults"].value, "late:1");
  it.fault(1); it.hit();
  assert.equal(it.finished, true);
  it.hit();
  assert.equal(it.entries[1].strokes, "1g", "a stroke too many counts for nothing");
});

test("undo goes back over lanes, and to nothing at all", async () => {
  const { it, root } = await fresh();
  it.hit(); it.hit(); it.hit(); it.hit();
  it.undo(); it.undo();
  assert.equal(it.at, 0);
  assert.equal(it.said, "2 good of 2");
  it.undo(); it.undo(); it.undo();
  assert.equal(root.elements["e0-attempts"].value, "", "what nobody counted is empty, not zero");
});

test("a total typed by hand takes the place of the strokes", async () => {
  const { it, root } = await fresh();
  it.hit();
  it.typed(0);
  assert.equal(root.elements["e0-strokes"].value, "");
  assert.equal(it.entries[0].strokes, "");
});

test("a good one may have a fault, and a bad feed is no attempt", async () => {
  const { it, root } = await fresh();
  it.onGood(true); it.fault(1); it.spoiled("v"); it.spoiled("r"); it.fault(1);
  assert.equal(it.said, "1 good of 2");
  assert.equal(root.elements["e0-faults"].value, "wide:2");
  assert.equal(root.elements["e0-strokes"].value, "Bvr1", "the switch goes back to misses by itself");
});

test("easier from the next repetition on, and back, and undo takes the sign along", async () => {
  const { it, root } = await fresh();
  it.hit(); it.flip(); it.miss();
  assert.equal(root.elements["e0-strokes"].value, "gzm");
  it.undo();
  assert.equal(root.elements["e0-strokes"].value, "g");
  it.flip(); it.hit();
  assert.equal(root.elements["e0-strokes"].value, "gg", "nothing changed after all");
});

const CALLS = [[
  { cue: "left", action: "", by: "", leave: false, wait: 0, turn: null }, { cue: "right", action: "", by: "", leave: true, wait: 0, turn: null },
  { cue: "ahead", action: "", by: "", leave: false, wait: 0, turn: null },
]];

test("calls are answered: those to be left are no strokes, and undo takes the last answer back", async () => {
  const { it, root } = await fresh({ caller: { calls: CALLS, late_s: null, late_at: "", way: "word" } });
  it.startCalls(); it.show();
  assert.equal(it.callWord(), "left");
  it.answerCall("hit"); it.show();
  assert.equal(it.callWord(), "Leave right");
  it.answerCall("touched");
  assert.equal(root.elements["e0-reads"].value, "1,0,1,0,0,0,0,0,0");
  assert.equal(it.said, "1 good of 1");
  it.undo();
  assert.equal(root.elements["e0-reads"].value, "1,0,0,0,0,0,0,0,0");
  assert.equal(it.said, "1 good of 1");
  it.undo();
  assert.equal(root.elements["e0-reads"].value, "0,0,0,0,0,0,0,0,0");
  assert.equal(it.said, "0 good of 0");
  it.endCalls();
});

test("calls that go on by themselves are answered afterwards, in sums", async () => {
  const { it, root } = await fresh({ caller: { calls: CALLS, late_s: null, late_at: "", way: "word" } });
  it.startAlone(); it.show();
  assert.ok(it.isAlone());
  assert.deepEqual(it.choicesOf(), [], "nobody is asked in between");
  it.callOn(); assert.equal(it.callWord(), "Leave right");
  it.callOn(); assert.equal(it.callWord(), "ahead");
  it.callOn();
  assert.ok(it.isTelling());
  assert.deepEqual(it.sums.map((sum) => it.sumWords(sum)), ["Got: 2 of 2", "Left alone, as called: 1 of 1"]);
  it.fewer(it.sums[0]); it.fewer(it.sums[1]); it.fewer(it.sums[1]);
  it.tellSums();
  assert.equal(root.elements["e0-reads"].value, "1,1,1,0,0,0,0,0,0");
  assert.equal(it.said, "1 good of 2");
  assert.ok(!it.callsOn());
  it.undo();
  assert.equal(root.elements["e0-reads"].value, "1,0,1,0,0,0,0,0,0", "an answer of them is taken back like any other");
});

test("the right place with the wrong foot is an answer of its own", async () => {
  const calls = [[{ cue: "A", action: "", by: "right foot", leave: false, wait: 0, turn: null }, { cue: "B", action: "", by: "backhand", leave: false, wait: 0, turn: null }]];
  const { it, root } = await fresh({ caller: { calls, late_s: null, late_at: "", way: "word" } });
  it.startCalls(); it.show();
  assert.equal(it.callWord(), "A, right foot");
  assert.deepEqual(it.choicesOf().map(([, words]) => words), ["Got it", "Wrong foot", "Late", "Missed"]);
  it.answerCall("way"); it.show();
  assert.equal(it.choicesOf()[1][1], "Wrong way");
  assert.equal(root.elements["e0-reads"].value, "0,1,0,0,0,0,0,0,1");
  assert.equal(it.said, "0 good of 1");
  it.endCalls();
});

test("each call can be put right by itself, late ones too", async () => {
  const { it, root } = await fresh({ caller: { calls: CALLS, late_s: null, late_at: "", way: "word" } });
  it.startAlone(); it.show();
  for (let n = 0; n < 3; n += 1) it.callOn();
  assert.deepEqual(it.oneByOne().map((one) => `${one.call}: ${one.words}`), ["left: Got it", "Leave right: Left it", "ahead: Got it"]);
  it.otherWay(0);
  it.otherWay(1);
  assert.deepEqual(it.oneByOne().map((one) => one.words), ["Late", "Went for it", "Got it"]);
  assert.equal(it.sumWords(it.sums[0]), "Got: 1 of 2");
  it.another(it.sums[0]);
  assert.equal(it.oneByOne()[0].words, "Got it");
  it.otherWay(0);
  it.tellSums();
  assert.equal(root.elements["e0-reads"].value, "1,1,1,0,0,0,0,1,0");
  assert.equal(it.said, "1 good of 2");
});

test("a late call comes by itself at the marker whose distance and speed are told", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    const { it } = await fresh({ caller: { calls: CALLS, late_s: null, late_at: "B", reached: 2.5, way: "word" } });
    it.startCalls();
    mock.timers.tick(1);
    assert.equal(it.isGo(), true);
    mock.timers.tick(2400);
    assert.equal(it.isCalled(), false);
    mock.timers.tick(200);
    assert.equal(it.isCalled(), true);
    it.endCalls();
  } finally { mock.timers.reset(); }
});

test("lanes in turn: each stroke goes to the next lane, and undo takes the last one back, after a reload too", async () => {
  const rows = [{ prefix: "e0", title: "Left", lane: "left", number: 1, asked: 2 }, { prefix: "e1", title: "Right", lane: "right", number: 1, asked: 2 }];
  page({ "pad-faults": ["late"], "pad-entries": rows });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  root.dataset.turns = "left|right";
  const it = started(pad, { $root: root });
  it.hit(); it.miss(); it.hit();
  assert.deepEqual(it.entries.map((entry) => entry.strokes), ["gg", "m"]);
  assert.equal(it.current.lane, "right");
  it.undo();
  assert.deepEqual(it.entries.map((entry) => entry.strokes), ["g", "m"]);
  assert.equal(it.current.lane, "left");
  const again = started(pad, { $root: root });
  assert.equal(again.current.lane, "left", "as it stood");
  again.undo();
  assert.deepEqual(again.entries.map((entry) => entry.strokes), ["g", ""]);
});

test("the easier way is offered after so many faults of one kind, and never forced", async () => {
  const rows = [{ prefix: "e0", title: "All of it", lane: "", number: 1, asked: 9 }];
  page({ "pad-faults": ["late", "wide"], "pad-entries": rows });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  root.dataset.easeFaults = "2";
  const it = started(pad, { $root: root });
  it.fault(0); it.fault(1);
  assert.equal(it.offer, "");
  it.fault(0);
  assert.equal(it.offer, "2 times “late”.");
  it.passOffer();
  it.fault(0);
  assert.equal(it.offer, "", "passed over: as many more have to come");
  it.fault(0);
  assert.equal(it.offer, "4 times “late”.");
  it.takeOffer();
  assert.equal(it.easier, true);
  assert.equal(it.offer, "");
  it.fault(0); it.fault(0);
  assert.equal(it.offer, "");
});

test("the real rest before a set is kept, and none before a lane of the same one", async () => {
  const rows = [1, 2].flatMap((number) => ["left", "right"].map((lane, i) => ({ prefix: `e${2 * (number - 1) + i}`, title: lane, lane, number, asked: 1 })));
  page({ "pad-faults": [], "pad-entries": rows });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  for (const { prefix } of rows) for (const name of ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "rested"]) root.elements[`${prefix}-${name}`] = field();
  const it = started(pad, { $root: root });
  const waits = (seconds) => { it.doneAt = performance.now() - 1000 * seconds; };
  it.hit(); waits(20); it.hit(); waits(45); it.hit(); waits(5000); it.hit();
  assert.deepEqual(rows.map(({ prefix }) => root.elements[`${prefix}-rested`].value), ["", "", "45", ""]);
});

test("a rest until ready goes on past its least time, and ends with a tap or the next stroke", async () => {
  const rows = [1, 2].map((number) => ({ prefix: `e${number}`, title: "", lane: "", number, asked: 1 }));
  page({ "pad-faults": [], "pad-entries": rows });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  for (const { prefix } of rows) for (const name of ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "rested"]) root.elements[`${prefix}-${name}`] = field();
  Object.assign(root.dataset, { rest: "30", restReady: "yes" });
  const it = started(pad, { $root: root });
  it.hit();
  assert.deepEqual([it.rests, it.restWord], [true, "Rest"]);
  it.restUntil = performance.now() - 4000;
  it.tickRest();
  assert.deepEqual([it.rests, it.restWord, it.restClock], [true, "Go on when you are ready", "0:04"]);
  it.hit();
  assert.equal(it.rests, false);
});

test("a slow one comes before each set, is not counted, and its own rest follows", async () => {
  const rows = [1, 2].map((number) => ({ prefix: `e${number}`, title: "", lane: "", number, asked: 1 }));
  page({ "pad-faults": [], "pad-entries": rows });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  for (const { prefix } of rows) for (const name of ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "rested"]) root.elements[`${prefix}-${name}`] = field();
  Object.assign(root.dataset, { rest: "30", slowFirst: "20" });
  const it = started(pad, { $root: root });
  const said = () => [it.rests, it.restWord, it.restKey];
  it.askSlow(it.current);
  assert.deepEqual(said(), [true, "One slowly first: it is not counted", "Done"]);
  it.nextRest();
  assert.deepEqual([...said(), it.restLeft], [true, "Rest", "Go on", 20000]);
  it.nextRest();
  assert.equal(it.rests, false);
  it.askSlow(it.current);
  assert.equal(it.rests, false, "once before each set");
  it.hit();
  assert.deepEqual([...said(), it.restLeft], [true, "Rest", "Go on", 30000]);
  it.nextRest();
  assert.equal(it.restKey, "Done", "the next set begins slowly too");
  it.hit();
  assert.deepEqual([it.rests, it.finished], [false, true], "whoever counts has gone on");
});

test("calls go through the rest: those of the next set begin when it ends, by the clock or by a tap", async () => {
  const rows = [1, 2, 3].map((number) => ({ prefix: `e${number}`, title: "", lane: "", number, asked: 1 }));
  const calls = [[{ cue: "left", action: "", by: "", leave: false, wait: 0, turn: null }]];
  page({ "pad-faults": [], "pad-entries": rows, caller: { calls, late_s: null, late_at: "", way: "word" } });
  const { pad } = await import("../../assets/js/pad.js");
  const root = form();
  for (const { prefix } of rows) for (const name of ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "rested"]) root.elements[`${prefix}-${name}`] = field();
  Object.assign(root.dataset, { rest: "30" });
  const it = started(pad, { $root: root });
  it.startAlone(); it.show(); it.callOn();
  it.tellSums();
  assert.deepEqual([it.rests, it.callsOn()], [true, false], "nobody is called in the rest");
  it.restUntil = performance.now() - 1;
  it.tickRest();
  assert.deepEqual([it.rests, it.isAlone(), it.callAt], [false, true, 1]);
  it.show(); it.callOn(); it.tellSums();
  it.stopCalls();
  it.nextRest();
  assert.deepEqual([it.rests, it.callsOn()], [false, false], "whoever stopped them is not called");
  it.startCalls(); it.show(); it.answerCall("hit");
  assert.equal(it.finished, true);
  it.nextRest();
  assert.equal(it.callsOn(), false, "after the last set there is nothing to call");
});

test("technique that slips in the last third offers the easier way, once, and only where somebody looked", async () => {
  const rows = [1, 2, 3].map((number) => ({ prefix: `e${number}`, title: "", lane: "", number, asked: 2 }));
  page({ "pad-faults": [], "pad-entries": rows });
  const { pad } = await import("../../assets/js/pad.js");
  const { formShare } = await import("../../assets/js/instruments/easing.js");
  const root = form();
  for (const { prefix } of rows) for (const name of ["attempts", "makes", "faults", "strokes", "eased", "tempo", "feed", "reads", "rested", "looked"]) root.elements[`${prefix}-${name}`] = field();
  const seen = { e1: [false, false], e2: [false, false], e3: [false, false] };
  root.querySelectorAll = (css) => seen[css.slice(7, 9)].map((checked) => ({ checked }));
  Object.assign(root.dataset, { formMin: "0.8" });
  const it = started(pad, { $root: root });
  it.lookForForm();
  assert.equal(it.offer, "", "nobody looked");
  seen.e1 = [true, false];
  it.lookForForm();
  assert.equal(it.offer, "", "the first third decides nothing");
  seen.e3 = [true, false];
  it.lookForForm();
  assert.equal(it.offer, "Technique in the last third: 50 %, needs 80 %.");
  it.hit();
  assert.notEqual(it.offer, "", "a stroke does not take it away");
  it.passOffer(); it.lookForForm();
  assert.deepEqual([it.offer, it.easier], ["", false]);
  assert.equal(formShare([{ seen: [false, false], looked: true }, { seen: [false, false], looked: false }]), 0);
});
