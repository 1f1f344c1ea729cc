"""What the second version of the command line refuses: one line for each fault, at its place."""

from tests.core.small import ONE_PASS, SMALL
from tests.core.test_verbs import ask, refused


def test_what_the_second_version_refuses():
    """One line for each fault, at its place."""
    told = {
        "drop-off": [
            ({"rounds": [0]}, "$.rounds[0]: must be above 0"),
            ({"limit": 0}, "$.limit: must be above 0"),
            ({"te": 0}, "$.te: must be above 0"),
            ({"running": 3}, "$.running: is over 2"),
        ],
        "reads": [
            (
                {"choices": {"right": 3, "of": 2, "carried_out": 4}},
                "$.choices.right: is more than of",
            ),
            ({"min_cues": 0}, "$.min_cues: is under 1"),
            ({"hits": 1.5}, "$.hits: is not a whole number"),
        ],
        "turns": [
            ({"cap": 1}, "$.players[0].runs[0]: is more than cap"),
            ({"players": [{"id": "a", "runs": []}] * 2}, "$.players[1].id: is given twice"),
        ],
        "routine": [
            (
                {"insert": {"reps": 1, "s_per_rep": 1, "after": ["x"]}},
                "$.insert.after[0]: is 'x', which is no part of the routine",
            ),
            (
                {"parts": [{"id": "a", "dose": {}}]},
                "$.parts[0].dose.reps: is required (or give window_s)",
            ),
        ],
        "backtest": [
            (
                {"rules": [{"school": "by_coach"}]},
                "$.rules[0].school: is by_coach: it proposes no climb that could be replayed",
            ),
            (
                {"stays": [{"sessions": [], "moved": "down", "came_back": False}]},
                "$.stays[0].came_back: is for a stay that was moved up",
            ),
        ],
        "calibration": [({"forecasts": [{"p": 1.1, "hit": True}]}, "$.forecasts[0].p: is over 1")],
        "ladder-health": [
            ({"rungs": ["a", "a"]}, "$.rungs[1]: is given twice"),
            ({"rungs": ["a"]}, "$.stays[0].rung: is 'b', which is no rung of the ladder"),
        ],
        "odds": [
            (
                {"rule": {"school": "by_coach"}},
                "$.rule.school: is by_coach: nobody knows when the coach says so",
            ),
            (
                {"measure": {"kind": "streak", "cap": 9}, "p": [0.5]},
                "$.measure.cap: is a mean over turns, which odds cannot follow",
            ),
        ],
    }
    for verb, cases in told.items():
        for change, line in cases:
            assert line in refused(verb, **change)
    on_good = {"feeder": "a", "feeds": 9, "good": 7, "makes": 8, "makes_on_good": 5}
    assert refused("feeds", feeds=[on_good]) == [
        "$.feeds[0].makes: leaves more makes on bad feeds than there were bad feeds"
    ]


def test_what_goes_with_a_rung_in_the_second_version_has_its_place():
    """A stop for times only, runs within the cap, and by_coach without an answer of find-rule."""
    rung = SMALL["decide"]["ladder"]["rungs"][0]
    stop = {**rung, "dose": {"stop_drop": 0.05}}
    assert refused("decide", ladder={"rungs": [stop], "rule": ONE_PASS}) == [
        "$.ladder.rungs[0].dose.stop_drop: is for measure time, not makes"
    ]
    turns = {**rung, "measure": {"kind": "streak", "cap": 10}, "target": {"value": 5}}
    done = {"on": "2026-03-01", "observer": "coach", "sets": [{"best_run": 11}]}
    given = {"ladder": {"rungs": [turns], "rule": ONE_PASS}, "sessions": [done]}
    assert refused("decide", **given) == [
        "$.sessions[0].sets[0].best_run: is more than the cap of 10"
    ]
    coach = ask("find-rule", {**SMALL["find-rule"], "schools": [{"school": "by_coach"}]})
    assert coach["results"][0]["n"] is None
    assert "the coach says so" in coach["results"][0]["reason"]
