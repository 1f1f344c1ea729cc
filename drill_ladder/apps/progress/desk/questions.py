"""What a coach asks first: who waits, who is late, who has not been seen."""

import json
from collections import defaultdict
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta
from itertools import groupby
from typing import Any

from django.contrib.postgres.expressions import ArraySubquery
from django.db.models import OuterRef, Q
from django.db.models.functions import JSONObject

from drill_ladder.apps.floor.hall import Said, said_among
from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.people.querysets import PlayerQuerySet
from drill_ladder.apps.practice.models import JudgedDay, Session, Skip, Stop, Why
from drill_ladder.apps.practice.sessions import set_lines
from drill_ladder.apps.prescriptions.models import Prescription, Setting
from drill_ladder.apps.weeks.models import PlannedBlock
from drill_ladder.ui.pages import Context

LATE_DAYS = 7
UNSEEN_DAYS = 10
MOST_OF_TRAIL = 15
LATELY = timedelta(weeks=4)


@dataclass(frozen=True, slots=True)
class Late:
    """Home work that fell behind: days of it in the last seven against those wanted."""

    pk: int
    per_week: int
    last: date | None
    player_id: int
    player: str
    ladder: str
    done: int = 0


def late_home_work(club: Club, today: date) -> list[Late]:
    """Active home prescriptions with less work in the last seven days than wanted, the emptiest
    first.

    Players with an open stop rest, and are not late.
    """
    rows = (
        Prescription.objects.active()
        .of_club(club)
        .exclude(place=Setting.COACHED)
        .filter(started_on__lte=today - timedelta(days=LATE_DAYS))
        .exclude(player__in=Stop.objects.open().of_club(club).values("player"))
    )
    shown = rows.values_list(
        "pk", "per_week", "last_on", "player_id", "player__name", "ladder__title"
    )
    days = JudgedDay.objects.of_club(club).since(today - timedelta(days=LATE_DAYS - 1))
    done = days.per_prescription()
    late = [Late(*row, done.get(row[0], 0)) for row in shown if done.get(row[0], 0) < row[1]]
    return sorted(late, key=lambda row: (row.done / row.per_week, row.player))


def idle_and_unseen(
    club: Club, today: date, most: int | None = None
) -> tuple[list[Player], list[tuple[Player, date | None]]]:
    """Players of whom nothing is asked, by name; and those whom no coach or device has seen for ten
    days, the longest first. So many of each at most.
    """
    limit = today - timedelta(days=UNSEEN_DAYS)
    rows = list(Player.objects.of_club(club).idle_or_not_seen_since(limit))
    unseen = sorted((p for p in rows if p.asked_now), key=lambda one: one.seen_on or date.min)
    idle = [player for player in rows if not player.asked_now]
    return idle[:most], [(player, player.seen_on) for player in unseen[:most]]


def to_see_to(club: Club, today: date) -> tuple[list[Prescription], list[Prescription]]:
    """Those that may not be done at home any more, and what a coach wanted to look at again by now,
    the longest due first.
    """
    asked = ~Q(not_at_home="") | Q(review_on__lte=today)
    rows = list(Prescription.objects.active().of_club(club).filter(asked).with_names())
    due = [row for row in rows if row.review_on is not None and row.review_on <= today]
    due.sort(key=lambda one: (one.review_on, one.player.name))
    return [row for row in rows if row.not_at_home], due


def open_stops(club: Club) -> list[Stop]:
    """Open stops, the oldest first, with whom to tell."""
    stops = (
        Stop.objects.open()
        .of_club(club)
        .select_related("player")
        .prefetch_related("player__guardians")
    )
    return list(stops.order_by("opened_on"))


@dataclass(frozen=True, slots=True)
class AtClub:
    """Who is planned at the club today, with which ladders."""

    player_id: int
    player: str
    ladders: list[str]


@dataclass(frozen=True, slots=True)
class Together:
    """A drill that several of today do: it can be begun as a group block."""

    drill: int
    title: str
    players: list[int]


def sessions_today(club: Club, today: date) -> tuple[list[AtClub], list[Together]]:
    """Who is planned at the club today, with what, without those who rest; and the drills that two
    of them at least share, the most shared first.
    """
    blocks = PlannedBlock.objects.filter(
        club=club,
        on=today,
        place="club",
        prescription__status="active",
        prescription__stays__left=None,
    )
    blocks = blocks.exclude(week__player__in=Stop.objects.open().of_club(club).values("player"))
    rows = blocks.order_by("week__player__name", "order").values_list(
        "week__player_id",
        "week__player__name",
        "prescription__ladder__title",
        "prescription__stays__rung__drill_id",
        "prescription__stays__rung__drill__title",
    )
    by_player: dict[int, AtClub] = {}
    by_drill: dict[int, Together] = {}
    for pk, name, ladder, drill, title in rows:
        by_player.setdefault(pk, AtClub(pk, name, [])).ladders.append(ladder)
        there = by_drill.setdefault(drill, Together(drill, title, [])).players
        if pk not in there:
            there.append(pk)
    shared = sorted(by_drill.values(), key=lambda one: (-len(one.players), one.title))
    return list(by_player.values()), [one for one in shared if len(one.players) > 1]


