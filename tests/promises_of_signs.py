"""Promises about signs: sides, trends, real changes, speed blocks that stop."""

from datetime import date, timedelta

import numpy as np
from scipy.special import expit, logit

from drill_ladder.core.judging import drop_off_sum
from drill_ladder.core.statistics import (
    LaneResult,
    real_change,
    shown_from,
    trend_of_counts,
    two_lanes,
    typical_error,
)
from tests.promised import AT_LEAST, AT_MOST, Found, slack_of
from tests.simulated import BEGIN


def sides(runs: int, seed: int) -> list[Found]:
    """A sign of a weaker side, looked at weekly for twelve weeks."""
    chance = np.random.default_rng([seed, 3])
    wrong = seen = 0
    for _ in range(runs):
        wrong += _ever(chance, 0.7, 0.7)
        seen += _ever(chance, 0.85, 0.6)
    false, shown = _squads(max(20, runs // 4), seed)
    where = "progress, squad"
    return [
        Found(
            "Weaker side: a sign without a difference, ever",
            where,
            AT_MOST,
            0.05,
            wrong / runs,
            runs,
            slack_of(0.05, runs),
        ),
        Found(
            "Weaker side: 25 points are seen within twelve weeks",
            where,
            AT_LEAST,
            0.7,
            seen / runs,
            runs,
            slack_of(0.7, runs),
        ),
        Found(
            "A squad's signs that are false",
            "squad",
            AT_MOST,
            0.1,
            false,
            shown,
            slack_of(0.1, shown),
        ),
    ]


def _ever(chance: np.random.Generator, p: float, q: float) -> bool:
    a, b = np.cumsum(chance.binomial(10, p, 36)), np.cumsum(chance.binomial(10, q, 36))
    return any(
        two_lanes(
            LaneResult("l", 10 * d, int(a[d - 1])),
            LaneResult("r", 10 * d, int(b[d - 1])),
            True,
            0.1,
        ).real
        for d in range(3, 37, 3)
    )


def _squads(runs: int, seed: int) -> tuple[float, int]:
    chance = np.random.default_rng([seed, 4])
    shares, shown = [], 0
    for _ in range(runs):
        gaps = [0.3] * 5 + [0.0] * 20
        found = []
        for gap in gaps:
            left = LaneResult("l", 120, int(chance.binomial(120, 0.6 + gap / 2)))
            right = LaneResult("r", 120, int(chance.binomial(120, 0.6 - gap / 2)))
            found.append(two_lanes(left, right, True, 0.1))
        bar = shown_from([one.e or 0.0 for one in found])
        signs = [i for i, one in enumerate(found) if one.real and (one.e or 0.0) >= bar]
        shares.append(sum(i >= 5 for i in signs) / max(1, len(signs)))
        shown += len(signs)
    return float(np.mean(shares)), shown


def trends(runs: int, seed: int) -> list[Found]:
    """Twenty days over ten weeks, days that differ."""
    chance = np.random.default_rng([seed, 5])
    none = [trend_of_counts(_days(chance, 0.7, 0.0)).verdict for _ in range(runs)]
    some = [trend_of_counts(_days(chance, 0.4, 0.05)).verdict for _ in range(runs)]
    return [
        Found(
            "Getting worse, where nothing changes",
            "progress, report",
            AT_MOST,
            0.05,
            none.count("worsening") / runs,
            runs,
            slack_of(0.05, runs),
        ),
        Found(
            "Getting better is seen at 5 points a week",
            "progress, report",
            AT_LEAST,
            0.7,
            some.count("improving") / runs,
            runs,
            slack_of(0.7, runs),
        ),
    ]


def _days(chance: np.random.Generator, level: float, a_week: float) -> list[tuple[date, int, int]]:
    rows = []
    for i in range(20):
        share = float(np.clip(level + a_week * i / 2, 0.01, 0.99))
        makes = int(chance.binomial(10, expit(logit(share) + chance.normal(0, 0.3))))
        rows.append((BEGIN + timedelta(days=round(3.5 * i)), 10, makes))
    return rows


def changes(runs: int, seed: int) -> list[Found]:
    """Two tests of somebody who did not change, the noise known from six pairs."""
    chance = np.random.default_rng([seed, 6])
    wrong = 0
    for _ in range(runs):
        error = typical_error(chance.normal(0, 1, size=(6, 2)).tolist())
        before, after = chance.normal(0, 1, size=2)
        wrong += real_change(error, before, after, True, df=5).verdict == "real"
    return [
        Found(
            "A real change that is none",
            "tests, test day, progress",
            AT_MOST,
            0.05,
            wrong / runs,
            runs,
            slack_of(0.05, runs),
        )
    ]


def stops(runs: int, seed: int) -> list[Found]:
    """Ten rounds of a speed block, 2 % noise."""
    chance = np.random.default_rng([seed, 7])
    blocks = 5 * (1 + 0.02 * chance.standard_normal((runs, 10)))
    tired = blocks.copy()
    tired[:, 5:] *= 1.08
    alone = np.mean([drop_off_sum(list(row)).stop_after is not None for row in blocks])
    late = [drop_off_sum(list(row)).stop_after for row in tired]
    seen = np.mean([stop is not None and stop <= 7 for stop in late])
    return [
        Found(
            "A speed block stops though nobody tires",
            "card, hall",
            AT_MOST,
            0.1,
            float(alone),
            runs,
            slack_of(0.1, runs),
        ),
        Found(
            "A lasting drop of 8 % stops it within two rounds",
            "card, hall",
            AT_LEAST,
            0.8,
            float(seen),
            runs,
            slack_of(0.8, runs),
        ),
    ]
