"""Every queryset method, asked of a club with arguments of that club."""

import inspect
from collections.abc import Callable, Iterator
from typing import Any

from django.apps import apps
from django.db.models import Model, QuerySet

from drill_ladder.apps.practice.models import SetRow
from scripts.bounds.examples import examples
from scripts.bounds.pages import Scene
from scripts.bounds.reading import Read, read

SOME = 50  # rows whose companions are fetched
WRITES = {"tell", "locked"}  # they change or hold rows: the tests of many weeks ask them
# asked of other tables that have what they ask for
OTHERS = {("Routine", "with_rung_counts"), ("Routine", "with_skill")}
OTHERS |= {("LadderLearning", "of_ladder"), ("SetRow", "of_club")}


def methods() -> Iterator[tuple[type[Model], str]]:
    """(model, name of a method of its questions), of the project's own."""
    for model in apps.get_models():
        if not model.__module__.startswith("drill_ladder"):
            continue
        kinds = [k for k in type(model.objects.all()).__mro__ if "drill_ladder" in k.__module__]
        names = {n for k in kinds for n, f in vars(k).items() if inspect.isfunction(f)}
        for name in sorted(names - WRITES):
            if not name.startswith("_") and (model.__name__, name) not in OTHERS:
                yield model, name


def asked(at: Scene, model: type[Model], name: str) -> Read:
    """What is read where a method is asked of what belongs to the club."""
    rows = _of_the_club(at, model)
    method = getattr(rows, name)
    known = examples(at, rows)
    given = {p: _example(known, model, name, p, note) for p, note in _parameters(method)}
    with read() as found:
        answer = method(**given)
        if isinstance(answer, QuerySet):
            _look(answer, found)
    return found


def _of_the_club(at: Scene, model: type[Model]) -> QuerySet[Any]:
    rows = model.objects.all()  # type: ignore[attr-defined]
    if model is type(at.club):
        return rows.filter(pk=at.club.pk)
    if model is SetRow:  # asked by way of its session or its player alone
        return rows.filter(session__stay__prescription__player=at.player)
    if any(f.attname == "club_id" for f in model._meta.concrete_fields):
        return rows.filter(club_id=at.club.pk)
    return rows


def _look(rows: QuerySet[Any], found: Read) -> None:
    """All rows by the database alone; of some, what comes with them too."""
    plain = rows if rows.query.is_sliced else rows.order_by()  # its order is its caller's
    found.explain(*plain.query.sql_with_params())
    if rows._prefetch_related_lookups and not rows.query.is_sliced:  # type: ignore[attr-defined]
        list(rows[:SOME])


def _parameters(method: Callable[..., Any]) -> list[tuple[str, str]]:
    found = inspect.signature(method).parameters.values()
    return [(p.name, str(p.annotation)) for p in found if p.kind != p.VAR_KEYWORD]


def _example(known: dict[str, Any], model: type[Model], name: str, one: str, note: str) -> Any:
    """The method's own, then by whether it is a number, a moment or another kind, then any."""
    kind = "moment" if "datetime.datetime" in note or note == "datetime" else ""
    kind = "number" if "int" in note.replace("Union", "") else kind
    for key in (f"{name}.{one}", f"{one}: {kind}", one):
        if key in known:
            return known[key]()
    raise LookupError(
        f"{model.__name__}.{name} has a new parameter {one} ({note}): give an example"
    )
