"""What pages cost in the demo, in a large club, in its third year, and beside a hundred others:
each beside a bare view and the empty frame, asked in turn with it, with its questions.

Makes and drops a database of its own (./ladder bench --large [CLUBS]); a hundred clubs take an hour
and 25 GB.
"""

import os
import sys
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from datetime import date, timedelta
from functools import partial
from itertools import cycle
from pathlib import Path
from statistics import median
from time import perf_counter
from types import ModuleType
from typing import Any
from uuid import uuid4

import django

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
django.setup()

from django.core.management import call_command
from django.core.wsgi import get_wsgi_application
from django.db import connection
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.test import Client, RequestFactory, override_settings
from django.urls import include, path
from django.utils import timezone

from drill_ladder.apps.card.paper.sheet import printed, sheet_of
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership, SecretLink
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.models import PlannedBlock
from scripts.fill import fill
from scripts.fill.copying import copies

NAME = "bench_large"
PLAYERS, YEAR, CLUBS = 200, 365, 100
WARM, RUNS = 10, 11  # a server has been running for a while: what it asks is prepared
# framed views and questions at most for a page; how much it may grow with clubs, with years
MOST_FRAMED, MOST_QUESTIONS, MOST_CLUBS, MOST_YEARS = 4, 12, 1.3, 1.2
FRAME, FEED, SENT = "framed", "coach's feed", "a card is sent"
MOST_FRAME, MOST_FEED, MOST_SENT = 7, 8, 25  # bare, framed, bare
MOST_SHEET = 15  # seconds
# pages that read a whole record: questions; their work is as long as the record is
LONG = {"is it working": 20, "and three years of it": 20, "a squad at one look": 12}
OPEN = ("bare", "home card", "a block of it", FEED)
APPLICATION = get_wsgi_application()
CARDS: dict[int, str] = {}  # player id -> token


@dataclass(frozen=True)
class Row:
    """A page in bare views and in framed ones, and its questions."""

    bare: float
    framed: float
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


def someone(member: Membership) -> Stay:
    """Where a player of the club stands at home."""
    stays = Stay.objects.current().for_home().filter(club=member.club, recheck=False)
    return stays.select_related("prescription__player").order_by("pk")[1]


def pages(member: Membership) -> dict[str, str]:
    """What is measured: name -> address."""
    stay = someone(member)
    p = stay.prescription
    card = SecretLink.objects.get(player=p.player_id, opens="card")
    return {
        "bare": "/bare/",
        FRAME: "/framed/",
        "desk": "/",
        "everybody's week": "/weeks/",
        "players": "/players/",
        "review": "/review/",
        "one player": f"/players/{p.player_id}/",
        "one player's week": f"/players/{p.player_id}/week/",
        "who stands on a ladder": f"/ladders/{p.ladder_id}/players/",
        "a ladder": f"/ladders/{p.ladder_id}/",
        "drills": "/drills/",
        "is it working": f"/players/{p.player_id}/progress/",
        "and three years of it": f"/players/{p.player_id}/progress/?since={_ago(1095)}",
        "a squad at one look": f"/squads/{p.player.squad_id}/progress/",
        FEED: f"/feed/{member.feed_token}/sessions.ics",
        "home card": f"/card/{card.token}/",
        "a block of it": f"/card/{card.token}/{stay.pk}/",
    }


def _ago(days: int) -> date:
    return timezone.localdate() - timedelta(days=days)


def measured(member: Membership) -> dict[str, Row]:
    """Every page of a club, and a card that is sent."""
    client = Client()
    client.force_login(member.user)
    cookie = f"sessionid={client.cookies['sessionid'].value}"
    rows = {}
    for name, address in pages(member).items():
        # a player has no account, a calendar program no cookie
        rows[name] = _row(partial(served, address, "" if name in OPEN else cookie), cookie)
    rows[SENT] = _row(card_sent(member), cookie)
    return rows


def card_sent(member: Membership) -> Callable[[], str]:
    """A player sends what they did; each time another one, for whom it is the day's first."""
    resting = Stop.objects.open().of_club(member.club).values("player")
    at_home = Stay.objects.current().for_home().filter(club=member.club, recheck=False)
    rows = at_home.exclude(prescription__player__in=resting).filter(
        rung__drill__caution="home_alone"
    )
    stays = rows.select_related("prescription", "rung__drill").order_by("-pk")
    waiting = cycle(stay for stay in stays if stay.terms.rung.counts_makes)

    def send() -> str:
        stay = next(waiting)
        card = CARDS[stay.prescription.player_id]
        sent = {"session_id": str(uuid4()), "hurts": "no", "seen_by": "self", "effort": "4"}
        for i, _ in enumerate(stay.terms.rung.lanes or ("",)):
            sent |= {f"e{i}-id": str(uuid4()), f"e{i}-makes": "5", f"e{i}-attempts": "10"}
        return served(f"/card/{card}/{stay.pk}/", "", sent)

    CARDS.update(
        {
            link.player_id: link.token
            for link in SecretLink.objects.filter(club=member.club, opens="card")
        }
    )
    return send


