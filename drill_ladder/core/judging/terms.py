"""What a player is judged by on a rung, and what may be different for one player."""

from dataclasses import dataclass, fields, replace
from typing import TypeVar

from drill_ladder.core.judging.ladders import Rule, Rung


@dataclass(frozen=True, slots=True)
class Terms:
    """A rung with the rule in force there, as they were when the player arrived; the rung has no
    rule of its own.
    """

    rung: Rung
    rule: Rule


@dataclass(frozen=True, slots=True)
class DoseChange:
    """What of a dose is different; None: as the rung has it."""

    sets: int | None = None
    reps: int | None = None
    rest_s: float | None = None


@dataclass(frozen=True, slots=True)
class TargetChange:
    """What of a target is different; None: as the rung has it."""

    makes: int | None = None
    of: int | None = None
    value: float | None = None


@dataclass(frozen=True, slots=True)
class Overrides:
    """What is different for one player: dose and rule on every rung, the target on one rung, by its
    stored id.
    """

    dose: DoseChange = DoseChange()
    target: TargetChange = TargetChange()
    target_rung: int | None = None
    rule: Rule | None = None

    def __bool__(self) -> bool:
        """Whether anything is different."""
        return self != Overrides()


Part = TypeVar("Part")


def changed(part: Part, change: DoseChange | TargetChange) -> Part:
    """A dose or a target with what is different put in."""
    told = {f.name: getattr(change, f.name) for f in fields(change)}
    return replace(part, **{name: value for name, value in told.items() if value is not None})  # type: ignore[type-var]


def with_dose(rung: Rung, overrides: Overrides) -> Rung:
    """The rung by the player's own dose, which is a number where the rung may have a band."""
    own = overrides.dose
    return replace(
        rung,
        dose=changed(rung.dose, own),
        reps_high=rung.reps_high if own.reps is None else None,
        minutes=rung.minutes if own.reps is None else None,
        sets_high=rung.sets_high if own.sets is None else None,
    )


def with_target(rung: Rung, overrides: Overrides) -> Rung:
    """The rung by the player's own target."""
    return replace(rung, target=changed(rung.target, overrides.target))
