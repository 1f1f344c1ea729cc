"""What the workers do by themselves: reminders, on each club's own clock."""

from procrastinate.contrib.django import app as queue

from drill_ladder.apps.messages.reminders import now, remind_all


@queue.periodic(cron="23 * * * *")
@queue.task(name="remind", queue="jobs", queueing_lock="remind")
def remind(timestamp: int) -> None:
    """Every hour; each club and player decides whether it is one of theirs."""
    remind_all(now())
