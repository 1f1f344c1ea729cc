"""Where days differ: the exact figures, and what holds for simulated players whose truth is known.

Outside checks: scipy.stats.betabinom for the beta-binomial tail, statsmodels' GLM for the logistic
slope, scipy.stats for Student's t.
"""

import json
import math
import subprocess
from datetime import date, timedelta

import numpy as np
import pytest
import statsmodels.api as sm
from scipy import integrate, stats

from drill_ladder.core.judging import Evidence, InARow, Probe, Rule, drop_off_sum
from drill_ladder.core.looking_back import (
    day_spread,
)
from drill_ladder.core.odds import (
    EarnedSession,
    LostSession,
    MakesSession,
    StreakSession,
    ToNSession,
    odds,
    place_finely,
    simulate,
    spread_pass_and_low,
)
from drill_ladder.core.statistics import (
    LaneResult,
    PlannedWeek,
    kept,
    real_change,
    shown_from,
    trend_of_counts,
    two_lanes,
    typical_error,
)
from drill_ladder.core.statistics.chances import spread_pmf, spread_tail

BEGIN = date(2026, 1, 5)


def expit(x):
    return 1 / (1 + np.exp(-x))


# --- 36: the spread between days


@pytest.mark.parametrize("n", [1, 5, 10, 40, 400])
@pytest.mark.parametrize("p", [0.02, 0.3, 0.7, 0.95])
@pytest.mark.parametrize("r", [0.001, 0.03, 0.1, 0.5])
def test_one_lane_is_the_beta_binomial_tail(n, p, r):
    """scipy.stats.betabinom, to a millionth."""
    k = round(0.8 * n)
    a, b = p * (1 - r) / r, (1 - p) * (1 - r) / r
    found, low = spread_pass_and_low(MakesSession(n, k, floor=0.5), [p], r)
    assert found == pytest.approx(stats.betabinom.sf(k - 1, n, a, b), abs=1e-6)
    mark = min(k, math.ceil(0.5 * n))
    assert low == pytest.approx(1 - stats.betabinom.sf(mark - 1, n, a, b), abs=1e-6)


def test_lanes_of_a_day_move_together():
    """By a quarter of a million simulated days."""
    chance = np.random.default_rng(3)
    r, rates = 0.1, [0.8, 0.6]
    u = chance.uniform(size=250_000)
    days = [stats.beta.ppf(u, p * (1 - r) / r, (1 - p) * (1 - r) / r) for p in rates]
    both = np.all([chance.binomial(10, x) >= 7 for x in days], axis=0).mean()
    found, _ = spread_pass_and_low(MakesSession(10, 7, 2, each_lane=True), rates, r)
    assert found == pytest.approx(both, abs=0.004)
    summed = (sum(chance.binomial(10, x) for x in days) >= 14).mean()
    found, _ = spread_pass_and_low(MakesSession(10, 7, 2), rates, r)
    assert found == pytest.approx(summed, abs=0.004)


@pytest.mark.parametrize(("p", "r"), [(0.02, 0.5), (0.95, 0.5), (0.7, 0.1), (0.5, 0.02)])
def test_two_lanes_that_each_count_are_the_integral(p, r):
    """By adaptive quadrature over the day's share."""
    a, b = p * (1 - r) / r, (1 - p) * (1 - r) / r
    both = lambda x: stats.binom.sf(159, 200, x) ** 2 * stats.beta.pdf(x, a, b)
    parts = [integrate.quad(both, lo, lo + 0.05, limit=200)[0] for lo in np.arange(0.3, 1, 0.05)]
    found, _ = spread_pass_and_low(MakesSession(200, 160, 2, each_lane=True), [p, p], r)
    assert found == pytest.approx(sum(parts), abs=1e-6)


