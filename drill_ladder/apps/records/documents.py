"""Every stored document is read again once a week: what cannot be read stands on the desk, before a
coach meets a page that breaks.
"""

from collections.abc import Iterator
from datetime import date

from django.db import models, transaction

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.personal import ours
from drill_ladder.apps.records.models import UnreadDocument
from drill_ladder.apps.stored import ValueField
from drill_ladder.core.errors import CoreError

AT_ONCE = 500
DAYS = 7


def documents() -> list[tuple[type[models.Model], list[str]]]:
    """(Model with a club, its columns of documents), in a fixed order."""
    tables = []
    for model in sorted(ours(), key=lambda one: one._meta.label):
        fields = model._meta.concrete_fields
        columns = [str(field.attname) for field in fields if isinstance(field, ValueField)]
        if columns and any(field.name == "club" for field in fields):
            tables.append((model, columns))
    return tables


def read_share(club: Club, on: date) -> int:
    """Read the share of a day, all of it within a week; how many documents cannot be read now."""
    todays = [one for number, one in enumerate(documents()) if number % DAYS == on.weekday()]
    with transaction.atomic():
        for model, columns in todays:
            UnreadDocument.objects.filter(club=club, table=model._meta.label).delete()
            UnreadDocument.objects.bulk_create(_unread(club, model, columns, on))
    return UnreadDocument.objects.filter(club=club).count()


def _unread(
    club: Club, model: type[models.Model], columns: list[str], on: date
) -> Iterator[UnreadDocument]:
    rows = model._default_manager.filter(club=club).order_by("pk").only("pk", *columns)
    for row in rows.iterator(AT_ONCE):
        for column in columns:
            try:
                getattr(row, column)
            except CoreError as error:
                yield UnreadDocument(
                    club=club,
                    table=model._meta.label,
                    row=str(row.pk),
                    column=column,
                    why=str(error)[:300],
                    seen_on=on,
                )


def read_all() -> None:
    """Every club's share of today."""
    for club in Club.objects.all():
        read_share(club, club.today())
