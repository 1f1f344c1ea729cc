"""Long work of looking back: the reports of a whole squad."""

from collections.abc import Sequence
from datetime import date

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import step, task
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.progress.player import SPAN
from drill_ladder.apps.progress.report import draft_reports, publish_reports

AT_ONCE = 25  # players whose record of twelve weeks is read together


@task("progress.reports")
def write_reports(job: Job) -> None:
    """Some at a time, stored with how far the work is."""
    member = Membership.objects.select_related("club", "user").get(club=job.club, user=job.by)
    players = list(Player.objects.of_club(job.club).of_squad(job.given["squad"]).order_by("pk"))
    today = member.club.today()
    first = sum(player.pk <= job.mark for player in players)
    for before in range(first, len(players), AT_ONCE):
        group = players[before : before + AT_ONCE]
        with transaction.atomic():
            said = _some(member, group, job.given["publish"], today)
            lines = [f"{player}: {said[player.pk]}" for player in group]
            step(job, before + len(group), len(players), *lines, mark=group[-1].pk)


def _some(member: Membership, players: Sequence[Player], tell: bool, today: date) -> dict[int, str]:
    """Player -> what became of their report: drafted, or today's draft told as it stands."""
    try:
        if tell:
            told = publish_reports(member=member, players=players, on=today, at=timezone.now())
            return {
                player.pk: "told"
                if player.pk in told
                else "not drafted yet today, so nothing is told"
                for player in players
            }
        draft_reports(member=member, players=players, on=today, since=today - SPAN)
    except Refused as error:
        return dict.fromkeys((player.pk for player in players), str(error))
    return dict.fromkeys((player.pk for player in players), "drafted")
