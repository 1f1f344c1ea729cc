"""Hits are heard, and nothing else is: on recordings that were made up, so that the truth is known.

Onset detectors are judged by matching each true onset with one found within 50 ms (common practice
of the yearly evaluations in music information retrieval; from memory).
"""

import json
import subprocess
import sys
import wave
from dataclasses import replace
from math import pi

import numpy as np
import pytest
from scipy import signal

from drill_ladder.core.errors import CoreError
from drill_ladder.core.hall import Ear, Pace, energies, gap_of, matched, moments, pace_of
from drill_ladder.core.hall.hearing import BANDS, HOP_S, biquad
from drill_ladder.core.hall.sounds import KINDS, PLACES, RATE, Scene, record, scenes

WITHIN_S = 0.05


def heard(scene, rate=RATE):
    made = record(scene)
    found = moments(made.samples, rate, gap_of(scene.pace))
    return made, found, matched(made.hits, found.hits, WITHIN_S)


@pytest.mark.parametrize(("loudness", "least", "most"), [(20, 0.98, 0.01), (10, 0.95, 0.03)])
def test_hits_are_heard_in_every_place(loudness, least, most):
    """Every second scene of the two hundred that `./ladder ear` goes through has its place here."""
    true = found = false = 0
    for n, place in enumerate(PLACES):
        for kind in KINDS:
            made, told, right = heard(Scene(500 + n, kind, place, loudness, 2.5))
            true, found = true + len(made.hits), found + right
            false += len(told.hits) - right
    assert found / true >= least
    assert false / true <= most


def test_faint_hits_are_mostly_heard():
    made = [heard(Scene(70 + n, "strike", place, 5, 4.0)) for n, place in enumerate(PLACES)]
    assert sum(right for *_, right in made) / sum(len(one.hits) for one, *_ in made) >= 0.85


def test_what_is_learnt_from_is_not_counted():
    made, found, _ = heard(Scene(1, "wall", "quiet", 20, 1.5))
    assert matched(made.learnt, found.learnt, WITHIN_S) == 3
    assert not any(abs(at - hit) < 0.2 for at in made.learnt for hit in found.hits)


