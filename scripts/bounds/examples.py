"""What the methods of questions are asked with."""

from collections.abc import Callable
from datetime import timedelta
from typing import Any
from uuid import uuid4

from django.db.models import Q, QuerySet
from django.utils import timezone

from drill_ladder.apps.floor.models import FloorTap, Trial
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.practice.models import Session, Stop
from scripts.bounds.pages import Scene

LATELY = timedelta(days=28)
SQUAD = 5  # players


def examples(at: Scene, rows: QuerySet[Any]) -> dict[str, Callable[[], Any]]:
    """Parameter (with its method before it, or its kind after it, where that matters) -> a value:
    a row of the club, a day of the last four weeks, a word.
    """
    return _people(at) | _work(at) | _times(at) | _words(at) | _any(rows)


def _people(at: Scene) -> dict[str, Callable[[], Any]]:
    some = at.players[:SQUAD]
    return {
        "club": lambda: at.club,
        "club: number": lambda: at.club.pk,
        "club_id": lambda: at.club.pk,
        "member": lambda: at.coach,
        "user": lambda: at.coach.user_id,
        "player": lambda: at.player,
        "player: number": lambda: at.player.pk,
        "players": lambda: some,
        "players: number": lambda: [player.pk for player in some],
        "squad": lambda: at.squad,
        "row": lambda: at.player,
        "rows": lambda: some,
        "stop": lambda: Stop.objects.of_club(at.club).first(),
        "token": lambda: at.card,
        "opens": lambda: "card",
    }


def _work(at: Scene) -> dict[str, Callable[[], Any]]:
    return {
        "ladder": lambda: at.ladder,
        "ladder: number": lambda: at.ladder.pk,
        "ladders": lambda: Ladder.objects.of_club(at.club),
        "ladders: number": lambda: [at.ladder.pk],
        "routine": lambda: at.routine.pk,
        "routines": lambda: [at.routine.pk],
        "given": lambda: at.given,
        "of_routines.given": lambda: [at.given],
        "stay": lambda: at.stay,
        "stays": lambda: at.stays,
        "pks": lambda: [stay.pk for stay in at.stays],
        "prescription": lambda: at.stay.prescription,
        "session": lambda: Session.objects.of_club(at.club).first(),
        "undo": lambda: FloorTap.objects.of_club(at.club).first(),
        "trial": lambda: Trial.objects.of_club(at.club).first(),
        "battery": lambda: at.battery,
        "days": lambda: [at.battery],
        "protocol": lambda: at.protocol,
        "protocols": lambda: [at.protocol],
        "weeks": lambda: [at.week],
        "position": lambda: 1,
    }


def _times(at: Scene) -> dict[str, Callable[[], Any]]:
    now, day = timezone.now(), at.today - LATELY
    return {
        "on": lambda: day,
        "day": lambda: day,
        "first": lambda: day,
        "since": lambda: day,
        "since: moment": lambda: now - LATELY,
        "before": lambda: at.today,
        "before: moment": lambda: now,
        "last": lambda: at.today,
        "until": lambda: at.today,
        "today": lambda: at.today,
        "monday": lambda: at.week.monday,
        "at": lambda: now,
        "now": lambda: now,
        "moment": lambda: now,
        "after": lambda: None,
        "after: number": lambda: 0,
    }


def _words(at: Scene) -> dict[str, Callable[[], Any]]:
    return {
        "asked": lambda: Q(rung__drill=at.drill),
        "axis": lambda: "drill",
        "one": lambda: "lane",
        "other": lambda: "feed",
        "name": lambda: "Player 001",
        "part": lambda: "Player",
        "words": lambda: "Player",
        "titles": lambda: ["Drill 1", "Ladder 1"],
        "kind": lambda: "week",
        "kinds": lambda: ["makes"],
        "fate": lambda: "sent",
        "verb": lambda: "confirmed",
        "what": lambda: "home",
        "digest": lambda: "x",
        "unjudged": lambda: False,
        "most": lambda: 4,
        "count": lambda: 4,
    }


def _any(rows: QuerySet[Any]) -> dict[str, Callable[[], Any]]:
    return {
        "but.one": rows.first,
        "pk": lambda: getattr(rows.first(), "pk", 1),
        "of_address.pk": lambda: str(uuid4()),
        "uids": lambda: [uuid4()],
    }
