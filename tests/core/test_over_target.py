"""The scale on which gains are a straight line."""

from math import inf, log

import pytest
from scipy.special import logit

from drill_ladder.core.judging import Checklist, Count, Done, Points, Time, ToN
from drill_ladder.core.looking_back import over_target


def test_where_lower_is_better_it_is_the_logarithm():
    assert over_target(Time(), 8.0, 10.0, 1) == pytest.approx(log(10 / 8))
    assert over_target(ToN(n=5), 12.0, 10.0, 1) == pytest.approx(-log(1.2))
    assert over_target(Time(), 0.0, 10.0, 1) is None


def test_a_count_is_as_it_is():
    assert over_target(Count(), 21, 18, 1) == 3


def test_points_and_shares_are_on_the_log_odds():
    """Half a unit for the ends, and half a unit for what whole units pass."""
    found = over_target(Points(max=3), 2.4, 2.0, 30)
    assert found == pytest.approx(logit((24 + 0.5) / 31) - logit((20 - 0.5 + 0.5) / 31))
    assert over_target(Points(max=3), 3.0, 2.0, 30) < inf
    assert over_target(Checklist(items=("a", "b")), 0.0, 0.5, 4) > -inf


@pytest.mark.parametrize("measure", [Points(max=3), Checklist(items=("a", "b", "c")), Done()])
def test_a_day_that_just_reaches_the_target_is_over_it(measure):
    most, units = measure.most, 12
    for reached in range(1, units + 1):
        target = most * reached / units
        assert over_target(measure, target, target, units) > 0
        assert over_target(measure, target - most / units, target, units) < 0
