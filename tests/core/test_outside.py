"""Figures checked against something outside the project. Sources are named beside each."""

from datetime import date, timedelta

import pytest
from scipy import stats

from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging.decision import decide
from drill_ladder.core.judging.ladders import Evidence, InARow
from drill_ladder.core.judging.schools import Standing, posteriors
from drill_ladder.core.judging.sessions import by_day, pool
from drill_ladder.core.judging.verdicts import judge
from drill_ladder.core.odds.session_chances import binom_tail
from drill_ladder.core.plans.units import Unit, from_metres, metres_per, to_metres
from drill_ladder.core.statistics.chances import beta_above, beta_binomial_tail
from drill_ladder.core.statistics.trend import theil_sen_slope
from tests.core.build import ladder, made, on, rung


@pytest.mark.parametrize("p", [0.0, 0.1, 0.6, 0.85, 1.0])
def test_binomial_tail_is_scipys(p):
    """Source: scipy.stats.binom, scipy 1.17."""
    for n in (1, 10, 37):
        for k in range(n + 2):
            assert binom_tail(n, k, p) == pytest.approx(stats.binom.sf(k - 1, n, p), abs=1e-12)


def test_eight_of_ten_at_sixty_percent():
    """Source: any binomial table, n = 10, p = 0.6: P(X >= 8) = 0.1673."""
    assert binom_tail(10, 8, 0.6) == pytest.approx(0.1673, abs=5e-5)


def test_nine_of_nine_at_eighty_percent_is_thirteen_percent():
    """Source: 0.8 to the power of 9, by hand."""
    assert binom_tail(9, 9, 0.8) == pytest.approx(0.134217728)


@pytest.mark.parametrize(("a", "b"), [(0.5, 0.5), (8.5, 2.5), (40.5, 0.5), (3.2, 900.1)])
def test_beta_binomial_tail_is_scipys(a, b):
    """Source: scipy.stats.betabinom, scipy 1.17."""
    for k in range(13):
        assert beta_binomial_tail(12, k, a, b) == pytest.approx(
            stats.betabinom.sf(k - 1, 12, a, b), abs=1e-9
        )


def test_beta_tail_is_scipys():
    """Source: scipy.stats.beta, scipy 1.17."""
    above = beta_above()
    for a, b, x in [(8.5, 2.5, 0.8), (0.5, 0.5, 0.3), (80.5, 20.5, 0.8)]:
        assert above(a, b, x) == pytest.approx(stats.beta.sf(x, a, b), abs=1e-12)


def test_theil_sen_is_scipys():
    """Source: scipy.stats.theilslopes, scipy 1.17."""
    days = [0, 2, 3, 7, 9, 14, 15]
    scores = [0.5, 0.4, 0.7, 0.6, 0.8, 0.75, 0.9]
    first = date(2026, 3, 2)
    slope = theil_sen_slope(
        [(first + timedelta(days=d), s) for d, s in zip(days, scores, strict=True)]
    )
    assert slope == pytest.approx(stats.theilslopes(scores, [d / 7 for d in days]).slope)


def standing_of(at, rule, *sessions):
    days = [judge(at, 0.8, pool(day, at.measure, at.dose)) for day in by_day(sessions)]
    return Standing.of(at, rule, days)


def test_evidence_is_a_faded_beta_posterior():
    """Worked by hand: half-life 1, newest 10/10, before it 6/10: Beta(0.5 + 10 + 3, 0.5 + 0
    + 2).
    """
    steps = ladder(rung(), school=Evidence(0.9, 1))
    found = posteriors(standing_of(steps.rungs[0], steps.rule, made(1, 6), made(3, 10)))
    assert found == {None: (pytest.approx(13.5), pytest.approx(2.5))}


def test_odds_of_the_next_session_on_hold():
    """Source: scipy.stats.betabinom with the posterior of one 8/10 and one 7/10, half-life 3."""
    steps = ladder(rung("r1"), rung("r2"), school=InARow(2))
    found = decide(steps, "r1", [made(1, 7), made(3, 8)], on(4))
    fade = 0.5 ** (1 / 3)
    a, b = 0.5 + 8 + 7 * fade, 0.5 + 2 + 3 * fade
    assert found.odds_next == pytest.approx(stats.betabinom.sf(7, 10, a, b))
    assert decide(steps, "r1", [made(1, 7)], on(4)).odds_next == 0


def test_units_are_exact():
    """Source: international yard and pound agreement, 1959: 1 yd = 0.9144 m, 1 ft = 0.3048 m
    exactly.
    """
    assert metres_per(Unit.YD) == 0.9144
    assert metres_per(Unit.FT) == 0.3048
    assert 3 * metres_per(Unit.FT) == pytest.approx(metres_per(Unit.YD))
    assert to_metres(5, Unit.YD) == pytest.approx(4.572)
    assert from_metres(3, Unit.FT) == pytest.approx(9.8425, abs=5e-5)
    assert to_metres(4, Unit.PACE, 0.7) == pytest.approx(2.8)
    assert from_metres(to_metres(11.5, Unit.SHOE, 0.245), Unit.SHOE, 0.245) == pytest.approx(11.5)


@pytest.mark.parametrize(("unit", "length"), [(Unit.PACE, None), (Unit.SHOE, 0), (Unit.M, 1.0)])
def test_units_refuse_what_makes_no_sense(unit, length):
    with pytest.raises(CoreError):
        metres_per(unit, length)
