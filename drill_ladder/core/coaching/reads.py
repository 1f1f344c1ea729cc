"""Deciding apart from doing: cues to answer and cues to leave (docs/methods.md, 29).

Source: Hautus (1995), Corrections for extreme proportions and their biasing effects on estimated
values of d': the log-linear correction, which keeps perfect scores finite.
"""

from dataclasses import astuple, dataclass
from statistics import NormalDist

FEWEST_CUES = 10


@dataclass(frozen=True, slots=True)
class Choices:
    """Choices among several. carried_out: of the right ones, those that were then done well."""

    right: int
    of: int
    carried_out: int


@dataclass(frozen=True, slots=True)
class Answers:
    """How calls were answered. choices: situations that were read, right: of these read rightly,
    carried_out: of the right ones then done well; late: of the misses, those that only came late;
    wrong_way: of the misses, those at the right place with the wrong foot, hand or tool.
    """

    hits: int = 0
    misses: int = 0
    false_alarms: int = 0
    correct_leaves: int = 0
    right: int = 0
    choices: int = 0
    carried_out: int = 0
    late: int = 0
    wrong_way: int = 0

    def __add__(self, other: "Answers") -> "Answers":
        """Both together."""
        mine, theirs = astuple(self), astuple(other)
        return Answers(*(a + b for a, b in zip(mine, theirs, strict=True)))

    @property
    def reads(self) -> "Reads":
        """What they say about looking, and about doing."""
        choices = Choices(self.right, self.choices, self.carried_out) if self.choices else None
        return reads_of(
            self.hits, self.misses, self.false_alarms, self.correct_leaves, choices=choices
        )


@dataclass(frozen=True, slots=True)
class Reads:
    """Two numbers, two remedies: d_prime says how well cues are told apart, criterion how willing
    the player is to go (below 0: often), carried_share how well the right choice is then done.
    """

    hit_rate: float | None
    false_alarm_rate: float | None
    d_prime: float | None
    criterion: float | None
    accuracy: float | None
    right_share: float | None
    carried_share: float | None


def reads_of(
    hits: int,
    misses: int,
    false_alarms: int,
    correct_leaves: int,
    choices: Choices | None = None,
    min_cues: int = FEWEST_CUES,
) -> Reads:
    """Counts of cues; the plain rates are uncorrected, None where nothing was asked."""
    asked, left = hits + misses, false_alarms + correct_leaves
    d_prime = criterion = None
    if min(asked, left) >= min_cues:
        z = NormalDist().inv_cdf
        hit, alarm = z((hits + 0.5) / (asked + 1)), z((false_alarms + 0.5) / (left + 1))
        d_prime, criterion = hit - alarm, -(hit + alarm) / 2
    return Reads(
        _share(hits, asked),
        _share(false_alarms, left),
        d_prime,
        criterion,
        _share(hits + correct_leaves, asked + left),
        _share(choices.right, choices.of) if choices else None,
        _share(choices.carried_out, choices.right) if choices else None,
    )


def _share(part: int, whole: int) -> float | None:
    return part / whole if whole else None
