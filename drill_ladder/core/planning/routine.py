"""Routines: parts in a fixed order with inserts between them, fitted into the minutes there are
(docs/methods.md, 32). Common practice, no source.
"""

from collections.abc import Collection, Sequence
from dataclasses import dataclass, field

from drill_ladder.core.planning.dose import DoseTime
from drill_ladder.core.thresholds import at_most


@dataclass(frozen=True, slots=True)
class Part:
    """A part with its dose. keep: never left out; together: judged in the same repetitions as the
    part before it, so that both take the time of the longer one.
    """

    id: str
    dose: DoseTime
    keep: bool = False
    together: bool = False


@dataclass(frozen=True, slots=True)
class Insert:
    """A few scored attempts between the parts. after: the parts that one follows, None for every
    part that another follows.
    """

    seconds: float
    after: frozenset[str] | None = None


@dataclass(frozen=True, slots=True)
class PlacedPart:
    """A part with its sets, when it starts and how long it takes, in seconds."""

    id: str
    sets: int
    starts_s: float
    seconds: float


@dataclass(frozen=True, slots=True)
class PlacedInsert:
    """An insert: after which part, when it starts, how long it takes, in seconds."""

    after: str
    starts_s: float
    seconds: float


@dataclass(frozen=True, slots=True)
class Cut:
    """A part that got fewer sets than it has."""

    id: str
    from_: int
    to: int


@dataclass(frozen=True, slots=True)
class Routine:
    """What is done when; what was cut and left out, in the routine's order; whether it fits."""

    seconds: float
    parts: list[PlacedPart]
    inserts: list[PlacedInsert]
    cut: list[Cut]
    left_out: list[str]
    fits: bool


def routine_of(
    parts: Sequence[Part],
    insert: Insert | None = None,
    change_s: float = 0,
    minutes: float | None = None,
) -> Routine:
    """The routine as it is; where the minutes do not suffice, first with fewer sets, then with
    fewer parts. change_s: seconds between one block and the next.
    """
    draft = _Draft(parts, insert, change_s, {part.id: part.dose.sets for part in parts})
    limit = None if minutes is None else minutes * 60
    if limit is not None:
        _cut_sets(draft, limit)
        if _leave_out(draft, limit):
            _give_back(draft, limit)
    placed, inserts, seconds = draft.placed()
    cut = [
        Cut(part.id, part.dose.sets, draft.sets[part.id])
        for part in draft.parts
        if draft.sets[part.id] < part.dose.sets
    ]
    still = {part.id for part in draft.parts}
    left_out = [part.id for part in parts if part.id not in still]
    fits = limit is None or at_most(seconds, limit)
    return Routine(seconds, placed, inserts, cut, left_out, fits)


@dataclass(slots=True)
class _Draft:
    """The parts that are still in, with their sets."""

    parts: Sequence[Part]
    insert: Insert | None
    change_s: float
    sets: dict[str, int] = field(default_factory=dict)

    def placed(self) -> tuple[list[PlacedPart], list[PlacedInsert], float]:
        """Parts and inserts one after the other, and when the last one ends."""
        parts, inserts, clock, blocks = [], [], 0.0, self._blocks()
        for number, block in enumerate(blocks, 1):
            starts = clock + (self.change_s if number > 1 else 0.0)
            placed = [self._placed(part, starts) for part in block]
            parts += placed
            clock = starts + max(part.seconds for part in placed)
            if self.insert is not None and self._is_followed(block, number < len(blocks)):
                starts = clock + self.change_s
                inserts.append(PlacedInsert(block[-1].id, starts, self.insert.seconds))
                clock = starts + self.insert.seconds
        return parts, inserts, clock

    def _placed(self, part: Part, starts: float) -> PlacedPart:
        sets = self.sets[part.id]
        return PlacedPart(part.id, sets, starts, part.dose.seconds_of(sets))

    def _blocks(self) -> list[list[Part]]:
        """What is done at once: a part that is judged together stands with the one before it."""
        blocks: list[list[Part]] = []
        for part in self.parts:
            if part.together and blocks:
                blocks[-1].append(part)
            else:
                blocks.append([part])
        return blocks

    def _is_followed(self, block: Sequence[Part], another: bool) -> bool:
        after = None if self.insert is None else self.insert.after
        return another if after is None else any(part.id in after for part in block)

    def fits(self, limit: float, one_more: str = "") -> bool:
        """Whether it fits, with one set more of a part where that is asked."""
        blocks = self._blocks()
        work = sum(
            max(p.dose.seconds_of(self.sets[p.id] + (p.id == one_more)) for p in block)
            for block in blocks
        )
        inserts = sum(
            self.insert is not None and self._is_followed(block, number < len(blocks))
            for number, block in enumerate(blocks, 1)
        )
        changes = max(0, len(blocks) - 1 + inserts) * self.change_s
        between = inserts * self.insert.seconds if self.insert else 0.0
        return at_most(work + changes + between, limit)


def _cut_sets(draft: _Draft, limit: float) -> None:
    """One set at a time from the part with most of them, the later one of two alike."""
    while not draft.fits(limit):
        order = enumerate(draft.parts)
        most, _, part = max((draft.sets[part.id], i, part.id) for i, part in order)
        if most <= 1:
            return
        draft.sets[part] -= 1


def _leave_out(draft: _Draft, limit: float) -> bool:
    """Parts from the end, never one to keep, never the only one left; whether any went."""
    gone: Collection[str] = ()
    while len(draft.parts) > 1 and not draft.fits(limit):
        free = [part.id for part in draft.parts if not part.keep]
        if not free:
            break
        gone = {*gone, free[-1]}
        draft.parts = [part for part in draft.parts if part.id not in gone]
    return bool(gone)


def _give_back(draft: _Draft, limit: float) -> None:
    """Cut sets come back one at a time, to the part that lacks most of them and whose next one
    fits.
    """
    while True:
        lacking = [
            (part.dose.sets - draft.sets[part.id], -i, part.id)
            for i, part in enumerate(draft.parts)
            if draft.sets[part.id] < part.dose.sets and draft.fits(limit, one_more=part.id)
        ]
        if not lacking:
            return
        draft.sets[max(lacking)[2]] += 1
