"""The servers are killed at random moments under a stream of work: cards, taps in the hall, forms,
imports, reports of hurt that write mail. Clients try again until they are answered; then rows are
counted against what the clients were told.

./ladder bench --faults: FAULT_ROUNDS (200) and FAULT_SEED. A database and ports of its own.
"""

import os
import random
import signal
import subprocess
import sys
import threading
import time
from collections import Counter
from collections.abc import Callable, Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any
from uuid import uuid4

ROOT = Path(__file__).resolve().parents[1]
sys.path.insert(0, str(ROOT))

from scripts.faults_tools import LOG, PATIENCE_S, PORT, Client, Kept

ROUNDS = int(os.environ.get("FAULT_ROUNDS", "200"))
SEED = int(os.environ.get("FAULT_SEED", "16"))
EACH = 3  # pieces of work of every kind in a round
JSON = {"Accept": "application/json"}
KINDS = (
    "one web process",
    "the whole web server",
    "the worker",
    "database stopped",
    "database killed",
)
PYTHON = str(ROOT / ".venv/bin/python")


def standing(player: int) -> int:
    """The stay on which a player is now."""
    from django.db import Error, connections

    from drill_ladder.apps.prescriptions.models import Stay

    end = time.monotonic() + PATIENCE_S
    while True:
        try:
            return int(Stay.objects.get(prescription__player=player, left=None).pk)
        except Error:
            if time.monotonic() > end:
                raise
            time.sleep(0.3)
        finally:
            connections.close_all()  # a thread that ends keeps none


class Work:
    """What clients do, and what they were told."""

    def __init__(
        self, cards: list[tuple[str, int]], stays: list[tuple[int, int]], email: str, password: str
    ) -> None:
        # the first one is moved by hand and planned for, the last one rests once they are hurt
        self.cards, self.resting, self.stays = cards[1:-1], cards[-1][0], stays[1:-1]
        self.sessions: list[str] = []
        self.tapped: list[str] = []
        self.names: list[str] = []
        self.hurts: list[str] = []
        self.moves: list[str] = []
        self.told, self.mover = 0, stays[0][0]
        self.family = Client(f"/card/{cards[0][0]}/")
        self.coach = Client("/accounts/login/")
        self.coach.post("/accounts/login/", {"login": email, "password": password}, (302,))
        self.coaches = threading.Lock()

    def card(self, chance: random.Random) -> None:
        """A session from a phone."""
        token, stay = chance.choice(self.cards)
        sent = {"session_id": str(uuid4()), "hurts": "no", "seen_by": "self"}
        for lane in (0, 1):
            made = str(chance.randrange(11))
            sent |= {f"e{lane}-id": str(uuid4()), f"e{lane}-makes": made, f"e{lane}-attempts": "10"}
        answer = self.family.post(f"/card/{token}/{stay}/", sent, (200,), headers=JSON)
        if answer.json()["state"] != "stored":
            raise RuntimeError(answer.text)
        self.sessions.append(sent["session_id"])

    def tap(self, chance: random.Random) -> None:
        """Strokes from the hall."""
        player, stay = chance.choice(self.stays)
        now = time.strftime("%Y-%m-%dT%H:%M:%S+00:00", time.gmtime())
        taps = [
            {
                "id": str(uuid4()),
                "at": now,
                "player": player,
                "stay": stay,
                "act": "stroke",
                "lane": chance.choice(("left", "right")),
                "value": {"stroke": chance.choice("gm")},
            }
            for _ in range(4)
        ]
        with self.coaches:
            answer = self.coach.taps(taps)
        if answer["refused"]:
            raise RuntimeError(f"{answer}")
        self.tapped += [tap["id"] for tap in taps]

    def form(self, chance: random.Random) -> None:
        """A player, by a form that is done once however often it is sent."""
        name = f"Form {uuid4()}"
        sent = {"form_id": str(uuid4()), "name": name, "dominant_side": "right"}
        with self.coaches:
            self.coach.post("/players/new/", sent, (302,))
        self.names.append(name)

    def table(self, chance: random.Random) -> None:
        """Two players, by a roster."""
        names = [f"Roster {uuid4()}" for _ in range(2)]
        text = "name\n" + "\n".join(names)
        with self.coaches:
            self.coach.post("/roster/in/", {"text": text, "sure": "yes"}, (302,))
        self.names += names

    def move(self, chance: random.Random) -> None:
        """A decision by hand: up, then down again. Sent again after a lost answer it is refused,
        since the player stands elsewhere by then.
        """
        reason, up = f"move {uuid4()}", len(self.moves) % 2 == 0
        path = f"/standing/{standing(self.mover)}/move/"
        kind = "climb" if up else "step_down"
        with self.coaches:
            self.coach.post(path, {"kind": kind, "reason": reason}, (302,))
        self.moves.append(reason)

    def publish(self, chance: random.Random) -> None:
        """A week planned anew and told."""
        with self.coaches:
            for act in ("solve", "publish"):
                self.coach.post(f"/players/{self.mover}/week/{act}/", {}, (302,))
        self.told += 1

    def hurt(self, chance: random.Random) -> None:
        """A report of hurt, which writes mail."""
        words = f"hurt {uuid4()}"
        self.family.post(f"/card/{self.resting}/hurt/", {"what": words}, (302,))
        self.hurts.append(words)

    @property
    def kinds(self) -> list[Callable[[random.Random], None]]:
        """All of them."""
        return [self.card, self.tap, self.form, self.table, self.move, self.publish]


