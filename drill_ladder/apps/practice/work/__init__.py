"""One piece of work: put together, asked for, counted."""

from drill_ladder.apps.practice.work.building import (
    dose_shown,
    home_at,
    mirrors,
    rung_of_day,
    work_of,
    work_of_day,
    works_of,
)
from drill_ladder.apps.practice.work.entries import (
    ALL,
    Asked,
    Entry,
    add_fields,
    entries_asked,
    entries_beyond,
    entries_for,
    fields_for,
    form_of,
    form_share,
    questions,
    read,
    rows,
    worn_field,
)
from drill_ladder.apps.practice.work.feeds import feed_of_set, feeds_now
from drill_ladder.apps.practice.work.instruments import instrument_of, rows_of
from drill_ladder.apps.practice.work.tempos import Beside, beside_of, limit_of, tempo_sets

__all__ = [
    "ALL",
    "Asked",
    "Beside",
    "Entry",
    "add_fields",
    "beside_of",
    "dose_shown",
    "entries_asked",
    "entries_beyond",
    "entries_for",
    "feed_of_set",
    "feeds_now",
    "fields_for",
    "form_of",
    "form_share",
    "home_at",
    "instrument_of",
    "limit_of",
    "mirrors",
    "questions",
    "read",
    "rows",
    "rows_of",
    "rung_of_day",
    "tempo_sets",
    "work_of",
    "work_of_day",
    "works_of",
    "worn_field",
]
