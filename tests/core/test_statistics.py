"""Trend, change, balance, fatigue, load and placement against published figures and reference
libraries.
"""

from datetime import date, timedelta
from math import sqrt

import numpy as np
import pytest
from scipy import optimize, stats

from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging.placement import Probe, place, place_by_baseline
from drill_ladder.core.statistics.balance import LaneResult, dose_balance, many_lanes, two_lanes
from drill_ladder.core.statistics.change import real_change, typical_error
from drill_ladder.core.statistics.fatigue import fatigue_of, form_fell_first, visible_drop
from drill_ladder.core.statistics.intervals import newcombe, wilson
from drill_ladder.core.statistics.load import Effort, strain_left, weeks
from drill_ladder.core.statistics.trend import best_so_far, daily, last_against_before, trend_of

D = date(2026, 3, 2)


def points(*scores, every=3):
    return [(D + timedelta(days=every * i), s) for i, s in enumerate(scores)]


def test_trend_is_scipys():
    """Source: scipy.stats.theilslopes at 90 % and kendalltau."""
    scores = [0.5, 0.62, 0.4, 0.71, 0.66, 0.8, 0.77, 0.9]
    found = trend_of(points(*scores), True)
    x = [3 * i / 7 for i in range(8)]
    slope, _, low, high = stats.theilslopes(scores, x, 0.90)
    assert (found.slope_per_week, found.low, found.high) == pytest.approx((slope, low, high))
    assert found.p == pytest.approx(stats.kendalltau(x, scores).pvalue)
    assert (found.verdict, trend_of(points(*scores), False).verdict, found.n) == (
        "improving",
        "worsening",
        8,
    )


def test_trend_on_open_data():
    """Source: statsmodels' co2 data set (Mauna Loa, weekly, 1958 to 2001): monthly means of
    1990..1999 rise by about 1.5 ppm a year, as published for that decade.
    """
    from statsmodels.datasets import co2

    series = co2.load_pandas().data["co2"].loc["1990":"1999"].dropna()
    found = trend_of([(stamp.date(), float(value)) for stamp, value in series.items()], True)
    assert found.verdict == "improving"
    assert found.slope_per_week * 365.25 / 7 == pytest.approx(1.5, abs=0.15)
    assert found.low < found.slope_per_week < found.high


def test_few_alike_and_doubled_days():
    few = trend_of(points(1, 2, 3, 4), True)
    assert (few.verdict, few.slope_per_week, few.n) == ("too_few", None, 4)
    alike = trend_of(points(2, 2, 2, 2, 2), True)
    assert (alike.verdict, alike.slope_per_week, alike.p) == ("flat", 0, None)
    doubled = [*points(1, 2, 3, 4, 5), (D, 3)]
    assert daily(doubled)[0] == (D, 2)
    assert trend_of(doubled, True).n == 5
    with pytest.raises(CoreError, match="too long"):
        trend_of(points(*range(3001), every=1), True)


def test_best_and_last_four():
    assert (best_so_far([3, 1, 2], False), best_so_far([], True)) == (1, None)
    assert last_against_before([1, 1, 1, 1, 2, 2, 2, 4]) == (2.5, 1)
    assert last_against_before([1] * 7) is None


def test_typical_error_by_hand():
    """Differences 1, -1, 1, -1, 1, -1: sample SD sqrt(6/5), TE = SD / sqrt 2."""
    pairs = [(0, 1), (1, 0), (0, 1), (1, 0), (0, 1), (1, 0)]
    assert typical_error(pairs) == pytest.approx(sqrt(6 / 5) / sqrt(2))
    with pytest.raises(CoreError):
        typical_error(pairs[:5])


def test_mdc_by_a_published_formula():
    """Source: Weir (2005): MDC95 = SEM x 1.96 x sqrt 2 (from memory). SEM 0.1 gives 0.277."""
    found = real_change(0.1, 5.2, 5.0, False, 0.3)
    assert found.mdc95 == pytest.approx(0.2772, abs=5e-5)
    assert found.z == pytest.approx(-sqrt(2))
    assert found.p_real == pytest.approx(2 * stats.norm.cdf(sqrt(2)) - 1)
    assert (found.verdict, found.direction, found.smallest_worthwhile) == (
        "likely",
        "better",
        pytest.approx(0.06),
    )


def test_real_and_mdc_cannot_disagree():
    mdc = real_change(1, 0, 0, True).mdc95
    assert real_change(1, 0, mdc, True).verdict == "real"
    assert real_change(1, 0, mdc * 0.99999, True).verdict == "likely"
    assert real_change(1, 3, 3, True).verdict == "within noise"
    assert real_change(1, 3, 3, True).p_real == 0


