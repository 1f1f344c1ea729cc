"""What the workers do: what a club does not keep any longer, and the whole of it as a file."""

from django.utils import timezone
from django.utils.text import slugify
from procrastinate.contrib.django import app as queue

from drill_ladder.apps.history.services import record
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import keep_file, step, task
from drill_ladder.apps.records.archive import archive_of
from drill_ladder.apps.records.backups import backup, folder, name_at, rotate
from drill_ladder.apps.records.documents import read_all
from drill_ladder.apps.records.keeping import retain_all


@queue.periodic(cron="47 3 * * *")
@queue.task(name="retain", queue="jobs", queueing_lock="retain")
def retain(timestamp: int) -> None:
    """Once a night."""
    retain_all()


@queue.periodic(cron="21 4 * * *")
@queue.task(name="documents", queue="jobs", queueing_lock="documents")
def read_documents(timestamp: int) -> None:
    """Every night a share of what is stored, all of it within a week."""
    read_all()


@queue.periodic(cron="7 2 * * *")
@queue.task(name="backup", queue="jobs", queueing_lock="backup", retry=2)
def back_up(timestamp: int) -> None:
    """Every night, where a folder is set; older ones are rotated away."""
    place = folder()
    if place is not None:
        backup(place / name_at(timezone.localtime()))
        rotate(place)


@task("records.archive")
def archive(job: Job) -> None:
    """The whole club as one file, kept for a day."""
    step(job, 0, 1, "Everything is read as of one moment.")
    file = archive_of(job.club)
    keep_file(job, file, f"{slugify(job.club.name) or 'club'}.zip")
    step(job, 1, 1, f"{len(file) / 1e6:.1f} MB. It is kept for a day.")
    record(club_id=job.club_id, actor=job.by, verb="exported", subject=job.club, what="the club")
