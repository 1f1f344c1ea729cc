"""The demo club: as big as it says, the same from the same seed, and made once."""

from datetime import date

import pytest
from django.core.management import CommandError, call_command
from django.db import transaction
from django.db.models import F

from drill_ladder.apps.library.drills.form import KINDS
from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.library.rules.odds import WHO
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.progress.panels import panels_of
from drill_ladder.apps.progress.panels_of_all import panels_of_all
from drill_ladder.apps.progress.record import SPAN, record_of
from drill_ladder.apps.review.models import Decision, Proposal
from drill_ladder.demo.load import load
from drill_ladder.demo.people import LIVES, STORIES

TODAY = date(2026, 11, 24)


@pytest.fixture
def club(db):
    return load(TODAY, lambda line: None, STORIES)


def test_the_demo_is_what_the_readme_says(club):
    assert Player.objects.count() == 8
    assert len(LIVES) == 24
    assert Drill.objects.count() == 40
    assert Drill.objects.filter(plan__isnull=True).count() == 0
    assert {d.measure.kind for d in Drill.objects.all()} == set(dict(KINDS))
    # ten to climb, and four of one rung, the parts of the routine
    assert Ladder.objects.count() == 14
    assert {ladder.rule.school.name for ladder in Ladder.objects.all()} == set(WHO)
    used = {rung.drill.measure.kind for rung in Rung.objects.select_related("drill")}
    assert used == set(dict(KINDS))
    days = sorted(set(Session.objects.values_list("on", flat=True)))
    assert (TODAY - days[0]).days >= 80
    assert days[-1] == date(2026, 11, 23)
    assert Stop.objects.filter(ended_on__isnull=False).count() == 1
    assert Stop.objects.open().count() == 1
    assert Proposal.objects.awaiting_review().count() >= 3
    assert Decision.objects.filter(applied="climb").count() >= 10
    checked = Session.objects.filter(stay__left__lt=F("on"))
    assert checked.count() >= 5


def answers(name):
    """Panel -> what it says of one of the seven, in one string."""
    player = Player.objects.get(name=name)
    record = record_of(player, TODAY, TODAY - SPAN, None)
    return {one.key: " ".join(one.lines) for one in panels_of(record) + panels_of_all(record)}


def test_each_life_is_told_as_it_was(club):
    """The stories of the demo, in the words of the page that looks back."""
    keen, weak = answers("Ida Marlow"), answers("Suki Lindqvist")
    tires, away = answers("Finn Okoro"), answers("Oskar Penhale")
    hurt, new = answers("Noor Hallam"), answers("Leila Brandt")
    assert "weeks in a row with everything done" in keen["kept"]
    assert "No difference to be sure of" in keen["side"]
    assert weak["side"].startswith("The left is weaker")
    assert "No falling off" in weak["tired"]
    assert tires["tired"].startswith("It falls off inside a session")
    assert "No difference to be sure of" in tires["side"]
    assert "0 sessions told by the player" in away["kept"]
    assert int(away["kept"].split()[0]) < int(away["kept"].split()[2]) / 2
    assert int(hurt["kept"].split()[0]) < int(hurt["kept"].split()[2])
    assert new == {}
    assert "climbed" in answers("Bram Ashdown")["long"]


@pytest.mark.django_db
def test_the_same_seed_makes_the_same_club():
    def facts(of):
        return list(
            Session.objects.filter(club=of)
            .order_by(
                "stay__prescription__player__name",
                "stay__prescription__ladder__title",
                "on",
                "stay__rung__position",
                "id",
            )
            .values_list(
                "stay__prescription__player__name",
                "on",
                "observer",
                "effort",
                "stay__rung__position",
            )
        )

    def made():
        with transaction.atomic():
            found = facts(load(TODAY, lambda line: None, STORIES[:2]))
            transaction.set_rollback(True)
        return found

    assert made() == made()


def test_loading_again_changes_nothing(db, capsys):
    load(TODAY, lambda line: None, STORIES[:1])
    call_command("load_demo")
    assert Club.objects.count() == 1
    call_command("demo_card", port=8000)
    said = capsys.readouterr().out
    assert "coach@tern-harbour.example" in said
    assert "http://127.0.0.1:8000/card/" in said


@pytest.mark.django_db
def test_a_club_of_ones_own(monkeypatch, capsys):
    monkeypatch.setenv("OWNER_PASSWORD", "short")
    with pytest.raises(CommandError, match="too short"):
        call_command("found_club", "Our Club", "Owner@example.org")
    assert Club.objects.count() == 0
    monkeypatch.setenv("OWNER_PASSWORD", "long enough to keep")
    call_command("found_club", "Our Club", "Owner@example.org")
    assert "Sign in as owner@example.org" in capsys.readouterr().out
    with pytest.raises(CommandError, match="already"):
        call_command("found_club", "Our Club", "owner@example.org")
