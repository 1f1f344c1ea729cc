"""Writing the trail."""

from collections.abc import Iterable
from typing import Any

from drill_ladder.apps.history.models import Event


def record(*, club_id: int, actor: Any, verb: str, subject: object, **details: Any) -> None:
    """Note that somebody did something. actor: a user, or None for a player on their card."""
    Event.objects.create(club_id=club_id, actor=actor, verb=verb, subject=str(subject)[:200], details=details)


def record_all(*, club_id: int, actor: Any, verb: str, subjects: Iterable[object]) -> None:
    """Note that somebody did the same to many."""
    Event.objects.bulk_create(
        [Event(club_id=club_id, actor=actor, verb=verb, subject=str(subject)[:200]) for subject in subjects], 500
    )