def test_no_noise_at_all():
    moved, same = real_change(0, 1, 2, True), real_change(0, 1, 1, True)
    assert (moved.z, moved.p_real, moved.verdict) == (None, 1, "real")
    assert (same.z, same.p_real, same.verdict, same.direction) == (0, 0, "within noise", "same")


@pytest.mark.parametrize(
    ("a", "m", "b", "n", "low", "high"),
    [
        (56, 70, 48, 80, 0.0524, 0.3339),
        (9, 10, 3, 10, 0.1705, 0.8090),
        (10, 10, 0, 10, 0.6075, 1.0),
    ],
)
def test_newcombes_own_table(a, m, b, n, low, high):
    """Source: Newcombe (1998), Statistics in Medicine 17:873, table II, method 10 (from memory)."""
    assert newcombe(a, m, b, n) == pytest.approx((low, high), abs=5e-5)


def test_intervals_are_statsmodels():
    """Source: statsmodels' proportion_confint('wilson') and
    confint_proportions_2indep('newcomb').
    """
    from statsmodels.stats.proportion import confint_proportions_2indep, proportion_confint

    for a, m, b, n in [(28, 40, 34, 40), (0, 12, 5, 9), (7, 7, 7, 7)]:
        assert wilson(a, m) == pytest.approx(proportion_confint(a, m, method="wilson"))
        assert newcombe(a, m, b, n) == pytest.approx(
            confint_proportions_2indep(a, m, b, n, method="newcomb")
        )


def test_two_shares_that_coaches_mix_up():
    """Worked by hand, 70 % and 85 %: practise the weak side 55 %, let it cover 45 %."""
    found = two_lanes(LaneResult("left", 100, 70), LaneResult("right", 100, 85))
    assert (found.weaker, found.real) == ("left", True)
    assert (round(found.practice_share, 2), round(found.cover_share, 2)) == (0.55, 0.45)


def test_odd_lanes():
    clamped = two_lanes(LaneResult("a", 50, 5), LaneResult("b", 50, 45))
    assert (clamped.practice_share, clamped.cover_share) == (0.67, pytest.approx(0.1))
    nothing = two_lanes(LaneResult("a", 9, 0), LaneResult("b", 9, 0))
    assert (nothing.practice_share, nothing.cover_share, nothing.weaker, nothing.real) == (
        0.5,
        0.5,
        None,
        False,
    )
    empty = two_lanes(LaneResult("a", 0, 0), LaneResult("b", 9, 4))
    assert (empty.gap, empty.practice_share, empty.real) == (None, None, False)


def test_many_lanes_are_statsmodels():
    """Source: statsmodels' proportions_chisquare (no correction)."""
    from statsmodels.stats.proportion import proportions_chisquare

    lanes = [
        LaneResult("a", 40, 28),
        LaneResult("b", 30, 27),
        LaneResult("c", 50, 31),
        LaneResult("d", 0, 0),
    ]
    found = many_lanes(lanes)
    chi2, p, _ = proportions_chisquare([28, 27, 31], [40, 30, 50])
    assert (found.chi2, found.p) == pytest.approx((chi2, p))
    assert [lane.name for lane, _ in found.ranked] == ["c", "a", "b", "d"]
    mu = 86 / 120
    assert found.ranked[0][1] == pytest.approx((31 + 15 * mu) / 65)


@pytest.mark.parametrize(("makes", "answer"), [(0, (0, 1)), (10, (0, 1))])
def test_all_alike_is_no_difference(makes, answer):
    found = many_lanes([LaneResult(name, 10, makes) for name in "abc"])
    assert (found.chi2, found.p) == answer
    assert (
        many_lanes([LaneResult("a", 3, 1), LaneResult("b", 0, 0), LaneResult("c", 0, 0)]).chi2
        is None
    )


def test_dose_balance():
    assert dose_balance({"l": 30, "r": 90}, {"l": 1, "r": 1}) == {
        "l": (0.25, 0.5),
        "r": (0.75, 0.5),
    }
    assert dose_balance({}, {"l": 1, "r": 3}) == {"l": (None, 0.25), "r": (None, 0.75)}


