"""Doses, session order, faults, home versions, coverage, retention, the good things."""

from dataclasses import replace
from datetime import date, timedelta
from itertools import pairwise

import pytest
from hypothesis import given
from hypothesis import strategies as st

from drill_ladder.core.coaching import coverage, faults, good_things
from drill_ladder.core.judging.ladders import Intent
from drill_ladder.core.judging.retention import Check, next_check, offer_back
from drill_ladder.core.judging.verdicts import Verdict
from drill_ladder.core.planning.dose import (
    DoseTime,
    TempoSet,
    by_tempo,
    fastest_clean_tempo,
    resolve_band,
    speed_stop,
    warnings,
)
from drill_ladder.core.planning.home_version import SMALLER, Home, Version, lacking, version_for
from drill_ladder.core.planning.kit_fit import KitWindow, measure_again, misfits
from drill_ladder.core.planning.session_plan import Block as Part_
from drill_ladder.core.planning.session_plan import Part, fit, in_order
from drill_ladder.core.plans.layout import Plan
from drill_ladder.formats.home_words import way_out, why_not
from drill_ladder.formats.kit_words import (
    BadSize,
    misfit_words,
    read_sizes,
    read_windows,
    sizes_text,
    windows_text,
)

D = date(2026, 3, 2)


def test_block_seconds_by_hand():
    """3 sets x 2 lanes x 10 reps x 4 s = 240; 3 lane changes of 5 = 15; 2 rests of 30 = 60; set-up
    20.
    """
    block = DoseTime(sets=3, work_s=40, reps=10, lanes=2, lane_change_s=5, setup_s=20, rest_s=30)
    assert (block.seconds, block.total_reps) == (335, 60)
    assert DoseTime(sets=2, work_s=30, reps=None).total_reps is None


@pytest.mark.parametrize(
    ("intent", "sets", "rest", "codes"),
    [
        (Intent.SPEED, 4, 40, []),
        (Intent.SPEED, 4, 39, ["speed_rest"]),
        (Intent.SPEED, 1, 0, ["speed_sets"]),
        (Intent.SPEED, 6, 20, ["speed_rest", "speed_sets"]),
        (Intent.ENDURANCE, 3, 20, []),
        (Intent.ENDURANCE, 5, 30, []),
        (Intent.ENDURANCE, 2, 31, ["endurance_rest", "endurance_sets"]),
        (Intent.SKILL, 9, 0, []),
        (Intent.PRESSURE, 1, 0, []),
    ],
)
def test_rest_against_intent(intent, sets, rest, codes):
    assert warnings(intent, sets, rest) == codes


@pytest.mark.parametrize(
    ("args", "reps", "bound"),
    [
        ((20, 30, 6, 600), 30, "band_high"),
        ((20, 30, 6, 150), 25, "minutes"),
        ((20, 30, 6, 60), 20, "band_low"),
        ((20, 30, 6, 600, 24), 24, "strain"),
        ((20, 30, 6, 600, 5), 5, "strain"),
    ],
)
def test_a_band_says_which_bound_decided(args, reps, bound):
    found = resolve_band(*args)
    assert (found.reps, found.bound) == (reps, bound)


def test_a_speed_block_stops_itself():
    assert speed_stop([5.0, 4.9, 5.14]) is None
    assert speed_stop([5.0, 4.9, 5.15]) == 3
    assert speed_stop([5.0, 5.3], 0.1) is None


def test_tempo():
    sets = [
        TempoSet(0.5, 10, 9, 0, 0.9),
        TempoSet(0.75, 10, 8, 1),
        TempoSet(1, 10, 5, 4, 0.5),
        TempoSet(1, 0, 0, 0),
    ]
    assert by_tempo(sets) == [(0.5, 0.9, 0.9, 0), (0.75, 0.8, None, 0.1), (1, 0.5, 0.5, 0.4)]
    assert fastest_clean_tempo(sets, 0.1) == 0.75
    assert fastest_clean_tempo([], 0.1) is None


