"""Long work: told how far it is, kept when it fails, and cut off work says so."""

import os
import subprocess
import sys
from datetime import date, timedelta
from pathlib import Path
from time import monotonic, sleep

import pytest
from django.db import OperationalError, connection, transaction
from django.test import Client
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.jobs import services
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.progress.report import draft_reports
from tests import make

ROOT = Path(__file__).resolve().parents[2]


@pytest.fixture
def works(monkeypatch):
    """Two tasks of our own."""

    def fine(job):
        for n in (1, 2, 3):
            services.step(job, n, 3, "half-way" if n == 2 else "")

    def broken(job):
        services.step(job, 1, 3)
        raise ZeroDivisionError

    monkeypatch.setattr(services, "TASKS", {"fine": fine, "broken": broken})


def begin(w, name):
    return services.start(member=w.coach, name=name, label=name, arguments={}, back="/weeks/")


def test_done_with_what_it_had_to_say(w, works):
    job = Job.objects.get(pk=begin(w, "fine").pk)
    assert (job.state, job.done, job.total, job.percent, job.lines) == (
        "done",
        3,
        3,
        100,
        ["half-way"],
    )
    client = Client()
    client.force_login(w.coach.user)
    page = client.get(f"/jobs/{job.pk}/").content.decode()
    assert "3 of 3" in page
    assert 'href="/weeks/"' in page
    assert "hx-get" not in page


def test_what_failed_is_told_and_what_was_done_is_kept(w, works):
    with pytest.raises(ZeroDivisionError):
        begin(w, "broken")
    job = Job.objects.get()
    assert (job.state, job.done) == ("failed", 1)
    assert "what was finished until then is kept" in job.lines[0]


def test_silent_work_was_cut_off_and_goes_on(w, works):
    job = Job.objects.create(club=w.club, by=w.coach.user, name="fine", label="x", state="running")
    assert services.as_seen(job).lines == []
    Job.objects.update(beat_at=timezone.now() - timedelta(minutes=3))
    seen = services.as_seen(Job.objects.get())
    assert (seen.state, seen.over) == ("running", False)
    assert "It goes on by itself" in seen.lines[0]
    assert Job.objects.get().lines == []  # looking stores nothing
    Job.objects.update(state="waiting")
    assert "No worker has taken it up yet" in services.as_seen(Job.objects.get()).lines[0]


def test_the_same_work_is_begun_once_while_it_is_under_way(w, works, settings):
    settings.JOBS_INLINE = False
    first = begin(w, "fine")
    assert begin(w, "fine").pk == first.pk
    other = services.start(member=w.coach, name="fine", label="x", arguments={"squad": 1})
    assert other.pk != first.pk
    assert set(ProcrastinateJob.objects.values_list("lock", flat=True)) == {
        f"fine of club {w.club.pk}"
    }


def test_what_a_lost_attempt_still_does_is_not_stored(w, works, monkeypatch):
    """A worker that seemed to be gone comes back while another one has its work."""

    def slow(job):
        if job.attempt == 1:
            services.step(job, 1, 3, mark=7)
            services.run(job.pk)
            services.step(job, 2, 3)
        else:
            assert job.mark == 7
            services.step(job, 3, 3)

    monkeypatch.setattr(services, "TASKS", {"fine": slow})
    begin(w, "fine")
    job = Job.objects.get()
    assert (job.state, job.done, job.attempt) == ("done", 3, 2)


def test_a_database_that_is_away_for_a_moment_is_tried_again(w, works, monkeypatch):
    def away(job):
        raise OperationalError("gone")

    monkeypatch.setattr(services, "TASKS", {"fine": away})
    job = Job.objects.create(club=w.club, by=w.coach.user, name="fine", label="x")
    with pytest.raises(OperationalError):
        services.run(job.pk, last=False)
    assert Job.objects.get().state == "running"
    with pytest.raises(OperationalError):
        services.run(job.pk, last=True)
    assert Job.objects.get().state == "failed"


@pytest.fixture
def worker():
    """Starts workers on the test's own database; ends those that are left."""
    begun = []

    def start():
        given = connection.settings_dict
        address = "postgresql://{USER}:{PASSWORD}@{HOST}:{PORT}/{NAME}".format(**given)
        more = {"DATABASE_URL": address, "SECRET_KEY": "x", "WORKER_LOST_S": "2"}
        more["DJANGO_SETTINGS_MODULE"] = "drill_ladder.web.settings.dev"
        command = [sys.executable, "-W", "ignore", "manage.py", "worker", "--grace", "1"]
        begun.append(subprocess.Popen(command, cwd=ROOT, env={**os.environ, **more}))
        return begun[-1]

    yield start
    for process in begun:
        process.kill()
        process.wait()


def wait(until, seconds=60):
    end = monotonic() + seconds
    while not until() and monotonic() < end:
        sleep(0.02)
    assert until()


@pytest.mark.django_db(transaction=True)
def test_a_killed_workers_job_is_taken_up_and_nothing_is_done_twice(settings, worker):
    settings.JOBS_INLINE = False
    w = make.world()
    squad = Squad.objects.create(club=w.club, name="Sixty")
    made = {"club": w.club, "squad": squad, "joined_on": date(2026, 1, 1)}
    players = [Player.objects.create(name=f"P{n:02}", **made) for n in range(60)]
    on = w.club.today()
    draft_reports(member=w.coach, players=players, on=on, since=date(2026, 1, 1))
    client = Client()
    client.force_login(w.coach.user)
    answer = client.post("/reports/", {"squad": squad.pk, "publish": "yes"})
    job = Job.objects.get()
    assert answer.headers["Location"] == f"/jobs/{job.pk}/"
    assert job.state == "waiting"  # no worker yet: it waits, and is not lost
    with transaction.atomic():
        # it cannot get past one of the second group before it is killed
        Report.objects.select_for_update().get(player=players[30])
        first = worker()
        wait(lambda: Job.objects.get().done >= 25)
        first.kill()
        first.wait()
    assert Job.objects.get().done == 25
    worker()
    wait(lambda: Job.objects.get().over)
    job.refresh_from_db()
    assert (job.state, job.done, job.total, job.attempt) == ("done", 60, 60, 2)
    assert not Report.objects.filter(published_at=None).exists()
    told = list(Event.objects.filter(verb="published a report").values_list("row_id", flat=True))
    assert (len(told), len(set(told))) == (60, 60)
