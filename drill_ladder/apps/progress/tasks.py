"""Long work of looking back: the reports of a whole squad."""

from datetime import date

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import step, task
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.progress.player import SPAN
from drill_ladder.apps.progress.report import draft_report, publish_report


@task("progress.reports")
def write_reports(job: Job) -> None:
    """One after the other, each stored as soon as it is written."""
    member = Membership.objects.select_related("club", "user").get(club=job.club, user=job.by)
    players = list(Player.objects.of_club(job.club).of_squad(job.given["squad"]).order_by("pk"))
    today = member.club.today()
    for done, player in enumerate(players, 1):
        if player.pk <= job.mark:
            continue
        with transaction.atomic():
            line = _one(member, player, job.given["publish"], today)
            step(job, done, len(players), line, mark=player.pk)


def _one(member: Membership, player: Player, tell: bool, today: date) -> str:
    try:
        if tell:
            return f"{player}: {_told(member, player, today)}"
        draft_report(member=member, player=player, on=today, since=today - SPAN)
    except Refused as error:
        return f"{player}: {error}"
    return f"{player}: drafted"


def _told(member: Membership, player: Player, today: date) -> str:
    """Publish today's draft as it stands, to the word."""
    report = Report.objects.of_player(player).filter(on=today).first()
    if report is None:
        return "not drafted yet today, so nothing is told"
    if report.published_at is None:
        publish_report(member=member, report=report, at=timezone.now())
    return "told"
