"""The odds of a rule: the chance of climbing within the horizon against the player's true rate.

The area under the curve left of "not ready" is moved up too soon; the area above it right of
"ready" is kept back.
"""

from collections.abc import Sequence
from dataclasses import dataclass

from drill_ladder.charts.svg import drawing, fixed, line, tag, words

WIDTH, HEIGHT = 640.0, 380.0
LEFT, RIGHT, TOP, BOTTOM = 52.0, 16.0, 18.0, 50.0
APART = 0.16  # two marks nearer than this would be written over each other


@dataclass(frozen=True, slots=True)
class Curve:
    """A named curve: chances 0..1 at the rates of the drawing."""

    name: str
    chances: Sequence[float]


def odds_chart(
    rates: Sequence[float],
    main: Curve,
    others: Sequence[Curve],
    not_ready: float,
    ready: float,
    horizon: int,
) -> str:
    """SVG. rates: 0..1 rising; not_ready < ready: the coach's two marks; horizon: sessions."""
    parts = [
        *_areas(rates, main, not_ready, ready),
        *_frame(horizon),
        *(_curve(rates, other, f"odds-other odds-other-{i}") for i, other in enumerate(others, 1)),
        _curve(rates, main, "odds-main"),
        *_marks(rates, main, not_ready, ready),
    ]
    title = (
        f"{main.name}: a player at {_percent(not_ready)} climbs within {horizon} sessions with a "
        "chance of "
        f"{_percent(at(rates, main, not_ready))}, one at {_percent(ready)} with "
        f"{_percent(at(rates, main, ready))}"
    )
    return drawing(WIDTH, HEIGHT, title, parts, "odds-chart")


def small_chart(rates: Sequence[float], main: Curve, not_ready: float, ready: float) -> str:
    """The curve and its areas with no more words than the two marks: for a row that says the
    numbers itself.
    """
    inner = [
        *_areas(rates, main, not_ready, ready),
        _curve(rates, main, "odds-main"),
        *(line(_x(rate), _y(0), _x(rate), _y(1), "odds-mark") for rate in (not_ready, ready)),
        *(line(_x(x), TOP - 6, _x(x), HEIGHT - BOTTOM + 2, "rail-line") for x in (0, 1)),
    ]
    if ready - not_ready >= APART:
        inner += [
            words(_x(rate), HEIGHT - 8, _percent(rate), "odds-small-word", "middle")
            for rate in (not_ready, ready)
        ]
    return drawing(
        WIDTH, HEIGHT, "Chance of climbing against the true rate", inner, "odds-chart odds-small"
    )


def at(rates: Sequence[float], curve: Curve, rate: float) -> float:
    """The curve's chance at a rate, linear between the drawn ones."""
    for i in range(1, len(rates)):
        if rate <= rates[i]:
            share = (rate - rates[i - 1]) / (rates[i] - rates[i - 1])
            return curve.chances[i - 1] + share * (curve.chances[i] - curve.chances[i - 1])
    return curve.chances[-1]


def _percent(rate: float) -> str:
    return f"{rate * 100:.0f}\u00a0%"


def _x(rate: float) -> float:
    return LEFT + rate * (WIDTH - LEFT - RIGHT)


def _y(chance: float) -> float:
    return HEIGHT - BOTTOM - chance * (HEIGHT - TOP - BOTTOM)


def _points(pairs: Sequence[tuple[float, float]]) -> str:
    return " ".join(f"{fixed(_x(rate))},{fixed(_y(chance))}" for rate, chance in pairs)


def _areas(rates: Sequence[float], main: Curve, not_ready: float, ready: float) -> list[str]:
    curve = list(zip(rates, main.chances, strict=True))
    soon = [(r, c) for r, c in curve if r < not_ready] + [(not_ready, at(rates, main, not_ready))]
    back = [(ready, at(rates, main, ready))] + [(r, c) for r, c in curve if r > ready]
    return [
        tag("polygon", points=_points([(0.0, 0.0), *soon, (not_ready, 0.0)]), class_="odds-soon"),
        tag("polygon", points=_points([(ready, 1.0), *back, (1.0, 1.0)]), class_="odds-back"),
    ]


def _frame(horizon: int) -> list[str]:
    parts = []
    for tenth in range(0, 11, 2):
        share = tenth / 10
        parts.append(line(_x(0), _y(share), _x(1), _y(share), "rung-ahead"))
        parts.append(words(LEFT - 9, _y(share) + 4.5, _percent(share), "axis", "end"))
        parts.append(line(_x(share), _y(0), _x(share), _y(0) + 5, "axis-tick"))
        parts.append(words(_x(share), _y(0) + 20, _percent(share), "axis", "middle"))
    parts += [line(_x(x), TOP - 6, _x(x), HEIGHT - BOTTOM + 2, "rail-line") for x in (0, 1)]
    parts.append(
        words((LEFT + WIDTH - RIGHT) / 2, HEIGHT - 8, "the player's true rate", "axis", "middle")
    )
    parts.append(words(LEFT + 12, TOP + 6, f"climbs within {horizon} sessions", "axis axis-note"))
    return parts


def _curve(rates: Sequence[float], curve: Curve, class_: str) -> str:
    return tag(
        "polyline", points=_points(list(zip(rates, curve.chances, strict=True))), class_=class_
    )


def _marks(rates: Sequence[float], main: Curve, not_ready: float, ready: float) -> list[str]:
    parts = []
    for rate, word, right in ((not_ready, "not ready", False), (ready, "ready", ready < 0.78)):
        chance = at(rates, main, rate)
        parts.append(line(_x(rate), _y(0), _x(rate), _y(1), "odds-mark"))
        parts.append(tag("circle", cx=_x(rate), cy=_y(chance), r=5.5, class_="marker"))
        below = min(_y(chance) + 19, _y(0) - 8)
        anchor, side = ("start", 9) if right else ("end", -9)
        parts.append(
            words(_x(rate) + side, below, f"{word}: {_percent(chance)}", "odds-word", anchor)
        )
    return parts
