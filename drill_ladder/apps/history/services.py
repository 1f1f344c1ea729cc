"""Writing the trail."""

from collections.abc import Iterable, Sequence
from typing import Any

from django.contrib.auth.base_user import AbstractBaseUser
from django.db import models

from drill_ladder.apps.history.models import Event

AT_ONCE = 500  # rows of one statement


def record(
    *,
    club_id: int,
    actor: AbstractBaseUser | None,
    verb: str,
    subject: models.Model,
    **details: object,
) -> None:
    """Note that somebody did something. actor: a user, or None for a player on their card."""
    _entry(club_id, actor, verb, subject, details).save()


def record_all(
    *, club_id: int, actor: AbstractBaseUser | None, verb: str, subjects: Iterable[models.Model]
) -> None:
    """Note that somebody did the same to many."""
    Event.objects.bulk_create(
        [_entry(club_id, actor, verb, subject, {}) for subject in subjects], AT_ONCE
    )


def record_each(
    *, actor: AbstractBaseUser | None, entries: Sequence[tuple[str, models.Model, dict[str, Any]]]
) -> None:
    """Note what somebody did to each of many rows of a club: (verb, row, details)."""
    Event.objects.bulk_create(
        [
            _entry(row.club_id, actor, verb, row, details)  # type: ignore[attr-defined]
            for verb, row, details in entries
        ],
        AT_ONCE,
    )


def _entry(
    club_id: int,
    actor: AbstractBaseUser | None,
    verb: str,
    subject: models.Model,
    details: dict[str, Any],
) -> Event:
    return Event(
        club_id=club_id,
        actor_id=actor.pk if actor else None,
        verb=verb,
        subject=str(subject)[:200],
        kind=subject._meta.label_lower,
        row_id=str(subject.pk),
        details=details,
    )
