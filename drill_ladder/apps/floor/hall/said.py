"""Words to a player in the hall: said in the moment, or to be said next time."""

from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from typing import Any
from uuid import UUID

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.formats.taps import WORD

Row = tuple[str, UUID | str, date, dict[str, Any]]
LATELY = timedelta(days=14)
SHOWN = 3


@dataclass(frozen=True, slots=True)
class Said:
    """next_time: kept for the next time they come, not said yet."""

    on: date
    words: str
    next_time: bool


def said_to(club: Club, player: Player, today: date) -> list[Said]:
    """What was said to a player lately, the latest first."""
    return said_to_all(club, [player.pk], today)[player.pk][:SHOWN]


def said_to_all(club: Club, players: Sequence[int], today: date) -> dict[int, list[Said]]:
    """Player -> what was said to them lately, the latest first; what was taken back is not in
    it.
    """
    rows: dict[int, list[Row]] = defaultdict(list)
    for player, *row in FloorTap.objects.words_since(club, players, today - LATELY):
        rows[player].append(tuple(row))  # type: ignore[arg-type]
    words: dict[int, list[Said]] = defaultdict(list)
    words.update({player: said_among(mine) for player, mine in rows.items()})
    return words


def said_among(rows: Sequence[Row]) -> list[Said]:
    """The words among (act, id, day, value) of a player's taps, without what was taken back."""
    gone = {value.get("of") for act, _, _, value in rows if act != WORD}
    return [
        Said(on, value["word"], not value.get("on", True))
        for act, uid, on, value in rows
        if act == WORD and str(uid) not in gone
    ]