def prepare() -> tuple[list[tuple[str, int]], list[tuple[int, int]], str, str]:
    """A club with six players on a ladder."""
    import django

    django.setup()
    from datetime import timedelta

    from django.core.management import call_command
    from django.utils import timezone

    call_command("migrate", verbosity=0)
    call_command("createcachetable", verbosity=0)
    from drill_ladder.apps.people.models import Player
    from drill_ladder.apps.people.players.services import save_player
    from tests.make import PASSWORD, current, put_on, world

    w = world("Faults")
    today = timezone.localdate()
    cards, stays = [], []
    for number in range(6):
        player = Player(name=f"Player {number}", joined_on=today)
        family = [{"name": "F", "email": f"family{number}@example.org", "phone": ""}]
        days = [{"weekday": day, "minutes": 40, "place": "club"} for day in range(7)]
        save_player(member=w.coach, player=player, guardians=family, days=days)
        p = put_on(w, player=player, on=today - timedelta(days=2))
        stay = current(p).pk
        cards.append((player.links.get(opens="card").token, stay))
        stays.append((player.pk, stay))
    return cards, stays, w.coach.user.email, PASSWORD


def fault(kind: str, web: Kept, worker: Kept, chance: random.Random) -> None:
    """One of them, and the database started again, as its own service would."""
    if kind == "one web process":
        web.kill_one(chance)
    elif kind == "the whole web server":
        web.kill()
    elif kind == "the worker":
        worker.kill()
    else:
        database("immediate" if kind == "database stopped" else "kill")
        subprocess.run([ROOT / "scripts/pg", "start"], check=True, stdout=LOG, stderr=LOG)


def database(how: str) -> None:
    """Stopped without finishing, or its first process killed."""
    if how == "kill":
        pid = int(
            subprocess.run(
                [ROOT / "scripts/pg", "pid"], capture_output=True, text=True, check=True
            ).stdout
        )
        os.kill(pid, signal.SIGKILL)
        time.sleep(0.3)
    else:
        subprocess.run([ROOT / "scripts/pg", "immediate"], check=True, stdout=LOG, stderr=LOG)


def play(work: Work, web: Kept, worker: Kept, number: int) -> tuple[str, float]:
    """One round: everything at once, and in the middle of it a fault; (which, seconds until all was
    answered).
    """
    chance = random.Random(f"{SEED} {number}")  # noqa: S311
    kind = KINDS[number % len(KINDS)]
    failed: list[BaseException] = []

    def stream(act: Callable[[random.Random], None], mine: random.Random) -> None:
        try:
            for _ in range(EACH):
                act(mine)
                time.sleep(mine.random() * 0.1)
        except BaseException as error:
            failed.append(error)

    acts = work.kinds + ([work.hurt] if number % 10 == 0 else [])
    threads = [
        threading.Thread(target=stream, args=(act, random.Random(f"{SEED} {number} {place}")))  # noqa: S311
        for place, act in enumerate(acts)
    ]
    begun = time.monotonic()
    for thread in threads:
        thread.start()
    time.sleep(chance.random() * 0.6)
    fault(kind, web, worker, chance)
    for thread in threads:
        thread.join()
    if failed:
        raise failed[0]
    return kind, time.monotonic() - begun


