"""Recordings made up of hits and of what is heard beside them, with their true moments: what the
hearing is tried on (`./ladder ear`, docs/methods.md, 46). No recording of anybody is in it.

A hit is a few fading tones and a click (modal synthesis; common practice, no source). Voices are
tones through three formants, with consonants as bursts of noise; wind is noise under 200 Hz in
gusts, with pops; a hall is a first echo or two and a tail that fades by 60 dB in 0.8 to 1.6 s. How
loud a hit is over the noise is said where the detector listens, over 350 Hz: its loudest 20 ms
against the whole noise.
"""

import io
import wave
from collections.abc import Iterator
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt
import scipy

from drill_ladder.core.hall.hearing import BANDS, TO_LEARN

Sound = npt.NDArray[np.float64]
Luck = np.random.Generator

RATE = 16_000  # samples a second
SECONDS = 20.0
LOUDNESS = (20, 10, 5)  # dB over the noise
PACES = (0.8, 1.5, 2.5, 4.0)  # hits a second
PLACES = ("quiet", "hall", "voices", "wind")
LEVEL = 0.05  # of full scale: a phone on the floor some steps away
LEAD_S, LEARN_S = 1.2, 0.9  # before the first of three to learn from; from each to the next


@dataclass(frozen=True, slots=True)
class Kind:
    """What a hit sounds like: tones as (Hz, strength, seconds to fade), and a click of noise
    between two frequencies with its strength and seconds to fade.
    """

    tones: tuple[tuple[float, float, float], ...]
    click: tuple[float, float, float, float]


KINDS = {
    "wall": Kind(((190, 1.2, 0.03), (430, 0.8, 0.02), (880, 0.5, 0.012)), (500, 4000, 0.5, 0.012)),
    "bounce": Kind(
        ((280, 1.0, 0.03), (610, 0.9, 0.02), (1250, 0.4, 0.012)), (800, 5000, 0.35, 0.006)
    ),
    "strike": Kind(((1300, 0.5, 0.018), (2600, 0.4, 0.012)), (1200, 6500, 0.9, 0.006)),
}


@dataclass(frozen=True, slots=True)
class Scene:
    """One recording. loudness: dB over the noise; pace: hits a second."""

    seed: int
    kind: str
    place: str
    loudness: float
    pace: float


@dataclass(frozen=True, slots=True)
class Recording:
    """samples: mono at RATE; learnt, hits: when they truly were, seconds."""

    samples: Sound
    learnt: tuple[float, ...]
    hits: tuple[float, ...]


