"""Find anything: players, ladders, drills, routines, pages and actions, by part of a name."""

from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.urls import reverse

from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.people.models import Membership, Player

MOST = 6  # of a kind

# (words, address, for coaches alone); a page is found by any of its words
PAGES = (
    ("Overview", "progress:desk", False),
    ("Review", "review:queue", True),
    ("Players", "progress:players", False),
    ("Hall", "floor:hall", False),
    ("Stations for a group", "floor:stations", False),
    ("Tests and test days", "floor:tests", False),
    ("Weeks", "weeks:weeks", False),
    ("Ladders", "library:ladders", False),
    ("Drills", "library:drills", False),
    ("Routines", "library:routines", False),
    ("Starter ladders", "library:shelf", True),
    ("Insights", "progress:insights", True),
    ("Your decisions", "progress:own-decisions", True),
    ("After the hour", "review:after", True),
    ("Club", "people:club", True),
    ("People and invitations", "people:team", True),
    ("Limits of strain", "library:limits", True),
    ("Outbox", "outbox:outbox", True),
    ("History", "records:history", True),
    ("Your account", "people:account", False),
    ("New player", "people:player-new", True),
    ("New ladder", "library:ladder-new", True),
    ("New drill", "library:drill-new", True),
    ("New routine", "library:routine-new", True),
    ("Begin a test day", "floor:battery-new", True),
    ("Import players", "exchange:roster-in", True),
    ("Import results", "exchange:results-in", True),
    ("Somebody is hurt", "practice:stop-new", False),
)


@dataclass(frozen=True, slots=True)
class Hit:
    """Something that was found."""

    title: str
    kind: str
    href: str


def find(member: Membership, words: str) -> list[Hit]:
    """Names that hold the words, players first; pages alone where nothing is asked."""
    part = words.strip()
    return [*(_rows(member, part) if part else ()), *_pages(member, part.casefold())]


def _rows(member: Membership, part: str) -> Iterator[Hit]:
    club = member.club
    players = Player.objects.of_club(club).with_squad().named_like(part).by_name()[:MOST]
    for player in players:
        squad = f"player, {player.squad}" if player.squad else "player"
        yield Hit(player.name, squad, reverse("progress:player", args=[player.pk]))
    shelves: list[tuple[Any, str, str]] = [
        (Ladder, "ladder", "library:ladder"),
        (Drill, "drill", "library:drill"),
        (Routine, "routine", "library:routine-edit"),
    ]
    for model, kind, address in shelves:
        rows = model.objects.of_club(club).in_use().called(part).order_by("title")[:MOST]
        yield from (Hit(row.title, kind, reverse(address, args=[row.pk])) for row in rows)


def _pages(member: Membership, part: str) -> Iterator[Hit]:
    for words, address, for_coaches in PAGES:
        if part in words.casefold() and (member.decides or not for_coaches):
            yield Hit(words, "page", reverse(address))