def blocks():
    return [
        Part_("game", Part.GAME, 1, 300),
        Part_("run", Part.CONDITIONING, 3, 60, priority=2),
        Part_("tackle", Part.GAME, 1, 120, contact_or_maximal=True),
        Part_("push", Part.TECHNIQUE, 4, 60, adherence=0.9),
        Part_("serve", Part.TECHNIQUE, 4, 60, adherence=0.4),
        Part_("sprint", Part.SPEED_OR_NEW, 4, 45),
        Part_("warm-up", Part.WARM_UP, 1, 300),
    ]


def test_the_order_of_a_session():
    names = [b.id for b in in_order(blocks())]
    assert names == ["warm-up", "sprint", "serve", "push", "tackle", "run", "game"]


def test_sets_are_cut_before_blocks():
    kept, cuts = fit(blocks(), 1300)
    assert sum(b.seconds for b in kept) <= 1300
    assert {b.id for b in kept} == {b.id for b in blocks()}
    assert cuts[0].id == "sprint" or all(c.left >= 1 for c in cuts)
    assert next(c for c in cuts if c.id == "run").left == 1


def test_the_warm_up_stays_before_maximal_work():
    kept, cuts = fit(blocks(), 345)
    assert [b.id for b in kept] == ["warm-up", "sprint"]
    assert {c.id for c in cuts if c.left == 0} == {"game", "run", "tackle", "push", "serve"}
    assert fit(blocks(), 0)[0] == []


@given(st.integers(0, 3000))
def test_a_session_always_fits_and_says_what_was_cut(seconds):
    kept, cuts = fit(blocks(), seconds)
    assert sum(b.seconds for b in kept) <= seconds
    before, after = sum(b.sets for b in blocks()), sum(b.sets for b in kept)
    assert before - after == sum(c.sets for c in cuts)


LATE = faults.Treatment(cue="Turn early")


def test_faults_are_ranked_and_shrunk():
    one = [faults.Misses(1, {"odd": 1})]
    assert faults.ranked(one)[0].share == pytest.approx((1 + 5) / 6)
    many = [faults.Misses(10, {"late": 6, "wide": 2, "none": 0}) for _ in range(6)]
    found = faults.ranked(many)
    assert [(r.fault, r.count) for r in found] == [("late", 24), ("wide", 8)]
    assert found[0].share == pytest.approx((24 + 2.5) / 45)
    assert faults.ranked([]) == []


def test_the_one_worth_treating_has_a_treatment():
    sessions = [faults.Misses(10, {"wide": 6, "late": 3})]
    assert faults.worth_treating(sessions, {"late": LATE}).fault == "late"
    assert faults.worth_treating(sessions, {}).fault == "wide"
    assert faults.worth_treating([], {}) is None


def test_one_cue_a_set_two_at_most_for_the_young():
    known = {name: faults.Treatment(cue=name.upper()) for name in ("a", "b", "c")}
    sessions = [faults.Misses(10, {"a": 5, "b": 3, "c": 2})]
    assert [faults.cue_for_set(sessions, known, n, 7) for n in (1, 2, 3)] == ["A", "B", "A"]
    assert [faults.cue_for_set(sessions, known, n, 12) for n in (1, 2, 3, 4)] == [
        "A",
        "B",
        "C",
        "A",
    ]
    assert faults.cue_for_set([], known, 1, None) is None


def test_before_and_after_treatment():
    sessions = [
        faults.Misses(10, {"late": 5}),
        faults.Misses(10, {"late": 3}),
        faults.Misses(4, {"late": 1}),
    ]
    assert faults.before_and_after(sessions, "late", 2) == (0.4, 0.25)
    assert faults.before_and_after(sessions, "late", 0)[0] is None


FULL = Version(
    "live feed", feeder=True, tools=frozenset({"racket", "net"}), substitutes=(("net", "string"),)
)
SOLO = Version("wall", wall=True, tools=frozenset({"racket"}), solo=True, loses=("no live feed",))
SHADOW = Version(
    "shadow", solo=True, loses=("no shuttle",), plan=Plan({"a": (0, 0), "b": (4, 4)}, [])
)


