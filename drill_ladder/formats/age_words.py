"""What differs by age, as people type and read it: distances, heights, balls."""

import re
from collections.abc import Sequence

from drill_ladder.core.judging import ByAge

YOUNGEST, OLDEST, MOST_STEPS, LONGEST_STEP = 3, 99, 8, 60
_STEP = re.compile(r"\s*(?:(?:up\s+)?to\s+)?(\d+|older)\s*(?::\s*|\s+)(\S.*?)\s*", re.IGNORECASE)


class BadAges(ValueError):
    """A part that is no age with what it gets, with what it should look like."""


def read_ages(text: str) -> tuple[ByAge, ...]:
    """Ages with what they get, semicolons or commas between. Raises BadAges.

    >>> read_ages("to 8: 3 m, to 10: 4,5 m; older: 6 m")[1:]
    (ByAge(to=10, how='4,5 m'), ByAge(to=None, how='6 m'))
    """
    steps = tuple(_step(part) for part in re.split(r";|,\s", text) if part.strip())
    if len(steps) > MOST_STEPS:
        raise BadAges(f"At most {MOST_STEPS} ages.")
    wrong = first_wrong(steps)
    if wrong is not None:
        raise BadAges(f"“{step_words(steps[wrong])}”: from young to old, “older” last.")
    return steps


def _step(part: str) -> ByAge:
    found = _STEP.fullmatch(part)
    if found is None or len(found[2]) > LONGEST_STEP:
        raise BadAges(
            f"“{part.strip()[:80]}” is no age: write “to 8: 3 m, to 10: 4 m, older: 5 m”."
        )
    if found[1].lower() == "older":
        return ByAge(None, found[2])
    if not YOUNGEST <= int(found[1][:4]) <= OLDEST:
        raise BadAges(f"“{part.strip()}”: ages run from {YOUNGEST} to {OLDEST}.")
    return ByAge(int(found[1]), found[2])


def first_wrong(steps: Sequence[ByAge]) -> int | None:
    """The place of the first step that is not older than the one before."""
    for number, step in enumerate(steps[1:], 1):
        before = steps[number - 1].to
        if before is None or (step.to is not None and step.to <= before):
            return number
    return None


def step_words(step: ByAge) -> str:
    """One step as it is typed."""
    return f"older: {step.how}" if step.to is None else f"to {step.to}: {step.how}"


def ages_text(steps: Sequence[ByAge]) -> str:
    """All of them as they are typed."""
    return ", ".join(map(step_words, steps))


def at_age(steps: Sequence[ByAge], age: int | None) -> str:
    """What somebody gets at an age, full years; where nobody knows it, all there is; "" where the
    steps say nothing of that age.
    """
    if age is None:
        return ages_text(steps)
    own = next((step for step in steps if step.to is None or age <= step.to), None)
    return "" if own is None else f"{own.how} (age {age})"
