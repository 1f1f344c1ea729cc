"""`./ladder demo` on a database of an earlier version: it is brought up to date, and everything
entered is still there.

The dump is the demo club as the version of 26 November 2026 left it (commit a6a48cf), after an
evening's work on it.
"""

import gzip
import os
import subprocess
import sys
from pathlib import Path

import psycopg
import pytest
from django.conf import settings
from psycopg import sql

ROOT = Path(__file__).resolve().parents[2]
DUMP = Path(__file__).with_name("dumps") / "before_rooms.sql.gz"
MOVED = {
    "prescriptions_week": "weeks_week",
    "prescriptions_plannedblock": "weeks_plannedblock",
    "prescriptions_placing": "prescriptions_placement",
    "practice_groupsession": "floor_groupsession",
}
NEW = {"practice_judgedday"}
# empty in what an earlier version kept
NEW |= {"library_routine", "library_routinepart", "prescriptions_playerroutine"}
NEW |= {"card_report", "library_strainlimit", "floor_hallday", "floor_floortap"}
NEW |= {"floor_protocol", "floor_battery", "floor_battery_protocols", "floor_trial"}
NEW |= {"people_agreement", "outbox_message", "outbox_mailsettings", "outbox_mailaddress"}
NEW |= {"outbox_localmail", "records_retention", "records_receipt"}
NEW |= {"people_squadduty", "people_invitation", "people_foundingcode"}
NEW |= {"mfa_authenticator", "usersessions_usersession"}
NEW |= {"floor_gatemessage", "floor_gatecall", "people_accesstoken", "floor_challenge"}
KINDS = {
    "prescriptions.week": "weeks.week",
    "prescriptions.placing": "prescriptions.placement",
    "practice.groupsession": "floor.groupsession",
}
OF_DJANGO = (
    "django_migrations",
    "django_content_type",
    "auth_permission",
    "django_session",
    "cache",
)
# every stored document is read into its value, as the pages would
READ_ALL = """
from django.apps import apps
from drill_ladder.apps.stored import ValueField
read = 0
for model in apps.get_models():
    names = [f.attname for f in model._meta.fields if isinstance(f, ValueField)]
    for row in model._default_manager.all():
        read += sum(getattr(row, name) is not None for name in names)
print(read)
"""


@pytest.fixture
def old(db):
    """The address of a database of its own that holds the dump, and a connection to it."""
    given = settings.DATABASES["default"]
    at = {
        "host": given["HOST"],
        "port": given["PORT"],
        "user": given["USER"],
        "password": given["PASSWORD"],
    }
    name = f"upgrade_{os.getpid()}"
    with psycopg.connect(**at, dbname="postgres", autocommit=True) as boss:
        boss.execute(sql.SQL("DROP DATABASE IF EXISTS {}").format(sql.Identifier(name)))
        boss.execute(sql.SQL("CREATE DATABASE {}").format(sql.Identifier(name)))
        try:
            with psycopg.connect(**at, dbname=name, autocommit=True) as connection:
                connection.execute(gzip.decompress(DUMP.read_bytes()))  # type: ignore[arg-type]
                connection.execute("SET search_path TO public")
                yield (
                    "postgresql://{user}:{password}@{host}:{port}/".format(**at) + name,
                    connection,
                )
        finally:
            boss.execute(sql.SQL("DROP DATABASE {} WITH (FORCE)").format(sql.Identifier(name)))


def manage(address, *words):
    """A management command on that database, as ./ladder demo runs it."""
    more = {
        "DATABASE_URL": address,
        "SECRET_KEY": "x",
        "DJANGO_SETTINGS_MODULE": "drill_ladder.web.settings.dev",
    }
    command = [sys.executable, "-W", "ignore", "manage.py", *words]
    return subprocess.run(
        command, cwd=ROOT, env={**os.environ, **more}, check=True, capture_output=True, text=True
    )


def contents(connection):
    """Table -> its rows as JSON, by their ids."""
    found = connection.execute(
        "SELECT tablename FROM pg_tables WHERE schemaname = 'public' ORDER BY 1"
    )
    tables = [
        name for (name,) in found if name not in OF_DJANGO and not name.startswith("procrastinate")
    ]
    ask = sql.SQL("SELECT to_jsonb(t) FROM {} t")
    return {
        name: {
            str(row["id"]): row for (row,) in connection.execute(ask.format(sql.Identifier(name)))
        }
        for name in tables
    }


def judged_before(before):
    """Stay -> the days on which its last proposal rested, as that proposal kept them then."""
    last = {}
    for row in sorted(before["review_proposal"].values(), key=lambda row: row["id"]):
        last[row["stay_id"]] = row["said"].pop("verdicts")
    return {
        stay: [(day["on"], day["verdict"], day["score"], day["lanes"]) for day in days]
        for stay, days in last.items()
    }


def judged_after(after):
    """The same days as rows."""
    found = {}
    rows = [row for row in after["practice_judgedday"].values() if not row["recheck"]]
    for row in sorted(rows, key=lambda row: row["on"]):
        day = (row["on"], row["verdict"], row["score"], row["lanes"])
        found.setdefault(row["stay_id"], []).append(day)
    return found


def test_everything_entered_is_still_there(old):
    address, connection = old
    before = contents(connection)
    assert (len(before["practice_session"]), len(before["library_rung"])) == (397, 47)
    said = manage(address, "begin", "--demo").stdout
    assert "of 24" not in said  # the club is there: nothing is made a second time
    after = contents(connection)
    judged = judged_after(after)
    for stay, days in judged_before(before).items():
        assert judged[stay][: len(days)] == days  # later ones are checks of a rung that was left
    lost = []
    for table, rows in before.items():
        for pk, row in rows.items():
            row["kind"] = (
                KINDS.get(row["kind"], row["kind"]) if table == "history_event" else row.get("kind")
            )
            now = after[MOVED.get(table, table)].get(pk, {})
            lost += [(table, pk, key) for key, value in row.items() if now.get(key) != value]
    assert lost == []
    assert {MOVED.get(name, name) for name in before} | NEW == set(after)
    # ... and what is stored can be read: terms, rules, measures, plans, told blocks, decisions
    assert int(manage(address, "shell", "-v", "0", "-c", READ_ALL).stdout) == 808 + 3 * len(
        after["practice_judgedday"]
    )
