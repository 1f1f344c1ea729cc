"""What the shape alone cannot tell about ladders and sessions."""

from collections.abc import Sequence

from drill_ladder.formats.measures import form_named
from drill_ladder.formats.node import Node


def check_ladder(ladder: Node) -> None:
    """Rung ids, targets, lanes and rules of a ladder."""
    ladder.no_doubles(rung["id"] for rung in ladder["rungs"].each())
    check_rule(ladder["rule"])
    for rung in ladder["rungs"].each():
        check_rung(rung)
        _check_evidence(rung, ladder)


def check_rung(rung: Node) -> None:
    """Lanes, target, floor and rule of one rung."""
    lanes = rung.no_doubles(rung["lanes"].each())
    rung.no_doubles(rung["measure"]["items"].each())
    if isinstance(rung["target"].value, dict):
        check_target(rung["target"], rung["measure"], lanes)
    check_in_range(rung["floor"], rung["measure"])
    check_rule(rung["rule"])
    kind, stop = rung["measure"]["kind"].text, rung["dose"]["stop_drop"]
    if stop.value is not None and kind not in (None, "time"):
        stop.refuse(f"is for measure time, not {kind}")
    low, high = rung["tempo"].number, rung["tempo_high"].number
    if high is not None and (low is None or high < low):
        rung["tempo_high"].refuse("runs from the tempo upwards: give both ends")
    check_caller(rung["caller"])
    check_ages(rung["by_age"])
    feeds = rung.no_doubles(rung["feeds"].each())
    rung["feeds"].require_that(len(feeds) != 1, "has one alone: from gentle to hard, two at least")
    for turn in rung["turns"].each():
        turn.require_that(turn.text in (None, *lanes), f"is {turn.text!r}, no lane of this drill")


def check_ages(steps: Node) -> None:
    """From young to old, and whoever is older last."""
    before: float | None = 0
    for step in steps.each():
        to = step["to"].number
        rises = before is not None and (to is None or to > before)
        step.require_that(rises, "is not older than the one before it")
        before = to


def check_caller(caller: Node) -> None:
    """Calls each once; at most one way of being late."""
    if isinstance(caller.value, dict):
        caller.no_doubles(cue["name"] for cue in caller["cues"].each())
        if caller["late_s"].value is not None and caller["late_at"].value:
            caller["late_at"].refuse("late by seconds or at a marker, one of the two")
        if caller["late_speed"].value is not None and not caller["late_at"].value:
            caller["late_speed"].refuse("needs the marker that is reached (late_at)")


def check_target(target: Node, measure: Node, lanes: Sequence[str]) -> None:
    """A target fits its measure: makes of attempts for makes, else a value; lanes where each lane
    is asked.
    """
    kind, makes, of, value = measure["kind"].text, target["makes"], target["of"], target["value"]
    if kind == "makes" and value.value is None:
        makes.require_that(makes.value is not None, "is required (or give value)")
        of.require_that(of.value is not None, "is required (or give value)")
    elif kind == "makes":
        for both in (makes, of):
            both.require_that(both.value is None, "cannot stand beside value")
    elif kind is not None:
        for both in (makes, of):
            both.require_that(both.value is None, f"is for measure makes, not {kind}")
        value.require_that(value.value is not None, "is required")
    if makes.number is not None and of.number is not None and makes.number > of.number:
        makes.refuse("is more than of")
    check_in_range(value, measure)
    if target["each_lane"].value is True and not lanes:
        target["each_lane"].refuse("is true, but the rung has no lanes")


def check_in_range(node: Node, measure: Node) -> None:
    """A score in the measure's unit: rates and shares end at 1, points at their maximum."""
    top = highest(measure)
    if node.number is not None and top is not None and node.number > top:
        node.refuse(f"is over {top:g}, the most that {measure['kind'].text} can reach")


def highest(measure: Node) -> float | None:
    """The best score there can be, of a measure that may be wrong."""
    form = form_named(measure["kind"].text or "")
    if form is None:
        return None
    return measure["max"].number if "max" in form.numbers else form.kind.ends_at


def check_rule(rule: Node) -> None:
    """Windows that can be met, and one unit for volume."""
    if rule["school"].text == "window":
        passes, of = rule["passes"].number, rule["of"].number
        if passes is not None and of is not None and passes > of:
            rule["passes"].refuse("is more than of")
    if rule["school"].text == "volume":
        given = [key for key in ("reps", "sessions") if rule[key].value is not None]
        if len(given) == 2:
            rule["sessions"].refuse("cannot stand beside reps")
        elif not given:
            rule["reps"].refuse("is required (or give sessions)")


def _check_evidence(rung: Node, ladder: Node) -> None:
    kind = rung["measure"]["kind"].text
    if kind in (None, "makes"):
        return
    own = rung["rule"]
    rule = own if own.value is not None else ladder["rule"]
    if rule["school"].text == "evidence":
        rule["school"].refuse(f"is evidence, which is for measure makes, not {kind}")


def check_session_sets(session: Node, rung: Node | None) -> None:
    """The sets of a session, and whether they fit the rung at which they were done (None: an
    unknown rung).
    """
    for s in session["sets"].each():
        _check_makes(s)
        if rung is not None:
            _check_lane(s["lane"], rung)
            form = form_named(rung["measure"]["kind"].text or "")
            if form is not None and form.check is not None:
                form.check(s, rung["measure"])


def _check_lane(lane: Node, rung: Node) -> None:
    if lane.text is not None and lane.text not in [known.text for known in rung["lanes"].each()]:
        lane.refuse(f"is {lane.text!r}, a lane that the rung does not have")
    elif lane.value is None and rung["target"]["each_lane"].value is True:
        lane.refuse("is required: the target asks for each lane")


def _check_makes(one: Node) -> None:
    attempts, makes = one["attempts"].number, one["makes"].number
    if makes is not None and attempts is not None and makes > attempts:
        one["makes"].refuse("is more than attempts")
    if makes is not None and one["attempts"].value is None:
        one["attempts"].refuse("is required beside makes")
