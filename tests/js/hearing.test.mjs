import assert from "node:assert/strict";
import { readFileSync } from "node:fs";
import { mock, test } from "node:test";
import { field, page } from "./dom.mjs";
import { Ear, gapOf } from "../../assets/js/hearing/ear.js";
import { paceOf } from "../../assets/js/hearing/pace.js";

const FIELDS = ["strokes", "eased", "tempo", "feed", "reads", "heard", "faults", "count", "best_run", "attempts"];
const HEARD = { sound: "bounce", most: 3, silence_s: 2 };

/** An instrument with an ear of ours: `say` is what the worklet would tell. */
const at = async (given, opens = "") => {
  page({ instrument: { heard: HEARD, cap: null, ...given } });
  const listeners = {};
  document.querySelector = () => ({ getAttribute: () => "ear.js" });
  document.addEventListener = (name, listener) => { listeners[name] = listener; };
  const { instrument } = await import("../../assets/js/instruments/instrument.js");
  const it = instrument();
  const elements = {};
  for (const { prefix } of given.entries) for (const name of FIELDS) elements[`${prefix}-${name}`] = field();
  it.$root = { elements, dataset: {}, querySelectorAll: () => [] };
  const ear = { deaf: [], closed: 0, open: async () => opens, deafen: (s) => ear.deaf.push(s), anew: () => { ear.new = true; }, close: () => { ear.closed += 1; } };
  it.makeEar = (worklet, most, tell) => { Object.assign(ear, { worklet, most, say: (more) => tell({ now: 0, hits: [], moments: [], until: 0, learning: 3, learnt: true, tooLoud: false, level: 0, ...more }) }); return ear; };
  it.init();
  return { it, ear, elements, listeners };
};
const entry = (more = {}) => ({ prefix: "e0", title: "Set 1", lane: "", asked: null, number: 1, ...more });
const learnt = async (given) => {
  const made = await at(given);
  made.it.askEar();
  await made.it.openEar();
  made.ear.say({ learning: 1, learnt: false });
  made.ear.say({});
  return made;
};

test("it is asked for in words, learns from three, and then is ready", async () => {
  const { it, ear } = await at({ kind: "streak", entries: [entry()] });
  it.askEar();
  assert.equal(it.earIs("asking"), true);
  await it.openEar();
  assert.deepEqual([ear.worklet, ear.most, it.earState], ["ear.js", 3, "learning"]);
  ear.say({ learning: 2, learnt: false });
  assert.match(it.earWord(), /the bounce: 2 of 3/);
  assert.deepEqual([it.earDot(1), it.earDot(2)], ["on", ""]);
  ear.say({});
  assert.equal(it.earState, "ready");
});

test("where three are not heard in time it says what helps", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    const { it, ear } = await at({ kind: "streak", entries: [entry()] });
    await it.openEar();
    ear.say({ learning: 1, learnt: false, level: 15 });
    assert.deepEqual(it.earBar(), { width: "50%" });
    mock.timers.tick(13_000);
    assert.match(it.earWhy, /do not hear it yet/);
    ear.say({});
    assert.deepEqual([it.earState, it.earWhy], ["ready", ""]);
  } finally { mock.timers.reset(); }
});

test("a rally ends by a silence, is corrected by one and is kept", async () => {
  mock.timers.enable({ apis: ["setTimeout"] });
  try {
    const { it, ear, elements } = await learnt({ kind: "streak", entries: [entry()] });
    it.startByEar();
    for (let i = 0; i < 5; i += 1) ear.say({ moments: [it.earFrom + 100 + i * 500] });
    assert.equal(elements["e0-best_run"].value, 5); // kept while it is heard
    mock.timers.tick(1900);
    assert.equal(it.earState, "counting");
    mock.timers.tick(300);
    assert.equal(it.earState, "checking");
    it.earMore();
    it.earRight();
    assert.deepEqual([elements["e0-best_run"].value, elements["e0-strokes"].value, elements["e0-heard"].value], [6, "ggggggm", "5"]);
    assert.equal(it.finished, true);
  } finally { mock.timers.reset(); }
});

test("until n are heard it stops by itself", async () => {
  const { it, ear, elements } = await learnt({ kind: "to_n", n: 3, entries: [entry()] });
  it.startByEar();
  ear.say({ moments: [1, 2, 3, 4].map((n) => it.earFrom + n * 400) });
  assert.deepEqual([it.earState, it.row], ["checking", "ggg"]);
  assert.match(it.earSaid(), /^3 bounces in 1\.2 s/);
  it.earRight();
  assert.equal(elements["e0-attempts"].value, 3);
});

