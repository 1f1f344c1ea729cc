"""A line of the table of promises: what is promised, and what was found."""

from dataclasses import dataclass

import numpy as np

AT_MOST, AT_LEAST, ABOUT = "at most", "at least", "about"


@dataclass(frozen=True, slots=True)
class Found:
    """A line of the table. where: the screens that say it; of: how many cases; slack: what chance
    may add in so few cases.
    """

    promise: str
    where: str
    way: str
    promised: float
    found: float
    of: int
    slack: float = 0.0

    @property
    def kept(self) -> bool:
        """Whether it was."""
        if self.way == AT_MOST:
            return self.found <= self.promised + self.slack
        if self.way == AT_LEAST:
            return self.found >= self.promised - self.slack
        return abs(self.found - self.promised) <= self.slack


def slack_of(share: float, of: int) -> float:
    """Three standard errors."""
    return 3 * float(np.sqrt(max(share * (1 - share), 0.01) / max(1, of)))
