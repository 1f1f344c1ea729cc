"""Hits heard by a phone: samples in, moments out (docs/methods.md, 46).

Three bands of short-time energy; how far each rises over what was heard just before (spectral
flux), against a running median of that rise; and a least gap between two hits. What a hit sounds
like is learnt from three of them before the start. Nothing is kept but moments.

assets/js/hearing/ear.js does the same on the phone; both are held against each other.

Sources, from memory: Dixon (2006), Onset detection revisited; Bello and others (2005), A tutorial
on onset detection in music signals; Bristow-Johnson's cookbook formulae for biquad filters.
"""

from bisect import bisect_left, insort
from collections import deque
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from itertools import pairwise
from math import cos, log10, pi, sin, sqrt
from statistics import mean, median, pstdev

import numpy as np
import numpy.typing as npt
import scipy

from drill_ladder.core.errors import CoreError

Bands = tuple[float, float, float]

HOP_S = 0.005
BANDS = ((350.0, 1000.0), (1000.0, 3000.0), (3000.0, 7000.0))  # Hz: under them is wind
LEAST_RATE = 15_000.0  # samples a second: the highest band ends at 7 kHz
SILENT = 1e-10  # energy, 100 dB under full scale: what no microphone tells from nothing
TO_LEARN = 3
ALIKE = 12.0  # dB between the learnt ones: a slammed door is none of them
SETTLED = 40  # hops before anything is heard: what is usual is not known yet
BEFORE = 4  # hops over which a hit rises
USUAL = 200  # hops, a second, of which the median is what is usual
PEAK = 3  # hops within which a hit is at its loudest
FADED = (8, 13)  # hops after it in which a hit has faded; a voice has not
FADES = 0.35  # of its height over the usual
UNLEARNT = 5.0  # dB: the rise that counts before anything is learnt
SHARE = 0.3  # of the rise of the learnt ones
OVER_USUAL = 3.0  # dB over the usual rise
MASKED = 5.0  # dB: learnt hits no louder than this over the usual cannot be told from it
MASKED_HOPS = 300  # of them in a row, and it is said


@dataclass(frozen=True, slots=True)
class Hit:
    """at: seconds since the first sample; rises, heights: dB by which each band rose over just
    before, and stood over the usual.
    """

    at: float
    rises: Bands
    heights: Bands


@dataclass(frozen=True, slots=True)
class Learnt:
    """What a hit sounds like here: what each band tells of it (shares, together 1), its rise in dB
    by these, and how loud it is at its loudest, band by band, in dB of full scale.
    """

    shares: Bands
    rise: float
    peaks: Bands

    def told(self, values: Bands) -> float:
        """One number of three bands."""
        return sum(share * value for share, value in zip(self.shares, values, strict=True))


ALL_ALIKE = (1 / 3, 1 / 3, 1 / 3)


