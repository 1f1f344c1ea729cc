"""Which feed a rung is done with today: from gentle to hard, by what was done so far
(docs/methods.md, 30).
"""

from collections import defaultdict
from collections.abc import Collection, Iterable, Mapping
from datetime import date

from drill_ladder.apps.practice.models import Felt, JudgedDay
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.coaching import FedDay, KeptFeed, kept_feed, uneasy_again
from drill_ladder.core.judging import Rung, Verdict


def feeds_now(stays: Collection[Stay], on: date) -> dict[int, KeptFeed]:
    """Stay -> the feed of a day, for those whose rung has several; by two questions. What was done
    on the day itself changes nothing of it: the feed of a day stays.
    """
    asked = [stay for stay in stays if stay.terms.rung.feeds and not stay.recheck]
    if not asked:
        return {}
    days, uneasy = _days(asked, on), _uneasy(asked, on)
    return {
        stay.pk: kept_feed(stay.terms.rung.feeds, days[stay.pk], uneasy[stay.pk]) for stay in asked
    }


def _days(stays: Iterable[Stay], on: date) -> Mapping[int, list[FedDay]]:
    days: dict[int, list[FedDay]] = defaultdict(list)
    for stay, day, met, verdict, feed in JudgedDay.objects.before(on).fed(stays):
        days[stay].append(FedDay(day, feed or "", met, verdict == Verdict.LOW))
    return days


def _uneasy(stays: Iterable[Stay], on: date) -> Mapping[int, set[date]]:
    """Days on which somebody was, twice running, not at ease with a rung."""
    levels: dict[int, list[int]] = defaultdict(list)
    uneasy: dict[int, set[date]] = defaultdict(set)
    for stay, day, level in Felt.objects.said_on(stays, on):
        levels[stay].insert(0, level)
        if uneasy_again(levels[stay]):
            uneasy[stay].add(day)
            levels[stay].clear()  # a gentler feed is tried before it is asked again
    return uneasy


def feed_of_set(rung: Rung, told: str | None, today: KeptFeed | None) -> str:
    """The gentler feed that a set is stored with, "" for the one that the rung asks. told: by the
    one who was there, None where nobody said: then it was that of the day.
    """
    if told is None:
        told = rung.feeds[today.at] if rung.feeds and today is not None else ""
    return "" if told in rung.feeds[-1:] else told
