"""How much days differ at a club, measured at night from its own record."""

from datetime import timedelta

from drill_ladder.apps.practice.judged.spread import measure_spread
from drill_ladder.apps.review.night import night_of
from tests.make import log, put_on


def test_the_clubs_own_days_are_measured_at_night(w, today):
    """Days that swing more than chance: the spread rises above caution, and says from how many."""
    p = put_on(w, on=today - timedelta(days=60))
    for n, made in enumerate((9, 4, 9, 3, 8, 9, 2, 9, 4, 9, 3, 9)):
        log(p, today - timedelta(days=3 * n + 1), made, made)
    w.club.night_on = None
    w.club.save()
    assert night_of(w.club)
    w.club.refresh_from_db()
    assert w.club.day_spread > 0.05
    assert w.club.day_spread_df == 20  # twelve days of two lanes, two for each line


def test_without_a_record_it_is_caution(w, today):
    measure_spread(w.club, today)
    w.club.refresh_from_db()
    assert (w.club.day_spread, w.club.day_spread_df) == (0.05, 0)
