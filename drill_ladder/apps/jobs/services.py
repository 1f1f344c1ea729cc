"""Running long work beside the requests, by a queue in the database (docs/decisions/011)."""

from collections.abc import Callable
from datetime import timedelta
from typing import Any

from django.conf import settings
from django.db import InterfaceError, OperationalError, transaction
from django.utils import timezone
from procrastinate import JobContext, RetryStrategy
from procrastinate.contrib.django import app as queue

from drill_ladder.apps.jobs.models import Job, State

SILENT = timedelta(minutes=2)
SILENT_WORDS: dict[str, str] = {
    State.WAITING: "No worker has taken it up yet. It begins by itself as soon as one does.",
    State.RUNNING: "It was cut off; what was finished until then is kept. It goes on by itself.",
}
ATTEMPTS = 4
# what another attempt may mend; anything else is a fault of ours, and would be one again
PASSING = (OperationalError, InterfaceError)
# name -> the work; a task gets its job and tells how far it is with `step`
TASKS: dict[str, Callable[[Job], None]] = {}


class TakenOver(Exception):
    """Another attempt has begun this work: what this one was doing is not stored."""


def task(name: str) -> Callable[[Callable[[Job], None]], Callable[[Job], None]]:
    """Make a function known under a name."""

    def known(work: Callable[[Job], None]) -> Callable[[Job], None]:
        TASKS[name] = work
        return work

    return known


def start(*, member: Any, name: str, label: str, arguments: dict[str, Any], back: str = "") -> Job:
    """A job that begins as soon as the request's own changes are stored. One that waits or runs
    with the same arguments is not begun twice; others of its kind in the club wait for each other.
    """
    alike = Job.objects.of_club(member.club).under_way().filter(name=name, given=arguments)
    with transaction.atomic():
        alike_row = alike.first()
        if alike_row is not None:
            return alike_row
        job = Job.objects.create(
            club=member.club, by=member.user, name=name, label=label, given=arguments, back=back
        )
        if not settings.JOBS_INLINE:
            work_on.configure(lock=f"{name} of club {job.club_id}").defer(job=job.pk)
    if settings.JOBS_INLINE:
        run(job.pk)
    return job


@queue.task(
    name="work_on",
    queue="jobs",
    pass_context=True,
    retry=RetryStrategy(max_attempts=ATTEMPTS, exponential_wait=3, retry_exceptions=list(PASSING)),
)
def work_on(context: JobContext, job: int) -> None:
    """What a worker is given."""
    run(job, last=context.job.attempts + 1 >= ATTEMPTS)


def run(pk: int, last: bool = True) -> None:
    """Do the work, or the rest of it. Whatever goes wrong ends in the job's row, never in silence.

    last: what fails now is not tried again.
    """
    job = _begun(pk)
    if job is None:
        return
    try:
        TASKS[job.name](job)
    except TakenOver:
        return
    except Exception as error:
        if last or not isinstance(error, PASSING):
            _failed(job)
        raise
    _of(job).update(state=State.DONE, beat_at=timezone.now())


@transaction.atomic
def _begun(pk: int) -> Job | None:
    """The job, begun once more; None where it is over."""
    job = Job.objects.select_for_update().get(pk=pk)
    if job.over:
        return None
    job.attempt, job.state = job.attempt + 1, State.RUNNING
    job.save()
    return job


def _of(job: Job) -> Any:
    """The row, as long as no other attempt has begun it."""
    return Job.objects.filter(pk=job.pk, attempt=job.attempt)


def _failed(job: Job) -> None:
    line = "It stopped before the end; what was finished until then is kept."
    _of(job).update(state=State.FAILED, lines=[*job.lines, line], beat_at=timezone.now())


def step(job: Job, done: int, total: int, *lines: str, mark: int = 0) -> None:
    """How far the work is, and lines to tell; in one transaction with what was done, so that
    nothing is done twice. Raises TakenOver.
    """
    job.done, job.total, job.mark = done, total, mark or job.mark
    job.lines = [*job.lines, *filter(None, lines)]
    state = {"done": done, "total": total, "mark": job.mark, "lines": job.lines}
    if not _of(job).update(**state, beat_at=timezone.now()):
        raise TakenOver


def keep_file(job: Job, file: bytes, name: str) -> None:
    """What the work made, for a day. Raises TakenOver."""
    if not _of(job).update(file=file, file_name=name, beat_at=timezone.now()):
        raise TakenOver


def as_seen(job: Job) -> Job:
    """The job as a page shows it: one that was silent for two minutes lost its worker, and goes on
    with the next one. Stores nothing.
    """
    if not job.over and timezone.now() - job.beat_at > SILENT:
        job.lines = [*job.lines, SILENT_WORDS[job.state]]
    return job
