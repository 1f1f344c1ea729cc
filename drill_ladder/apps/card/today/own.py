"""What a child sees of their own climb: the picture, the best so far, one sentence. No odds, nobody
else.
"""

from dataclasses import dataclass
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.judged import climb_of, counted_rows
from drill_ladder.apps.prescriptions.models import Prescription, Status, Stay
from drill_ladder.core.coaching import personal_bests
from drill_ladder.formats.measures import score_words
from drill_ladder.formats.words import many

SPAN = timedelta(weeks=12)


@dataclass(frozen=True, slots=True)
class Climb:
    """One ladder. sentence: where the player stands; best: on this rung, "" for none yet."""

    title: str
    sentence: str
    best: str
    chart: str


def climbs_of(player: Player, today: date) -> list[Climb]:
    """Every ladder of the player that was not ended, the last twelve weeks of each."""
    rows = Prescription.objects.of_player(player).with_climb(today - SPAN)
    return [_climb(p, today) for p in rows if p.status != Status.ENDED]


def _climb(p: Prescription, today: date) -> Climb:
    stays = list(p.stays.all())
    current = next((stay for stay in stays if stay.left is None), stays[-1])
    _, _, chart = climb_of(p, today, today - SPAN)
    return Climb(p.ladder.title, _sentence(p, stays, current), _best(current), chart)


def _sentence(p: Prescription, stays: list[Stay], current: Stay) -> str:
    if p.status == Status.FINISHED:
        return f"All {many(p.rung_count, 'rung')} climbed."
    up = current.rung.position - stays[0].rung.position
    at = f"You are on rung {current.rung.position} of {p.rung_count}, “{current.rung.title}”"
    return f"{at}: {many(up, 'rung')} up since you began." if up > 0 else f"{at}."


def _best(stay: Stay) -> str:
    measure = stay.terms.rung.measure
    scored = [
        (row.on, row.score) for row in counted_rows(stay) if row.score is not None and not row.eased
    ]
    if not scored:
        return ""
    on, score = personal_bests(scored, measure.higher_is_better)[-1]
    return f"Your best on this rung: {score_words(measure, score)}, on {on:%-d %B}."
