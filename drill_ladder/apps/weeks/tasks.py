"""Long work on weeks: a whole squad planned or told."""

from collections.abc import Callable
from datetime import date

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import step, task
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.weeks.board import BEST_FOUND
from drill_ladder.apps.weeks.plan import WeekPlan
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.services import solve


def _players(job: Job) -> list[Player]:
    players = Player.objects.of_club(job.club).filter(prescriptions__status="active").distinct()
    squad = job.given.get("squad")
    return list((players.filter(squad_id=squad) if squad else players).order_by("pk"))


@task("weeks.solve")
def solve_weeks(job: Job) -> None:
    """Plan the week of every player of a squad; each week is stored as soon as it is planned."""
    _each(job, lambda member, player, monday: solve(member=member, player=player, monday=monday))


@task("weeks.publish")
def publish_weeks(job: Job) -> None:
    """Tell every player of a squad their week."""
    _each(
        job,
        lambda member, player, monday: publish(
            member=member, player=player, monday=monday, at=timezone.now()
        ),
    )


def _each(job: Job, act: Callable[[Membership, Player, date], WeekPlan]) -> None:
    """Done for one player after the other; whoever is refused is named with the reason, and the
    rest goes on.
    """
    member = Membership.objects.select_related("club", "user").get(club=job.club, user=job.by)
    players, monday = _players(job), date.fromisoformat(job.given["monday"])
    total = len(players)
    left = [player for player in players if player.pk > job.mark]
    for done, player in enumerate(left, total - len(left) + 1):
        # the week and how far the work is are stored together: whoever goes on does none twice
        with transaction.atomic():
            line = ""
            try:
                plan = act(member, player, monday)
                if not plan.proven:
                    line = f"{player}: {BEST_FOUND}"
            except Refused as error:
                line = f"{player}: {error}"
            step(job, done, total, line, player.pk)
