"""What pages cost here, against a bare Django view: the same middleware, sign-in and frame, and nothing of its own.

Needs a database (./ladder bench starts one); everything it makes is rolled back.
"""

import os
import sys
from datetime import date
from pathlib import Path
from types import ModuleType
from typing import Any

import django

sys.path.insert(0, str(Path(__file__).resolve().parents[1]))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
django.setup()

from django.db import transaction
from django.http import HttpRequest, HttpResponse
from django.shortcuts import render
from django.test import Client, override_settings
from django.urls import include, path

from drill_ladder.apps.library import odds
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.services import save_player
from drill_ladder.apps.prescriptions.weeks import solve
from scripts.bench import timed
from tests.make import put_on, world


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


def main() -> int:
    """Print the table; 1 when the ladder's page with its odds costs four bare views or more."""
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
        transaction.set_rollback(True)
    unit = found[0][1]
    print(f"\n{'page':50} {'seconds':>9} {'bare views':>11}")
    for name, seconds in found:
        print(f"{name:50} {seconds:9.4f} {seconds / unit:11.2f}")
    print(f"{'one week of a player, planned and stored':50} {one_week:9.4f} {one_week / unit:11.2f}")
    return int(any(seconds >= 4 * unit for name, seconds in found if name.startswith("the ladder's page")))


if __name__ == "__main__":
    sys.exit(main())
