"""Small pictures for the words of the trade, one for each: 96 by 64, of the same few shapes as the
program's own drawings.
"""

from drill_ladder.charts.svg import drawing, line, rect, tag, words

WIDTH, HEIGHT = 96.0, 64.0


def _made(*parts: str) -> str:
    return drawing(WIDTH, HEIGHT, "", list(parts), "word-picture")


def _dot(x: float, y: float, r: float = 4, look: str = "wp-full") -> str:
    return tag("circle", cx=x, cy=y, r=r, class_=look)


def _arrow(x1: float, y1: float, x2: float, y2: float) -> str:
    """A line with a head at its end."""
    length = max(1e-9, ((x2 - x1) ** 2 + (y2 - y1) ** 2) ** 0.5)
    ux, uy = (x2 - x1) / length, (y2 - y1) / length
    bx, by = x2 - 8 * ux, y2 - 8 * uy
    head = f"{x2},{y2} {bx - 4 * uy:.1f},{by + 4 * ux:.1f} {bx + 4 * uy:.1f},{by - 4 * ux:.1f}"
    return line(x1, y1, bx, by, "wp-line") + tag("polygon", points=head, class_="wp-full")


def _rungs(at: int | None, left: float = 34, only: bool = False) -> list[str]:
    """Two rails with four rungs; at: the one that is filled, from the bottom."""
    parts = [line(x, 4, x, 60, "wp-rail") for x in (left, left + 28)]
    for n in range(1, 5):
        other = "wp-faint" if only else "wp-line"
        look = "wp-now" if n == at else other
        parts.append(line(left, 66 - 14 * n, left + 28, 66 - 14 * n, look))
    return parts


def ladder(at: int, only: bool = False) -> str:
    """A ladder with one rung filled; only: the others fade."""
    return _made(*_rungs(at, only=only))


def move(steps: int) -> str:
    """From one rung to another, or staying."""
    parts = _rungs(2 + (steps > 0), left=20)
    if steps:
        y = 38 if steps > 0 else 24
        parts.append(_arrow(70, y + 8 * (steps > 0) - 8 * (steps < 0), 70, y - 18 * steps))
    else:
        parts += [line(62, 30, 82, 30, "wp-line"), line(62, 38, 82, 38, "wp-line")]
    return _made(*parts)


def sets(rows: int, reps: int) -> str:
    """Rows of repetitions."""
    return _made(*(_dot(18 + 15 * c, 14 + 18 * r) for r in range(rows) for c in range(reps)))


def target(rate: float) -> str:
    """A bar and the mark it has to reach."""
    return _made(
        rect(12, 26, 72, 12, "wp-box", 3),
        rect(12, 26, 72 * 0.9, 12, "wp-full", 3),
        line(12 + 72 * rate, 16, 12 + 72 * rate, 48, "wp-now"),
    )


def floor() -> str:
    """Two marks: under the lower one it is low."""
    return _made(
        rect(12, 26, 72, 12, "wp-box", 3),
        rect(12, 26, 20, 12, "wp-low", 3),
        line(42, 16, 42, 48, "wp-line"),
        line(70, 16, 70, 48, "wp-now"),
    )


def lanes() -> str:
    """Two ways to the same goal."""
    return _made(_arrow(24, 56, 40, 14), _arrow(72, 56, 56, 14), rect(36, 6, 24, 5, "wp-box", 2))


def days(*verdicts: str) -> str:
    """Days in a row: filled, half, empty."""
    looks = {"pass": "wp-full", "near": "wp-half", "low": "wp-box"}
    width = WIDTH / (len(verdicts) + 1)
    return _made(*(_dot(width * n, 32, 8, looks[v]) for n, v in enumerate(verdicts, 1)))


def ease() -> str:
    """A rung and the same one, shorter."""
    return _made(
        line(14, 22, 82, 22, "wp-line"), _arrow(48, 26, 48, 40), line(32, 46, 64, 46, "wp-now")
    )


def eye() -> str:
    """Seen by somebody."""
    return _made(tag("ellipse", cx=48, cy=32, rx=28, ry=16, class_="wp-box"), _dot(48, 32, 8))


def retention() -> str:
    """Checks further and further apart."""
    return _made(
        line(8, 40, 90, 40, "wp-line"),
        *(line(x, 30, x, 50, "wp-now") for x in (14, 26, 46, 82)),
    )


def placement() -> str:
    """Tries that come closer."""
    return _made(*_rungs(3, left=16), _dot(62, 10, 4, "wp-box"), _dot(70, 52), _dot(78, 24))


def fault() -> str:
    """Past the goal."""
    return _made(rect(60, 10, 22, 5, "wp-box", 2), _arrow(30, 56, 46, 10), _dot(26, 58))


def cue() -> str:
    """One thing said."""
    return _made(
        rect(14, 10, 68, 32, "wp-box", 8),
        tag("polygon", points="30,42 30,56 44,42", class_="wp-box"),
        line(26, 26, 70, 26, "wp-now"),
    )


def bad_feed() -> str:
    """A ball beside the player."""
    return _made(_dot(70, 30, 9, "wp-box"), _arrow(12, 18, 44, 52), _dot(48, 56))


def by_ear() -> str:
    """A phone beside hits of which each is a stroke."""
    strokes = [
        line(44 + 12 * n, 32 - rise, 44 + 12 * n, 32 + rise, "wp-line")
        for n, rise in enumerate((6, 16, 9, 16))
    ]
    return _made(rect(12, 10, 20, 44, "wp-box", 4), *strokes)


def plan() -> str:
    """A floor plan."""
    return _made(
        rect(10, 8, 76, 48, "wp-box", 3), _dot(26, 44), _dot(70, 20, 3), _arrow(30, 40, 64, 22)
    )


def home() -> str:
    """A house."""
    return _made(
        tag("polygon", points="48,8 82,32 14,32", class_="wp-box"), rect(24, 32, 48, 26, "wp-box")
    )


def caller() -> str:
    """An order and two ways."""
    return _made(_dot(48, 50), _arrow(48, 44, 24, 16), _arrow(48, 44, 72, 16))


def routine() -> str:
    """Three parts one after the other."""
    parts = [rect(8 + 30 * n, 22, 20, 20, "wp-box", 4) for n in range(3)]
    return _made(*parts, _arrow(28, 32, 38, 32), _arrow(58, 32, 68, 32))


def stations() -> str:
    """A round."""
    spots = ((48, 12), (76, 32), (48, 52), (20, 32))
    return _made(*(_dot(x, y, 7, "wp-box") for x, y in spots), _arrow(56, 16, 70, 26))


def turns() -> str:
    """One works, two wait."""
    return _made(_dot(24, 32, 10), _dot(54, 32, 8, "wp-half"), _dot(80, 32, 8, "wp-box"))


def stop() -> str:
    """Stop."""
    points = "36,8 60,8 76,24 76,40 60,56 36,56 20,40 20,24"
    return _made(
        tag("polygon", points=points, class_="wp-low"), words(48, 37, "STOP", "wp-word", "middle")
    )


def change() -> str:
    """Two bands that do not touch."""
    return _made(
        line(30, 36, 30, 58, "wp-line"),
        _dot(30, 47, 5),
        line(66, 6, 66, 28, "wp-line"),
        _dot(66, 17, 5),
    )


def spread() -> str:
    """Days about a line."""
    found = ((14, 30), (28, 46), (42, 18), (56, 38), (70, 24), (84, 42))
    return _made(line(8, 33, 90, 33, "wp-faint"), *(_dot(x, y) for x, y in found))
