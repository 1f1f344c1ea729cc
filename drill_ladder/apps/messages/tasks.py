"""What the workers do by themselves: reminders, on each club's own clock; mail that was left."""

from datetime import timedelta

from django.utils.timezone import now
from procrastinate.contrib.django import app as queue

from drill_ladder.apps.messages.posting import hand_over_left
from drill_ladder.apps.messages.reminders import remind_all

LEFT = timedelta(minutes=1)


@queue.periodic(cron="23 * * * *")
@queue.task(name="remind", queue="jobs", queueing_lock="remind")
def remind(timestamp: int) -> None:
    """Every hour; each club and player decides whether it is one of theirs."""
    remind_all(now())


@queue.periodic(cron="* * * * *")
@queue.task(name="mail_left", queue="jobs", queueing_lock="mail_left")
def mail_left(timestamp: int) -> None:
    """Nothing that waits is forgotten, whatever was killed; what was to wait goes when due."""
    hand_over_left(now() - LEFT, now())