def scenes(count: int, seed: int = 31) -> Iterator[Scene]:
    """So many scenes: kinds, places, loudness and paces in turn, so that each meets each."""
    for n in range(count):
        yield Scene(
            seed=seed * 10_000 + n,
            kind=list(KINDS)[n % 3],
            place=PLACES[n // 3 % 4],
            loudness=LOUDNESS[n // 12 % 3],
            pace=PACES[(n + n // 12 + n // 36) % 4],
        )


def record(scene: Scene, seconds: float = SECONDS) -> Recording:
    """The recording of a scene: three hits to learn from, then hits at its pace to the end."""
    luck = np.random.default_rng(scene.seed)
    learnt = [LEAD_S + LEARN_S * n for n in range(TO_LEARN)]
    hits = _moments(luck, learnt[-1] + 1.2, seconds - 0.4, scene.pace)
    size = int(seconds * RATE)
    sound = np.zeros(size)
    for at in [*learnt, *hits]:
        hit = _hit(luck, KINDS[scene.kind])
        _put(sound, hit * _gain(luck.normal(0, 2)) / _loudest(hit), at)
    if scene.place == "hall":
        sound = _in_hall(luck, sound)
    beside = NOISES.get(scene.place, _still)(luck, size)
    quieter = _gain(-scene.loudness) / np.sqrt(np.mean(_listened(beside) ** 2))
    return Recording(LEVEL * (sound + beside * quieter), tuple(learnt), tuple(hits))


def wav_of(samples: Sound) -> bytes:
    """A WAV file of 16 bits at RATE; what is louder than full scale is cut."""
    file = io.BytesIO()
    with wave.open(file, "wb") as writer:
        writer.setnchannels(1)
        writer.setsampwidth(2)
        writer.setframerate(RATE)
        writer.writeframes((np.clip(samples, -1, 1) * 32767).astype("<i2").tobytes())
    return file.getvalue()


def _moments(luck: Luck, begin: float, end: float, pace: float) -> list[float]:
    """About so many a second, never much closer."""
    hits, at = [], begin
    while at < end:
        hits.append(float(at))
        at += max(0.75 / pace, luck.normal(1, 0.12) / pace)
    return hits


def _put(sound: Sound, part: Sound, at: float) -> None:
    """Add a part to a sound at a moment, as much of it as there is room for."""
    begin = int(at * RATE)
    room = sound[begin : begin + len(part)]
    room += part[: len(room)]


def _gain(decibels: float) -> float:
    return float(10 ** (decibels / 20))


def _seconds(size: int) -> Sound:
    return np.arange(size) / RATE


def _passed(sound: Sound, *hertz: float, kind: str) -> Sound:
    edge = hertz if len(hertz) > 1 else hertz[0]
    return scipy.signal.sosfilt(scipy.signal.butter(2, edge, kind, fs=RATE, output="sos"), sound)


def _listened(sound: Sound) -> Sound:
    """What of a sound lies where the detector listens."""
    return _passed(sound, BANDS[0][0], kind="highpass")


def _loudest(hit: Sound) -> float:
    """The loudest 20 ms of a hit, as the root of the mean square."""
    window = int(0.02 * RATE)
    squares = _listened(np.pad(hit, (0, RATE // 10))) ** 2
    return float(np.sqrt(np.convolve(squares, np.ones(window) / window, "valid").max()))


def _hit(luck: Luck, kind: Kind) -> Sound:
    """One hit; no two are quite alike."""
    size = int(0.16 * RATE)
    at, sound = _seconds(size), np.zeros(size)
    for hertz, strength, fade in kind.tones:
        tone = np.sin(2 * np.pi * hertz * luck.normal(1, 0.04) * at + luck.uniform(0, 0.5))
        sound += strength * luck.normal(1, 0.15) * np.exp(-at / fade) * tone
    low, high, strength, fade = kind.click
    return sound + strength * _burst(luck, (low, high), fade, size)


def _burst(luck: Luck, hertz: tuple[float, float], fade: float, size: int) -> Sound:
    """Noise between two frequencies that begins at once and fades."""
    noise = _passed(luck.standard_normal(size), *hertz, kind="bandpass")
    at = _seconds(size)
    return noise / np.sqrt(np.mean(noise**2)) * np.exp(-at / fade) * np.minimum(1, at / 0.0005)


def _in_hall(luck: Luck, sound: Sound) -> Sound:
    at = _seconds(RATE)
    answer = luck.standard_normal(RATE) * 10 ** (-3 * at / luck.uniform(0.8, 1.6))
    answer[: int(0.012 * RATE)] = 0
    answer *= luck.uniform(0.35, 0.6) / np.sqrt(np.sum(answer**2))
    answer[0] = 1
    for low, high in ((0.015, 0.03), (0.03, 0.06)):
        echo = luck.uniform(0.3, 0.5) * luck.choice([-1, 1])
        answer[int(luck.uniform(low, high) * RATE)] += echo
    return scipy.signal.fftconvolve(sound, answer)[: len(sound)]


def _pink(luck: Luck, size: int) -> Sound:
    """Noise with as much in each octave."""
    waves = np.fft.rfft(luck.standard_normal(size))
    waves[1:] /= np.sqrt(np.arange(1, len(waves)))
    waves[0] = 0
    sound = np.fft.irfft(waves, size)
    return sound / sound.std()


def _still(luck: Luck, size: int) -> Sound:
    """A quiet room and the microphone's own noise."""
    return _pink(luck, size) + 0.3 * luck.standard_normal(size)


def _voices(luck: Luck, size: int) -> Sound:
    """Three people who talk, each with pauses."""
    sound = 0.12 * _pink(luck, size)
    for pitch in luck.uniform(110, 300, 3):
        strength, at = luck.uniform(0.5, 1), luck.uniform(0, 1)
        while at < size / RATE:
            spoken = _syllable(luck, pitch * luck.normal(1, 0.08))
            _put(sound, spoken * strength * luck.lognormal(0, 0.3), at)
            pause = (0.02, 0.12) if luck.random() < 0.8 else (0.4, 1.5)
            at += len(spoken) / RATE + luck.uniform(*pause)
    return sound


def _syllable(luck: Luck, pitch: float) -> Sound:
    size = int(luck.uniform(0.1, 0.28) * RATE)
    at = _seconds(size)
    glide = 1 + 0.15 * luck.uniform(-1, 1) * at / at[-1] + 0.01 * np.sin(2 * np.pi * 5 * at)
    turn = 2 * np.pi * np.cumsum(pitch * glide) / RATE
    formants = (
        (1.0, luck.uniform(300, 850), 90),
        (0.6, luck.uniform(900, 2300), 120),
        (0.3, luck.uniform(2400, 3300), 200),
    )
    vowel = np.zeros(size)
    for n in range(1, int(5000 / pitch)):
        strength = 0.02 + sum(g / (1 + ((n * pitch - f) / wide) ** 2) for g, f, wide in formants)
        vowel += strength / np.sqrt(n) * np.sin(n * turn + luck.uniform(0, 6))
    vowel *= np.minimum(1, at / luck.uniform(0.02, 0.05))
    vowel *= np.minimum(1, (at[-1] - at) / luck.uniform(0.04, 0.09))
    return np.concatenate([_consonant(luck), vowel / np.sqrt(np.mean(vowel**2))])


def _consonant(luck: Luck) -> Sound:
    """Often a stop (a short burst, then nothing for a moment), sometimes a hiss, else none."""
    lot = luck.random()
    if lot < 0.45:
        size, fade = int(luck.uniform(0.01, 0.05) * RATE), luck.uniform(0.006, 0.03)
        stop = luck.uniform(0.15, 0.5) * _burst(luck, (1800, 7000), fade, size)
        return np.pad(stop, (0, int(luck.uniform(0.005, 0.03) * RATE)))
    if lot < 0.6:
        size = int(luck.uniform(0.06, 0.12) * RATE)
        hiss = _passed(luck.standard_normal(size), 3000, 7500, kind="bandpass")
        return 0.4 * hiss / hiss.std() * np.hanning(size)
    return np.zeros(0)


def _wind(luck: Luck, size: int) -> Sound:
    """Gusts of low noise, and pops of the wind on the microphone."""
    rumble = _passed(
        0.01 * np.cumsum(luck.standard_normal(size)) + _pink(luck, size), 200, kind="lowpass"
    )
    rumble = (rumble - rumble.mean()) / rumble.std()
    at = _seconds(size)
    knots = np.arange(0, at[-1] + 1, 0.4)
    gust = np.exp(0.8 * np.interp(at, knots, luck.standard_normal(len(knots))))
    sound = 4 * rumble * gust + 0.25 * _pink(luck, size) * np.sqrt(gust)
    for _ in range(int(at[-1] / 2)):
        long = int(luck.uniform(0.05, 0.15) * RATE)
        pop = np.hanning(long) * np.sin(2 * np.pi * luck.uniform(30, 90) * _seconds(long))
        _put(sound, luck.uniform(2, 8) * pop, luck.uniform(0, at[-1] - 0.2))
    return sound


NOISES = {"voices": _voices, "wind": _wind}
