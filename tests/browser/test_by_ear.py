"""Counted by ear, from a file that Chromium takes for a microphone: heard, looked over, sent,
judged, and shown as heard; and where nothing can be heard, touch goes on and nothing is lost.
"""

import json
import re

import numpy as np
import pytest
from django.contrib.staticfiles.storage import staticfiles_storage
from django.test import Client
from scipy.signal import resample_poly

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.practice.models import JudgedDay, Session, SetRow
from drill_ladder.core.hall import gap_of, moments
from drill_ladder.core.hall.sounds import RATE, Scene, record, wav_of
from tests.browser.driver import close_browser, open_browser, set_size, wait_until
from tests.browser.hands import expect, kept, phone, ready
from tests.browser.test_hall import OPEN, open_hall
from tests.browser.test_hall_instruments import press
from tests.browser.test_run import begin, finish, tap
from tests.make import current, drill, ladder, put_on, text

# what an ear told: every message that came out of it, and what was sent or kept beside
WATCHED = """
window.told = [];
const Node = window.AudioWorkletNode;
window.AudioWorkletNode = class extends Node {
  constructor(...given) {
    super(...given);
    this.port.addEventListener("message", ({ data }) => window.told.push(data));
  }
};
window.sentAs = new Set();
const open = window.fetch;
window.fetch = (where, how) => {
  if (how?.body) window.sentAs.add(how.body.constructor.name);
  return open(where, how);
};
const put = IDBObjectStore.prototype.put;
const sound = /AudioBuffer|Float32Array|ArrayBuffer|Blob|MediaStream/;
const kinds = (value) => Object.values(value).map((part) => Object.prototype.toString.call(part));
IDBObjectStore.prototype.put = function (value, ...rest) {
  window.sentAs.add(kinds(value).some((kind) => sound.test(kind)) ? "sound" : "plain");
  return put.call(this, value, ...rest);
};
"""
EAR = "Alpine.$data(document.querySelector('[data-ear]'))"
NUMBERS = {"now", "hits", "learning", "learnt", "tooLoud", "level"}


RENDERED = """
const [samples, rate, address, most, told] = arguments;
(async () => {
  const context = new OfflineAudioContext(1, samples.length, rate);
  await context.audioWorklet.addModule(address);
  const buffer = context.createBuffer(1, samples.length, rate);
  buffer.copyToChannel(Float32Array.from(samples), 0);
  const source = context.createBufferSource();
  source.buffer = buffer;
  const node = new AudioWorkletNode(context, "ear", { processorOptions: { most } });
  const hits = [];
  node.port.onmessage = ({ data }) => hits.push(...data.hits);
  source.connect(node).connect(context.destination);
  source.start();
  await context.startRendering();
  setTimeout(() => told(hits), 500);
})();
"""


