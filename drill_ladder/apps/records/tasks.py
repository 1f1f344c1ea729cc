"""What the workers do at night: what a club does not keep any longer."""

from procrastinate.contrib.django import app as queue

from drill_ladder.apps.records.retention import retain_all


@queue.periodic(cron="47 3 * * *")
@queue.task(name="retain", queue="jobs", queueing_lock="retain")
def retain(timestamp: int) -> None:
    """Once a night."""
    retain_all()
