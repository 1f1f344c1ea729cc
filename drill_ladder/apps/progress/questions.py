"""What a coach asks first: who waits, who is late, who has not been seen."""

from collections import defaultdict
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import JudgedDay, Stop
from drill_ladder.apps.prescriptions.models import Place, Prescription
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.ui.pages import Context

LATE_DAYS = 7
UNSEEN_DAYS = 10
MOST_OF_TRAIL = 15


@dataclass(frozen=True, slots=True)
class Late:
    """Home work that fell behind: days of it in the last seven against those wanted."""

    prescription: Prescription
    done: int
    last: date | None


def late_home_work(club: Club, today: date) -> list[Late]:
    """Active home prescriptions with less work in the last seven days than wanted, the emptiest
    first.

    Players with an open stop rest, and are not late.
    """
    rows = (
        Prescription.objects.active()
        .of_club(club)
        .exclude(place=Place.COACHED)
        .filter(started_on__lte=today - timedelta(days=LATE_DAYS))
        .exclude(player__in=Stop.objects.open().of_club(club).values("player"))
        .select_related("player", "ladder")
    )
    days = JudgedDay.objects.of_club(club).since(today - timedelta(days=LATE_DAYS - 1))
    done = days.per_prescription()
    late = [Late(p, n, p.last_on) for p in rows if (n := done.get(p.pk, 0)) < p.per_week]
    return sorted(
        late, key=lambda row: (row.done / row.prescription.per_week, row.prescription.player.name)
    )


def not_seen(club: Club, today: date) -> list[tuple[Player, date | None]]:
    """Players whom no coach or device has seen for ten days, the longest first."""
    limit = today - timedelta(days=UNSEEN_DAYS)
    players = Player.objects.of_club(club).on_ladders().not_seen_since(limit)
    unseen = [(p, p.seen_on) for p in players]
    return sorted(unseen, key=lambda pair: (pair[1] or date.min, pair[0].name))


def to_look_at(club: Club, today: date) -> list[Prescription]:
    """What a coach wanted to look at again by now, the longest due first."""
    rows = Prescription.objects.active().of_club(club).filter(review_on__lte=today)
    return list(rows.select_related("player", "ladder").order_by("review_on", "player__name"))


def open_stops(club: Club) -> list[Stop]:
    """Open stops, the oldest first, with whom to tell."""
    stops = (
        Stop.objects.open()
        .of_club(club)
        .select_related("player")
        .prefetch_related("player__guardians")
    )
    return list(stops.order_by("opened_on"))


def sessions_today(club: Club, today: date) -> list[tuple[Player, list[PlannedBlock]]]:
    """Who is planned at the club today, with what, without those who rest."""
    blocks = PlannedBlock.objects.filter(
        club=club, on=today, place="club", prescription__status="active"
    )
    blocks = blocks.exclude(week__player__in=Stop.objects.open().of_club(club).values("player"))
    by_player: dict[Player, list[PlannedBlock]] = defaultdict(list)
    for block in blocks.select_related("week__player", "prescription__ladder").order_by(
        "week__player__name", "order"
    ):
        by_player[block.week.player].append(block)
    return list(by_player.items())


def ladders_of_players(club: Club) -> dict[int, list[Context]]:
    """Player id -> active ladders with the rung they stand on, for the small glyphs."""
    by_player: dict[int, list[Context]] = defaultdict(list)
    for p in Prescription.objects.active().of_club(club).with_standing():
        if p.current:
            rungs = len(p.ladder.rungs.all())
            by_player[p.player_id].append(
                {"ladder": p.ladder, "at": p.current[0].rung.position, "rungs": rungs}
            )
    return by_player


def trail_of(player: Player) -> list[Event]:
    """Who did what about a player, their ladders and their rungs, the latest first."""
    rows: list[Any] = [player]
    for prescription in Prescription.objects.filter(player=player).prefetch_related("stays"):
        rows += [prescription, *prescription.stays.all()]
    return list(Event.objects.about_any(rows)[:MOST_OF_TRAIL])
