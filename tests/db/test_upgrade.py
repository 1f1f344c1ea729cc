"""A database of the version before is refused, with what to do; a club comes over from it as an archive.

The archive is a part of the demo club as the version of 28 November 2026 (commit ac480e4) wrote it.
"""

from pathlib import Path

import pytest
from django.core.management import call_command
from django.core.management.base import CommandError
from django.db.migrations.recorder import MigrationRecorder

from drill_ladder.apps.people.before import OLD_STEP
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session

ARCHIVE = Path(__file__).with_name("dumps") / "of_the_version_before.zip"


def test_a_database_of_the_version_before_is_left_as_it_is(db):
    MigrationRecorder.Migration.objects.create(app=OLD_STEP[0], name=OLD_STEP[1])
    with pytest.raises(CommandError, match="archive_club"):
        call_command("migrate", verbosity=0)
