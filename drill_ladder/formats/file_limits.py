"""How much a file of drills and ladders may ask for: what the builder, a phone and a day can show
and hold.

The core computes with more, and the command line takes more; these are limits of what is stored.
"""

from drill_ladder.formats.node import Node

# letters of names and lines, as the database keeps them; of a text; entries of a list
TITLE, SKILL, LINE, NOTE, FAULT, LANE = 120, 80, 300, 200, 80, 60
LONGEST, MOST_LISTED = 20_000, 60
MOST_SETS, MOST_REPS, MOST_CUES = 50, 1000, 24
MOST_ROWS = 5000  # sets x lanes (x trials, where a time is taken)
# key -> the most of it, wherever it stands in a rung's measure, dose, target or rule
MEASURE = {"max": 1000, "window_s": 3600, "n": 1000, "fault_penalty_s": 600}
DOSE = {"sets": MOST_SETS, "reps": MOST_REPS, "rest_s": 3600, "s_per_rep": 600}
TARGET = {"makes": MOST_REPS, "of": MOST_REPS, "value": 100_000, "faults_max": 1000}
RULE = {
    "passes": 10,
    "of": 10,
    "sessions": 50,
    "reps": 100_000,
    "half_life": 100,
    "min_days_between": 60,
    "min_sessions": 50,
    "low_in_a_row": 10,
    "stall_after": 100,
    "layoff_days": 400,
}
PLAN = {"unit_m": 10, "margin": 100}
PLAN_LISTS = {"markers": 60, "legs": 200, "zones": 40, "paths": 200, "walls": 20}
MOST_ITEMS, FARTHEST, LONGEST_WORD = 60, 1000, 300


def check_measure(measure: Node) -> None:
    """A measure that a form can show."""
    _at_most(measure, MEASURE)
    _few(measure["items"], MOST_ITEMS)
    for item in measure["items"].each():
        _short(item)
    check_landings(measure)


def check_landings(measure: Node) -> None:
    """Each named once, none with more points than the most there are."""
    measure.no_doubles(one["name"] for one in measure["landings"].each())
    top = measure["max"].number
    for one in measure["landings"].each():
        points = one["points"].number
        if points is not None and top is not None and points > top:
            one["points"].refuse(f"is more than the {top:g} that an attempt can bring")


def check_rule_limits(rule: Node) -> None:
    """A rule whose odds are computed while somebody waits."""
    _at_most(rule, RULE)


def check_rung_limits(rung: Node, drill: Node) -> None:
    """A dose that a card can show, a target and a rule that fit a form."""
    _at_most(rung["dose"], DOSE)
    _at_most(rung["target"], TARGET)
    _at_most(rung, {"reps_high": MOST_REPS, "sets_high": 50, "minutes": 240, "floor": 100_000})
    check_rule_limits(rung["rule"])
    check_caller_limits(rung["caller"])
    timed = drill["measure"]["kind"].text == "time"
    sets = rung["sets_high"].number or rung["dose"]["sets"].number or 1
    reps = rung["dose"]["reps"].number or 1
    lanes = max(1, sum(1 for _ in drill["lanes"].each()))
    rows = sets * lanes * (reps if timed else 1)
    rung["dose"].require_that(
        rows <= MOST_ROWS, f"makes {rows:g} results of one session, and at most {MOST_ROWS} go in"
    )


def check_caller_limits(caller: Node) -> None:
    """Calls that fit a phone."""
    if not isinstance(caller.value, dict):
        return
    _few(caller["cues"], MOST_CUES)
    for cue in caller["cues"].each():
        _short(cue["name"], LANE)
        _short(cue["action"], NOTE)
    _short(caller["late_at"], LANE)


def check_plan_limits(plan: Node) -> None:
    """A floor plan that can be drawn."""
    _at_most(plan, PLAN)
    for key, most in PLAN_LISTS.items():
        _few(plan[key], most)
    for marker in plan["markers"].each():
        _near(marker["x"], marker["y"])
        _short(marker["id"], 60)
    for leg in (*plan["legs"].each(), *plan["paths"].each()):
        for key in ("from", "to", "way", "do"):
            _short(leg[key])
    for zone in plan["zones"].each():
        _short(zone["id"], 60)
        _few(zone["points"], 60)
        for point in zone["points"].each():
            _near(*point.each())


def _at_most(node: Node, limits: dict[str, int]) -> None:
    for key, most in limits.items():
        number = node[key].number
        if number is not None and number > most:
            node[key].refuse(f"is more than {most}, the most that is stored")


def _few(node: Node, most: int) -> None:
    node.require_that(sum(1 for _ in node.each()) <= most, f"has more than {most} entries")


def _near(*ends: Node) -> None:
    for end in ends:
        if end.number is not None and abs(end.number) > FARTHEST:
            end.refuse(f"is farther than {FARTHEST}")


def _short(node: Node, most: int = LONGEST_WORD) -> None:
    if node.text is not None and len(node.text) > most:
        node.refuse(f"is longer than {most} letters")