test("a window takes what is in it, and nothing of its lead-in", async () => {
  mock.timers.enable({ apis: ["setTimeout", "setInterval"] });
  try {
    const { it, ear, elements } = await learnt({ kind: "count", window_s: 30, entries: [entry()] });
    it.startByEar();
    const hits = [-500, 100, 900, 29_900, 30_200].map((ms) => it.earFrom + ms);
    ear.say({ moments: hits });
    it.stopEar("hidden");
    assert.deepEqual([it.row, it.earState], ["ggg", "checking"]);
    it.earFewer();
    it.earRight();
    assert.deepEqual([elements["e0-count"].value, elements["e0-heard"].value], [2, "3"]);
  } finally { mock.timers.reset(); }
});

test("a window is over when the ear has heard all of it, however late that is told", async () => {
  const { it, ear } = await learnt({ kind: "count", window_s: 1, entries: [entry()] });
  it.startByEar();
  it.phase = "running";
  it.stopClock(it.earFrom + 1000);
  assert.equal(it.earState, "counting");
  ear.say({ until: it.earFrom + 900, moments: [it.earFrom + 500] });
  assert.equal(it.earState, "counting");
  ear.say({ until: it.earFrom + 1300, moments: [it.earFrom + 990] });
  assert.deepEqual([it.earState, it.row], ["checking", "gg"]);
});

test("a window that was stopped counts for nothing", async () => {
  const { it, ear, elements } = await learnt({ kind: "count", window_s: 30, entries: [entry()] });
  it.startByEar();
  ear.say({ moments: [it.earFrom + 500] });
  it.earAgain();
  assert.deepEqual([it.earState, it.clockRuns, elements["e0-count"].value, elements["e0-heard"].value], ["ready", false, "", ""]);
});

test("nothing heard in a window, and that is right, is none and not unknown", async () => {
  const { it, elements } = await learnt({ kind: "count", window_s: 30, entries: [entry()] });
  it.startByEar();
  it.stopEar("hidden");
  it.earRight();
  assert.deepEqual([elements["e0-count"].value, elements["e0-heard"].value], ["0", "0"]);
});

test("where it is too loud no guess is made, and the count is the player's own", async () => {
  const { it, ear, elements } = await learnt({ kind: "streak", entries: [entry()] });
  it.startByEar();
  ear.say({ moments: [it.earFrom + 500], tooLoud: true });
  assert.match(it.earWhy, /Too loud here/);
  assert.deepEqual([it.earState, it.row, elements["e0-heard"].value], ["checking", "g", ""]);
});

for (const why of ["insecure", "refused", "none", "broken"]) {
  test(`without a microphone (${why}) touch goes on`, async () => {
    const { it } = await at({ kind: "streak", entries: [entry()] }, why);
    await it.openEar();
    assert.equal(it.earState, "off");
    assert.match(it.earWhy, /ount by touch/);
    it.tap("g");
    assert.equal(it.row, "g");
  });
}

test("a page that is hidden stops listening and keeps what was heard", async () => {
  const { it, ear, listeners } = await learnt({ kind: "streak", entries: [entry()] });
  it.startByEar();
  ear.say({ moments: [it.earFrom + 300, it.earFrom + 900] });
  document.hidden = true;
  listeners.visibilitychange();
  assert.deepEqual([ear.closed, it.earState, it.row], [1, "checking", "gg"]);
  assert.match(it.earWhy, /hidden/);
  it.earRight();
  assert.equal(it.earState, "off");
});

test("typed or begun anew by hand, nobody heard it", async () => {
  const { it, ear, elements } = await learnt({ kind: "streak", entries: [entry()] });
  it.startByEar();
  ear.say({ moments: [it.earFrom + 300] });
  it.stopEar();
  it.earAgain();
  assert.equal(elements["e0-heard"].value, "");
});

test("the phone's own sounds are told to the ear before they sound", async () => {
  const { it, ear } = await learnt({ kind: "streak", entries: [entry()] });
  const before = ear.deaf.length;
  it.startByEar();
  assert.ok(ear.deaf.length > before);
});

test("pace: even, uneven, one ball fetched", () => {
  const every = (gaps) => gaps.reduce((all, gap) => [...all, all[all.length - 1] + gap], [0]);
  assert.equal(paceOf(every([500, 500])), null);
  assert.deepEqual(paceOf(every(Array(9).fill(500))), { aMinute: 120, steady: true });
  assert.deepEqual(paceOf(every([500, 500, 500, 2500, 500, 500, 500, 500])), { aMinute: 120, steady: true });
  assert.equal(paceOf(every([300, 700, 400, 600, 300, 700, 500, 500])).steady, false);
});

test("what is read by a worklet cannot be kept or sent: it knows no place for it", () => {
  for (const name of ["ear", "worklet", "listening", "pace", "counting"]) {
    const text = readFileSync(new URL(`../../assets/js/hearing/${name}.js`, import.meta.url), "utf8");
    assert.doesNotMatch(text, /fetch\(|XMLHttpRequest|MediaRecorder|indexedDB|localStorage|sendBeacon|WebSocket|new Blob|URL\.create|caches\b/);
  }
});

test("a rate that holds no band is refused", () => {
  assert.throws(() => new Ear(8000, gapOf(3)), RangeError);
});
