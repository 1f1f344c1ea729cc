"""The demo club: as big as it says, the same from the same seed, and made once."""

from datetime import date

import pytest
from django.core.management import CommandError, call_command
from django.db import transaction

from drill_ladder.apps.people.models import Club
from drill_ladder.apps.practice.models import Session
from drill_ladder.demo.load import load
from drill_ladder.demo.people import STORIES

TODAY = date(2026, 11, 24)


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
            found = facts(load(TODAY, lambda line: None, STORIES[:1]))
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
