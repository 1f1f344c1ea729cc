"""How straight three walks are: sending a card, publishing a week, changing a rule.

For each: the rooms (a wing of the core, a household of an app: one folder) and the files that it
enters, how often it goes from one file into another, and its questions to the database, the page
that follows included. Needs a database (./ladder walks starts one); everything is rolled back.

Usage: ./ladder walks
"""

import os
import sys
from collections.abc import Callable
from datetime import date, timedelta
from pathlib import Path
from typing import Any
from uuid import uuid4

import django

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))
os.environ.setdefault("DJANGO_SETTINGS_MODULE", "drill_ladder.web.settings.dev")
django.setup()

from django.db import connection, transaction
from django.test import Client, override_settings
from django.test.utils import CaptureQueriesContext

from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.weeks.services import solve
from tests.make import World, log, put_on, world

HOUSE = f"{ROOT}/drill_ladder/"
# (rooms, files, questions) at most: what is reached today, so that none grows unseen
LIMITS = {
    "a card is sent": (20, 40, 12),
    "a week is published": (20, 40, 14),
    "a rule is changed": (11, 25, 13),
}


class Walk:
    """Which files of the house a call goes through, in which order."""

    def __init__(self) -> None:
        self.files: set[str] = set()
        self.steps = 0
        self._at = ""

    def enter(self, frame: Any, event: str, _: Any) -> None:
        """A function of the house is called; another file than before is a step."""
        file = frame.f_code.co_filename
        if event != "call" or not file.startswith(HOUSE) or frame.f_code.co_name == "<module>":
            return
        self.files.add(file.removeprefix(HOUSE))
        self.steps += file != self._at
        self._at = file

    @property
    def rooms(self) -> set[str]:
        """The folders of those files."""
        return {str(Path(file).parent) for file in self.files}


def measured(act: Callable[[], Any]) -> tuple[Walk, list[str]]:
    """One act: its walk, and its questions."""
    walk = Walk()
    with CaptureQueriesContext(connection) as asked:
        sys.setprofile(walk.enter)
        try:
            act()
        finally:
            sys.setprofile(None)
    skipped = ("SAVEPOINT", "RELEASE", "ROLLBACK", "SET CONSTRAINTS")
    return walk, [q["sql"] for q in asked.captured_queries if not q["sql"].startswith(skipped)]


def walks(w: World, today: date) -> list[tuple[str, Walk, list[str]]]:
    """The three of them, on a club with a player in the middle of a ladder."""
    days = [{"weekday": n, "minutes": 20, "place": "home"} for n in (0, 2, 5)]
    save_player(member=w.coach, player=w.player, days=days)
    p = put_on(w, rung=2, on=today - timedelta(days=9))
    log(p, today - timedelta(days=4), 6, 6)
    monday = today - timedelta(days=today.weekday())
    solve(member=w.coach, player=w.player, monday=monday)
    stay = Stay.objects.get(prescription=p, left__isnull=True)
    player, coach = Client(), Client()
    coach.force_login(w.coach.user)
    card = {"session_id": str(uuid4()), "hurts": "no", "seen_by": "self", "effort": "4"}
    for i in range(2):
        card |= {f"e{i}-id": str(uuid4()), f"e{i}-makes": "8", f"e{i}-attempts": "10"}
    rule = {
        "school": "window",
        "passes": 2,
        "of": 3,
        "confidence": 90,
        "half_life": 3,
        "sessions": 4,
        "min_sessions": 1,
    }
    rule |= {
        "min_days_between": 1,
        "trust": "any",
        "not_ready": 60,
        "ready": 85,
        "horizon": 6,
        "alpha": 10,
        "beta": 10,
    }
    rule["revision"] = w.ladder.revision
    of = {"of": monday.isoformat()}
    in_place = {"HX-Request": "true"}
    address = f"/card/{w.token}/{stay.pk}/"
    acts: dict[str, Callable[[], Any]] = {
        "a card is sent": lambda: _ok(player.post(address, card), 302),
        "a week is published": lambda: _ok(
            coach.post(f"/players/{w.player.pk}/week/publish/", of, headers=in_place), 200
        ),
        "a rule is changed": lambda: _ok(coach.post(f"/ladders/{w.ladder.pk}/odds/2/", rule), 302),
    }
    coach.get("/")  # templates and addresses are read once
    coach.post("/ladders/marks/", rule)  # the night's work is done
    player.get(f"/card/{w.token}/")
    return [(name, *measured(act)) for name, act in acts.items()]


def _ok(response: Any, status: int) -> None:
    if response.status_code != status:
        raise RuntimeError(f"{response.status_code}: {response.content.decode()[:2000]}")


def main() -> int:
    """Print the figures; 1 when a walk is longer than it may be. -v: also where it leads."""
    with transaction.atomic(), override_settings(ALLOWED_HOSTS=["*"]):
        w = world("Walks")
        walked = walks(w, w.club.today())
        transaction.set_rollback(True)
    over = False
    print(f"\n{'walk':22} {'rooms':>5} {'files':>5} {'steps':>5} {'questions':>9}")
    for name, walk, asked in walked:
        most = LIMITS[name]
        found = (len(walk.rooms), len(walk.files), len(asked))
        over |= any(one > at_most for one, at_most in zip(found, most, strict=True))
        print(
            f"{name:22} {len(walk.rooms):5} {len(walk.files):5} {walk.steps:5} {len(asked):9}   "
            f"(at most {most[0]} rooms, {most[1]} files, {most[2]} questions)"
        )
        if "-v" in sys.argv:
            print(*[f"    {file}" for file in sorted(walk.files)], sep="\n")
            print(*[f"    {sql[:150]}" for sql in asked], sep="\n")
    return int(over)


if __name__ == "__main__":
    sys.exit(main())
