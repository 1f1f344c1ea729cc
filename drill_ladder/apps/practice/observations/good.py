"""One good thing about a day, said first: a personal best, a side that caught up, good ones noticed
(docs/methods.md, 23). It gates nothing.
"""

from collections.abc import Sequence
from statistics import fmean

from drill_ladder.core.coaching import personal_bests
from drill_ladder.core.judging import Judged, Measure, Rung
from drill_ladder.core.plans import swapped
from drill_ladder.formats.measures import score_words

CAUGHT_UP = 0.1  # how far a side was behind before


def one_good_thing(
    judged: Judged, days: Sequence[Judged], rung: Rung, mirrored: bool = False
) -> str:
    """days: all of the stay, oldest first; empty where there is nothing to say. mirrored: lanes as
    a left-hander is told them.
    """
    before = [day for day in days if day.on < judged.on]
    return (
        _best(judged, before, rung.measure)
        or _caught_up(judged, before, rung, mirrored)
        or _noticed(judged, rung)
    )


def _best(judged: Judged, before: Sequence[Judged], measure: Measure) -> str:
    scored = [(day.on, day.score) for day in before if day.score is not None]
    if not scored or judged.score is None:
        return ""
    bests = personal_bests([*scored, (judged.on, judged.score)], measure.higher_is_better)
    if bests[-1][0] != judged.on:
        return ""
    return f"Your best on this rung so far: {score_words(measure, judged.score)}."


def _caught_up(judged: Judged, before: Sequence[Judged], rung: Rung, mirrored: bool) -> str:
    """The side that was behind is not behind today."""
    if len(rung.lanes) != 2 or not rung.measure.higher_is_better:
        return ""
    now = [judged.lanes.get(lane) for lane in rung.lanes]
    past = [
        [score for day in before if (score := day.lanes.get(lane)) is not None]
        for lane in rung.lanes
    ]
    if None in now or not all(past):
        return ""
    means = [fmean(scores) for scores in past]
    weak = means.index(min(means))
    if max(means) - min(means) < CAUGHT_UP or (now[weak] or 0) < (now[1 - weak] or 0):
        return ""
    lane = swapped(rung.lanes[weak]) if mirrored else rung.lanes[weak]
    return f"{lane.capitalize()} has caught up today."


def _noticed(judged: Judged, rung: Rung) -> str:
    made = sum(s.makes or 0 for s in judged.day.sets)
    if rung.counts_makes and made:
        return f"{made} good one{'s' if made != 1 else ''} today."
    return ""
