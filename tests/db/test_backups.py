"""Backups: good only once restored, rotated, warned about; and whether it is alive and ready."""

import json
import logging
import os
import subprocess
import sys
from datetime import datetime, timedelta
from pathlib import Path

import pytest
from django.core.management import CommandError, call_command
from django.db import connection
from django.db.migrations.recorder import MigrationRecorder
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.records import backups
from drill_ladder.web.logs import JsonFormatter
from tests.make import text, world

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def stored(transactional_db):
    """A club that other connections see."""
    return world()


def databases():
    with connection.cursor() as cursor:
        cursor.execute("SELECT datname FROM pg_database WHERE datname LIKE %s", ["%_check_%"])
        return cursor.fetchall()


def test_a_backup_is_restored_for_a_trial_and_rows_are_counted(stored, tmp_path, capsys):
    file = tmp_path / "all.dump"
    call_command("backup", file)
    told = capsys.readouterr().out
    assert "Good:" in told
    assert file.stat().st_mode & 0o077 == 0
    found = backups.check(file)
    assert found.rows["people_player"] == Player.objects.count()
    assert found.rows["history_event"] > 0
    assert databases() == []
    call_command("backup", file, check=True)


def test_a_damaged_file_is_no_backup_and_restores_nothing(stored, tmp_path):
    file = tmp_path / "all.dump"
    backups.backup(file)
    data = bytearray(file.read_bytes())
    file.write_bytes(data[: len(data) // 2])
    with pytest.raises(CommandError, match="no good backup"):
        call_command("backup", file, check=True)
    with pytest.raises(CommandError, match="Nothing was restored"):
        call_command("restore", file)
    file.write_bytes(b"no dump")
    with pytest.raises(CommandError, match="Nothing was restored"):
        call_command("restore", file)
    with pytest.raises(CommandError, match="is not there"):
        call_command("restore", tmp_path / "none.dump")
    assert databases() == []
    assert Club.objects.filter(pk=stored.club.pk).exists()


def test_restored_it_is_as_it_was_and_what_was_there_is_kept(stored, tmp_path, capsys):
    file = tmp_path / "all.dump"
    backups.backup(file)
    Player.objects.update(name="Changed since")
    call_command("restore", file)
    told = capsys.readouterr().out
    before = told.rpartition(" kept as ")[2].strip().rstrip(".")
    try:
        assert Player.objects.get(pk=stored.player.pk).name == "Ida Marlow"
        assert Client().get("/ready/").json() == {"ready": True}
    finally:
        backups._drop(before)


def test_a_dump_that_fails_leaves_the_last_one(stored, tmp_path, monkeypatch):
    file = tmp_path / "all.dump"
    file.write_bytes(b"the last one")

    def broken(name, *words, database=""):
        raise backups.NotBackedUp("the disk is full")

    monkeypatch.setattr(backups, "_run", broken)
    with pytest.raises(backups.NotBackedUp):
        backups.backup(file)
    assert file.read_bytes() == b"the last one"
    assert list(tmp_path.iterdir()) == [file]


def test_days_weeks_and_months_are_kept_and_no_more(tmp_path):
    first = datetime(2025, 1, 1, 2, 7)
    moments = [first + timedelta(days=n) for n in range(600)]
    for moment in moments:
        (tmp_path / backups.name_at(moment)).touch()
    (tmp_path / "my own.dump").touch()
    gone = backups.rotate(tmp_path)
    left = [moment for moment, _ in backups.backups(tmp_path)]
    assert left[:7] == moments[:-8:-1]
    assert len({f"{moment:%G-%V}" for moment in left}) >= 5
    assert len({f"{moment:%Y-%m}" for moment in left}) == 12
    assert len(left) <= 7 + 5 + 12
    assert len(gone) + len(left) == 600
    assert (tmp_path / "my own.dump").exists()
    assert backups.rotate(tmp_path) == []


def test_the_desk_warns_where_the_last_good_one_is_old(w, coach, tmp_path, settings):
    assert "backup" not in text(coach.get("/"))
    settings.BACKUP_DIR = str(tmp_path)
    assert "There is no good backup yet" in text(coach.get("/"))
    now = timezone.localtime().replace(tzinfo=None)
    (tmp_path / backups.name_at(now - timedelta(days=5))).touch()
    assert "The last good backup is of" in text(coach.get("/"))
    (tmp_path / backups.name_at(now - timedelta(hours=20))).touch()
    assert "backup" not in text(coach.get("/"))


def test_alive_ready_and_figures(w, settings, tmp_path):
    client = Client()
    assert client.get("/health/").content == b"alive\n"
    assert client.get("/ready/").json() == {"ready": True}
    assert client.get("/metrics/").status_code == 401
    settings.METRICS_TOKEN, settings.BACKUP_DIR = "open", str(tmp_path)
    assert client.get("/metrics/", headers={"Authorization": "Bearer wrong"}).status_code == 401
    answer = client.get("/metrics/", headers={"Authorization": "Bearer open"})
    told = text(answer)
    assert "ladder_clubs 1.0" in told
    assert "ladder_backup_age_seconds +Inf" in told
    assert 'ladder_request_seconds_count{address="ready/"' in told
    assert w.token not in told


def test_settings_for_the_world_pass_the_framework_s_own_check():
    told = {
        "PATH": os.environ["PATH"],
        "DJANGO_SETTINGS_MODULE": "drill_ladder.web.settings.prod",
        "SECRET_KEY": "k" * 20 + "0123456789abcdefghijklmnopqrstuvwxyz",
        "ALLOWED_HOSTS": "drills.example.org",
        "DATABASE_URL": "postgresql://a:b@127.0.0.1/x",
    }
    words = [sys.executable, "manage.py", "check", "--deploy", "--fail-level", "WARNING"]
    done = subprocess.run(words, env=told, cwd=ROOT, capture_output=True, text=True, check=False)
    assert done.returncode == 0, done.stderr


def test_a_line_of_json_holds_no_secret(w):
    record = logging.LogRecord(
        "x", logging.ERROR, "f", 1, "went wrong at /join/%s/?name=Ida", (w.token,), None
    )
    told = json.loads(JsonFormatter().format(record))
    assert told["level"] == "ERROR"
    assert w.token not in told["message"]
    assert "Ida" not in told["message"]


def test_ready_knows_a_version_by_one_question(db, django_assert_num_queries):
    """And is not ready where the last migration of an app was not done."""
    client = Client()
    client.get("/ready/")  # the files are read once
    with django_assert_num_queries(1):
        assert client.get("/ready/").json() == {"ready": True}
    last = MigrationRecorder.Migration.objects.filter(app="practice").latest("id")
    last.delete()
    answer = client.get("/ready/")
    assert answer.status_code == 503
    assert answer.json() == {"ready": False, "why": "migrations to do in 1 app"}
