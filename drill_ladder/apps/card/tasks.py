"""Long work on paper: the sheet of a whole club."""

from datetime import date

from drill_ladder.apps.card.paper import printed, sheet_of
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import keep_file, step, task
from drill_ladder.apps.people.models import Club


@task("card.sheet")
def make_sheet(job: Job) -> None:
    """Lay out everybody's day, part by part."""
    on = date.fromisoformat(job.given["on"])
    sheet = sheet_of(Club.objects.get(pk=job.club_id), on, None)
    step(job, 0, len(sheet.rows))
    file = printed(sheet, lambda done, total: step(job, done, total))
    keep_file(job, file, f"session-{on}.pdf")
