"""The decision: its order, its gates, what it says is missing."""

import pytest

from drill_ladder.core.errors import CoreError
from drill_ladder.core.judging.decision import PRODUCT, decide
from drill_ladder.core.judging.ladders import Evidence, InARow, Target, Trust, Volume, Window
from tests.core.build import ladder, made, on, rung

SIDES = ("left", "right")


def three(**more):
    gates = {k: more.pop(k) for k in list(more) if k in _GATES}
    school = more.pop("school", None)
    return ladder(*(rung(f"r{i}", **more) for i in (1, 2, 3)), school=school, **gates)


_GATES = {
    "min_days_between",
    "min_sessions",
    "trust",
    "low_in_a_row",
    "stall_after",
    "skip_at",
    "layoff_days",
}


def said(on_ladder, *sessions, at="r1", today=30, **more):
    return decide(on_ladder, at, sessions, on(today), **more)


def codes(decision):
    return [m.code.value for m in decision.missing]


def test_a_stop_rests_whatever_else_holds():
    assert said(three(), made(1, 10), stop=True).kind == "rest"


def test_layoff_asks_for_the_rung_below_but_not_on_the_first():
    steps = three()
    found = said(steps, at="r2", last_on=on(9))
    assert (found.kind, found.to) == ("recheck", "r1")
    assert said(steps, at="r2", last_on=on(10)).kind == "wait"
    assert said(steps, at="r1", last_on=on(1)).kind == "wait"
    assert said(three(layoff_days=None), at="r2", last_on=on(1)).kind == "wait"
    assert said(steps, at="r2").kind == "wait"


def test_wait_says_how_much_is_missing():
    found = said(three(), made(29, 5, of=5))
    assert found.kind == "wait"
    assert dict(found.missing[0].numbers) == {"have": 5, "need": 10}


def test_skip_needs_a_first_clear_session_and_two_rungs_above():
    assert (said(three(), made(29, 10)).kind, said(three(), made(29, 10)).to) == ("skip", "r3")
    assert said(three(), made(29, 10), at="r2").kind == "climb"
    assert said(three(), made(29, 9)).kind == "climb"
    assert said(three(), made(28, 7), made(29, 10)).kind == "climb"
    assert said(three(skip_at=None), made(29, 10)).kind == "climb"


def test_the_product_wants_ten_attempts_for_a_skip():
    short = three(of=5, makes=4)
    assert said(short, made(29, 5, of=5)).kind == "skip"
    assert said(short, made(29, 5, of=5), settings=PRODUCT).kind == "climb"


def test_the_top_rung_is_finished():
    assert said(three(), made(29, 8), at="r3").kind == "finish"


def test_trust_alone_missing_is_a_check():
    seen = three(trust=Trust.LAST_PASS_OBSERVED)
    found = said(seen, made(29, 8, seen="self"))
    assert (found.kind, codes(found)) == ("check", ["trust"])
    assert said(seen, made(29, 8, seen="device")).kind == "climb"
    only = three(trust=Trust.OBSERVED_ONLY, school=InARow(2))
    both = [made(27, 8, seen="self"), made(28, 8, seen="self")]
    assert said(only, *both).kind == "check"
    assert said(only, *both, made(29, 8)).kind == "check"
    assert said(only, *both, made(29, 8), made(30, 8)).kind == "climb"


def test_two_low_sessions_ease_then_step_down():
    eased = three(floor=0.5, ease="bigger gate")
    lows = [made(28, 4), made(29, 3)]
    assert said(eased, *lows, at="r2").kind == "ease"
    assert said(eased, *lows, made(30, 4, eased=True), at="r2").kind == "hold"
    both = [made(29, 4, eased=True), made(30, 3, eased=True)]
    assert (said(eased, *both, at="r2").kind, said(eased, *both, at="r2").to) == ("step_down", "r1")
    plain = three(floor=0.5)
    assert said(plain, *lows, at="r2").kind == "step_down"
    first = said(plain, *lows)
    assert (first.kind, first.reasons[1].code) == ("stalled", "easier_rung")


def test_an_eased_result_that_meets_the_target_says_so():
    found = said(three(floor=0.5, ease="x"), made(29, 9, eased=True))
    assert found.kind == "hold"
    assert [r.code.value for r in found.reasons] == ["hold", "eased_met"]


def stuck(*makes, **more):
    return said(three(school=InARow(2), **more), *(made(20 + i, m) for i, m in enumerate(makes)))


def test_stalled_after_six_sessions_that_do_not_improve():
    assert stuck(7, 7, 7, 7, 7).kind == "hold"
    found = stuck(7, 7, 7, 7, 7, 7)
    assert (found.kind, found.reasons[1].code) == ("stalled", "half_step")
    assert stuck(4, 5, 5, 6, 6, 7).kind == "hold"
    assert stuck(7, 7, 7, 7, 7, 7, stall_after=None).kind == "hold"


def test_nobody_is_called_stalled_right_after_a_pass_in_the_product():
    steps = three(school=InARow(2))
    days = [made(20 + i, m) for i, m in enumerate((8, 7, 7, 7, 7, 8))]
    assert said(steps, *days).kind == "stalled"
    assert said(steps, *days, settings=PRODUCT).kind == "hold"


