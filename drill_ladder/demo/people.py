"""Eight invented players and how their eight weeks went."""

from collections.abc import Mapping
from dataclasses import dataclass, field

COACHES = [
    ("coach@tern-harbour.example", "Ruth Calder", "owner"),
    ("second@tern-harbour.example", "Jonas Feld", "coach"),
    ("assistant@tern-harbour.example", "Mila Strand", "assistant"),
]
PASSWORD = "tern-harbour-demo"
CARD_OF = "Ida Marlow"


@dataclass(frozen=True, slots=True)
class Life:
    """skill: where the player starts on the scale of rungs, and the gain a week; lanes: what a lane adds or takes.

    home, club: the chance that a planned session happens; ladders: (title, starting rung, sessions a week, place).
    """

    name: str
    squad: str
    born: tuple[int, int]
    side: str
    skill: float
    gain: float
    ladders: list[tuple[str, int, int, str]]
    home: float = 0.8
    club: float = 0.9
    weak: float = 0.0
    tires: float = 0.0
    away: tuple[int, int] = (0, 0)
    sore: str = ""
    starts: int = 0
    hurts_now: str = ""
    home_set: Mapping[str, object] = field(default_factory=dict)


YARD = {"home_space": "yard, 8 by 4\u00a0m", "home_tools": "stick, three balls, cones", "home_wall": True}
HALL = {"home_space": "hallway, 5 by 1.5\u00a0m", "home_tools": "racket, six shuttles"}

LIVES = [
    Life(
        "Ida Marlow",
        "Hockey under 12",
        (12, 5),
        "right",
        1.9,
        0.62,
        [("Push pass to a gate", 1, 3, "both"), ("Quick hands", 1, 3, "home")],
        home=0.95,
        home_set={**YARD, "home_adult": True, "home_feeder": True},
    ),
    Life(
        "Bram Ashdown",
        "Hockey under 12",
        (12, 9),
        "right",
        1.9,
        0.2,
        [("Push pass to a gate", 2, 3, "both")],
        home_set={**YARD, "home_adult": True},
    ),
    Life(
        "Suki Lindqvist",
        "Hockey under 14",
        (10, 2),
        "right",
        3.1,
        0.0,
        [("Push pass to a gate", 3, 3, "both")],
        weak=2.1,
        home=0.9,
        home_set={**YARD, "home_adult": True},
    ),
    Life(
        "Finn Okoro",
        "Badminton juniors",
        (11, 11),
        "left",
        2.4,
        0.25,
        [("Low serve", 2, 3, "both")],
        tires=0.5,
        home_set=HALL,
    ),
    Life(
        "Noor Hallam",
        "Badminton juniors",
        (13, 1),
        "right",
        2.2,
        0.3,
        [("Low serve", 1, 3, "both")],
        away=(22, 44),
        sore="Sore shoulder after serving, since Sunday",
        home_set={**HALL, "home_adult": True},
    ),
    Life(
        "Oskar Penhale",
        "Hockey under 14",
        (10, 7),
        "right",
        2.6,
        0.1,
        [("Quick hands", 3, 3, "both")],
        home=0.0,
        club=0.7,
        away=(43, 56),
        home_set=YARD,
    ),
    Life(
        "Tomas Wren",
        "Badminton juniors",
        (9, 4),
        "right",
        2.0,
        0.25,
        [("Low serve", 2, 2, "both")],
        starts=21,
        hurts_now="Wrist aches when I turn it, since yesterday evening",
        home_set=HALL,
    ),
    Life("Leila Brandt", "Hockey under 12", (12, 3), "left", 1.0, 0.0, [], starts=56, home_set={"home_adult": True}),
]
