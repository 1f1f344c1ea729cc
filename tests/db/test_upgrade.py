"""A database of the version before is refused, with what to do; a club comes over as an archive.

The archive is a part of the demo club as the version of 28 November 2026 (commit ac480e4) wrote it.
"""

from datetime import date
from pathlib import Path

import pytest
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db.migrations.recorder import MigrationRecorder

from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.people.before import OLD_STEP
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Felt, Session
from drill_ladder.apps.weeks.models import Week

ARCHIVE = Path(__file__).with_name("dumps") / "of_the_version_before.zip"


def test_a_database_of_the_version_before_is_left_as_it_is(db):
    MigrationRecorder.Migration.objects.create(app=OLD_STEP[0], name=OLD_STEP[1])
    with pytest.raises(CommandError, match="archive_club"):
        call_command("migrate", verbosity=0)


def test_a_club_of_the_version_before_comes_over_as_an_archive(db):
    call_command("restore_club", str(ARCHIVE), verbosity=0)
    club = Club.objects.get()
    assert (Player.objects.of_club(club).count(), Session.objects.filter(club=club).count()) == (
        4,
        224,
    )
    week = list(Week.objects.of_club(club))
    assert week
    # what the version before did not know has its first value, and the cards are as they were
    assert [row.told_at for row in week] == [None] * len(week)
    # how at ease somebody was stood in the taps then
    assert Felt.objects.of_club(club).count() == 4
    for player in Player.objects.of_club(club):
        home_blocks(player, date(2026, 11, 28))