def test_a_slammed_door_teaches_nothing():
    """The first of three is twenty times as loud as the others: it is forgotten, and the fourth is
    the third one."""
    made = record(Scene(3, "wall", "quiet", 20, 1.5))
    samples = made.samples.copy()
    begin = int((made.learnt[0] - 0.05) * RATE)
    samples[begin : begin + RATE // 5] *= 20
    found = moments(samples, RATE, gap_of(1.5))
    assert matched([*made.learnt[1:], made.hits[0]], found.learnt, WITHIN_S) == 3


@pytest.mark.parametrize("place", PLACES)
def test_where_nobody_hits_a_rally_ends(place):
    """Half a minute without a hit, after three to learn from: next to nothing is heard in it."""
    scene = Scene(90, "bounce", place, 15, 0.01)
    made, found, _ = heard(scene)
    assert len(made.hits) <= 1
    assert len(found.hits) <= len(made.hits) + 1


def test_too_loud_to_hear_is_said():
    """Where the noise grows over the hits that were learnt, no guess is made."""
    quiet = record(Scene(5, "wall", "quiet", 20, 1.5))
    noise = np.random.default_rng(5).standard_normal(len(quiet.samples))
    noise[: int(4 * RATE)] = 0
    calm, loud = quiet.samples, quiet.samples + 0.05 * noise
    assert not moments(calm, RATE, 0.3).too_loud
    assert moments(loud, RATE, 0.3).too_loud


def test_the_phones_own_sounds_are_left_out():
    """A beep of the page's own is as loud as a hit; the page says so before it makes one."""
    made = record(Scene(6, "strike", "quiet", 20, 1.5))
    bands = energies(made.samples, RATE)
    plain, deaf = Ear(0.3), Ear(0.3)
    told = []
    for hop, row in enumerate(bands.tolist()):
        if abs(hop * HOP_S - (made.hits[2] - 0.05)) < HOP_S / 2:
            deaf.deafen(0.3)
        told.append((plain.hear(tuple(row)), deaf.hear(tuple(row))))
    both = [[one.at for one in column if one] for column in zip(*told, strict=True)]
    missed = set(both[0]) - set(both[1])
    assert len(missed) == 1
    assert abs(missed.pop() - made.hits[2]) < WITHIN_S


def test_filters_are_those_of_the_reference_library():
    """scipy.signal.butter gives the same numbers for a Butterworth filter of second order."""
    for kind, name in (("low", "lowpass"), ("high", "highpass")):
        for hertz in (350, 1000, 3000, 7000):
            ours = biquad(kind, hertz, 48_000)
            theirs = signal.butter(2, hertz, name, fs=48_000, output="sos")[0]
            assert ours == pytest.approx(theirs.tolist(), rel=1e-9, abs=1e-12)


def test_a_tone_is_loudest_in_its_band():
    at = np.arange(RATE) / RATE
    for band, (low, high) in enumerate(BANDS):
        tone = np.sin(2 * pi * np.sqrt(low * high) * at)
        assert energies(tone, RATE).mean(axis=0).argmax() == band


def test_too_few_samples_a_second_are_refused():
    with pytest.raises(CoreError, match="15000 samples a second"):
        energies(np.zeros(8000), 8000)


def test_moments_are_matched_one_to_one():
    assert matched([1, 2], [1.01, 1.02, 2.04], 0.05) == 2
    assert matched([1, 1.04], [1.02], 0.05) == 1
    assert matched([1], [1.06], 0.05) == 0
    assert matched([], [1], 0.05) == 0


def on_the_phone(samples, rate, gap):
    sent = samples.astype("<f4").tobytes()
    command = ["node", "tests/js/hear.mjs", str(rate), str(gap)]
    run = subprocess.run(command, input=sent, capture_output=True, check=True)
    return json.loads(run.stdout)


@pytest.mark.parametrize("rate", [16_000, 44_100, 48_000])
def test_the_phone_hears_the_same(rate):
    """Its twin in JavaScript, on the same samples, at the rates that phones have."""
    for scene in list(scenes(36))[2::9]:
        made = record(replace(scene, loudness=max(scene.loudness, 10)), seconds=12)
        samples = signal.resample_poly(made.samples, rate // 100, RATE // 100)
        samples = samples.astype("f4").astype("f8")
        ours = moments(samples, rate, gap_of(scene.pace))
        theirs = on_the_phone(samples, rate, gap_of(scene.pace))
        assert theirs["hits"] == pytest.approx(ours.hits, abs=0.01)
        assert theirs["learnt"] == pytest.approx(ours.learnt, abs=0.01)
        assert theirs["too_loud"] == ours.too_loud


def every(gaps):
    """Moments with these times between them."""
    return [sum(gaps[:n]) for n in range(len(gaps) + 1)]


@pytest.mark.parametrize(
    ("gaps", "pace"),
    [
        ([0.5] * 2, None),
        ([0.5] * 9, Pace(120, True)),
        ([0.5, 0.5, 0.5, 2.5, 0.5, 0.5, 0.5, 0.5], Pace(120, True)),  # somebody fetched the ball
        ([0.3, 0.7, 0.4, 0.6, 0.3, 0.7, 0.5, 0.5], Pace(120, False)),
    ],
)
def test_pace_as_the_phone_says_it(gaps, pace):
    """tests/js/hearing.test.mjs has the same cases."""
    assert pace_of(every(gaps)) == pace


def test_the_command_makes_files_and_says_how_many_were_heard(tmp_path):
    """Four of them: WAV files of 16 bits, their true moments, and a table."""
    command = [sys.executable, "scripts/ear.py", "4", "--seed", "5", "--write", str(tmp_path)]
    run = subprocess.run(command, capture_output=True, text=True, check=True)
    assert "| 20 dB over the noise | 4 |" in run.stdout
    known = json.loads((tmp_path / "moments.json").read_text())
    for name, told in known.items():
        with wave.open(str(tmp_path / f"{name}.wav")) as file:
            assert (file.getnchannels(), file.getsampwidth(), file.getframerate()) == (1, 2, RATE)
            samples = np.frombuffer(file.readframes(file.getnframes()), "<i2") / 32767
        found = moments(samples, RATE, gap_of(told["pace"]))
        assert matched(told["hits"], found.hits, WITHIN_S) >= 0.9 * len(told["hits"])