def test_stalled_names_the_weakest_lane():
    steps = three(lanes=SIDES, each=True, school=InARow(2))
    found = said(steps, *(made(20 + i, 6, 9, lanes=SIDES) for i in range(6)))
    assert dict(found.reasons[1].numbers) == {"lane": "left", "have": 0.6}


def test_stalled_names_form_then_the_common_fault():
    form = three(target=Target(makes=8, of=10, form_min=0.8), school=InARow(2))
    found = said(form, *(made(20 + i, 9, form=0.5) for i in range(6)))
    assert found.reasons[1].code == "form"
    from dataclasses import replace

    late = [made(20 + i, 6) for i in range(6)]
    late = [replace(s, sets=(replace(s.sets[0], faults={"late": 2, "wide": 1}),)) for s in late]
    found = said(three(school=InARow(2)), *late)
    assert dict(found.reasons[1].numbers) == {"fault": "late", "times": 8, "of": 16}


def test_in_a_row_is_broken_by_a_near_and_not_by_a_short():
    two = three(school=InARow(2))
    assert said(two, made(27, 8), made(28, 7), made(29, 8)).kind == "hold"
    assert said(two, made(27, 8), made(28, 5, of=5), made(29, 8)).kind == "climb"


def test_days_between_sets_an_early_pass_aside():
    gap = three(school=InARow(2), min_days_between=3)
    assert said(gap, made(26, 8), made(28, 8)).kind == "hold"
    assert said(gap, made(26, 8), made(28, 8), made(29, 8)).kind == "climb"
    found = said(gap, made(28, 8), today=29)
    assert codes(found) == ["passes", "days"]
    assert found.missing[1].numbers["next_on"] == on(31)


def test_window_climbs_only_on_a_pass():
    window = three(school=Window(2, 3))
    assert said(window, made(25, 8), made(26, 7), made(27, 8)).kind == "climb"
    assert said(window, made(25, 8), made(26, 8)).kind == "climb"
    assert said(window, made(25, 8), made(26, 7), made(27, 7), made(28, 8)).kind == "hold"
    eased = said(
        three(school=Window(2, 3), floor=0.5, ease="x"),
        made(25, 8),
        made(26, 8),
        made(27, 8, eased=True),
    )
    assert eased.kind == "hold"


def test_volume_counts_every_rep_but_not_after_a_low_session():
    reps = three(school=Volume(reps=40), floor=0.5)
    assert said(reps, made(25, 6), made(26, 6), made(27, 6), made(28, 2, of=5)).kind == "hold"
    assert (
        said(reps, made(25, 6), made(26, 6), made(27, 6), made(28, 3, of=5), made(29, 3, of=5)).kind
        == "climb"
    )
    low = said(reps, *(made(20 + i, 6) for i in range(4)), made(25, 3))
    assert codes(low) == ["low"]
    sessions = three(school=Volume(sessions=3))
    assert codes(said(sessions, made(25, 6), made(26, 6))) == ["sessions"]
    assert said(sessions, made(25, 6), made(26, 6), made(27, 6)).kind == "climb"


def test_evidence_needs_enough_of_it():
    sure = three(school=Evidence(0.9, 3), skip_at=None)
    assert said(sure, made(29, 8)).kind == "hold"
    assert codes(said(sure, made(29, 8))) == ["confidence"]
    assert said(sure, made(27, 10), made(28, 10), made(29, 10)).kind == "climb"


def test_minimum_sessions_is_a_gate_of_any_school():
    found = said(three(min_sessions=3, skip_at=None), made(28, 8), made(29, 8))
    assert (found.kind, codes(found)[0]) == ("hold", "sessions")


def test_observed_sets_of_a_day_judge_it_alone_in_the_product():
    both = [made(29, 8), made(29, 2, seen="self")]
    assert said(three(), *both).kind == "hold"
    assert said(three(), *both, settings=PRODUCT).kind == "climb"


def test_an_unknown_rung_is_refused():
    with pytest.raises(CoreError, match="r9"):
        said(three(), at="r9")


def test_rest_comes_before_recheck():
    """Hurt and long away: the stop is what is said, not the rung below."""
    steps = three()
    assert said(steps, at="r2", last_on=on(1)).kind == "recheck"
    assert said(steps, at="r2", last_on=on(1), stop=True).kind == "rest"


def test_ease_comes_before_stalled():
    """Six full sessions without a climb, the last two low: made easier, rather than called
    stuck.
    """
    eased = three(ease="bigger gate", floor=0.4)
    near = [made(day, 7) for day in range(20, 26)]
    assert said(eased, *near).kind == "stalled"
    assert said(eased, *near[:4], made(24, 2), made(25, 2)).kind == "ease"
    assert said(three(floor=0.4), *near[:4], made(24, 2), made(25, 2), at="r2").kind == "step_down"


@pytest.mark.parametrize("school", [Volume(sessions=3), Volume(reps=30), Evidence(0.6, 3)])
def test_an_eased_session_alone_starts_no_climb(school):
    """Eased work counts for volume, never as the session that a climb is made on: the last full one
    was made easier.
    """
    steps = three(school=school, ease="bigger gate", skip_at=None)
    plain = [made(day, 10) for day in (27, 28, 29)]
    assert said(steps, *plain).kind == "climb"
    eased = [made(day, 10, eased=True) for day in (27, 28, 29)]
    assert said(steps, *eased).kind != "climb"
    assert any(reason.code == "eased_met" for reason in said(steps, *eased).reasons)