def test_the_nearest_version_says_what_is_lost():
    rich = version_for(
        [FULL, SOLO, SHADOW], Home(feeder=True, tools=frozenset({"racket", "string"}))
    )
    assert (rich.version.name, rich.stands_in, rich.lost) == ("live feed", (("net", "string"),), ())
    wall = version_for([FULL, SOLO, SHADOW], Home(wall=True, tools=frozenset({"racket"})))
    assert (wall.version.name, wall.lost) == ("wall", ("no live feed",))
    assert wall.lacking == ("feeder", "net")
    bare = version_for([FULL, SOLO, SHADOW], Home(space=(3.4, 4)))
    assert (bare.version.name, bare.scale, bare.lost) == ("shadow", 0.85, ("no shuttle",))
    timed = replace(SHADOW, timed=True)
    assert version_for([timed], Home(space=(3.4, 4))).lost[-1] == SMALLER


@pytest.mark.parametrize(
    ("space", "fits_from", "possible"),
    [
        ((3.2, 4), 0.8, True),
        ((3.1, 4), 0.8, False),
        ((3.1, 4), 0.5, True),
        ((3.9, 4), 1, False),
        ((2, 4), 0, True),
        ((0, 0), 0, False),
    ],
)
def test_space_is_a_condition(space, fits_from, possible):
    """Four metres square without a margin; its share is that of the shorter side, or of the
    other one where it is turned.
    """
    found = version_for([replace(SHADOW, fits_from=fits_from)], Home(space=space))
    assert (found.version is not None, "space" in found.lacking) == (possible, not possible)


def test_what_would_help_where_only_space_lacks():
    found = version_for([SHADOW], Home(space=(2, 4)))
    assert why_not(found) == "at home there is no space for it"
    assert way_out(found).startswith("It fits at 50\u00a0% of its size: allow it smaller")


KIT = [KitWindow("stick", 0.5, 0.6), KitWindow("Rackets", 0.4, 0.5)]


def test_tools_by_height_by_hand():
    """150 cm: a stick of 75 to 90 cm, a racket of 60 to 75."""
    assert misfits(KIT, 150, {"stick": 75, "racket": 75.0}) == []
    found = misfits(KIT, 150, {"sticks": 91, "racket": 59.5, "bag": 300})
    assert [(one.tool, one.size, one.low, one.high) for one in found] == [
        ("stick", 91, 75, 90),
        ("Rackets", 59.5, 60, 75),
    ]
    assert misfit_words(found[0]).startswith("Stick of 91\u00a0cm: rather long for this height")
    assert misfits(KIT, None, {"stick": 300}) == []
    assert misfits(KIT, 150, {}) == []


def test_a_height_of_last_year_is_asked_again():
    today = date(2026, 9, 1)
    assert not measure_again(None, today)
    assert not measure_again(date(2026, 3, 2), today)
    assert measure_again(date(2026, 3, 1), today)


@pytest.mark.parametrize("text", ["stick", "stick 50", "50 to 60", "stick 60 to 50 %", "x 0 to 5"])
def test_lines_that_are_no_window_are_named(text):
    with pytest.raises(BadSize, match=text.split()[0]):
        read_windows(text)


def test_sizes_as_people_type_them():
    assert read_windows("stick: 50-62,5\n\n tee 30 to 60 %") == (
        KitWindow("stick", 0.5, 0.625),
        KitWindow("tee", 0.3, 0.6),
    )
    assert windows_text(read_windows("stick 50 to 62.5")) == "stick 50 to 62.5 %"
    assert read_sizes("stick 88, racket 66,5 cm") == {"stick": 88, "racket": 66.5}
    assert sizes_text({"stick": 88.0, "racket": 66.5}) == "stick 88, racket 66.5"
    with pytest.raises(BadSize, match="no tool with its length"):
        read_sizes("88")


def test_nothing_possible_and_nothing_allowed():
    assert version_for([FULL], Home()).version is None
    contact = Version("tackle", allowed=False)
    assert lacking(contact, Home(feeder=True, adult=True)) == ("not allowed at home",)
    assert version_for([], Home()).version is None


