"""Tally strokes, as coaches write them: in fives, each mark told by its shape."""

from collections.abc import Sequence

from drill_ladder.charts.svg import drawing, line, tag

HEIGHT, STEP, GROUP = 26.0, 7.0, 5.0
_WORDS = {
    "pass": "passed",
    "near": "near",
    "low": "low",
    "short": "short",
    "good": "good",
    "miss": "missed",
    "void": "void",
}
# a hand does not draw the same stroke twice; the same five leanings come round, so that pictures
# stay the same
_LEAN = (1.2, 0.3, 0.9, -0.2, 0.7)


def tally(marks: Sequence[str], what: str = "") -> str:
    """SVG of marks in order. Sessions: pass, near, low, short. Attempts: good, miss, void."""
    x, parts = 4.0, []
    for i, mark in enumerate(marks):
        parts += _mark(mark, x, _LEAN[i % 5])
        x += STEP + (GROUP if i % 5 == 4 else 0)
    title = f"{what}: {_count(marks)}" if what else _count(marks)
    return drawing(max(x, 12), HEIGHT, title, parts, "tally")


def _mark(mark: str, x: float, lean: float) -> list[str]:
    match mark:
        case "pass" | "good":
            return [line(x + lean, 3, x - lean, 23, "stroke-good")]
        case "near":
            return [line(x + lean / 2, 12, x - lean / 2, 23, "stroke-near")]
        case "low":
            return [line(x - 2.6, 21.5, x + 2.6, 21.5, "stroke-low")]
        case "short":
            return [tag("circle", cx=x, cy=21.0, r=1.4, class_="stroke-short")]
        case "miss":
            return [tag("circle", cx=x, cy=19.5, r=2.6, class_="stroke-miss")]
        case _:
            return [
                line(x - 2, 17.5, x + 2, 21.5, "stroke-void"),
                line(x - 2, 21.5, x + 2, 17.5, "stroke-void"),
            ]


def _count(marks: Sequence[str]) -> str:
    if not marks:
        return "nothing yet"
    kinds = dict.fromkeys(marks)
    return ", ".join(
        f"{sum(1 for m in marks if m == kind)} {_WORDS.get(kind, kind)}" for kind in kinds
    )


BOX, TALL, GAP, FIVE = 4.0, 4.6, 0.7, 1.7


def boxes(count: int, scale: float = 1.0) -> str:
    """SVG for paper: boxes to tick in fives, or (0) one wide box for a number. One path, quick to
    lay out.

    scale: of four millimetres a box.
    """
    sides, x = [], 0.15
    for i in range(max(1, count)):
        width = BOX if count else 16.0
        sides.append(f"M{x:.2f} 0.15h{width:.2f}v{TALL:.2f}h-{width:.2f}z")
        x += width + GAP + (FIVE if i % 5 == 4 else 0)
    width, height = x, TALL + 0.3
    what = f"{count} boxes" if count else "a box for a number"
    path = tag("path", d="".join(sides), fill="none", stroke="#000", stroke_width=0.25)
    return tag(
        "svg",
        f"<title>{what}</title>{path}",
        xmlns="http://www.w3.org/2000/svg",
        viewBox=f"0 0 {width:.2f} {height:.2f}",
        width=f"{width * scale:.2f}mm",
        height=f"{height * scale:.2f}mm",
        class_="boxes",
    )
