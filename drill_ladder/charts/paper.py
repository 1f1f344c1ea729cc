"""The look of charts that stand alone, as a file or on paper: black, grey and white."""

from drill_ladder.charts.svg import alone

STYLE = (
    "svg{background:#fff;font-family:sans-serif}"
    "text{fill:#222;font-size:13px}.rate-name{font-size:15px}"
    ".rail-line{stroke:#555;stroke-width:6;stroke-linecap:round}"
    ".rung-ahead,.axis-tick{stroke:#bbb;stroke-width:1.5}"
    ".score-point{fill:#111}.score-apart{fill:#fff;stroke:#111;stroke-width:2}"
    ".score-target{stroke:#111;stroke-width:2;stroke-dasharray:7 5}"
    ".score-trend{stroke:#444;stroke-width:3}.score-band{fill:#444;opacity:.16}"
    ".rate-interval{stroke:#777;stroke-width:5;stroke-linecap:round}"
    ".place-edge{fill:#fff;stroke:#333;stroke-width:2}.place-full{fill:#888}"
    ".plan-zone{fill:#eee;stroke:#333}"
    ".bar-wanted{fill:none;stroke:#777;stroke-width:2}.bar-done{fill:#555}"
)


def as_file(svg: str) -> str:
    """A chart that carries its own look."""
    return alone(svg, STYLE)