def test_fatigue_by_hand():
    """Thirds of 10: the first 3 and the last 3; of four sessions 12 and 12; the fifth from the end
    is left out.
    """
    tired = [1, 1, 1, 1, 1, 1, 1, 0, 0, 1]
    found = fatigue_of([[0] * 9, tired, tired, tired, tired, [1, 0]][:5])
    assert (found.early, found.late, found.drop) == pytest.approx((1, 1 / 3, 2 / 3))
    assert (found.low, found.high) == pytest.approx(newcombe(12, 12, 4, 12))
    assert found.flagged
    assert not fatigue_of([[1, 0, 1]]).flagged
    assert fatigue_of([[1, 0], []]).early is None
    assert visible_drop(2, 0.5) is None
    assert visible_drop(300, 0.5) == pytest.approx(1.96 * sqrt(0.5 / 100), rel=1e-4)


def test_whether_form_fell_first():
    assert form_fell_first([(0.9, 0.9), (0.9, 0.7)], [(0.8, 0.8), (0.8, 0.8), (0.8, 0.5)]) is True
    assert form_fell_first([(0.9, 0.9)], [(0.8, 0.5)]) is False
    assert form_fell_first([], [(1, 1)]) is None


def test_load_by_the_definition():
    """Source: Foster (1998): load = RPE x minutes, monotony = mean / SD of the days, strain = load
    x monotony.
    """
    days = [Effort(D + timedelta(days=i), e, 30) for i, e in enumerate((5, 0, 7, 0, 5, 8, 0))]
    [week] = weeks(days)
    daily_loads = np.array([150, 0, 210, 0, 150, 240, 0])
    monotony = daily_loads.mean() / daily_loads.std(ddof=1)
    assert (week.load, week.monotony, week.strain) == pytest.approx((750, monotony, 750 * monotony))
    assert (week.start, week.change) == (D, None)


def test_odd_weeks():
    alike = [Effort(D + timedelta(days=i), 5, 30) for i in range(7)]
    later = Effort(D + timedelta(days=15), 4, 10)
    first, empty, last = weeks([later, *alike])
    assert (first.monotony, first.strain) == (None, None)
    assert (empty.load, empty.strain, empty.change) == (0, 0, -1)
    assert last.change is None
    assert weeks([]) == []
    assert weeks([Effort(D, 5, 10), Effort(D, 5, 20)])[0].load == 150
    assert weeks([Effort(date.max, 5, 10)])[0].load == 50
    assert strain_left({"jumps": 90}, {"jumps": 80, "throws": 50}) == {"jumps": 0, "throws": 50}


def probes(*pairs):
    return [Probe(rung, 5, makes) for rung, makes in pairs]


@pytest.mark.parametrize(
    ("done", "upcoming"),
    [
        ([], 3),
        ([(3, 5)], 5),
        ([(3, 4)], 4),
        ([(3, 3)], 3),
        ([(3, 2)], 2),
        ([(6, 5)], 7),
        ([(7, 5)], None),
        ([(0, 1)], None),
        ([(3, 5), (5, 2)], None),
        ([(3, 3), (3, 3)], None),
        ([(3, 3), (3, 4)], 4),
        ([(3, 5), (5, 3), (5, 4)], 6),
        ([(1, 4), (2, 4), (3, 4), (4, 4), (5, 4)], 6),
        ([(1, 4), (2, 4), (3, 4), (4, 4), (5, 4), (6, 4)], None),
    ],
)
def test_probing_goes_up_and_down(done, upcoming):
    assert place(8, probes(*done)).next == upcoming


def test_rates_are_scipys_isotonic_regression():
    """Source: scipy.optimize.isotonic_regression, weights the attempts."""
    found = place(8, [Probe(2, 5, 3), Probe(4, 5, 4), Probe(5, 10, 2)])
    raw = [3.5 / 6, 4.5 / 6, 2.5 / 11]
    smooth = optimize.isotonic_regression(raw, weights=[5, 5, 10], increasing=False).x
    fitted = dict(found.fitted)
    assert [fitted[2], fitted[4], fitted[5]] == pytest.approx(smooth)
    assert fitted[3] == pytest.approx((smooth[0] + smooth[1]) / 2)
    assert found.start == 4


def test_the_start_when_nothing_is_mastered():
    assert place(8, probes((3, 0))).start == 2
    assert place(8, probes((0, 0))).start == 0
    assert place(8, probes((3, 4)), zone=(0.9, 1)).start == 2


def test_placement_by_a_baseline():
    assert place_by_baseline([20, 30, 40], 33, True) == 2
    assert place_by_baseline([20, 30, 40], 50, True) == 2
    assert place_by_baseline([9, 8, 7], 8.5, False) == 1
