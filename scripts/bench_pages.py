"""What pages cost here, against a bare Django view: the same middleware, sign-in and frame, and
nothing of its own.

Needs a database (./ladder bench starts one); everything it makes is rolled back.
"""

import json
import os
import sys
from datetime import date, timedelta
from pathlib import Path
from types import ModuleType
from typing import Any
from uuid import uuid4

import django

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
django.setup()

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.test import Client, override_settings
from django.urls import include, path
from django.utils import timezone

from drill_ladder.apps.card.paper.pages import home_card
from drill_ladder.apps.library.files.exchange import import_library
from drill_ladder.apps.library.rules import odds
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.people.team.tokens import make_access
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.services import solve
from drill_ladder.formats.library_file import FORMAT, read_library
from scripts.bench import timed
from tests.make import LANES, World, current, drill, ladder, put_on, world

MOST_OF_LARGE = 200  # bare views: under three seconds where one takes fifteen milliseconds


@member_required
def bare(request: HttpRequest, member: Membership) -> HttpResponse:
    """The frame alone."""
    return render(request, "base.html", {})


def urls() -> ModuleType:
    """The project's addresses and the bare view."""
    found = ModuleType("bench_urls")
    found.urlpatterns = [path("bare/", bare), path("", include("drill_ladder.web.urls"))]  # type: ignore[attr-defined]
    sys.modules["bench_urls"] = found
    return found


def rows(client: Client, ladder: int) -> list[tuple[str, float]]:
    """(what, seconds) of the bare view and the pages beside it."""

    def get(address: str, fresh: bool = False) -> Any:
        def act() -> None:
            if fresh:
                for known in (odds.curve, odds._expected, odds._some_ready, odds.finder):
                    known.cache_clear()
            status = client.get(address).status_code
            if status != 200:
                raise RuntimeError(f"{address} answers {status}")

        return timed(act, 15)

    return [
        ("a bare view", get("/bare/")),
        ("the ladder's page, its odds known", get(f"/ladders/{ladder}/")),
        ("the ladder's page, its odds computed anew", get(f"/ladders/{ladder}/", fresh=True)),
        ("the odds page, its curves known", get(f"/ladders/{ladder}/odds/1/")),
        ("the odds page, computed anew", get(f"/ladders/{ladder}/odds/1/", fresh=True)),
    ]


def library(drills: int, purpose: str) -> Any:
    """A file of drills."""
    one = {
        "measure": {"kind": "makes"},
        "lanes": LANES,
        "caution": "home_alone",
        "skill": "Passing",
        "purpose": purpose,
    }
    document = {"format": FORMAT, "drills": [one | {"title": f"Drill {i}"} for i in range(drills)]}
    return read_library(json.dumps(document).encode())


def large_work(w: World) -> list[tuple[str, float]]:
    """(what, seconds) of what a coach brings in or prints, as large as it comes."""
    found = []
    for what, purpose in (
        ("300 drills brought in, all new", "a"),
        ("300 drills brought in, all changed", "b"),
    ):
        document = library(300, purpose)
        found.append(
            (
                what,
                timed(
                    lambda document=document: import_library(member=w.coach, library=document), 1
                ),
            )
        )
    lanes = [f"lane {i}" for i in range(8)]
    for i in range(12):
        of = drill(w.club, f"Full {i}", lanes=lanes, how="word " * 3000)
        put_on(
            w,
            ladder=ladder(w.club, of, f"Full {i}", dose={"sets": 20, "reps": 20}),
            on=date(2026, 3, 1),
        )
    w.player.prescriptions.update(per_week=7)
    on = date(2026, 3, 2)
    found.append(
        (
            "a paper week of twelve full ladders",
            timed(lambda: home_card(w.player, on, "http://127.0.0.1/"), 1),
        )
    )
    return found


def hall(w: World, client: Client) -> list[tuple[str, float]]:
    """(what, seconds) of an evening in the hall with sixty players: its page, one entry, one look
    at the others' entries; and of the open door.
    """
    today = timezone.localdate()
    for number in range(60):
        player = Player.objects.create(club=w.club, name=f"P {number}", joined_on=today)
        stay = current(put_on(w, player=player, on=today - timedelta(days=3)))
        send(client, stay, 10)
    w.coach.role = "owner"
    w.coach.save()
    _, secret = make_access(member=w.coach, name="Bench", scopes=["results", "standings"])
    tool = Client(headers={"Authorization": f"Bearer {secret}"})
    return [
        ("the hall's page, sixty players", timed(lambda: client.get("/floor/"), 5)),
        (ENTRY, timed(lambda: send(client, stay, 1), 15)),
        (
            "a look at what others tapped",
            timed(lambda: client.get("/floor/feed/?after=1000000"), 15),
        ),
        ("standings by the open door", timed(lambda: tool.get("/api/v1/standings"), 5)),
        ("results by the open door", timed(lambda: tool.get("/api/v1/results"), 5)),
    ]


ENTRY, MOST_OF_ENTRY = "an entry in the hall, sixty players", 3.0


def send(client: Client, stay: Stay, strokes: int) -> None:
    """Some strokes of one player, as a tablet sends them."""
    taps = [
        {
            "id": str(uuid4()),
            "at": timezone.now().isoformat(),
            "player": stay.prescription.player_id,
            "stay": stay.pk,
            "act": "stroke",
            "lane": "left",
            "value": {"stroke": "g"},
        }
        for _ in range(strokes)
    ]
    body = json.dumps({"device": "bench", "after": 10**9, "taps": taps})
    answer = client.post("/floor/taps/", body, "application/json")
    if answer.status_code != 200 or len(answer.json()["stored"]) != strokes:
        raise RuntimeError(f"the hall answers {answer.status_code}")


def main() -> int:
    """Print the table; 1 when the ladder's page with its odds costs four bare views or more, an
    entry in the hall more than three, or large work 200.
    """
    urls()
    with transaction.atomic(), override_settings(ROOT_URLCONF="bench_urls", ALLOWED_HOSTS=["*"]):
        w = world("Bench")
        put_on(w, on=date(2026, 3, 1))
        client = Client()
        client.force_login(w.coach.user)
        found = rows(client, w.ladder.pk)
        days = [{"weekday": n, "minutes": 20, "place": "home"} for n in (0, 2, 5)]
        save_player(member=w.coach, player=w.player, days=days)
        one_week = timed(lambda: solve(member=w.coach, player=w.player, monday=date(2026, 3, 2)), 5)
        evening = hall(w, client)
        large = large_work(w)
        transaction.set_rollback(True)
    unit = found[0][1]
    print(f"\n{'page':50} {'seconds':>9} {'bare views':>11}")
    for name, seconds in found:
        print(f"{name:50} {seconds:9.4f} {seconds / unit:11.2f}")
    for name, seconds in evening + large:
        print(f"{name:50} {seconds:9.4f} {seconds / unit:11.2f}")
    print(
        f"{'one week of a player, planned and stored':50} {one_week:9.4f} {one_week / unit:11.2f}"
    )
    slow = [
        name
        for name, seconds in found
        if name.startswith("the ladder's page") and seconds >= 4 * unit
    ]
    slow += [n for n, seconds in evening if n == ENTRY and seconds > MOST_OF_ENTRY * unit]
    slow += [name for name, seconds in large if seconds >= MOST_OF_LARGE * unit]
    return int(bool(slow))


if __name__ == "__main__":
    sys.exit(main())