@pytest.mark.parametrize(("place", "rate"), [("hall", 48_000), ("voices", 44_100)])
def test_the_worklet_tells_the_moments_of_the_reference(browser, live_server, place, rate):
    """On the same samples, in the browser's own audio thread, to within 10 ms."""
    made = record(Scene(12, "strike", place, 20, 2.5), seconds=10)
    samples = resample_poly(made.samples, rate // 100, RATE // 100).astype("f4")
    reference = moments(samples.astype("f8"), rate, gap_of(2.5))
    browser.get(f"{live_server.url}/accounts/login/")
    address = live_server.url + staticfiles_storage.url("js/ear.js")
    given = [round(float(one), 9) for one in samples]
    heard = browser.execute_async_script(RENDERED, given, rate, address, 2.5)
    assert len(heard) > 8
    assert heard == pytest.approx(reference.hits, abs=0.01)


@pytest.fixture
def microphone(tmp_path, request):
    """A browser whose microphone is a file: three hits to learn from, hits twice a second until
    `until`, then silence.
    """
    made = record(Scene(8, "bounce", "quiet", 20, 2.0), seconds=request.param)
    still = np.tile(made.samples[RATE // 4 : RATE], 20)
    path = tmp_path / "heard.wav"
    path.write_bytes(wav_of(np.concatenate([made.samples, still])))
    flags = [
        "--use-fake-device-for-media-stream",
        "--use-fake-ui-for-media-stream",
        f"--use-file-for-fake-audio-capture={path}%noloop",
    ]
    driver = open_browser(flags=flags)
    driver.hits = made.hits
    yield driver
    close_browser(driver)


def listens(browser, words):
    """From the offer until three hits are learnt."""
    tap(browser, words)
    expect(browser, "Nothing is recorded, kept or sent")
    tap(browser, "Listen")
    wait_until(browser, f"{EAR}.earState === 'ready'", 20)


def on_ear(club, kind, **terms):
    """The player on a rung that can be heard."""
    measure = {"count": {"kind": "count", "window_s": 4}, "streak": {"kind": "streak"}}[kind]
    made = drill(club.club, "Bounces", lanes=[], measure=measure, faults=[], heard="bounce")
    given = {"target": {"value": 5}, "floor": None, "dose": {"sets": 1}} | terms
    return put_on(club, ladder=ladder(club.club, made, "Bounces", **given), place="both")


@pytest.mark.parametrize("microphone", [20], indirect=True)
def test_a_window_is_heard_corrected_by_one_sent_and_shown(club, microphone, live_server):
    stay, browser = current(on_ear(club, "count")), microphone
    phone(browser)
    begin(browser, live_server, club, stay)
    browser.execute_script(WATCHED)
    listens(browser, "Let the phone count each bounce")
    tap(browser, "Start 4")
    wait_until(browser, f"{EAR}.earState === 'checking'", 20)
    expect(browser, "Is that right?")
    begun, heard = browser.execute_script(
        f"const it = {EAR}; return [(it.earFrom - it.ear.begun) / 1000, it.earTimes.length]"
    )
    truly = sum(begun <= hit <= begun + 4 for hit in browser.hits)
    assert abs(heard - truly) <= 1
    tap(browser, "+")
    tap(browser, "That is right")
    finish(browser)
    row = SetRow.objects.get()
    assert (row.count, row.heard) == (heard + 1, heard)
    assert Session.objects.get().observer == "ear"
    assert JudgedDay.objects.get().heard
    shown_as_heard(club, f"by ear, {heard} heard")
    nothing_of_the_sound_got_out(browser)


def shown_as_heard(club, words):
    """Where the coach reads what was logged."""
    coach = Client()
    coach.force_login(club.coach.user)
    page = text(coach.get(f"/players/{club.player.pk}/sessions/"))
    assert words in page
    assert "By ear" in page


def nothing_of_the_sound_got_out(browser):
    """Numbers came out of the worklet, a few of them ten times a second, and nothing else is kept
    or sent.
    """
    browser.back()
    messages = json.loads(browser.execute_script("return JSON.stringify(window.told ?? [])"))
    for message in messages:
        assert set(message) <= NUMBERS
        assert all(isinstance(one, int | float) for one in message["hits"])
    stored = browser.execute_script("return JSON.stringify(localStorage)")
    assert len(stored) < 20_000
    assert not re.search(r"data:audio|blob:|Float32|RIFF", stored)


@pytest.mark.parametrize("microphone", [7], indirect=True)
def test_a_rally_ends_by_a_silence_and_is_sent_when_there_is_a_network(club, microphone, network):
    stay, browser = current(on_ear(club, "streak", silence_s=1.2)), microphone
    phone(browser)
    address = f"http://127.0.0.1:{network.port}/card/{club.token}/"
    browser.get(address)
    ready(browser)
    wait_until(browser, "document.documentElement.dataset.kept === 'yes'")
    network.cut = True
    browser.get(f"{address}{stay.pk}/run/")
    ready(browser)
    tap(browser, "I am ready")
    tap(browser, "Begin")
    browser.execute_script(WATCHED)
    listens(browser, "Let the phone count each bounce")
    tap(browser, "Start by ear")
    wait_until(browser, f"{EAR}.earState === 'checking'", 20)
    heard = browser.execute_script(f"return {EAR}.earTimes.length")
    assert heard >= 3
    expect(browser, "in a row")
    for message in browser.execute_script("return window.told"):
        assert set(message) <= NUMBERS
        assert all(isinstance(value, int | float | bool | list) for value in message.values())
    assert set(browser.execute_script("return [...window.sentAs]")) <= {"plain"}
    tap(browser, "−")
    tap(browser, "That is right")
    wait_until(browser, "document.querySelector('.effort').offsetParent")
    browser.find_elements("css selector", ".effort label")[4].click()
    tap(browser, "No, all fine")
    kept(browser, "heard")
    network.cut = False
    browser.get(address)
    wait_until(browser, "document.body.innerText.length > 0")
    for _ in range(100):
        if SetRow.objects.exists():
            break
        wait_until(browser, "new Promise((done) => setTimeout(() => done(true), 200))")
    row = SetRow.objects.get()
    assert (row.best_run, row.heard) == (heard - 1, heard)
    assert row.strokes == "g" * (heard - 1) + "m"
    shown_as_heard(club, f"by ear, {heard} heard")


@pytest.mark.parametrize("microphone", [20], indirect=True)
def test_hidden_in_the_middle_it_stops_listening_and_keeps_what_was_heard(
    club, microphone, live_server
):
    stay, browser = current(on_ear(club, "streak")), microphone
    phone(browser)
    begin(browser, live_server, club, stay)
    listens(browser, "Let the phone count each bounce")
    tap(browser, "Start by ear")
    wait_until(browser, f"{EAR}.earTimes.length >= 2", 20)
    browser.execute_script(
        f"window.track = {EAR}.ear.stream.getTracks()[0];"
        "Object.defineProperty(document, 'hidden', { value: true, configurable: true });"
        "document.dispatchEvent(new Event('visibilitychange'));"
    )
    assert browser.execute_script("return window.track.readyState") == "ended"
    expect(browser, "The page was hidden")
    heard = browser.execute_script(f"return {EAR}.earTimes.length")
    browser.refresh()
    ready(browser)
    fields = "return document.querySelector('[name=e0-heard]').value"
    assert int(browser.execute_script(fields).split(";")[0]) == heard


@pytest.fixture
def refusing():
    """A browser that has a microphone and lets nobody use it."""
    driver = open_browser(flags=["--use-fake-device-for-media-stream"])
    yield driver
    close_browser(driver)


def touch_goes_on(browser, live_server, club, words):
    """The offer is taken, nothing can be heard, and the run is counted by touch."""
    begin(browser, live_server, club, current(on_ear(club, "streak")))
    tap(browser, "Let the phone count each bounce")
    tap(browser, "Listen")
    expect(browser, words)
    tap(browser, "One more")
    tap(browser, "It ended")
    finish(browser)
    row = SetRow.objects.get()
    assert (row.best_run, row.heard, row.session.observer) == (1, None, "self")


def test_refused_touch_goes_on(club, refusing, live_server):
    phone(refusing)
    told = {"permission": {"name": "microphone"}, "setting": "denied", "origin": live_server.url}
    refusing.execute_cdp_cmd("Browser.setPermission", told)
    touch_goes_on(refusing, live_server, club, "said no to the microphone")


def test_without_a_microphone_touch_goes_on(club, browser, live_server):
    phone(browser)
    touch_goes_on(browser, live_server, club, "No microphone was found")


@pytest.mark.parametrize("microphone", [20], indirect=True)
def test_in_the_hall_the_tablet_hears(club, microphone, live_server):
    on_ear(club, "count")
    browser = microphone
    set_size(browser, 1280, 800)
    open_hall(browser, live_server, club.coach, ["Ida Marlow"])
    browser.execute_script(OPEN, "Ida Marlow")
    press(browser, "Count each bounce by ear")
    press(browser, "Listen")
    expect(browser, "Learn the bounce anew")
    press(browser, "Start 4")
    wait_until(browser, "document.body.innerText.includes('Is that right?')", 20)
    press(browser, "That is right")
    expect(browser, "Target")
    tap_row = FloorTap.objects.get(act="result")
    numbers = tap_row.value["numbers"]
    assert numbers["count"] == numbers["heard"] > 5
    assert (SetRow.objects.get().heard, Session.objects.get().observer) == (
        numbers["heard"],
        "coach",
    )