@pytest.mark.parametrize(
    "session",
    [
        StreakSession(30, 5),
        ToNSession(5, 8),
        LostSession(3, 6),
        EarnedSession(6, 2, 20, 8),
        MakesSession(10, 8),
    ],
)
def test_alike_days_are_as_before_and_the_chance_rises_with_the_rate(session):
    assert spread_pass_and_low(session, [0.7], 0.0) == session.pass_and_low([0.7])
    near, _ = spread_pass_and_low(session, [0.7], 1e-7)
    assert near == pytest.approx(session.pass_and_low([0.7])[0], abs=1e-5)
    rising = [spread_pass_and_low(session, [p], 0.1)[0] for p in np.linspace(0, 1, 21)]
    assert rising == sorted(rising)
    assert (rising[0], rising[-1]) == (0.0, 1.0)


def test_what_alike_days_promise_real_days_do_not_keep():
    """One pass of 10: seven in a hundred too soon becomes more than twice that."""
    rule, session = Rule(InARow(1)), MakesSession(10, 9)
    alike, real = (odds(session, rule, [[0.6]], 1, r)[0].climb_by[0] for r in (0.0, 0.1))
    assert real > 2 * alike


def test_evidence_with_a_spread_takes_longer_and_is_fooled_less_often():
    rule, session = Rule(Evidence(0.9, 10)), MakesSession(10, 7)
    alike = simulate(session, rule, [[0.6]], 20, runs=800)[0]
    real = simulate(session, rule, [[0.6]], 20, runs=800, day_spread=0.1)[0]
    assert 0 < real.climb_by[-1] < alike.climb_by[-1] + 0.2


def test_the_next_days_chances_add_up_and_become_the_plain_ones():
    assert sum(spread_pmf(12, 9.5, 3.5, 0.08)) == pytest.approx(1, abs=1e-6)
    plain = stats.betabinom.sf(8, 12, 9.5, 3.5)
    assert spread_tail(12, 9, 9.5, 3.5, 1e-6) == pytest.approx(plain, abs=1e-4)


def days_of(chance, r, days=8, n=20, p=0.7):
    a, b = p * (1 - r) / r, (1 - p) * (1 - r) / r
    shares = chance.beta(a, b, size=days)
    return [
        (BEGIN + timedelta(days=3 * i), n, int(chance.binomial(n, x))) for i, x in enumerate(shares)
    ]


def test_the_clubs_own_spread_is_found_and_pulled_to_caution():
    chance = np.random.default_rng(5)
    found = day_spread([days_of(chance, 0.1) for _ in range(200)])
    assert found.raw == pytest.approx(0.1, abs=0.02)
    assert found.df == 1200
    nothing = day_spread([])
    assert (nothing.spread, nothing.raw, nothing.df, nothing.phi) == (0.05, None, 0, None)
    few = day_spread([days_of(chance, 0.1)])
    assert few.spread == pytest.approx((6 * few.raw + 40 * 0.05) / 46)


def test_a_learner_is_no_noise_and_all_made_says_nothing():
    learner = [
        (BEGIN + timedelta(days=7 * i), 1000, round(1000 * expit(-1 + 0.2 * i))) for i in range(10)
    ]
    found = day_spread([learner])
    assert found.raw == pytest.approx(0, abs=1e-4)
    assert day_spread([[(BEGIN + timedelta(days=i), 10, 10) for i in range(5)]]).df == 0


# --- 39 to 45


def test_a_sign_stands_however_often_one_looks():
    """Equal lanes, looked at weekly for twelve weeks: at most one in twenty ever gets a sign."""
    chance = np.random.default_rng(39)
    shown = 0
    for _ in range(400):
        a, b = (np.cumsum(chance.binomial(10, 0.7, size=36)) for _ in range(2))
        looks = [
            two_lanes(
                LaneResult("l", 10 * d, int(a[d - 1])),
                LaneResult("r", 10 * d, int(b[d - 1])),
                True,
                0.1,
            )
            for d in range(3, 37, 3)
        ]
        shown += any(gap.real for gap in looks)
    assert shown / 400 <= 0.05