def test_the_nearest_version_says_what_would_do():
    far = Version("two walls", wall=True, feeder=True, tools=frozenset({"net"}))
    home = version_for([FULL, far, SOLO], Home())
    assert (home.version, home.nearest, home.nearest_lacks) == (None, "wall", ("wall", "racket"))
    assert why_not(home) == "at home there is no feeder, no net, no racket"
    assert way_out(home).startswith(
        "“wall” would do with a wall and racket: note it on the player's page"
    )
    assert way_out(version_for([FULL], Home())).startswith("Write a solo version")
    barred = version_for(
        [Version("tackle", allowed=False), Version("shadow", allowed=False)], Home()
    )
    assert why_not(barred) == "the drill is for coached sessions only"
    assert way_out(barred) == "Prescribe it for coached sessions."


def test_coverage_empty_then_stale_then_weak():
    cells = coverage.grid([["n", "s"], ["fore", "back"]])
    assert cells == [("n", "fore"), ("n", "back"), ("s", "fore"), ("s", "back")]
    known = {
        ("n", "fore"): coverage.CellState(D, 10, 9),
        ("n", "back"): coverage.CellState(D - timedelta(days=40), 10, 9),
        ("s", "fore"): coverage.CellState(D, 10, 3),
    }
    found = coverage.first_in_next_plan(cells, known, D)
    assert found == [(("s", "back"), "empty"), (("n", "back"), "stale"), (("s", "fore"), "weak")]


def test_a_ladder_from_axes_changes_one_thing_a_rung():
    axes = [
        coverage.Steps(coverage.Axis.DISTANCE, ("4 m", "6 m", "8 m")),
        coverage.Steps(coverage.Axis.PREDICTABILITY, ("known", "random")),
    ]
    found = coverage.draft_ladder(axes)
    assert [r.values for r in found] == [
        ("4 m", "known"),
        ("6 m", "known"),
        ("6 m", "random"),
        ("8 m", "random"),
    ]
    for before, after in pairwise(found):
        changed = [i for i in (0, 1) if before.values[i] != after.values[i]]
        assert [axes[i].axis for i in changed] == [after.changed]
    assert coverage.two_axes_at_once(["distance", "tempo"])
    assert not coverage.two_axes_at_once(["distance"])


def test_retention_after_two_four_and_eight_weeks():
    first = next_check(D, [])
    assert first == D + timedelta(weeks=2)
    held = [Check(first, True)]
    assert next_check(D, held) == first + timedelta(weeks=4)
    held.append(Check(D + timedelta(weeks=6), True))
    assert next_check(D, held) == D + timedelta(weeks=14)
    held.append(Check(D + timedelta(weeks=14), True))
    again = D + timedelta(weeks=22)  # and every eight weeks for ever
    assert next_check(D, held) == again
    failed = [Check(first, False)]
    assert (next_check(D, failed), offer_back(failed), offer_back(held)) == (None, True, False)


def test_choices_apart_from_execution():
    found = good_things.Choices(hits=12, misses=2, false_alarms=2, correct_leaves=4, carried_out=9)
    assert (found.right, found.execution) == (0.8, 0.75)
    assert good_things.Choices(0, 0, 0, 0, 0).right is None
    assert good_things.good_feed_share(18, 2) == 0.9
    assert good_things.good_feed_share(0, 0) is None


def test_the_good_things():
    assert good_things.towards_goal([30, 50], 100) == (80, 0.8)
    assert good_things.comfort([(D, 2), (D + timedelta(days=7), 4)]) == (2, 4)
    scores = [(D + timedelta(days=i), s) for i, s in enumerate((9.0, 9.2, 8.8, 8.8, 8.5))]
    assert [s for _, s in good_things.personal_bests(scores, False)] == [9.0, 8.8, 8.5]


def test_how_the_coachs_calls_went():
    calls = [
        good_things.Call(False, (Verdict.PASS, Verdict.NEAR, Verdict.PASS, Verdict.LOW)),
        good_things.Call(True, (Verdict.LOW,)),
    ]
    assert good_things.how_calls_went(calls) == (pytest.approx(2 / 3), 0)
    assert good_things.how_calls_went([]) == (None, None)
