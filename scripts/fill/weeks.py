"""The weeks of a large club, as they were planned and told."""

from datetime import date, datetime, time, timedelta

from django.utils import timezone

from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.core.planning import ToldBlock
from scripts.fill.work import AT_CLUB, AT_ONCE, WORK_DAYS


def told_weeks(
    club: Club, people: list[Player], climbed: list[Prescription], began: date, today: date
) -> None:
    """Every week since then, this one too."""
    of_player: dict[int, list[Prescription]] = {}
    for p in climbed:
        of_player.setdefault(p.player_id, []).append(p)
    monday = began - timedelta(days=began.weekday())
    while monday <= today:
        told_at = timezone.make_aware(datetime.combine(monday, time(6)))
        weeks = [
            Week(
                club=club,
                player=player,
                monday=monday,
                revision=1,
                published_at=told_at,
                published=tuple(
                    _told(p, monday, d) for p in of_player[player.pk] for d in WORK_DAYS
                ),
            )
            for player in people
        ]
        Week.objects.bulk_create(weeks, AT_ONCE)
        blocks = [
            PlannedBlock(
                club=club,
                week=week,
                prescription_id=told.prescription,
                on=told.on,
                order=told.order,
                minutes=told.minutes,
                place=told.place,
            )
            for week in weeks
            for told in week.published
        ]
        PlannedBlock.objects.bulk_create(blocks, AT_ONCE)
        monday += timedelta(days=7)


def _told(p: Prescription, monday: date, weekday: int) -> ToldBlock:
    place = "club" if weekday == AT_CLUB else "home"
    key = f"{p.pk}-{weekday}"
    on, asked = monday + timedelta(days=weekday), "10 left, 10 right"
    return ToldBlock(key, p.pk, str(p.ladder), "Gate", on, 1, 4, place, "", asked, "8 of 10", False)
