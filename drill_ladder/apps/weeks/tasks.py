"""Long work on weeks: a whole squad planned or told."""

from collections.abc import Iterator, Sequence
from datetime import date
from functools import partial

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import step, task
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.weeks.many import Line, publish_many, solve_ahead, store_solved

AT_ONCE = 100
SHOWN = 10  # so many are planned between two looks at how far the work is


@task("weeks.solve")
def solve_weeks(job: Job) -> None:
    """Plan the week of every player of a squad: nobody waits for the solver, and what it found for
    some of them is stored together.
    """
    member, monday = _by(job), _monday(job)
    for before, players in _groups(job):
        solved = solve_ahead(players, monday, partial(_show, job, before))
        with transaction.atomic():
            try:
                lines = store_solved(member, players, monday, solved)
            except Refused as error:
                lines = [(player, str(error)) for player in players]
            _stored(job, before, players, lines)


@task("weeks.publish")
def publish_weeks(job: Job) -> None:
    """Tell every player of a squad their week."""
    member, monday = _by(job), _monday(job)
    for before, players in _groups(job):
        with transaction.atomic():
            try:
                lines = publish_many(member, players, monday, timezone.now())
            except Refused as error:
                lines = [(player, str(error)) for player in players]
            _stored(job, before, players, lines)


def _show(job: Job, before: int, done: int) -> None:
    if done % SHOWN == 0:
        step(job, before + done, job.total)


def _by(job: Job) -> Membership:
    return Membership.objects.select_related("club", "user").get(club=job.club, user=job.by)


def _monday(job: Job) -> date:
    return date.fromisoformat(job.given["monday"])


def _groups(job: Job) -> Iterator[tuple[int, list[Player]]]:
    """Who is left to do, some at a time, with how many are done before them."""
    active = Player.objects.of_club(job.club).on_ladders(job.given.get("squad")).with_days()
    players = list(active.order_by("pk"))
    job.total = len(players)
    first = sum(player.pk <= job.mark for player in players)
    for before in range(first, len(players), AT_ONCE):
        yield before, players[before : before + AT_ONCE]


def _stored(job: Job, before: int, players: Sequence[Player], lines: Sequence[Line]) -> None:
    """The weeks and how far the work is are stored together: whoever goes on does none twice."""
    said = [f"{player}: {line}" for player, line in lines]
    step(job, before + len(players), job.total, *said, mark=players[-1].pk)
