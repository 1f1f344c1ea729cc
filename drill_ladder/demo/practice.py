"""The practice club: a few of the invented players, to try things without anybody real."""

from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import step, task
from drill_ladder.apps.people.models import Club, Guardian, Membership, Role
from drill_ladder.apps.records.practice_club import TASK, erase_practice
from drill_ladder.demo.load import fill
from drill_ladder.demo.people import STORIES

NAME = "Practice club"


@task(TASK)
def make(job: Job) -> None:
    """One player a step; the job says to which club it leads. An attempt that was cut off before is
    cleared away first.
    """
    for row in Membership.objects.of_user(job.by_id).filter(club__practice=True):
        erase_practice(row.club)
    club = Club.objects.create(
        name=NAME, practice=True, time_zone=job.club.time_zone, unit=job.club.unit
    )
    owner = Membership.objects.create(club=club, user=job.by, role=Role.OWNER)
    done = 0

    def tell(_: str) -> None:
        nonlocal done
        step(job, done=done, total=len(STORIES))
        done += 1

    fill(owner, club.today(), tell, STORIES)
    Guardian.objects.filter(club=club).update(email="")
    job.given = {**job.given, "club": club.pk}
    job.save(update_fields=["given"])
    step(job, done=len(STORIES), total=len(STORIES))
