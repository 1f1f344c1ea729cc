"""Who saw what: a look at somebody's pages is noted once a day and browser session."""

from typing import Any

from django.db import models
from django.http import HttpRequest
from django.utils import timezone

from drill_ladder.apps.history.services import record

LOOKED = "looked at"
KEY = "looked"  # of a session: the day, and which rows were noted on it
MOST = 400  # rows a session remembers


def note_look(request: HttpRequest, club_id: int, row: models.Model) -> None:
    """Note it, unless this session has it from today."""
    today, what = f"{timezone.localdate()}", f"{row._meta.label_lower} {row.pk}"
    kept = request.session.get(KEY, {})
    seen = kept.get("rows", []) if kept.get("on") == today else []
    if what in seen:
        return
    request.session[KEY] = {"on": today, "rows": [*seen, what][-MOST:]}
    user: Any = request.user
    record(club_id=club_id, actor=user, verb=LOOKED, subject=row)
