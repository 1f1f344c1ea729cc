"""Comparing against a threshold, so that floating point never decides a promotion."""

from math import ceil, floor

TOLERANCE = 1e-9


def at_least(value: float, threshold: float) -> bool:
    """Whether value >= threshold, counted as met within 1e-9."""
    return value > threshold - TOLERANCE


def at_most(value: float, threshold: float) -> bool:
    """Whether value <= threshold, counted as met within 1e-9."""
    return value < threshold + TOLERANCE


def good_enough(score: float, target: float, higher_is_better: bool) -> bool:
    """Whether a score reaches its target, in the measure's own direction."""
    return at_least(score, target) if higher_is_better else at_most(score, target)


def worse_than(score: float, floor_value: float, higher_is_better: bool) -> bool:
    """Whether a score is worse than a floor by more than 1e-9; at the floor is not worse."""
    return not good_enough(score, floor_value, higher_is_better)


def rounded_up(value: float) -> int:
    """The smallest whole number >= value, not fooled by 0.8 * 10 = 8.000000000000002."""
    return ceil(value - TOLERANCE)


def rounded_down(value: float) -> int:
    """The largest whole number <= value, within 1e-9."""
    return floor(value + TOLERANCE)