def test_of_signs_shown_few_are_false():
    """By simulation of squads with and without real gaps; and as scipy's Benjamini and Hochberg of
    1/e, which is a p-value that never exceeds what it may.
    """
    chance = np.random.default_rng(390)
    shares = []
    for _ in range(300):
        gaps = [0.35] * 5 + [0.0] * 20
        evidence = [
            two_lanes(
                LaneResult("l", 120, int(chance.binomial(120, 0.5 + gap / 2))),
                LaneResult("r", 120, int(chance.binomial(120, 0.5 - gap / 2))),
                True,
                0.1,
            ).e
            for gap in gaps
        ]
        bar = shown_from(evidence)
        shown = [i for i, e in enumerate(evidence) if e >= bar]
        shares.append(sum(i >= 5 for i in shown) / max(1, len(shown)))
        adjusted = stats.false_discovery_control([min(1, 1 / e) for e in evidence])
        assert shown == [i for i, p in enumerate(adjusted) if p <= 0.1 + 1e-12]
    assert np.mean(shares) <= 0.1
    assert shown_from([]) == shown_from([1.0, 2.0]) == math.inf


def test_a_real_gap_is_seen_by_day_24():
    chance = np.random.default_rng(40)
    seen = [
        two_lanes(
            LaneResult("l", 240, int(chance.binomial(240, 0.85))),
            LaneResult("r", 240, int(chance.binomial(240, 0.6))),
            True,
            0.1,
        ).real
        for _ in range(200)
    ]
    assert np.mean(seen) >= 0.7
    assert not two_lanes(LaneResult("l", 9, 9), LaneResult("r", 9, 0), True, 0.1).real


def season(chance, slope_a_week, level, noise, days=20):
    """Two days a week, ten attempts."""
    rows = []
    for i in range(days):
        day = 3.5 * i
        share = min(0.99, max(0.01, level + slope_a_week * day / 7))
        log_odds = math.log(share / (1 - share)) + chance.normal(0, noise)
        on = BEGIN + timedelta(days=round(day))
        rows.append((on, 10, int(chance.binomial(10, expit(log_odds)))))
    return rows


def test_the_slope_is_statsmodels_own():
    """A GLM of the binomial family, with Pearson's dispersion."""
    rows = season(np.random.default_rng(7), 0.02, 0.5, 0.3)
    days = np.array([on.toordinal() for on, _, _ in rows], dtype=float)
    centred = days - days.mean()
    table = np.array([[made, n - made] for _, n, made in rows])
    fit = sm.GLM(table, sm.add_constant(centred), family=sm.families.Binomial()).fit(scale="X2")
    scale = max(1.0, fit.scale)
    error = fit.bse[1] * math.sqrt(scale / fit.scale)
    found = trend_of_counts(rows)
    middle = expit(fit.params[0])
    a_week = 7 * middle * (1 - middle)
    assert found.slope_per_week == pytest.approx(fit.params[1] * a_week, rel=1e-6)
    half = stats.t.ppf(0.95, len(rows) - 2) * error * a_week
    assert found.high - found.slope_per_week == pytest.approx(half, rel=1e-5)
    p = 2 * stats.t.sf(abs(fit.params[1] / error), len(rows) - 2)
    assert found.p == pytest.approx(p, rel=1e-5)


def test_a_trend_of_counts_keeps_its_promise():
    chance = np.random.default_rng(41)
    none = [trend_of_counts(season(chance, 0, 0.7, 0.3)).verdict for _ in range(400)]
    assert none.count("worsening") / 400 <= 0.07
    some = [trend_of_counts(season(chance, 0.05, 0.4, 0.3)).verdict for _ in range(100)]
    assert some.count("improving") / 100 >= 0.7
    flat = trend_of_counts([(BEGIN + timedelta(days=i), 10, 10) for i in range(6)])
    assert (flat.verdict, flat.p, flat.method) == ("flat", None, "logit")


