"""What others wrote about a player: found by name in the columns that declare free words, in rows
that are not the player's own, and listed with their places. Nothing is changed unless the owner
says so: a child named Mark or Lane is in every second sentence of a club.
"""

import json
import re
from collections.abc import Iterator
from dataclasses import dataclass
from typing import Any

from django.db import connection, models
from psycopg import sql

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.models import Guardian, Player
from drill_ladder.apps.personal import ERASED, of_players, personal_of, with_free_words

LEAST = 2  # letters of a word that is looked for
MOST = 300  # places of one list
AROUND = 40  # letters shown on both sides


@dataclass(frozen=True, slots=True)
class Mention:
    """One place. key: which one it is; where: table and column in words; text: all that stands
    there; shown: the words around the name; whole: whether it is a text, which can be edited.
    """

    model: type[models.Model]
    pk: str
    column: str
    text: str
    shown: str
    whole: bool

    @property
    def key(self) -> str:
        """For a form."""
        return f"{self.model._meta.label_lower}:{self.pk}:{self.column}"

    @property
    def where(self) -> str:
        """In words."""
        return f"{self.model._meta.verbose_name}, {self.column.replace('_', ' ')}"


def names_of(player: Player) -> list[str]:
    """What somebody may have written: the name, its parts, and the family's."""
    names = [player.name, *player.name.split()]
    for guardian in Guardian.objects.filter(player=player):
        names += [guardian.name, *guardian.name.split(), guardian.email, guardian.phone]
    return [name for name in dict.fromkeys(names) if len(name.strip()) >= LEAST]


def mentions(player: Player) -> list[Mention]:
    """Every place, at most so many. Whole words only: Anna is not in Annabel."""
    names = names_of(player)
    if not names:
        return []
    places: list[Mention] = []
    for model, column in with_free_words():
        places += _in_column(model, column, player, names)
        if len(places) >= MOST:
            break
    return places[:MOST]


def _pattern(names: list[str], is_json: bool) -> str:
    """One of the names as words of their own."""
    written = [json.dumps(name, ensure_ascii=False)[1:-1] if is_json else name for name in names]
    either = "|".join(re.escape(one) for one in sorted(written, key=len, reverse=True))
    return f"(^|[^[:alnum:]])({either})([^[:alnum:]]|$)"


def _in_column(
    model: type[models.Model], column: str, player: Player, names: list[str]
) -> Iterator[Mention]:
    field: Any = model._meta.get_field(column)
    is_json = isinstance(field, models.JSONField)
    own = personal_of(model).player
    mine: set[str] = set()
    rows = model._default_manager.filter(club=player.club_id)
    if model is Event:
        mine = own_events(player)
    elif own:
        mine = set(map(str, rows.filter(**{own: player.pk}).values_list("pk", flat=True)))
    pattern = _pattern(names, is_json)
    for pk, text in _matching(model, str(field.column), player.club_id, pattern):
        if pk not in mine:
            yield Mention(model, pk, column, text, _around(text, names), not is_json)


def own_events(player: Player) -> set[str]:
    """Entries of the trail about anything of the player's: an erasure empties them anyway."""
    own_ids: set[str] = set()
    for model, personal in of_players():
        rows = model._default_manager.filter(**{personal.player: player.pk})
        ids = [str(pk) for pk in rows.values_list("pk", flat=True)]
        about = Event.objects.filter(kind=model._meta.label_lower, row_id__in=ids)
        own_ids |= set(map(str, about.values_list("pk", flat=True)))
    return own_ids


def _matching(
    model: type[models.Model], column: str, club: int, pattern: str
) -> list[tuple[str, str]]:
    asked = sql.SQL(
        "SELECT {key}::text, {column}::text FROM {table} WHERE club_id = %s "
        "AND {column}::text ~* %s ORDER BY 1 LIMIT %s"
    ).format(
        key=sql.Identifier(str(model._meta.pk.column)),
        column=sql.Identifier(column),
        table=sql.Identifier(model._meta.db_table),
    )
    with connection.cursor() as cursor:
        cursor.execute(asked, [club, pattern, MOST])
        return list(cursor.fetchall())


def _around(text: str, names: list[str]) -> str:
    """The first of them with some words beside it."""
    low = text.casefold()
    places = [at for name in names if (at := low.find(name.casefold())) >= 0]
    at = min(places, default=0)
    return f"{'…' if at > AROUND else ''}{text[max(0, at - AROUND) : at + 2 * AROUND]}"


def change_mention(one: Mention, player: Player, text: str | None = None) -> None:
    """Another text in its place, or none: then the words go whole, for what is left of a sentence
    without its name may still tell who it was. In a document only the texts that hold a name go.
    """
    field: Any = one.model._meta.get_field(one.column)
    rows = one.model._default_manager.filter(club=player.club_id, pk=one.pk)
    if isinstance(field, models.JSONField):
        stored: Any = rows.values_list(one.column, flat=True).first()
        pattern = re.compile(_python_pattern(names_of(player)), re.IGNORECASE)
        value = _emptied(getattr(stored, "document", stored), pattern)
    else:
        # a name of its own for each, as many of these are there once a club
        value = text if text is not None else f"{ERASED} {one.pk}"[: field.max_length or None]
    rows.update(**{one.column: value})


def _python_pattern(names: list[str]) -> str:
    either = "|".join(re.escape(name) for name in sorted(names, key=len, reverse=True))
    return rf"(?<![^\W_])(?:{either})(?![^\W_])"


def _emptied(document: Any, found: re.Pattern[str]) -> Any:
    """A document without the texts that hold a name; its shape is kept."""
    if isinstance(document, dict):
        return {key: _emptied(one, found) for key, one in document.items()}
    if isinstance(document, list):
        return [_emptied(one, found) for one in document]
    return ERASED if isinstance(document, str) and found.search(document) else document
