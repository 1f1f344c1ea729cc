"""Rows that go out by the open door."""

import base64
from collections.abc import Iterator
from datetime import date, datetime, timedelta
from typing import Any
from uuid import UUID

from drill_ladder.apps.exchange.columns import COLUMNS, OTHERS
from drill_ladder.apps.exchange.results import Numbering, rows_out
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.work import works_of
from drill_ladder.apps.prescriptions.models import Setting, Stay
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.work import Place, Work
from drill_ladder.formats.reading import uuid

PAGE = 500  # sessions of one page
KEPT_BACK = ("note", *OTHERS)
SENT = [name for name in COLUMNS if name not in KEPT_BACK]
SETTLED = timedelta(
    seconds=5
)  # sessions younger than that may have older ones under way beside them


def initials(player: Player) -> str:
    """The first letters of a name."""
    return "".join(part[0].upper() for part in player.name.split()[:3] if part)


def cursor_of(session: Session) -> str:
    """Where a reader goes on after a session."""
    text = f"{session.recorded_at.isoformat()} {session.pk}"
    return base64.urlsafe_b64encode(text.encode()).decode().rstrip("=")


def read_cursor(text: str) -> tuple[datetime, UUID] | None:
    """The place of a cursor; None for one that was not given out here."""
    try:
        padded = text + "=" * (-len(text) % 4)
        at, _, id_ = base64.urlsafe_b64decode(padded.encode()).decode().partition(" ")
        moment = datetime.fromisoformat(at)
    except ValueError:
        return None
    uid = uuid(id_)
    return (moment, uid) if uid is not None and moment.tzinfo is not None else None


def sessions_after(club: Club, after: str, now: datetime) -> list[Session] | None:
    """A page of sessions in the order in which they were stored; None for a wrong cursor."""
    place = read_cursor(after) if after else None
    if after and place is None:
        return None
    rows = Session.objects.for_door(club, now - SETTLED, place)
    return list(rows[:PAGE])


def work_of_day_for(player: Player, on: date, place: Place) -> list[Work]:
    """A player's work of a day, ladder by ladder; none while a stop is open."""
    if Player.objects.resting().only_row(player.pk).exists():
        return []
    not_there = Setting.HOME if place is Place.CLUB else Setting.COACHED
    stays = Stay.objects.for_weeks([player.pk])
    here = [
        stay
        for stay in stays
        if stay.prescription.place != not_there and stay.prescription.started_on <= on
    ]
    week = Week.objects.beginning(monday_of(on)).of_players([player]).first()
    told = week if week is not None and week.published_at else None
    return works_of(here, on, place, weeks={player.pk: told})


def lines_of(sessions: list[Session], names: bool) -> Iterator[dict[str, Any]]:
    """One line a set, with the columns of the table of results; names: else initials stand in
    their place; stay: by its own id here. What a player wrote and who fed goes nowhere by this
    door.
    """
    numbers = Numbering()
    for session in sessions:
        player = session.stay.prescription.player
        for cells in rows_out([session], numbers):
            named = zip(COLUMNS, cells, strict=True)
            line = {name: cell for name, cell in named if name not in KEPT_BACK}
            line["player"] = player.name if names else initials(player)
            line["stay"] = session.stay_id
            yield {"session": str(session.pk), "player_id": player.pk, **line}
