"""The demo's doses and rules, which several ladders share."""

from typing import Any

from drill_ladder.demo.writing import box, plan

TEN = {"sets": 1, "reps": 10, "s_per_rep": 6}
TRIES = {"sets": 3}
WINDOWS = {"sets": 3, "rest_s": 30}
RUNS = {"sets": 4, "rest_s": 60}
PASS: dict[str, Any] = {"dose": TEN, "floor": 0.4}
TWO_IN_A_ROW = {"school": "in_a_row", "passes": 2}
TWO_OF_THREE = {"school": "window", "passes": 2, "of": 3}

REST, MOVE = "Push pass, ball at rest", "Push pass on the move"
SERVE, TIRED = "Low serve to the box", "Low serve after a sprint"
EIGHT, PRESSED = "Receive in eight directions", "Receive under pressure"
NINE, TUMBLE = "Net shot to nine spots", "Net shot, tumbling"


def gates(
    ahead: float, width: float, run_up: float = 0, **more: tuple[float, float]
) -> dict[str, Any]:
    """Two gates so many metres ahead, each so wide, passed at from B after a run-up from A, or from
    A at rest.
    """
    start = "B" if run_up else "A"
    markers = {"A": (0.0, -run_up), **({"B": (0.0, 0.0)} if run_up else {}), **more}
    markers |= {"L": (-1.9, ahead), "R": (1.9, ahead)}
    zones = {
        f"gate {name}": box(x - width / 2, ahead - 0.2, width, 0.4)
        for name, x in (("L", -1.9), ("R", 1.9))
    }
    legs = [("A", "B")] if run_up else []
    return plan(markers, legs, "carry", ball=[(start, "L"), (start, "R")], zones=zones)
