"""A club's archive, out and in."""

from drill_ladder.apps.records.archive.reading import Damaged, read_archive
from drill_ladder.apps.records.archive.restoring import restore_club
from drill_ladder.apps.records.archive.writing import archive_of, write_club

__all__ = ["Damaged", "archive_of", "read_archive", "restore_club", "write_club"]
