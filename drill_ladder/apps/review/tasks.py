"""The night's work on the workers' clock: every few minutes they ask which club's day has begun."""

from procrastinate.contrib.django import app as queue

from drill_ladder.apps.review.night import all_clubs, learn_of_all


@queue.periodic(cron="*/5 * * * *")
@queue.task(name="night", queue="jobs", queueing_lock="night")
def night(timestamp: int) -> None:
    """Each club's day begins at its own midnight."""
    all_clubs()


@queue.periodic(cron="*/5 * * * *")
@queue.task(name="learn", queue="jobs", queueing_lock="learn")
def learn(timestamp: int) -> None:
    """Once a day, and after fifty new days."""
    learn_of_all()
