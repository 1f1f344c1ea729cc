"""A database of the version before 28 November 2026 is not brought up to date: its steps were put
together into one an app. Its clubs come over as archives.
"""

from typing import Any

from django.core.management.base import CommandError
from django.db import connections
from django.db.migrations.recorder import MigrationRecorder

# a step that every database of that time has, and none of today's
OLD_STEP = ("people", "0003_own_lengths")


def refuse_old(*, using: str, **_: Any) -> None:
    """Before anything is changed. Raises CommandError."""
    if OLD_STEP not in MigrationRecorder(connections[using]).applied_migrations():
        return
    raise CommandError(
        "This database was made by an earlier version of Drill Ladder, and nothing in it was "
        "changed. Take each club out with that version (./ladder manage archive_club NAME FILE), "
        "move the folder .data away, and bring the clubs in here (./ladder manage restore_club "
        "FILE). A demo starts anew with ./ladder demo --fresh."
    )