def ladders_of_players(players: Sequence[Player]) -> dict[int, list[Context]]:
    """Player id -> active ladders with the rung they stand on, for the small glyphs."""
    by_player: dict[int, list[Context]] = defaultdict(list)
    for p in Prescription.objects.active().of_players(players).with_glyph():
        if p.current:
            at = p.current[0].rung.position
            by_player[p.player_id].append({"ladder": p.ladder, "at": at, "rungs": p.rung_count})
    return by_player


MOST_WORDS = 4


def with_words(players: PlayerQuerySet) -> PlayerQuerySet:
    """With what each player wrote last to a coach, left out last on the card and was told last in
    the hall: `word_rows` and `skip_rows`, lists of text (of why, for skips), on and by, and
    `hall_rows` (act, uid, on, value).
    """
    rows = Session.objects.exclude(word="").filter(stay__prescription__player=OuterRef("pk"))
    word = JSONObject(text="word", on="on", by="stay__prescription__ladder__title")
    latest = rows.order_by("-on", "-recorded_at").values(told=word)[:MOST_WORDS]
    skips = Skip.objects.filter(stay__prescription__player=OuterRef("pk"))
    left_out = JSONObject(
        text="why", on="on", rung="stay__rung__title", by="stay__prescription__ladder__title"
    )
    last = skips.order_by("-on", "-pk").values(told=left_out)[:MOST_WORDS]
    taps = FloorTap.objects.filter(player=OuterRef("pk"), stay=None, act__in=("word", "undo"))
    said = JSONObject(act="act", uid="uid", on="on", value="value")
    in_hall = taps.order_by("-on", "-id").values(told=said)[:20]
    return players.annotate(
        word_rows=ArraySubquery(latest),
        skip_rows=ArraySubquery(last),
        hall_rows=ArraySubquery(in_hall),
    )


def told_in_hall(rows: Sequence[str | dict[str, Any]]) -> list[Said]:
    """What was said to a player in the hall, the latest first."""
    marks: list[Any] = list(dated(rows))
    return said_among([(row["act"], row["uid"], row["on"], row["value"]) for row in marks])


def told_skips(rows: Sequence[str | dict[str, Any]]) -> list[Context]:
    """What was left out, with its reason in words."""
    return [{**row, "text": Why(str(row["text"])).label} for row in dated(rows)]


def dated(rows: Sequence[str | dict[str, Any]]) -> list[Context]:
    """Rows that the database made to JSON, with their day as one."""
    read = [json.loads(row) if isinstance(row, str) else row for row in rows]
    return [{**row, "on": date.fromisoformat(row["on"])} for row in read]


def parts_of_the_night(club: Club, today: date) -> list[FloorTap]:
    """What was begun in the hall yesterday and never completed: the night has recorded it as far as
    it went.
    """
    return list(FloorTap.objects.parts_since(club, today - timedelta(days=1)))


def words_to_read(club: Club, most: int | None) -> list[Session]:
    """What players wrote and no coach has read, the latest first."""
    rows = Session.objects.of_club(club).with_unread_word()
    return list(
        rows.select_related("stay__prescription__player", "stay__prescription__ladder")[:most]
    )


def trail_of(player: Player) -> list[Event]:
    """Who did what about a player, their ladders and their rungs, the latest first."""
    rows: list[Any] = [player]
    for prescription in Prescription.objects.of_player(player).prefetch_related("stays"):
        rows += [prescription, *prescription.stays.all()]
    return list(Event.objects.about_any(rows)[:MOST_OF_TRAIL])


@dataclass(frozen=True, slots=True)
class Twice:
    """What two phones said of one block on one day, each in words."""

    player: Player
    title: str
    on: date
    said: list[tuple[Session, str]]


def said_twice(club: Club, today: date) -> list[Twice]:
    """Blocks of the last weeks that two phones said: one question each."""
    rows = Session.objects.said_twice(club, today - LATELY)
    lines = []
    for (stay, on), group in groupby(rows, key=lambda row: (row.stay, row.on)):
        said = [(row, ", ".join(set_lines(row))) for row in group]
        lines.append(Twice(stay.prescription.player, stay.rung.title, on, said))
    return lines
