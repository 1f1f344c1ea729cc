"""No page reads another club: what the database reads for a page is the same whether the club is
alone or others of its size stand beside it. Every question of a page is asked again with EXPLAIN
ANALYZE (PostgreSQL: actual rows of each scan, and those that its filter threw away), with scans and
joins of whole tables switched off, as small tables are read whole whatever their indexes are.
"""

import json
from collections import Counter
from contextlib import contextmanager
from datetime import date

import pytest
from django.db import connection
from django.test import Client

from drill_ladder.apps.floor.models import Battery
from drill_ladder.apps.library.models import Drill, Ladder
from drill_ladder.apps.people.models import Club, Player, Squad
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.demo.load import fill
from drill_ladder.demo.people import STORIES
from tests.make import member

TODAY = date(2026, 11, 24)
LIVES = [life for life in STORIES if life.name in ("Bram Ashdown", "Finn Okoro")]
# tables that grow with every day of work; of the others a small one may be read whole
GROWING = {
    "floor_floortap",
    "floor_trial",
    "history_event",
    "practice_judgedday",
    "practice_session",
    "practice_setrow",
    "review_decision",
    "review_proposal",
    "weeks_plannedblock",
}
SPARE = 60  # rows of a few stays: whose order an index has may be walked whole


def lived_in(name):
    """A club of three lives of twelve weeks, with tests and what was said in the hall."""
    owner = member(Club.objects.create(name=name), f"Owner of {name}", "owner")
    fill(owner, TODAY, lambda line: None, LIVES)
    return owner


@pytest.fixture(scope="module")
def owner(once):
    return lived_in("Lone")


def pages(club):
    """A page of each kind."""
    player = Player.objects.filter(club=club).order_by("pk").first().pk
    ladder = Ladder.objects.filter(club=club).order_by("pk").first().pk
    drill = Drill.objects.filter(club=club).order_by("pk").first().pk
    squad = Squad.objects.filter(club=club, players__isnull=False).order_by("pk").first().pk
    battery = Battery.objects.filter(club=club).order_by("pk").last().pk
    stay = Stay.objects.filter(left=None, prescription__player=player).first().pk
    of_player = (
        "",
        "progress/",
        "week/",
        "sessions/",
        "decisions/",
        "family/",
        "coverage/",
        "report/",
    )
    return [
        "/",
        "/players/",
        *(f"/players/{player}/{part}" for part in of_player),
        f"/log/{stay}/",
        f"/stays/{stay}/why/",
        "/review/",
        "/review/lately/",
        "/weeks/",
        "/floor/",
        "/floor/turns/",
        "/tests/",
        f"/test-days/{battery}/",
        "/ladders/",
        f"/ladders/{ladder}/",
        f"/ladders/{ladder}/steps/",
        "/drills/",
        f"/drills/{drill}/",
        "/insights/",
        "/own-decisions/",
        f"/squads/{squad}/progress/",
        "/club/",
        "/club/outbox/",
        "/club/history/",
        "/results.csv",
    ]


def rows_read(plan, found):
    """Adds what each scan of a plan read to found, by its table."""
    if "Relation Name" in plan:
        thrown = plan.get("Rows Removed by Filter", 0) + plan.get(
            "Rows Removed by Index Recheck", 0
        )
        found[plan["Relation Name"]] += (plan["Actual Rows"] + thrown) * plan["Actual Loops"]
    for part in plan.get("Plans", []):
        rows_read(part, found)


@contextmanager
def explained():
    """Table -> rows that were read for what is asked inside."""
    found = Counter()

    def ask(execute, sql, params, many, context):
        if sql.lstrip().upper().startswith("SELECT") and not many and "FOR UPDATE" not in sql:
            # a cursor of its own: what is read in portions has one that explains nothing
            with connection.connection.cursor() as plain:
                plain.execute(f"EXPLAIN (ANALYZE, FORMAT JSON) {sql}", params)
                answer = plain.fetchone()[0]
            told = json.loads(answer) if isinstance(answer, str) else answer
            rows_read(told[0]["Plan"], found)
        return execute(sql, params, many, context)

    with connection.execute_wrapper(ask):
        yield found


def read_by_each(owner, paths):
    client = Client()
    client.force_login(owner.user)
    with connection.cursor() as cursor:
        cursor.execute("ANALYZE")
        for way in ("seqscan", "mergejoin", "hashjoin"):
            cursor.execute(f"SET LOCAL enable_{way} = off")
    found = {}
    for path in paths:
        with explained() as rows:
            assert client.get(path).status_code == 200, path
        found[path] = rows
    return found


def test_no_page_reads_another_club(owner, db, monkeypatch):
    monkeypatch.setattr(Club, "today", lambda _: TODAY)
    paths = pages(owner.club)
    alone = read_by_each(owner, paths)
    lived_in("Beside")
    lived_in("And beside")
    beside = read_by_each(owner, paths)
    more = {}
    for path in paths:
        for table, rows in beside[path].items():
            was = alone[path][table]
            if table not in GROWING:
                continue
            if rows > 1.1 * was + SPARE:
                more[f"{path} {table}"] = (was, rows)
    assert more == {}
