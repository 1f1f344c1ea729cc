"""Cells of the table of results as values, each with what is wrong with it."""

import re
from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import fields
from datetime import date
from typing import Any

from drill_ladder.core.coaching import Answers
from drill_ladder.core.judging import Observer
from drill_ladder.formats.reading import day, decimal, unkept, whole
from drill_ladder.formats.rung_fields import LONGEST_FEED

WHOLE = ("attempts", "makes", "best_run", "ticks", "voids", "heard", "rested_s")
LONGEST_WAY, LONGEST_FEEDER = 120, 60  # letters
STROKES = re.compile(r"[!-~]{1,400}\Z")
YES = ("eased", "tired", "extra", "recheck")
NUMBERS = ("points", "seconds", "count")
SHARES = ("form", "share")
MEASURED = ("attempts", "makes", *NUMBERS, "best_run", "ticks", "share")
MOST = 100_000


def value_of(column: str, text: str, today: date) -> Any:
    """A cell as a value. Raises ValueError with what is wrong."""
    if column == "on":
        return _day(text, today)
    return READERS.get(column, _text)(text)


def _bounded(value: Any, why: str) -> Any:
    if value is None:
        raise ValueError(why)
    return value


def _day(text: str, today: date) -> date:
    on = day(text)
    if on is None:
        raise ValueError("write a day as YYYY-MM-DD")
    if on > today:
        raise ValueError("is in the future")
    return on


def _observer(text: str) -> str:
    if text.casefold() not in list(Observer):
        raise ValueError("write coach, device, helper, ear or self")
    return text.casefold()


def _faults(text: str) -> dict[str, int]:
    """late:2;wide:1, or none for counted and clean."""
    if text.casefold() == "none":
        return {}
    faults = _counted(text)
    if faults is None:
        raise ValueError("write late:2;wide:1, or none where they were counted and clean")
    return faults


def _counted(text: str) -> dict[str, int] | None:
    counts: Counter[str] = Counter()
    for part in text.split(";"):
        name, _, times = part.rpartition(":")
        number = whole(times, 0, MOST)
        if not name.strip() or number is None:
            return None
        counts[name.strip()[:60]] += number
    return dict(counts)


def counted_out(counts: Mapping[str, int]) -> str:
    """Names with their counts as a cell."""
    return ";".join(f"{name}:{times}" for name, times in counts.items())


def _reads(text: str) -> Answers:
    names = [field.name for field in fields(Answers)]
    faults = _counted(text)
    if faults is None or not set(faults) <= set(names):
        raise ValueError(f"write {names[0]}:4;{names[1]}:1, of {', '.join(names)}")
    answers = Answers(**faults)
    if not answers.carried_out <= answers.right <= answers.choices:
        raise ValueError("have more carried out than right, or more right than choices")
    if answers.late + answers.wrong_way > answers.misses:
        raise ValueError("have more that came late or the wrong way than misses")
    return answers


def _tempo(text: str) -> float:
    share = decimal(text, 0, 1)
    if not share:
        raise ValueError("has to be above 0 and at most 1")
    return share


def _text(text: str) -> str:
    if unkept(text) or len(text) > 500:
        raise ValueError("holds a sign that cannot be kept, or is longer than 500 letters")
    return text


def _whole(text: str) -> int:
    return int(_bounded(whole(text, 0, MOST), "is no whole number"))


def _yes(text: str) -> bool:
    if text.casefold() not in ("yes", "no"):
        raise ValueError("write yes, or leave it blank")
    return text.casefold() == "yes"


def _strokes(text: str) -> str:
    if not STROKES.match(text):
        raise ValueError("are no strokes: one sign an attempt, 400 at most")
    return text


def _at_most(longest: int) -> Callable[[str], str]:
    def read(text: str) -> str:
        if len(text) > longest:
            raise ValueError(f"is longer than {longest} letters")
        return _text(text)

    return read


READERS: dict[str, Callable[[str], Any]] = {
    **dict.fromkeys(("set", "stay", "order", *WHOLE), _whole),
    **dict.fromkeys(NUMBERS, lambda text: _bounded(decimal(text, 0, MOST), "is no number")),
    **dict.fromkeys(SHARES, lambda text: _bounded(decimal(text, 0, 1), "has to be from 0 to 1")),
    "effort": lambda text: _bounded(whole(text, 0, 10), "has to be from 0 to 10"),
    **dict.fromkeys(YES, _yes),
    "minutes": lambda text: _bounded(decimal(text, 0, MOST), "is no number"),
    "strokes": _strokes,
    "way": _at_most(LONGEST_WAY),
    "feeder": _at_most(LONGEST_FEEDER),
    "feed": _at_most(LONGEST_FEED),
    "tempo": _tempo,
    "reads": _reads,
    "observer": _observer,
    "faults": _faults,
}
