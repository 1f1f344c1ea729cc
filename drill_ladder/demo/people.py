"""Twenty-four invented players and how their twelve weeks went."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace

COACHES = [
    ("coach@tern-harbour.example", "Ruth Calder", "owner"),
    ("second@tern-harbour.example", "Jonas Feld", "coach"),
    ("assistant@tern-harbour.example", "Mila Strand", "assistant"),
]
PASSWORD = "tern-harbour-demo"
CARD_OF = "Ida Marlow"


@dataclass(frozen=True, slots=True)
class Life:
    """skill: where the player starts on the scale of rungs, and the gain a week; lanes: what a lane
    adds or takes.

    home, club: the chance that a planned session happens; ladders: (title, starting rung, sessions
    a week, place).
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
    stride: float | None = None


YARD = {
    "home_space": "yard",
    "home_width": 4,
    "home_depth": 8,
    "home_surface": "asphalt",
    "home_tools": "stick, three balls, cones",
    "home_wall": True,
}
HALL = {
    "home_space": "hallway",
    "home_width": 1.5,
    "home_depth": 5,
    "home_surface": "wood",
    "home_tools": "racket, six shuttles",
    "home_light": True,
}

PUSH, SERVE, HANDS, STOP = "Push pass to a gate", "Low serve", "Quick hands", "Stop it dead"
OPEN, NINE, CORNERS = "Open to all sides", "Nine spots at the net", "Round the corners"
ENGINE, LIFT, OVERHEAD = "Engine room", "Lift and drag", "Overhead from the back"
U12, U14, U17, JUNIORS, YOUTH = (
    "Hockey under 12",
    "Hockey under 14",
    "Hockey under 17",
    "Badminton juniors",
    "Badminton youth",
)
ADULT = {**YARD, "home_adult": True}
PLAYED = {**HALL, "home_adult": True}

