"""The feed that is kept: climbs and eases by itself. Expected values by hand, from the rule."""

from datetime import date, timedelta

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drill_ladder.core.coaching import UP_AFTER, Came, FedDay, KeptFeed, kept_feed

FEEDS = ("rolled", "tossed", "hit")
BEGIN = date(2026, 3, 2)


def day(number, feed="", **came):
    return FedDay(BEGIN + timedelta(days=number), feed, **came)


def good(number, feed=""):
    return day(number, feed, met=True)


def low(number, feed=""):
    return day(number, feed, low=True)


@pytest.mark.parametrize(
    ("days", "kept"),
    [
        ([], KeptFeed(0, None, 2)),
        ([good(0, "rolled")], KeptFeed(0, None, 1)),
        ([good(0, "rolled"), good(1, "rolled")], KeptFeed(1, Came.GOOD, 2)),
        # a day that is neither good nor low begins the count anew
        ([good(0, "rolled"), day(1, "rolled"), good(2, "rolled")], KeptFeed(0, None, 1)),
        ([low(0, "tossed")], KeptFeed(0, Came.LOW, 2)),
        ([low(0, "rolled")], KeptFeed(0, None, 2)),  # there is no gentler one
        ([good(0), good(1)], KeptFeed(2, None, None)),  # the hardest: the rung's own rule goes on
        ([low(0)], KeptFeed(1, Came.LOW, 2)),
        # somebody fed harder than was told: it counts for that
        ([good(0, "rolled"), good(1, "tossed")], KeptFeed(1, None, 1)),
        # the rung lost this feed since: it is taken for the one that was told
        ([good(0, "bounced"), good(1, "bounced")], KeptFeed(1, Came.GOOD, 2)),
    ],
)
def test_step_by_step(days, kept):
    assert kept_feed(FEEDS, days) == kept


def test_twice_not_at_ease_is_a_step_back_whatever_the_day_was():
    days = [good(0, "rolled"), good(1, "rolled"), good(2, "tossed")]
    assert kept_feed(FEEDS, days, {BEGIN + timedelta(days=2)}) == KeptFeed(0, Came.UNEASY, 2)
    assert kept_feed(FEEDS, [], {BEGIN}) == KeptFeed(0, None, 2)


@given(st.lists(st.tuples(st.sampled_from(["", *FEEDS]), st.sampled_from("gln")), max_size=30))
def test_one_step_at_a_time_and_the_order_of_days_never_matters(kinds):
    days = [day(n, feed, met=k == "g", low=k == "l") for n, (feed, k) in enumerate(kinds)]
    kept = kept_feed(FEEDS, days)
    assert kept == kept_feed(FEEDS, list(reversed(days)))
    assert 0 <= kept.at < len(FEEDS)
    assert (kept.more is None) == (kept.at == len(FEEDS) - 1)
    if days:
        last = {"": len(FEEDS) - 1} | {feed: at for at, feed in enumerate(FEEDS)}
        assert abs(kept.at - last[days[-1].feed]) <= 1
        assert (kept.why is Came.LOW) <= days[-1].low


def test_who_follows_it_reaches_the_hardest_after_two_good_days_each():
    """A player who is good every day, fed as told."""
    days: list[FedDay] = []
    for n in range(UP_AFTER * (len(FEEDS) - 1)):
        days.append(good(n, FEEDS[kept_feed(FEEDS, days).at]))
    assert kept_feed(FEEDS, days).at == len(FEEDS) - 1
