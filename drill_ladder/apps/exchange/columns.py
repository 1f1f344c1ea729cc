"""The columns of the table of results: what each is, so that a stranger can compute what a page
shows. The data dictionary that goes out beside the table is made of this.
"""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from typing import Any

from drill_ladder.formats.tables import write_csv


@dataclass(frozen=True, slots=True)
class Column:
    """name: as in the header; kind: what stands in it; unit: "" for none; meaning: one sentence;
    read_in: what becomes of it when the table is read in again.
    """

    name: str
    kind: str
    unit: str
    meaning: str
    read_in: str = "kept"


AGAIN = "worked out anew"
TABLE = (
    Column("on", "day", "YYYY-MM-DD", "The day on which it was done, by the club's own time zone."),
    Column("player", "text", "", "The player's name as the club writes it."),
    Column("ladder", "text", "", "The title of the ladder."),
    Column("rung", "number or text", "", "The rung, counted from 1 at the bottom, or its title."),
    Column("lane", "text", "", "The lane of the rung: a side, a spot, a direction."),
    Column("set", "whole number", "", "The set within its lane and session, from 1."),
    Column("attempts", "whole number", "", "Attempts that count; bad feeds are none."),
    Column("makes", "whole number", "", "Good ones among the attempts."),
    Column("points", "number", "points", "The points of the set."),
    Column("seconds", "number", "s", "The time of the trial, without what faults cost."),
    Column("count", "number", "", "Repetitions counted within the rung's window."),
    Column("best_run", "whole number", "", "The longest run of good ones."),
    Column("faults", "name:count;...", "", "Faults by name; “none”: counted, and there were none."),
    Column("form", "share", "0 to 1", "Of the technique's checkpoints, how much looked right."),
    Column("effort", "whole number", "0 to 10", "How hard it was, as the player said."),
    Column(
        "observer",
        "word",
        "",
        "Who saw it: coach, device, helper, ear (a phone, looked over by the player) or self.",
    ),
    Column("note", "text", "", "The player's words about the session, on its first row."),
    Column("ticks", "whole number", "", "Items of the checklist that were ticked."),
    Column("share", "share", "0 to 1", "How much of it was done."),
    Column(
        "stay",
        "whole number",
        "",
        "Rows with one number belong to one stay of a player on a rung: what is judged together.",
        "sessions are kept apart by it",
    ),
    Column(
        "order",
        "whole number",
        "",
        "The set within the day on that stay, in the order in which it was done.",
        "sets are stored in this order",
    ),
    Column(
        "strokes",
        "signs",
        "",
        "Each attempt in order, where kept: g good, 0 to 9 missed by that fault of the drill, "
        "m missed, A to J good with a fault, v bad feed, r does not count.",
    ),
    Column("way", "text", "", "The home version that was done; blank: the full drill."),
    Column("eased", "yes or blank", "", "Done on the rung's easier way."),
    Column("tired", "yes or blank", "", "Done at the end of other work, and judged apart."),
    Column(
        "extra",
        "yes or blank",
        "",
        "Done after the day's dose was full: it takes nothing away.",
        AGAIN,
    ),
    Column("recheck", "yes or blank", "", "Done on the rung below after a long time away.", AGAIN),
    Column("minutes", "number", "min", "What the rung's dose takes, as it is asked now.", AGAIN),
    Column("tempo", "share", "0 to 1", "Of full speed, where the set was done at a told tempo."),
    Column("voids", "whole number", "", "Bad feeds: neither good nor missed; blank is none."),
    Column("feeder", "text", "", "Who fed, where somebody was named."),
    Column(
        "reads",
        "name:count;...",
        "",
        "How calls were answered: hits, misses, false_alarms, correct_leaves; of choices how many "
        "were right, and carried_out; of misses how many only came late, "
        "and how many the wrong_way (foot, hand, tool).",
    ),
    Column(
        "heard",
        "whole number",
        "",
        "How many a phone heard before anybody looked it over; blank: not counted by ear.",
    ),
    Column("rested_s", "whole number", "s", "Real rest before the set; blank: no clock saw it."),
    Column("feed", "text", "", "The gentler feed it was done with; blank: as the rung asks."),
)
COLUMNS = [column.name for column in TABLE]
OTHERS = ("feeder",)  # somebody else's name: it stays out of what leaves the club


DICTIONARY = ["column", "what stands in it", "unit", "meaning", "when it is read in again"]


def dictionary_rows(without: Sequence[str] = ()) -> Iterator[list[Any]]:
    """The data dictionary: a row a column. Blank in the results means not measured."""
    for one in [column for column in TABLE if column.name not in without]:
        yield [one.name, one.kind, one.unit, one.meaning, one.read_in]


def dictionary_csv() -> str:
    """The data dictionary as a file."""
    return write_csv(DICTIONARY, list(dictionary_rows()))