def there(model: Any, column: str, **asked: Any) -> Counter[str]:
    """How often each value is stored."""
    rows = model.objects.filter(**asked).values_list(column, flat=True)
    return Counter(str(one) for one in rows)


def counted(work: Work) -> list[str]:
    """What is lost or doubled, told by the database."""
    from django.db import connections

    from drill_ladder.apps.floor.models import FloorTap
    from drill_ladder.apps.history.models import Event
    from drill_ladder.apps.messages.models import LocalMail, Message
    from drill_ladder.apps.people.models import Player
    from drill_ladder.apps.practice.models import HurtReport, Session
    from drill_ladder.apps.review.models import Decision

    connections.close_all()
    end = time.monotonic() + 120
    while Message.objects.filter(fate="waiting").exists() and time.monotonic() < end:
        time.sleep(1)
    events = Event.objects.filter(verb="published a week").count()
    written = list(Message.objects.values_list("pk", flat=True))
    heads = LocalMail.objects.values_list("headers__Message-ID", flat=True)
    mails = Counter(str(head)[1:].partition(".")[0] for head in heads)
    rows = (
        ("sessions", work.sessions, there(Session, "pk", pk__in=work.sessions)),
        ("taps", work.tapped, there(FloorTap, "uid", uid__in=work.tapped)),
        ("players", work.names, there(Player, "name", name__in=work.names)),
        ("hurts", work.hurts, there(HurtReport, "words", words__startswith="hurt ")),
        ("moves", work.moves, there(Decision, "reason", reason__startswith="move ")),
        ("weeks", list(range(work.told)), Counter(range(events))),
        ("mails", [str(pk) for pk in written], mails),
    )
    wrong = []
    for what, told, stored in rows:
        lost = sum(one not in stored for one in told)
        twice = sum(count > 1 for count in stored.values())
        print(f"  {what:10}{len(told):>7} told, {lost} lost, {twice} doubled")
        wrong += [f"{what}: {lost} lost, {twice} doubled"] if lost or twice else []
    return wrong


@contextmanager
def services() -> Iterator[tuple[Kept, Kept]]:
    """The web server and a worker, kept alive."""
    web = Kept(
        PYTHON,
        "-m",
        "gunicorn",
        "drill_ladder.web.wsgi",
        "--bind",
        f"127.0.0.1:{PORT}",
        "--workers",
        "2",
        "--threads",
        "4",
        "--log-level",
        "error",
        "--no-control-socket",
    )
    worker = Kept(PYTHON, "manage.py", "worker", "--grace", "1")
    try:
        yield web, worker
    finally:
        web.end()
        worker.end()


def main() -> int:
    """The rounds, then the count; 1 where something is lost or doubled."""
    given = prepare()
    with services() as (web, worker):
        work = Work(*given)
        times: dict[str, list[float]] = {kind: [] for kind in KINDS}
        for number in range(ROUNDS):
            kind, took = play(work, web, worker, number)
            times[kind].append(took)
            if sys.stderr.isatty() or (number + 1) % 20 == 0:
                print(f"  {number + 1} of {ROUNDS}", file=sys.stderr, flush=True)
        print(f"{ROUNDS} rounds, seed {SEED}:")
        for kind, seconds in times.items():
            if seconds:
                seconds.sort()
                middle, last = seconds[len(seconds) // 2], seconds[-1]
                print(f"  {kind:22}{len(seconds):>4} times: {middle:.1f} s, at most {last:.1f} s")
        wrong = counted(work)
    print("nothing lost, nothing doubled" if not wrong else "; ".join(wrong))
    return 1 if wrong else 0


if __name__ == "__main__":
    sys.exit(main())
