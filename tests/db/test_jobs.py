"""Long work: told how far it is, kept when it fails, and cut off work says so."""

from datetime import timedelta
from time import monotonic, sleep

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.jobs import services
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.weeks.models import Week
from tests import make


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


def test_silent_work_was_cut_off(w, works):
    job = Job.objects.create(club=w.club, by=w.coach.user, name="fine", label="x", state="running")
    assert services.as_seen(job).state == "running"
    Job.objects.update(beat_at=timezone.now() - timedelta(minutes=3))
    seen = services.as_seen(Job.objects.get())
    assert seen.state == "failed"
    assert "Start it again" in seen.lines[0]
    assert Job.objects.get().state == "running"  # looking stores nothing


@pytest.mark.django_db(transaction=True)
def test_beside_the_request(settings):
    """In a thread of its own, as in production: begun after the request's changes are stored, and
    then done.
    """
    settings.JOBS_INLINE = False
    w = make.world()
    make.put_on(w)
    client = Client()
    client.force_login(w.coach.user)
    answer = client.post("/weeks/solve/", {"of": "2026-03-02"})
    until = monotonic() + 20
    while not Job.objects.get().over and monotonic() < until:
        sleep(0.05)
    assert Job.objects.get().state == "done"
    assert answer.headers["Location"] == f"/jobs/{Job.objects.get().pk}/"
    assert Week.objects.get().player == w.player
