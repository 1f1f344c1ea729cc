"""Running long work beside the requests (docs/decisions/004)."""

from collections.abc import Callable
from datetime import timedelta
from functools import partial
from threading import Thread
from typing import Any

from django.conf import settings
from django.db import connection, transaction
from django.utils import timezone

from drill_ladder.apps.jobs.models import Job, State

SILENT = timedelta(minutes=2)
# name -> the work; a task gets its job and tells how far it is with `step`
TASKS: dict[str, Callable[[Job], None]] = {}


def task(name: str) -> Callable[[Callable[[Job], None]], Callable[[Job], None]]:
    """Make a function known under a name."""

    def known(work: Callable[[Job], None]) -> Callable[[Job], None]:
        TASKS[name] = work
        return work

    return known


def start(*, member: Any, name: str, label: str, arguments: dict[str, Any], back: str = "") -> Job:
    """A job that begins as soon as the request's own changes are stored."""
    job = Job.objects.create(
        club=member.club, by=member.user, name=name, label=label, given=arguments, back=back
    )
    if settings.JOBS_INLINE:
        run(job.pk)
    else:
        transaction.on_commit(partial(_beside, job.pk))
    return job


def _beside(pk: int) -> None:
    Thread(target=_run_and_close, args=(pk,), daemon=True).start()


def _run_and_close(pk: int) -> None:
    try:
        run(pk)
    finally:
        connection.close()


def run(pk: int) -> None:
    """Do the work. Whatever goes wrong ends in the job's row, never in silence."""
    job = Job.objects.get(pk=pk)
    job.state = State.RUNNING
    job.save()
    try:
        TASKS[job.name](job)
    except Exception:
        job.state = State.FAILED
        job.lines = [*job.lines, "It stopped before the end; what was finished until then is kept."]
        job.save()
        raise
    job.state = State.DONE
    job.save()


def step(job: Job, done: int, total: int, line: str = "") -> None:
    """How far the work is, and a line to tell."""
    job.done, job.total = done, total
    if line:
        job.lines = [*job.lines, line]
    job.save()


def as_seen(job: Job) -> Job:
    """The job as a page shows it: one that was silent for two minutes was cut off with its server.
    Stores nothing.
    """
    if not job.over and timezone.now() - job.beat_at > SILENT:
        job.state = State.FAILED
        job.lines = [
            *job.lines,
            "It was cut off; what was finished until then is kept. Start it again.",
        ]
    return job
