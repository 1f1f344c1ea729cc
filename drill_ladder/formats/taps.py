"""What a device in the hall sends: taps, one by one, each under an id of its own."""

import re
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from uuid import UUID

from drill_ladder.core.hall import COUNTS_AS, Act, Tap
from drill_ladder.formats.reading import Kept, unkept
from drill_ladder.formats.rung_fields import LONGEST_FEED
from drill_ladder.formats.shapes import (
    by_name,
    counts,
    listed,
    maybe,
    number,
    one_of,
    optional,
    record,
    text,
    whole,
    yes_no,
)

# what is tapped beside the work on a rung: who is here, how somebody feels (1 to 5)
HERE, COMFORT = "here", "comfort"
# in which of two teams somebody plays: with bibs (on), or without
TEAM = "team"
# a word to a player: said (on) or to be said next time
WORD = "word"
# a trial of a test day: its test and its result; the side is the lane
TRIAL = "trial"
# something hurts: a report under the id of its tap, whose word says where; read without any of the
# checks below
HURT = "hurt"
# what a trial is measured in; good ones and runs are strokes
NUMBERS = ("attempts", "makes", "best_run", "points", "seconds", "count", "ticks", "share")
# beside it, how many a phone heard of them
HEARD = "heard"
COUNTED = ("attempts", "makes", "best_run", "ticks", HEARD)
YEARS = (2000, 2100)
MOST_FAULTS = 12
MOST_LOOKED_FOR = 60  # checkpoints of a drill
MOST = 100_000
_STROKE = re.compile(r"[gmvr0-9A-J]\Z")
_VALUE = record(
    stroke=optional(text(most=1), ""),
    numbers=optional(by_name(number(high=MOST)), {}),
    faults=maybe(counts()),
    of=optional(text(most=36), ""),
    word=optional(text(most=60), ""),
    on=optional(yes_no(), True),
    about=maybe(whole(1)),  # the stay that somebody was asked about
    battery=maybe(whole(1)),
    test=maybe(whole(1)),
    seen=maybe(listed(whole(0, MOST_LOOKED_FOR), 0, MOST_LOOKED_FOR)),
)
_SENT = record(
    id=text(36, 36),
    at=text(10, 40),
    player=whole(1),
    stay=maybe(whole(1)),
    act=one_of(*(act.value for act in Act), HERE, COMFORT, TRIAL, WORD, TEAM),
    lane=optional(text(most=60), ""),
    value=optional(_VALUE, {}),
    # how many its device had tapped before it: their order, whatever the device's clock does
    c=optional(whole(), 0),
)


@dataclass(frozen=True, slots=True)
class SentTap:
    """A tap as it was sent. value: what the act needs, in the words of core.hall.Tap."""

    id: UUID
    at: datetime
    player: int
    stay: int | None
    act: str
    lane: str
    value: dict[str, Any]
    c: int = 0


def _to_sent(doc: dict[str, Any]) -> SentTap:
    return SentTap(
        UUID(doc["id"]),
        datetime.fromisoformat(doc["at"]),
        doc["player"],
        doc["stay"],
        doc["act"],
        doc["lane"],
        doc["value"],
        doc["c"],
    )


SENT: Kept[SentTap] = Kept(_SENT, _to_sent, lambda sent: sent)


def read_tap(document: Any) -> SentTap | str:
    """The tap, or in a sentence why it is none."""
    faults = SENT.faults(document)
    if faults:
        return f"This entry cannot be read: {faults[0]}."
    try:
        tap = SENT.read_stored(document)
    except ValueError:
        return "This entry cannot be read: its id or its moment is none."
    if tap.at.tzinfo is None:
        return "This entry cannot be read: its moment has no time zone."
    if not YEARS[0] <= tap.at.year < YEARS[1]:
        return "This entry cannot be read: its moment is of another century."
    return _wrong(tap) or tap


def _wrong(tap: SentTap) -> str:
    value = tap.value
    faults = value.get("faults") or {}
    texts = [tap.lane, value.get("word", ""), value.get("of", ""), *faults]
    if any(map(unkept, texts)) or len(faults) > MOST_FAULTS:
        return "This entry has words that cannot be kept."
    return _wrong_work(tap) or _wrong_words(tap)


def _wrong_words(tap: SentTap) -> str:
    value, act = tap.value, tap.act
    word, numbers = value.get("word", ""), value.get("numbers", {})
    unfit = {
        "This entry is no tempo, which is a share of full speed.": act == Act.TEMPO
        and not 0 < numbers.get("share", 0) <= 1,
        f"A feed’s name has {LONGEST_FEED} letters at most.": act == Act.FEED
        and len(word) > LONGEST_FEED,
        "This entry is no answer to a call.": act == Act.READ and word not in COUNTS_AS,
        "This entry is no word to a player.": act == WORD
        and (tap.stay is not None or not word.strip()),
        "This entry belongs to no test.": act == TRIAL
        and None in (value.get("battery"), value.get("test")),
        "Comfort is told from 1 to 5.": act == COMFORT
        and numbers.get("level") not in (1, 2, 3, 4, 5),
    }
    return next((words for words, holds in unfit.items() if holds), "")


def _wrong_work(tap: SentTap) -> str:
    value = tap.value
    if tap.stay is None and tap.act not in (HERE, COMFORT, TRIAL, WORD, TEAM, Act.UNDO):
        return "This entry belongs to no rung."
    if tap.act == Act.STROKE and not _STROKE.match(value.get("stroke", "")):
        return "This entry is no stroke."
    if tap.act == Act.LOOK and value.get("seen") is None:
        form = value.get("numbers", {}).get("form")
        return "" if form is not None and form <= 1 else "Technique is told as a share, 0 to 1."
    return _wrong_numbers(value.get("numbers", {})) if tap.act == Act.RESULT else ""


def _wrong_numbers(numbers: dict[str, float]) -> str:
    if not numbers.keys() - {HEARD}:
        return "This entry has no number."
    if not set(numbers) <= {*NUMBERS, HEARD}:
        return "This entry has a number that nobody knows."
    if any(not float(numbers.get(name, 0)).is_integer() for name in COUNTED):
        return "This entry has half of what can only be counted whole."
    if numbers.get("makes", 0) > numbers.get("attempts", MOST):
        return "This entry has more good ones than attempts."
    if numbers.get("share", 0) > 1:
        return "This entry has more than all of it: a share is at most 1."
    return ""


def to_tap(
    id: str, act: str, at: datetime, lane: str, value: dict[str, Any], order: int = 0
) -> Tap:
    """A stored tap for the core. order: its number in the order of receipt."""
    seen = value.get("seen")
    return Tap(
        id,
        Act(act),
        at,
        lane,
        value.get("stroke", ""),
        value.get("numbers", {}),
        value.get("faults"),
        value.get("of", ""),
        value.get("word", ""),
        value.get("on", True),
        order,
        None if seen is None else tuple(sorted(set(seen))),
    )
