"""The database itself refuses what must not be."""

from datetime import date
from uuid import uuid4

import pytest
from django.apps import apps
from django.db import IntegrityError, connection, models, transaction

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Guardian, SecretLink, Squad
from drill_ladder.apps.practice.models import Session, SetRow, Stop
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.review.models import Decision, Proposal
from tests.make import current, log, put_on

D = date(2026, 3, 2)


def _at_once(act):
    with transaction.atomic():
        act()
        connection.check_constraints()


def refused(act):
    """Whether the database refuses, at once or when its deferred checks run."""
    with pytest.raises(IntegrityError):
        _at_once(act)


def mixes(w, other):
    """Every kind of row that carries a club, each with a parent of another club."""
    p = put_on(w)
    stay = current(p)
    session = log(p, D, 8, 8)
    proposal = Proposal.objects.get(stay=stay)
    foreign = {"club": other.club}
    yield lambda: Guardian.objects.create(player=w.player, name="x", **foreign)
    yield lambda: SecretLink.objects.filter(player=w.player).update(**foreign)
    yield (
        lambda: (
            type(w.player)
            .objects.filter(pk=w.player.pk)
            .update(squad=Squad.objects.create(club=other.club, name="s"))
        )
    )
    yield lambda: Rung.objects.create(
        ladder=w.ladder, drill=other.drill, position=9, title="x", target={}, club=w.club
    )
    yield lambda: Rung.objects.filter(ladder=w.ladder).update(**foreign)
    yield lambda: Prescription.objects.create(
        player=w.player, ladder=other.ladder, club=w.club, started_on=D
    )
    yield lambda: Stay.objects.filter(pk=stay.pk).update(rung=other.rungs[0])
    yield lambda: Session.objects.filter(pk=session.pk).update(**foreign)
    yield lambda: SetRow.objects.filter(session=session).update(**foreign)
    yield lambda: Stop.objects.create(player=w.player, what="x", opened_on=D, **foreign)
    yield lambda: Proposal.objects.filter(pk=proposal.pk).update(to_rung=other.rungs[0])
    yield lambda: Decision.objects.create(
        proposal=proposal, action="hold", applied="hold", on=D, **foreign
    )


def test_no_row_mixes_two_clubs(w, other):
    for number, act in enumerate(mixes(w, other)):
        try:
            refused(act)
        except BaseException as error:
            raise AssertionError(f"mix number {number} was let in") from error


@pytest.mark.django_db
def test_every_row_that_knows_its_club_is_tied_to_its_parents():
    """A new foreign key between two rows of a club without its tie fails here."""
    with connection.cursor() as cursor:
        cursor.execute("select conname from pg_constraint where contype = 'f'")
        names = {row[0] for row in cursor.fetchall()}
    missing = []
    for model in apps.get_models():
        if not model.__module__.startswith("drill_ladder") or not hasattr(model, "club"):
            continue
        for field in model._meta.get_fields():
            if isinstance(field, models.ForeignKey) and hasattr(field.related_model, "club"):
                name = f"{model._meta.db_table}_{field.column}_same_club"
                missing += [] if name in names else [name]
    assert missing == []


def test_counts_that_cannot_be(w):
    p = put_on(w)
    session = log(p, D, 8, 8)
    new = {"club": w.club, "session": session, "order": 7, "id": uuid4()}
    for wrong in (
        {"attempts": 3, "makes": 4},
        {"makes": 1},
        {"seconds": -1},
        {"share": 1.1},
        {"count": -2},
    ):
        refused(lambda wrong=wrong: SetRow.objects.create(**new, **wrong))
    for wrong in ({"effort": 11}, {"form": 1.2}, {"observer": "dog"}):
        refused(lambda wrong=wrong: Session.objects.filter(pk=session.pk).update(**wrong))


def test_one_of_each(w):
    p = put_on(w)
    stay = current(p)
    refused(
        lambda: Prescription.objects.create(
            club=w.club, player=w.player, ladder=w.ladder, started_on=D
        )
    )
    refused(
        lambda: Stay.objects.create(
            club=w.club, prescription=p, rung=w.rungs[1], terms=stay.terms, arrived=D
        )
    )
    refused(lambda: SecretLink.objects.create(club=w.club, player=w.player))
    said = {"decision": "climb", "missing": [], "reasons": []}
    kept = {"club": w.club, "player": w.player, "stay": stay, "kind": "climb"}
    kept |= {"said": said, "made_on": D}
    Proposal.objects.create(**kept)
    refused(lambda: Proposal.objects.create(**kept))


def test_what_a_coach_must_say(w):
    p = put_on(w)
    log(p, D, 8, 8)
    proposal = Proposal.objects.get()
    refused(
        lambda: Decision.objects.create(
            club=w.club, proposal=proposal, action="override", applied="hold", on=D
        )
    )
    refused(
        lambda: Stop.objects.create(club=w.club, player=w.player, what="x", opened_on=D, ended_on=D)
    )
