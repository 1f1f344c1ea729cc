"""Ten faults that the rule has to find: an index that is gone, a club, a day or a limit that is
forgotten, a question for each row.
"""

from collections.abc import Callable, Iterator
from contextlib import AbstractContextManager, contextmanager
from typing import Any
from unittest import mock

from django.db import connection, transaction
from django.db.models import Model, QuerySet

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.messages.models import Message
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.weeks.models import Week
from scripts.bounds.asking import Asked, shown_once, signed_in, whoever
from scripts.bounds.pages import Scene, pages
from scripts.bounds.rule import of_page

Fault = Callable[[], AbstractContextManager[Any]]


@contextmanager
def without(*indexes: str) -> Iterator[None]:
    """Indexes are gone, and come back."""
    with transaction.atomic(), connection.cursor() as cursor:
        for index in indexes:
            cursor.execute(f'DROP INDEX "{index}"')
        yield
        transaction.set_rollback(True)


def without_first(model: type[Model], *fields: str) -> AbstractContextManager[None]:
    """The indexes that begin with one of some columns are gone."""
    columns = [model._meta.get_field(field).attname for field in fields]  # type: ignore[union-attr]
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT indexname FROM pg_indexes WHERE tablename = %s AND indexdef LIKE ANY(%s)",
            [model._meta.db_table, [f"%({column}%" for column in columns]],
        )
        names = [name for (name,) in cursor.fetchall()]
    return without(*names)


def asks(model: Any, name: str, instead: Callable[..., Any]) -> AbstractContextManager[Any]:
    """A method of questions asks something else."""
    return mock.patch.object(type(model.objects.all()), name, instead)


def _everything(rows: QuerySet[Any], *given: Any, **more: Any) -> QuerySet[Any]:
    """All of the club: what narrows is forgotten."""
    return rows


def _of_all_clubs(rows: QuerySet[Any], *given: Any, **more: Any) -> QuerySet[Any]:
    return rows.model._default_manager.all()


def _all_days(rows: QuerySet[Any], club: Any, on: Any, after: int = 0) -> QuerySet[Any]:
    return rows.filter(club=club).order_by("id")


# (what is wrong, on which page it is seen, how it is put in)
FAULTS: list[tuple[str, str, Fault]] = [
    (
        "the index of mail that is not sent is gone",
        "overview",
        lambda: without("messages_not_sent"),
    ),
    (
        "the index of a stay's proposals is gone",
        "a player",
        lambda: without_first(Proposal, "stay", "player"),
    ),
    ("the index of a stay's sessions is gone", "run", lambda: without_first(Session, "stay")),
    ("mails of all clubs", "mail", lambda: asks(Message, "of_club", _of_all_clubs)),
    ("weeks of all clubs", "everybody's week", lambda: asks(Week, "beginning", _of_all_clubs)),
    ("proposals of everybody", "a player", lambda: asks(Proposal, "latest_of", _everything)),
    ("taps of all days", "hall", lambda: asks(FloorTap, "of_day", _all_days)),
    ("judged days of a year", "overview", lambda: asks(JudgedDay, "since", _everything)),
    ("sessions of a year", "a squad at one look", lambda: asks(Session, "since", _everything)),
    ("a question for each player", "players", lambda: asks(Player, "with_squad", _everything)),
]


def seeded(at: Scene, alone: Asked, beside: Asked, large: dict[str, int]) -> list[str]:
    """The names of those that were not found."""
    coach, by_name = signed_in(at), {page.name: page for page in pages(at)}
    unseen = []
    for name, where, fault in FAULTS:
        page = by_name[where]
        with fault():
            found = shown_once(whoever(coach, page), page)
        if not of_page(page, alone.pages[where], found, large):
            unseen.append(f"{name} ({where})")
    return unseen
