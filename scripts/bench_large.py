"""What pages cost in a large club, in its third year, and beside a hundred others: each as a
multiple of a bare view measured in the same minute, with its questions to the database.

Makes and drops a database of its own (./ladder bench --large [CLUBS]); takes a quarter of an hour.
"""

import os
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from pathlib import Path
from statistics import median
from time import perf_counter
from types import ModuleType
from typing import Any

import django

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
django.setup()

from django.core.management import call_command
from django.db import connection
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.test import Client, override_settings
from django.test.utils import CaptureQueriesContext
from django.urls import include, path
from django.utils import timezone

from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership, SecretLink
from drill_ladder.apps.prescriptions.models import Prescription
from scripts.fill import copies, fill

NAME = "bench_large"
PLAYERS, YEAR = 200, 365
RUNS = 9
# framed views and questions at most for a page; how much it may grow with clubs, with years
MOST_FRAMED, MOST_QUESTIONS, MOST_CLUBS, MOST_YEARS = 4, 12, 1.3, 1.2
MOST_FRAME, MOST_FEED = 7, 8


@dataclass(frozen=True)
class Row:
    """A page: seconds, and questions."""

    seconds: float
    questions: int


def bare(request: HttpRequest) -> HttpResponse:
    """One question and a word: no sign-in, no page."""
    with connection.cursor() as cursor:
        cursor.execute("select 1")
    return HttpResponse("1")


@member_required
def framed(request: HttpRequest, member: Membership) -> HttpResponse:
    """The frame alone: signed in, the way round the house, the count."""
    return render(request, "base.html", {})


def urls() -> None:
    """The project's addresses and the two yardsticks."""
    found = ModuleType("bench_urls")
    found.urlpatterns = [  # type: ignore[attr-defined]
        path("bare/", bare),
        path("framed/", framed),
        path("", include("drill_ladder.web.urls")),
    ]
    sys.modules["bench_urls"] = found


def pages(member: Membership) -> dict[str, str]:
    """What is measured: name -> address."""
    p = Prescription.objects.filter(club=member.club, status="active").order_by("pk")[1]
    card = SecretLink.objects.get(player=p.player, opens="card")
    stay = p.stays.get(left__isnull=True)
    return {
        "bare": "/bare/",
        "framed": "/framed/",
        "desk": "/",
        "everybody's week": "/weeks/",
        "players": "/players/",
        "review": "/review/",
        "one player": f"/players/{p.player_id}/",
        "one player's week": f"/players/{p.player_id}/week/",
        "who stands on a ladder": f"/ladders/{p.ladder_id}/players/",
        "a ladder": f"/ladders/{p.ladder_id}/",
        "drills": "/drills/",
        "coach's feed": f"/feed/{member.feed_token}/sessions.ics",
        "home card": f"/card/{card.token}/",
        "a block of it": f"/card/{card.token}/{stay.pk}/",
    }


def measured(member: Membership) -> dict[str, Row]:
    """Every page of a club, the yardsticks among them again and again."""
    client = Client()
    client.force_login(member.user)
    found = {}
    for name, address in pages(member).items():
        with CaptureQueriesContext(connection) as asked:
            status = client.get(address).status_code
        if status != 200:
            raise RuntimeError(f"{address} answers {status}")
        questions = len(asked)
        found[name] = Row(_seconds(lambda address=address: client.get(address)), questions)
    return found


def _seconds(act: Callable[[], Any]) -> float:
    times = []
    for _ in range(RUNS):
        start = perf_counter()
        act()
        times.append(perf_counter() - start)
    return median(times)


@contextmanager
def own_database() -> Iterator[None]:
    """A fresh one, dropped at the end."""
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS {NAME}")
        cursor.execute(f"CREATE DATABASE {NAME}")
    connection.close()
    first, connection.settings_dict["NAME"] = connection.settings_dict["NAME"], NAME
    try:
        call_command("migrate", verbosity=0)
        call_command("createcachetable", verbosity=0)
        yield
    finally:
        connection.close()
        connection.settings_dict["NAME"] = first
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS {NAME}")


def ready(what: str) -> None:
    """As a database is that has been running for a while."""
    with connection.cursor() as cursor:
        cursor.execute("VACUUM ANALYZE")
        cursor.execute("SELECT pg_database_size(current_database())")
        size = cursor.fetchone()[0]
    print(f"  {what}: {size / 1e9:.1f} GB", file=sys.stderr, flush=True)


def main(clubs: int) -> int:
    """Print the table; 1 when a page costs more than it may."""
    urls()
    today = timezone.localdate()
    with own_database(), override_settings(ROOT_URLCONF="bench_urls", ALLOWED_HOSTS=["*"]):
        coach = fill("A year", PLAYERS, YEAR, today)
        ready("200 players, a year")
        year = measured(coach)
        old = fill("Three years", PLAYERS, 3 * YEAR, today, seed=2)
        ready("200 players, three years beside it")
        years = measured(old)
        for first in range(1, clubs - 1, 10):
            copies(coach.club, first, min(first + 9, clubs - 2))
            print(f"  {min(first + 11, clubs)} clubs", file=sys.stderr, flush=True)
        ready(f"{clubs} clubs")
        many = measured(coach)
    return _table(year, years, many, clubs)


def _table(year: dict[str, Row], years: dict[str, Row], many: dict[str, Row], clubs: int) -> int:
    print(
        f"\n{'':24}{'questions':>10}{'a year':>9}{'framed':>8}{'3 years':>9}{f'{clubs} clubs':>10}"
    )
    over = []
    for name, row in year.items():
        now, then, beside = (
            rows[name].seconds / rows["bare"].seconds for rows in (year, years, many)
        )
        times = row.seconds / year["framed"].seconds
        grown = f"{then / now:9.2f}{beside / now:10.2f}"
        print(f"{name:24}{row.questions:10}{now:9.1f}{times:8.1f}{grown}")
        feed = name == "coach's feed"
        most = MOST_FEED if feed else MOST_FRAMED
        wrong = times > most or row.questions > MOST_QUESTIONS or now < 0
        wrong |= then / now > MOST_YEARS or beside / now > MOST_CLUBS
        if name == "framed":
            wrong |= now > MOST_FRAME
        over += [name] if wrong else []
    if over:
        print("over their limits:", ", ".join(over))
    return int(bool(over))


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else 100))
