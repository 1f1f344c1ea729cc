"""Who saw what: a look at somebody's pages is noted once a day and user, by one question."""

from datetime import datetime, time
from typing import Any

from django.db import connection, models
from django.utils import timezone

from drill_ladder.apps.history.models import Event

LOOKED = "looked at"
# a GET of two pages at once may note it twice: nobody waits for a lock to look
NOTE = f"""
INSERT INTO {Event._meta.db_table} (club_id, actor_id, at, verb, subject, kind, row_id, details)
SELECT %(club)s::bigint, %(actor)s::bigint, now(), %(verb)s::varchar, %(subject)s::varchar,
  %(kind)s::varchar, %(row)s::varchar, '{{}}'
WHERE NOT EXISTS (
  SELECT 1 FROM {Event._meta.db_table} WHERE kind = %(kind)s::varchar
  AND row_id = %(row)s::varchar AND actor_id = %(actor)s::bigint AND verb = %(verb)s::varchar
  AND at >= %(since)s::timestamptz
)
"""  # noqa: S608 (the table's own name)


def note_look(user: Any, club_id: int, row: models.Model) -> None:
    """Note it, unless it is noted today."""
    midnight = datetime.combine(timezone.localdate(), time.min)
    given = {
        "club": club_id,
        "actor": user.pk,
        "verb": LOOKED,
        "subject": str(row)[:200],
        "kind": row._meta.label_lower,
        "row": str(row.pk),
        "since": timezone.make_aware(midnight),
    }
    with connection.cursor() as cursor:
        cursor.execute(NOTE, given)
