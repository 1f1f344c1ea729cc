"""Intervals for rates. Source: Wilson (1927) and Newcombe (1998), hybrid score without continuity
correction; checked against statsmodels' proportion_confint('wilson') and
confint_proportions_2indep('newcomb').
"""

from math import sqrt

Z95 = 1.959963984540054


def wilson(makes: int, attempts: int) -> tuple[float, float]:
    """95 % score interval of a rate; attempts >= 1."""
    p, n, z2 = makes / attempts, attempts, Z95**2
    centre = (p + z2 / (2 * n)) / (1 + z2 / n)
    half = Z95 * sqrt(p * (1 - p) / n + z2 / (4 * n * n)) / (1 + z2 / n)
    return max(0.0, centre - half), min(1.0, centre + half)


def newcombe(makes1: int, attempts1: int, makes2: int, attempts2: int) -> tuple[float, float]:
    """95 % interval of rate 1 - rate 2; attempts >= 1 each."""
    p1, p2 = makes1 / attempts1, makes2 / attempts2
    (l1, u1), (l2, u2) = wilson(makes1, attempts1), wilson(makes2, attempts2)
    gap = p1 - p2
    return gap - sqrt((p1 - l1) ** 2 + (u2 - p2) ** 2), gap + sqrt((u1 - p1) ** 2 + (p2 - l2) ** 2)