def test_few_pairs_know_the_noise_badly():
    """2000 players without change: six pairs are wrong in at most six of a hundred."""
    chance = np.random.default_rng(42)
    wrong = 0
    for _ in range(2000):
        pairs = chance.normal(0, 1, size=(6, 2)).tolist()
        before, after = chance.normal(0, 1, size=2)
        found = real_change(typical_error(pairs), before, after, True, df=5)
        wrong += found.verdict == "real"
    assert wrong / 2000 <= 0.06
    known = real_change(0.2, 10.0, 10.5, True, df=7)
    z = 0.5 / (0.2 * math.sqrt(2))
    assert known.p_chance == pytest.approx(2 * stats.t.sf(z, 7))
    assert known.mdc95 == pytest.approx(stats.t.ppf(0.975, 7) * math.sqrt(2) * 0.2)
    assert (known.df, real_change(0.2, 10, 10.5, True).df) == (7, None)


def test_a_speed_block_stops_by_what_adds_up():
    """500 blocks each: without tiring one in ten stops at most; a lasting 8 % stops within two."""
    chance = np.random.default_rng(43)
    blocks = 5 * (1 + 0.02 * chance.standard_normal((500, 10)))
    assert np.mean([drop_off_sum(list(row)).stop_after is not None for row in blocks]) <= 0.1
    tired = blocks.copy()
    tired[:, 5:] *= 1.08
    stops = [drop_off_sum(list(row)).stop_after for row in tired]
    assert np.mean([stop is not None and stop <= 7 for stop in stops]) >= 0.8
    assert drop_off_sum([5.0, 5.6, 5.7, 5.0]).stop_after == 3
    assert drop_off_sum([5.0, 5.05, 4.95, 5.4, 5.4]).stop_after == 4
    assert drop_off_sum([5.0, 5.05, 4.95, 5.15, 5.15, 5.15]).stop_after is None
    assert drop_off_sum([]).stop_after is None


def test_a_busy_week_pays_for_no_other():
    found = kept([PlannedWeek(3, 5), PlannedWeek(3, 1), PlannedWeek(0, 2), PlannedWeek(4, 4)])
    assert (found.done, found.planned, found.share) == (8, 10, 0.8)
    assert found.weeks_in_row == 1
    assert kept([PlannedWeek(3, 3), PlannedWeek(0, 0), PlannedWeek(2, 2)]).weeks_in_row == 2
    assert PlannedWeek(3, 0, days=4).asked == 2
    assert kept([]).share is None


def test_a_fine_ladder_is_placed_within_a_rung():
    """Twenty rungs 0.3 apart, at most six sets of five, 300 players."""
    chance, near = np.random.default_rng(45), 0
    for _ in range(300):
        level = chance.uniform(0, 5)
        rates = expit(level - 0.3 * np.arange(20))
        true = max((i for i in range(20) if rates[i] >= 0.5), default=0)
        probes, found = [], place_finely(20, [], 0.3, (0.5, 0.8))
        while found.next is not None:
            probes.append(Probe(found.next, 5, int(chance.binomial(5, rates[found.next]))))
            found = place_finely(20, probes, 0.3, (0.5, 0.8))
        assert len(probes) <= 6
        near += abs(found.start - true) <= 1
    assert near / 300 >= 0.6


def test_one_document_a_line_one_answer_a_line():
    lines = [
        {"weeks": [{"planned": 3, "done": 2}]},
        {"weeks": [{"planned": -1, "done": 2}]},
        {"weeks": []},
    ]
    sent = "\n".join(map(json.dumps, lines))
    ran = subprocess.run(
        [".venv/bin/python", "-m", "drill_ladder.formats.cli", "kept", "--lines"],
        input=sent, capture_output=True, text=True, check=False,
    )  # fmt: skip
    told = [json.loads(line) for line in ran.stdout.splitlines()]
    assert ran.returncode == 2
    assert told[0]["share"] == pytest.approx(2 / 3)
    assert "weeks[0].planned" in told[1]["faults"][0]
    assert told[2]["share"] is None