def served(address: str, cookie: str, sent: dict[str, str] | None = None) -> str:
    """A page as the web server asks for it: a connection lent and given back, every byte made."""
    said: list[str] = []
    factory = RequestFactory(headers={"cookie": cookie})
    request = factory.get(address) if sent is None else factory.post(address, sent)
    response = APPLICATION(request.environ, lambda status, headers: said.append(status))
    for _ in response:
        pass
    response.close()
    if said[0] not in ("200 OK", "302 Found"):
        raise RuntimeError(f"{address} answers {said[0]}")
    return said[0]


def _row(act: Callable[[], str], cookie: str) -> Row:
    """Asked in turn with the yardsticks: what else the machine does in that minute slows all."""
    asked: list[str] = []

    def count(execute: Any, sql: str, *rest: Any) -> Any:
        asked.append(sql)
        return execute(sql, *rest)

    with connection.execute_wrapper(count):
        act()
    acts = (partial(served, "/bare/", ""), partial(served, "/framed/", cookie), act)
    times = [[_seconds(one) for one in acts] for _ in range(WARM + RUNS)][WARM:]
    unit, frame, page = (median(column) for column in zip(*times, strict=True))
    return Row(page / unit, page / frame, len(asked))


def _seconds(act: Callable[[], Any]) -> float:
    start = perf_counter()
    act()
    return perf_counter() - start


@contextmanager
def own_database(name: str, demo: bool) -> Iterator[None]:
    """A fresh one, dropped at the end."""
    with connection.cursor() as cursor:
        cursor.execute(f"DROP DATABASE IF EXISTS {name}")
        cursor.execute(f"CREATE DATABASE {name}")
    first = connection.settings_dict["NAME"]
    _move_to(name)
    try:
        call_command("begin", demo=demo, verbosity=0)
        yield
    finally:
        _move_to(first)
        with connection.cursor() as cursor:
            cursor.execute(f"DROP DATABASE IF EXISTS {name}")


def _move_to(name: str) -> None:
    connection.close()
    connection.close_pool()
    connection.settings_dict["NAME"] = name


def ready(what: str) -> None:
    """As a database is that has been running for a while."""
    with connection.cursor() as cursor:
        cursor.execute("VACUUM ANALYZE")
        cursor.execute("SELECT pg_database_size(current_database())")
        size = cursor.fetchone()[0]
    print(f"  {what}: {size / 1e9:.2f} GB", file=sys.stderr, flush=True)


def main(clubs: int) -> int:
    """Print the table; 1 when a page costs more than it may."""
    urls()
    today = timezone.localdate()
    with (
        own_database(NAME, demo=True),
        override_settings(ROOT_URLCONF="bench_urls", ALLOWED_HOSTS=["*"]),
    ):
        ready("the demo")
        demo = measured(Membership.objects.filter(role="owner").order_by("pk")[0])
        coach = fill("A year", PLAYERS, YEAR, today)
        ready("200 players, a year")
        year = measured(coach)
        sheet = sheet_seconds(coach)
        old = fill("Three years", PLAYERS, 3 * YEAR, today, seed=2)
        ready("200 players, three years beside it")
        years = measured(old)
        for first in range(1, clubs - 1, 10):
            copies(coach.club, first, min(first + 9, clubs - 2))
            print(f"  {min(first + 11, clubs)} clubs", file=sys.stderr, flush=True)
        ready(f"{clubs} clubs")
        many = measured(coach)
    print(f"\n{'':24}{'questions':>10}{'':9}in bare views: {'':11}{'framed':>9}   grown by")
    print(f"{'':34}{'demo':>9}{'a year':>9}{'3 years':>9}{f'{clubs} clubs':>11}", end="")
    print(f"{'a year':>9}{'years':>8}{'clubs':>7}")
    over = [n for n in year if _line(n, demo[n], year[n], years[n], many[n])]
    print(f"the sheet of 400 blocks: {sheet:.1f} s (at most {MOST_SHEET})")
    over += ["the sheet"] if sheet > MOST_SHEET else []
    print("over their limits:", ", ".join(over) or "none")
    return int(bool(over))


def sheet_seconds(member: Membership) -> float:
    """The paper of the fullest day of the club."""
    on = PlannedBlock.objects.filter(club=member.club, place="club").latest("on").on
    return _seconds(lambda: printed(sheet_of(member.club, on, None)))


def _line(name: str, demo: Row, year: Row, years: Row, many: Row) -> bool:
    """Print a row; whether it is over its limits."""
    grown, beside = years.framed / year.framed, many.framed / year.framed
    print(
        f"{name:24}{year.questions:10}{demo.bare:9.1f}{year.bare:9.1f}{years.bare:9.1f}"
        f"{many.bare:11.1f}{year.framed:9.1f}{grown:8.2f}{beside:7.2f}"
    )
    if name == "bare":
        return False
    if name == FRAME:
        return year.bare > MOST_FRAME
    if name in LONG:
        # three years are three times the work of one: no worse than linear
        return year.questions > LONG[name] or grown > 3 * MOST_YEARS or beside > MOST_CLUBS
    over = grown > MOST_YEARS or beside > MOST_CLUBS
    if name == SENT:
        return over or year.bare > MOST_SENT
    return over or year.framed > _most(name) or year.questions > MOST_QUESTIONS


def _most(name: str) -> int:
    return MOST_FEED if name == FEED else MOST_FRAMED


if __name__ == "__main__":
    sys.exit(main(int(sys.argv[1]) if len(sys.argv) > 1 else CLUBS))
