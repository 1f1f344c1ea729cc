"""Archiving."""

from datetime import date

from django.db import transaction

from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.people.players import refuse_unless_coach


@transaction.atomic
def archive_row(*, member: Membership, row: Drill | Ladder | Routine, on: date | None) -> None:
    """Archive a drill or a ladder (None brings it back). Players who are on it go on;
    results stay.
    """
    refuse_unless_coach(member)
    row.archived_on = on
    row.save(update_fields=["archived_on"])
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="archived" if on else "restored",
        subject=row,
    )
