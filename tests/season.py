"""A hand-made season of seven sessions on one rung, whose arithmetic can be done beside it."""

from datetime import timedelta
from uuid import NAMESPACE_DNS, uuid5

from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from tests.make import current, put_on

# a hand-made season on one rung: day of the season -> good ones of ten, left and right
SEASON = {0: (4, 8), 4: (5, 8), 8: (5, 9), 12: (6, 8), 16: (6, 9), 20: (7, 9), 24: (7, 8)}


def play_season(w, today):
    """The season, the last day yesterday; the strokes fall off inside each session. Returns its
    prescription.
    """
    p = put_on(w, on=today - timedelta(days=30), place="both")
    first = today - timedelta(days=25)
    for day, makes in SEASON.items():
        sets = [
            SetInput(
                _id(day, lane),
                lane,
                {
                    "attempts": 10,
                    "makes": made,
                    "strokes": "g" * made + "m" * (10 - made),
                    "faults": {"wide": 10 - made - 1, "late": 1} if made < 10 else {},
                },
            )
            for lane, made in zip(("left", "right"), makes, strict=True)
        ]
        entry = SessionInput(
            id=_id(day, "session"),
            on=first + timedelta(days=day),
            observer="coach",
            sets=sets,
            effort=5,
        )
        record_session(stay=current(p), entry=entry, today=today, actor=None)
    return p


def _id(day, name):
    return uuid5(NAMESPACE_DNS, f"{day} {name}")
