"""What the tests of apps and pages stand on."""

from tests.db.filled import full
from tests.fixtures import (
    _emptied_between_tests,
    _small_practice_club,
    _static_files_once,
    coach,
    mark_days,
    once,
    other,
    season,
    today,
    w,
)

__all__ = [
    "_emptied_between_tests",
    "_small_practice_club",
    "_static_files_once",
    "coach",
    "full",
    "once",
    "other",
    "season",
    "today",
    "w",
]


def pytest_collection_modifyitems(items):
    """Those that depend on the day are known by what they ask."""
    mark_days([item for item in items if "/tests/db/" in str(item.path)])