# the eight whose story the demo tells
STORIES = [
    # the climber
    Life(
        "Ida Marlow",
        U12,
        (12, 5),
        "right",
        1.9,
        0.34,
        [(PUSH, 1, 3, "both"), (HANDS, 1, 3, "home")],
        home=0.95,
        home_set={
            **ADULT,
            "home_feeder": True,
            "height_cm": 152.0,
            "kit_cm": {"stick": 94.0},
        },
        stride=0.7,
    ),
    # the steady one
    Life("Bram Ashdown", U12, (12, 9), "right", 1.9, 0.15, [(PUSH, 2, 3, "both")], home_set=ADULT),
    # stuck on the weak side
    Life(
        "Suki Lindqvist",
        U14,
        (10, 2),
        "right",
        3.1,
        0.0,
        [(PUSH, 3, 3, "both")],
        weak=2.1,
        home=0.9,
        home_set=ADULT,
    ),
    # whose form fails when tired
    Life(
        "Finn Okoro",
        JUNIORS,
        (11, 11),
        "left",
        2.4,
        0.18,
        [(SERVE, 2, 3, "both")],
        tires=0.5,
        home_set=PLAYED,
    ),
    # who stopped for a sore shoulder and came back
    Life(
        "Noor Hallam",
        JUNIORS,
        (13, 1),
        "right",
        2.2,
        0.22,
        [(SERVE, 1, 3, "both")],
        away=(34, 62),
        sore="Sore shoulder after serving, since Sunday",
        home_set=PLAYED,
    ),
    # who never does home work, and was away
    Life(
        "Oskar Penhale",
        U14,
        (10, 7),
        "right",
        2.6,
        0.1,
        [(HANDS, 3, 3, "both")],
        0.0,
        0.7,
        away=(68, 84),
        home_set=YARD,
    ),
    # who rests now
    Life(
        "Tomas Wren",
        JUNIORS,
        (9, 4),
        "right",
        2.0,
        0.2,
        [(SERVE, 2, 2, "both")],
        starts=35,
        hurts_now="Wrist aches when I turn it, since yesterday evening",
        home_set=HALL,
    ),
    # new today
    Life(
        "Leila Brandt", U12, (12, 3), "left", 1.0, 0.0, [], starts=84, home_set={"home_adult": True}
    ),
]
# the others of the squads, so that lists, weeks and groups look like a club; they joined four weeks
# ago
OTHERS = [
    Life("Ada Quist", U12, (11, 2), "right", 1.4, 0.2, [(PUSH, 1, 2, "both")], 0.7, home_set=ADULT),
    Life("Jory Vane", U12, (12, 8), "left", 1.2, 0.15, [(HANDS, 1, 2, "home")], 0.5, home_set=YARD),
    Life(
        "Mabel Thorne", U12, (11, 10), "right", 2.0, 0.25, [(STOP, 1, 2, "coached")], home_set=YARD
    ),
    Life(
        "Rafi Denholm", U12, (12, 1), "right", 1.6, 0.2, [(LIFT, 1, 2, "both")], 0.6, home_set=ADULT
    ),
    Life(
        "Greta Oswin",
        U14,
        (10, 11),
        "right",
        2.2,
        0.15,
        [
            (OPEN, 1, 2, "both"),
            (PUSH, 2, 2, "both"),
            (LIFT, 1, 1, "coached"),
            (HANDS, 2, 2, "home"),
        ],
        0.6,
        home_set=ADULT,
        stride=0.75,
    ),
    Life(
        "Elis Carrow",
        U14,
        (10, 4),
        "left",
        2.0,
        0.2,
        [
            (STOP, 2, 2, "coached"),
            (PUSH, 2, 1, "coached"),
            (HANDS, 1, 2, "home"),
            (OPEN, 1, 1, "coached"),
        ],
        home_set=YARD,
    ),
    Life(
        "Pia Marchetti",
        U14,
        (9, 12),
        "right",
        1.8,
        0.2,
        [(HANDS, 2, 2, "home")],
        0.6,
        home_set=YARD,
    ),
    Life(
        "Hugo Salter",
        U17,
        (7, 6),
        "right",
        2.4,
        0.2,
        [
            (ENGINE, 1, 2, "both"),
            (PUSH, 3, 1, "coached"),
            (STOP, 2, 1, "coached"),
            (LIFT, 1, 2, "coached"),
        ],
        0.7,
        home_set=YARD,
        stride=0.85,
    ),
    Life(
        "Wren Castell",
        U17,
        (8, 3),
        "right",
        2.6,
        0.15,
        [
            (OPEN, 2, 2, "both"),
            (PUSH, 3, 2, "both"),
            (HANDS, 2, 2, "home"),
            (STOP, 2, 1, "coached"),
            (LIFT, 2, 1, "both"),
        ],
        0.6,
        home_set=ADULT,
    ),
    Life("Silas Brook", U17, (7, 9), "left", 2.2, 0.1, [(LIFT, 2, 2, "both")], 0.5, home_set=ADULT),
    Life(
        "Anouk Ferrer",
        JUNIORS,
        (11, 5),
        "right",
        1.8,
        0.2,
        [(CORNERS, 1, 2, "home")],
        0.6,
        home_set=HALL,
    ),
    Life(
        "Kit Larsson",
        JUNIORS,
        (12, 7),
        "left",
        1.4,
        0.2,
        [(SERVE, 1, 2, "both")],
        0.6,
        home_set=PLAYED,
    ),
    Life(
        "Dara Winslow",
        JUNIORS,
        (10, 9),
        "right",
        2.2,
        0.15,
        [(NINE, 1, 2, "both")],
        0.6,
        home_set=PLAYED,
    ),
    Life(
        "Marek Hollis",
        YOUTH,
        (8, 2),
        "right",
        2.4,
        0.2,
        [
            (OVERHEAD, 1, 2, "both"),
            (SERVE, 2, 2, "both"),
            (NINE, 1, 1, "both"),
            (CORNERS, 1, 2, "home"),
        ],
        0.7,
        home_set=PLAYED,
    ),
    Life(
        "Tilda Groves",
        YOUTH,
        (7, 11),
        "right",
        2.6,
        0.15,
        [(CORNERS, 2, 2, "home")],
        0.6,
        home_set=HALL,
    ),
    Life(
        "Yusuf Arden",
        YOUTH,
        (8, 8),
        "left",
        2.2,
        0.15,
        [
            (NINE, 2, 2, "both"),
            (SERVE, 2, 2, "both"),
            (CORNERS, 2, 2, "home"),
            (OVERHEAD, 1, 1, "both"),
        ],
        0.6,
        home_set=PLAYED,
    ),
]
LIVES = STORIES + [replace(life, starts=56) for life in OTHERS]
