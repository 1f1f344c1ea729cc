"""Many players looked at at once: which signs may be shown so that few of them are false
(docs/methods.md, 39).
"""

from collections.abc import Sequence

from drill_ladder.core.thresholds import at_least

FALSE_SHARE = 0.1  # of the signs that are shown


def shown_from(evidence: Sequence[float], share: float = FALSE_SHARE) -> float:
    """The e-value from which signs are shown, so that of those shown at most this share is expected
    to be false; infinity where none may be.

    Source: Wang and Ramdas (2022), False discovery rate control with e-values (the e-BH
    procedure), from memory; checked by simulation and against Benjamini and Hochberg of scipy on
    1/e.
    """
    ordered = sorted(evidence, reverse=True)
    found = float("inf")
    for rank, e in enumerate(ordered, 1):
        if at_least(e, len(ordered) / (rank * share)):
            found = e
    return found
