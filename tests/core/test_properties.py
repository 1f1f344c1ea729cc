"""What has to hold for any history."""

from dataclasses import replace

from hypothesis import given, settings
from hypothesis import strategies as st

from drill_ladder.core.judging.decision import decide
from drill_ladder.core.judging.ladders import Evidence, InARow, Trust, Volume, Window
from drill_ladder.core.judging.measures import Makes, SetResult
from drill_ladder.core.judging.reasons import Kind
from drill_ladder.core.judging.sessions import Observer, Session, pool
from drill_ladder.core.judging.verdicts import Verdict, judge
from tests.core.build import ladder, on, rung

SIDES = ("left", "right")
WORSE_TO_BETTER = [Verdict.LOW, Verdict.NEAR, Verdict.PASS]

schools = st.one_of(
    st.builds(InARow, st.integers(1, 4)),
    st.integers(1, 4).flatmap(lambda m: st.builds(Window, st.just(m), st.integers(m, 6))),
    st.builds(Evidence, st.floats(0.5, 0.99), st.floats(0.5, 6)),
    st.builds(Volume, st.integers(1, 80)),
)


@st.composite
def set_results(draw):
    attempts = draw(st.integers(0, 12))
    return SetResult(draw(st.sampled_from(SIDES)), attempts, draw(st.integers(0, attempts)))


sessions = st.builds(
    Session,
    st.integers(1, 40).map(on),
    st.sampled_from(Observer),
    st.lists(set_results(), min_size=1, max_size=4).map(tuple),
    st.booleans(),
)
histories = st.lists(sessions, max_size=12)


@st.composite
def ladders(draw):
    each = draw(st.booleans())
    floor, ease = draw(st.sampled_from([None, 0.4])), draw(st.sampled_from([None, "x"]))
    rungs = [rung(f"r{i}", lanes=SIDES, each=each, floor=floor, ease=ease) for i in range(1, 5)]
    trust = draw(st.sampled_from(Trust))
    return ladder(
        *rungs, school=draw(schools), trust=trust, min_days_between=draw(st.integers(0, 4))
    )


@settings(max_examples=150, deadline=None)
@given(ladders(), histories, st.sampled_from(["r1", "r2", "r4"]))
def test_a_decision_never_moves_more_than_the_rule_allows(steps, history, at):
    found = decide(steps, at, history, on(41))
    allowed = {Kind.CLIMB: 1, Kind.SKIP: 2, Kind.STEP_DOWN: -1, Kind.RECHECK: -1}
    moved = steps.index(found.to) - steps.index(at) if found.to else 0
    assert moved == allowed.get(found.kind, 0)


@settings(max_examples=150, deadline=None)
@given(ladders(), histories, st.randoms(use_true_random=False))
def test_the_order_of_the_input_does_not_matter(steps, history, chance):
    shuffled = [replace(s, sets=tuple(chance.sample(s.sets, len(s.sets)))) for s in history]
    chance.shuffle(shuffled)
    one, other = decide(steps, "r2", history, on(41)), decide(steps, "r2", shuffled, on(41))
    assert (one.kind, one.to, one.missing) == (other.kind, other.to, other.missing)


@given(st.integers(8, 12), st.integers(0, 12), st.integers(0, 12), st.booleans())
def test_more_makes_never_lead_to_a_worse_verdict(attempts, fewer, more, each):
    at = rung(lanes=SIDES, each=each, floor=0.4)
    fewer, more = sorted((min(fewer, attempts), min(more, attempts)))

    def verdict(makes):
        sets = (SetResult("left", attempts, makes), SetResult("right", attempts, 8))
        day = pool([Session(on(1), Observer.SELF, sets)], Makes(), at.dose)
        return WORSE_TO_BETTER.index(judge(at, 0.8, day).verdict)

    assert verdict(fewer) <= verdict(more)


@settings(max_examples=100, deadline=None)
@given(ladders(), histories)
def test_relabelling_the_lanes_relabels_the_answer(steps, history):
    names = {"left": "near side", "right": "far side"}
    other = replace(
        steps, rungs=tuple(replace(r, lanes=tuple(names[n] for n in r.lanes)) for r in steps.rungs)
    )
    renamed = [
        replace(s, sets=tuple(replace(x, lane=names[x.lane]) for x in s.sets)) for s in history
    ]
    one, two = decide(steps, "r2", history, on(41)), decide(other, "r2", renamed, on(41))
    assert (one.kind, one.odds_next) == (two.kind, two.odds_next)
    lanes = [m.numbers.get("lane") for m in one.missing]
    assert [names.get(lane, lane) for lane in lanes] == [m.numbers.get("lane") for m in two.missing]


@settings(max_examples=100, deadline=None)
@given(ladders(), histories, st.integers(0, 9))
def test_adding_a_void_changes_nothing(steps, history, voids):
    spoiled = [replace(s, sets=tuple(replace(x, voids=voids) for x in s.sets)) for s in history]
    one, other = decide(steps, "r2", history, on(41)), decide(steps, "r2", spoiled, on(41))
    assert (one.kind, one.to, one.missing, one.odds_next) == (
        other.kind,
        other.to,
        other.missing,
        other.odds_next,
    )


@settings(max_examples=100, deadline=None)
@given(ladders(), histories)
def test_a_chance_is_a_chance(steps, history):
    chance = decide(steps, "r3", history, on(41)).odds_next
    assert chance is None or 0 <= chance <= 1
