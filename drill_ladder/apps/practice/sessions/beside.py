"""What an instrument tells of a set beside its counts: easier or not, its tempo, how calls were
answered, how many the phone heard; and its strokes, one letter each.

g good, m a miss, a digit: a miss with the fault of that number; a capital: a good one with a fault
(A the first); v a bad feed, r once more: neither make nor miss; z from here on easier, y as asked.
"""

from collections import Counter
from collections.abc import Mapping, Sequence
from dataclasses import astuple, replace
from typing import Any
from uuid import uuid5

from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions.services import SetInput
from drill_ladder.core.coaching import Answers
from drill_ladder.core.hall import AS_ASKED, EASIER, VOID, TapSet, fold_row
from drill_ladder.formats.reading import whole
from drill_ladder.ui.fields import FormValues

EASED = {"yes": True, "no": False}
STEADY = {"y": True, "n": False}
MOST_CALLS = 1000
MOST_HEARD = 9999


def told_beside(prefix: str, data: Mapping[str, Any]) -> FormValues:
    """The values of a set that an instrument wrote into hidden fields; what cannot be read is left
    out.
    """
    return {
        "eased": EASED.get(data.get(f"{prefix}-eased") or ""),
        "tempo": _tempo(data.get(f"{prefix}-tempo") or ""),
        "reads": _answers(data.get(f"{prefix}-reads") or ""),
    } | _by_ear(data.get(f"{prefix}-heard") or "")


def kept_beside(prefix: str, row: SetRow) -> FormValues:
    """What the hidden fields hold of a stored set, so that it keeps them when it is put right."""
    eased = {True: "yes", False: "no", None: ""}[row.eased]
    tempo = "" if row.tempo is None else f"{100 * row.tempo:.0f}"
    reads = "" if row.reads is None else ",".join(map(str, astuple(row.reads)))
    return {
        f"{prefix}-eased": eased,
        f"{prefix}-tempo": tempo,
        f"{prefix}-reads": reads,
        f"{prefix}-heard": _heard(row),
    }


def _heard(row: SetRow) -> str:
    if row.heard is None:
        return ""
    if row.heard_pace is None:
        return f"{row.heard}"
    return f"{row.heard};{row.heard_pace};{'y' if row.heard_steady else 'n'}"


def _tempo(text: str) -> float | None:
    """A share of full speed, written in percent."""
    percent = whole(text, 1, 100)
    return None if percent is None else percent / 100


def _by_ear(text: str) -> FormValues:
    """How many the phone heard, as 21, or with the pace as 21;72;y."""
    count, _, pace = text.partition(";")
    a_minute, _, steady = pace.partition(";")
    return {
        "heard": whole(count, 0, MOST_HEARD),
        "heard_pace": whole(a_minute, 0, MOST_HEARD),
        "heard_steady": STEADY.get(steady),
    }


def _answers(text: str) -> Answers | None:
    """Seven or eight numbers with commas between: hits, misses, touched, left, read, of, carried
    out, late.
    """
    numbers = [whole(part, 0, MOST_CALLS) for part in text.split(",")]
    if len(numbers) not in (7, 8) or None in numbers:
        return None
    answers = Answers(*(number or 0 for number in numbers))
    fits = answers.carried_out <= answers.right <= answers.choices
    return answers if fits and answers.late <= answers.misses else None


def parted(one: SetInput, names: Sequence[str] = ()) -> list[SetInput]:
    """The set as it is, or its two parts where strokes say that it was made easier or harder on the
    way. Its numbers stay where they do not agree with its strokes. names: the faults by number.
    """
    strokes = one.values.get("strokes") or ""
    # typed in rather than tapped: there is nothing to fold
    parts = fold_row(strokes, one.values.get("eased") or False) if strokes else []
    if len(parts) < 2 or one.values.get("makes") is None:
        return [replace(one, values=_only(one.values, parts))]
    by_way = [_part(one, part, names) for part in parts]
    sums = {name: sum(part.values[name] for part in by_way) for name in ("attempts", "makes")}
    if any(one.values[name] != number for name, number in sums.items()):
        return [one]
    return _with_the_rest(one.values.get("faults"), by_way)


def _only(values: FormValues, parts: Sequence[TapSet]) -> FormValues:
    """All of it easier, or all of it as asked: the strokes say which."""
    marked = any(sign in (values.get("strokes") or "") for sign in (EASIER, AS_ASKED))
    return values | {"eased": parts[0].eased} if len(parts) == 1 and marked else values


def _part(one: SetInput, part: TapSet, names: Sequence[str]) -> SetInput:
    sign, own = (EASIER, uuid5(one.id, EASIER)) if part.eased else (AS_ASKED, one.id)
    values = {
        "attempts": part.attempts,
        "makes": part.makes,
        "voids": part.strokes.count(VOID),
        "faults": None if one.values.get("faults") is None else part.named(names),
        "eased": part.eased,
        "strokes": sign + part.strokes,
    }
    return replace(one, id=own, values=one.values | values)


def _with_the_rest(faults: dict[str, int] | None, parts: list[SetInput]) -> list[SetInput]:
    """Faults that were typed and not tapped belong to the first part: nobody said which."""
    if faults is None:
        return parts
    tapped = sum((Counter(part.values["faults"]) for part in parts), Counter())
    parts[0].values["faults"] = dict(
        Counter(parts[0].values["faults"]) + (Counter(faults) - tapped)
    )
    return parts


def sum_answers(session: Session) -> Answers:
    """How the calls of a whole session were answered."""
    reads = [row.reads for row in session.sets.all() if row.reads is not None]
    return sum(reads, Answers())