class Median:
    """The median of the latest `size` values, the upper one of two in the middle."""

    def __init__(self, size: int) -> None:
        self._size = size
        self._latest: deque[float] = deque()
        self._sorted: list[float] = []

    def add(self, value: float) -> None:
        """One value more; the oldest goes."""
        self._latest.append(value)
        insort(self._sorted, value)
        if len(self._latest) > self._size:
            del self._sorted[bisect_left(self._sorted, self._latest.popleft())]

    def value(self, otherwise: float) -> float:
        """The median; `otherwise` where there is nothing yet."""
        return self._sorted[len(self._sorted) // 2] if self._sorted else otherwise


@dataclass(slots=True)
class _Rising:
    """A hit, perhaps: what rose is looked at until it has faded, or has not."""

    hop: int
    rises: Bands
    peaks: Bands
    usual: Bands


class Ear:
    """Hears hop by hop: three energies in, now and then a hit out.

    gap_s: the least between two hits; hop_s: from hop to hop; both in seconds. The first three hits
    that are alike are learnt and are not told; `learnt` is what they taught.
    """

    def __init__(self, gap_s: float, hop_s: float = HOP_S) -> None:
        self.learnt: Learnt | None = None
        self.learning: list[tuple[Hit, Bands]] = []
        self._hop_s = hop_s
        self._gap = round(gap_s / hop_s)
        self._hop = -1
        self._levels: deque[Bands] = deque(maxlen=FADED[1] + BEFORE)
        self._usual = [Median(USUAL) for _ in BANDS]
        self._rise = Median(USUAL)
        self._rising: _Rising | None = None
        self._deaf_until = SETTLED
        self._masked = 0

    @property
    def too_loud(self) -> bool:
        """Whether hits as they were learnt would not be heard over what is heard now."""
        return self._masked >= MASKED_HOPS

    def deafen(self, seconds: float) -> None:
        """From now on nothing is heard for so long: the phone itself beeps."""
        self._deaf_until = max(self._deaf_until, self._hop + round(seconds / self._hop_s))
        self._rising = None

    def hear(self, energies: Bands) -> Hit | None:
        """The next hop's mean square of each band. A hit is told FADED[1] hops after it was."""
        self._hop += 1
        levels = _three(10 * log10(energy + SILENT) for energy in energies)
        usual = _three(one.value(level) for one, level in zip(self._usual, levels, strict=True))
        rises = self._rises(levels, usual)
        told = self._told(rises)
        bound = self._bound()
        self._remember(levels, told, usual)
        hit = self._look_on(levels)
        if self._rising is None and told >= bound and self._hop >= self._deaf_until:
            self._rising = _Rising(self._hop, rises, levels, usual)
        return hit

    def _rises(self, levels: Bands, usual: Bands) -> Bands:
        before = list(self._levels)[-BEFORE:]
        if not before:
            return (0.0, 0.0, 0.0)
        return _three(
            max(0.0, level - max(usual[band], *(hop[band] for hop in before)))
            for band, level in enumerate(levels)
        )

    def _told(self, values: Bands) -> float:
        if self.learnt is not None:
            return self.learnt.told(values)
        return sum(values) / len(values)

    def _bound(self) -> float:
        if self.learnt is None:
            return UNLEARNT
        return max(SHARE * self.learnt.rise, self._rise.value(0.0) + OVER_USUAL)

    def _remember(self, levels: Bands, told: float, usual: Bands) -> None:
        self._levels.append(levels)
        for one, level in zip(self._usual, levels, strict=True):
            one.add(level)
        self._rise.add(told)
        if self.learnt is not None:
            over = _less(self.learnt.peaks, usual)
            self._masked = self._masked + 1 if self.learnt.told(over) < MASKED else 0

    def _look_on(self, levels: Bands) -> Hit | None:
        """Follow what rose; the hit, once it has faded as one."""
        rising = self._rising
        if rising is None:
            return None
        after = self._hop - rising.hop
        if after <= PEAK:
            rising.peaks = _three(map(max, rising.peaks, levels))
        if after <= PEAK - 1:
            rising.rises = _three(map(max, rising.rises, _less(levels, rising.usual)))
        if after < FADED[1]:
            return None
        self._rising = None
        return self._heard(rising) if self._has_faded(rising) else None

    def _has_faded(self, rising: _Rising) -> bool:
        later = list(self._levels)[FADED[0] - FADED[1] - 1 :]
        lowest = _three(min(hop[band] for hop in later) for band in range(len(BANDS)))
        height = self._told(_less(rising.peaks, rising.usual))
        left = self._told(_three(max(0.0, over) for over in _less(lowest, rising.usual)))
        return left <= (1 - FADES) * height

    def _heard(self, rising: _Rising) -> Hit | None:
        hit = Hit(rising.hop * self._hop_s, rising.rises, _less(rising.peaks, rising.usual))
        self._deaf_until = rising.hop + self._gap
        if self.learnt is not None:
            return hit
        self._learn(hit, rising.peaks)
        return None

    def _learn(self, hit: Hit, peaks: Bands) -> None:
        """Three in a row that are alike are what a hit sounds like here."""
        self.learning = [
            (earlier, its)
            for earlier, its in self.learning[1 - TO_LEARN :]
            if max(map(abs, _less(its, peaks))) <= ALIKE
        ]
        self.learning.append((hit, peaks))
        if len(self.learning) < TO_LEARN:
            return
        rises = _three(median(one.rises[band] for one, _ in self.learning) for band in range(3))
        whole = sum(rises)
        shares = _three(rise / whole for rise in rises) if whole else ALL_ALIKE
        loudest = _three(median(its[band] for _, its in self.learning) for band in range(3))
        rise = sum(share * rise for share, rise in zip(shares, rises, strict=True))
        self.learnt = Learnt(shares, rise, loudest)
        self._rise = Median(USUAL)  # what was usual was reckoned in other shares


def _three(values: Iterable[float]) -> Bands:
    low, mid, high = values
    return (low, mid, high)


def _less(values: Bands, base: Bands) -> Bands:
    return _three(value - below for value, below in zip(values, base, strict=True))


def biquad(kind: str, hertz: float, rate: float) -> list[float]:
    """A Butterworth filter of second order as b0, b1, b2, 1, a1, a2; kind: "low" or "high"."""
    turn = 2 * pi * hertz / rate
    alpha, at = sin(turn) / sqrt(2), cos(turn)
    edge = 1 - at if kind == "low" else 1 + at
    middle = edge if kind == "low" else -edge
    whole = 1 + alpha
    ahead = (edge / 2, middle, edge / 2)
    return [*(b / whole for b in ahead), 1.0, -2 * at / whole, (1 - alpha) / whole]


def sections(rate: float) -> list[list[list[float]]]:
    """The filters of each band, one after the other: twice what is under it goes, once what is over
    it.
    """
    return [
        [biquad("high", low, rate), biquad("high", low, rate), biquad("low", high, rate)]
        for low, high in BANDS
    ]


def hop_of(rate: float) -> int:
    """Samples a hop, the whole number next to HOP_S."""
    return int(rate * HOP_S + 0.5)


def energies(samples: npt.NDArray[np.float64], rate: float) -> npt.NDArray[np.float64]:
    """Mean squares, one row a hop, one column a band. samples: -1 to 1.

    Raises CoreError where so few samples a second hold no band.
    """
    if rate < LEAST_RATE:
        raise CoreError(
            f"Hits are heard at {LEAST_RATE:.0f} samples a second and more, not at {rate:.0f}."
        )
    hop = hop_of(rate)
    hops = len(samples) // hop
    bands = [scipy.signal.sosfilt(band, samples)[: hops * hop] for band in sections(rate)]
    return np.array([(band.reshape(hops, hop) ** 2).mean(axis=1) for band in bands]).T


@dataclass(frozen=True, slots=True)
class Heard:
    """What was heard in one recording. learnt, hits: moments in seconds; too_loud: whether it was,
    for a while at least.
    """

    learnt: tuple[float, ...]
    hits: tuple[float, ...]
    too_loud: bool


def moments(samples: npt.NDArray[np.float64], rate: float, gap_s: float) -> Heard:
    """The hits of a recording that begins with three to learn from.

    samples: mono, -1 to 1; rate: samples a second; gap_s: the least between two hits, seconds.
    Raises CoreError.
    """
    heard = energies(samples, rate)
    ear, hits, too_loud = Ear(gap_s, hop_of(rate) / rate), [], False
    for hop in heard:
        hit = ear.hear(_three(hop.tolist()))
        if hit is not None:
            hits.append(hit.at)
        too_loud |= ear.too_loud
    return Heard(tuple(hit.at for hit, _ in ear.learning), tuple(hits), too_loud)


def gap_of(most_a_second: float) -> float:
    """The least between two hits, seconds, where there are at most so many a second: a ball is not
    on time to the moment, and echoes are over by then.
    """
    return 0.55 / most_a_second


def matched(true: Iterable[float], heard: Iterable[float], within_s: float) -> int:
    """How many true moments were heard, each heard one standing for one true one at most, in the
    order of time.
    """
    waiting, count = deque(sorted(heard)), 0
    for moment in sorted(true):
        while waiting and waiting[0] < moment - within_s:
            waiting.popleft()
        if waiting and waiting[0] <= moment + within_s:
            waiting.popleft()
            count += 1
    return count


FEWEST_FOR_PACE = 8
STEADY = 0.15  # common practice, no source
FETCHED = 2.0  # times the usual gap: somebody fetched the ball


@dataclass(frozen=True, slots=True)
class Pace:
    """How fast and how evenly hits come."""

    a_minute: int
    steady: bool


def pace_of(hits: Sequence[float]) -> Pace | None:
    """The pace of hits, seconds, in order; None for fewer than eight. The longest time between two
    is left out where it is more than twice the usual one.
    """
    if len(hits) < FEWEST_FOR_PACE:
        return None
    gaps = [later - hit for hit, later in pairwise(hits)]
    usual, longest = sorted(gaps)[len(gaps) // 2], max(gaps)
    if longest > FETCHED * usual:
        gaps.remove(longest)
    return Pace(int(60 / mean(gaps) + 0.5), pstdev(gaps) / mean(gaps) <= STEADY)
