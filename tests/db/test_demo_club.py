"""The demo club as it stands once it is made: as big as it says, each life told as it was."""

from datetime import date

import pytest
from django.db.models import F

from drill_ladder.apps.library.drills.form import KINDS
from drill_ladder.apps.library.models import Drill, Ladder, Rung
from drill_ladder.apps.library.rules.odds import WHO
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.progress.panels.all_players import panels_of_all
from drill_ladder.apps.progress.panels.one_player import panels_of
from drill_ladder.apps.progress.player.record import SPAN, record_of
from drill_ladder.apps.review.models import Decision, Proposal
from drill_ladder.demo.load import load
from drill_ladder.demo.people import LIVES, STORIES
from tests.db.own_export import agrees_with_its_export, told_of
from tests.db.own_export_more import (
    agrees_further,
    log_feeds_calls_and_tempos,
    tempo_feeds_and_reads_are_the_columns_of_the_table,
)

TODAY = date(2026, 11, 24)


@pytest.fixture(scope="module")
def made(once):
    return load(TODAY, lambda line: None, STORIES)


@pytest.fixture
def club(made, db):
    return Club.objects.get(pk=made.pk)


def test_each_panel_agrees_with_a_strangers_sums_from_the_export(club, monkeypatch):
    monkeypatch.setattr(Club, "today", lambda _: TODAY)
    agrees_with_its_export(club)


def test_what_holds_how_long_and_what_players_said_agree_with_the_export(club, monkeypatch):
    monkeypatch.setattr(Club, "today", lambda _: TODAY)
    agrees_further(club, told_of(club))


def test_feeds_calls_and_tempos_agree_with_the_export(club, monkeypatch):
    monkeypatch.setattr(Club, "today", lambda _: TODAY)
    stay = told_of(club)["Ida Marlow"][3]
    log_feeds_calls_and_tempos(stay, TODAY)
    tempo_feeds_and_reads_are_the_columns_of_the_table(told_of(club), "Ida Marlow")


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
