"""What the workers do by themselves: take up what a killed one left, and tidy."""

from datetime import timedelta

from django.conf import settings
from django.core.management import call_command
from django.utils import timezone
from procrastinate.contrib.django import app as queue

from drill_ladder.apps.jobs.models import Job

KEPT_HOURS = 72
FILES_KEPT = timedelta(days=1)


@queue.periodic(cron="* * * * * */10")
@queue.task(name="take_up", queue="jobs", queueing_lock="take_up")
async def take_up(timestamp: int) -> None:
    """Give the work of a worker that is gone to another one."""
    lost = await queue.job_manager.get_stalled_jobs(seconds_since_heartbeat=settings.WORKER_LOST_S)
    for job in lost:
        await queue.job_manager.retry_job(job)


@queue.periodic(cron="17 3 * * *")
@queue.task(name="tidy", queue="jobs", queueing_lock="tidy")
def tidy(timestamp: int) -> None:
    """Sessions that have run out, and what long work made and nobody needs any more."""
    call_command("clearsessions")
    old = Job.objects.made_before(timezone.now() - FILES_KEPT)
    old.update(file=None, file_name="")


@queue.periodic(cron="27 3 * * *")
@queue.task(name="forget", queue="jobs", queueing_lock="forget")
async def forget(timestamp: int) -> None:
    """The queue's list of what was done, after three days."""
    await queue.job_manager.delete_old_jobs(KEPT_HOURS)
