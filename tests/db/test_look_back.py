"""Is it working? What the pages say equals what the command line says of the same numbers."""

import json
import random
import subprocess
import sys
from collections import Counter
from datetime import timedelta
from io import BytesIO
from xml.etree import ElementTree

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from openpyxl import load_workbook

from drill_ladder.apps.library.models import Treatment
from drill_ladder.apps.practice.models import JudgedDay, Skip
from drill_ladder.apps.practice.observations import keep_said
from drill_ladder.apps.practice.observations.faults import fault_sessions
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.progress.decisions.record import (
    Ledger,
    forecasts_of,
    how_they_went,
    ledger_of,
    past_stays,
    rung_stays,
)
from drill_ladder.apps.progress.decisions.views import calibration_panel, ledger_panel
from drill_ladder.apps.progress.panels.all_players import completion, panels_of_all, stay_lengths
from drill_ladder.apps.progress.panels.ease import ease_panel
from drill_ladder.apps.progress.panels.one_player import panels_of
from drill_ladder.apps.progress.player.record import SPAN, record_of
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import move_by_hand, settle
from drill_ladder.core.looking_back import Left
from drill_ladder.formats.words import percent
from tests.make import current, given, ladder, log, put_on, text
from tests.season import SEASON


def verb(name, document):
    """What the command line answers."""
    done = subprocess.run(
        [sys.executable, "-m", "drill_ladder.formats.cli", name],
        input=json.dumps(document, default=str),
        capture_output=True,
        text=True,
        check=True,
    )
    return json.loads(done.stdout)


@pytest.fixture
def record(w, season, today):
    return record_of(w.player, today, today - timedelta(weeks=12), season.pk)


def panel(panels, key):
    return next(one for one in panels if one.key == key)


def test_better_says_what_the_trend_verb_says(record, season, today):
    points = [
        {"on": str(today - timedelta(days=25 - day)), "attempts": 20, "makes": sum(makes)}
        for day, makes in SEASON.items()
    ]
    said = verb("trend", {"better": "higher", "points": points})
    assert (said["verdict"], said["method"]) == ("flat", "logit")
    one = panel(panels_of(record), "better")
    low = f"{100 * said['low']:+.1f}".replace("-", "\u2212")
    assert one.lines[0] == (
        f"No change to be sure of: {100 * said['slope_per_week']:+.1f} points of a hundred a week, "
        f"between {low} and {100 * said['high']:+.1f}, over 7 days."
    )
    assert one.lines[1].startswith("Best so far: 80\u00a0% on ")
    assert len(one.rows) == 7
    assert 'role="img"' in one.svg


def test_the_weak_side_is_named_with_both_shares(record):
    makes = [sum(pair[i] for pair in SEASON.values()) for i in (0, 1)]
    lanes = [
        {"name": name, "attempts": 70, "makes": made}
        for name, made in zip(("left", "right"), makes, strict=True)
    ]
    said = verb("balance", {"lanes": lanes, "looks": "many"})
    assert (said["weaker"], said["real"]) == ("left", True)
    lines = panel(panels_of(record), "side").lines
    assert lines[0] == (
        f"The left is weaker: {abs(100 * said['gap']):.0f} points of a hundred behind "
        f"({abs(100 * said['high']):.0f} to {abs(100 * said['low']):.0f})."
    )
    assert f"practise it {100 * said['practice_share']:.0f}\u00a0%" in lines[1]
    assert f"cover {100 * said['cover_share']:.0f}\u00a0%" in lines[1]


def test_who_falls_off_inside_a_session_is_told_so(record):
    sessions = []
    for makes in list(SEASON.values())[-4:]:
        # the lanes side by side: first of the left, first of the right, second of the left...
        lanes = [[1] * made + [0] * (10 - made) for made in makes]
        sessions.append([mark for both in zip(*lanes, strict=True) for mark in both])
    said = verb("fatigue", {"sessions": sessions})
    line = panel(panels_of(record), "tired").lines[0]
    assert f"first third {100 * said['early']:.0f}\u00a0% good" in line
    assert f"last third {100 * said['late']:.0f}\u00a0%" in line
    assert line.startswith("It falls off" if said["flagged"] else "No falling off")


def test_faults_by_name_and_what_nobody_counted(record):
    one = panel(panels_of(record), "missed")
    assert one.lines[0].startswith("Most often: wide")
    assert "counted in 7 of 7 sessions" in one.lines[1]


def test_load_by_week_is_that_of_the_verb(record, today):
    days = [
        {"on": str(today - timedelta(days=25 - day)), "effort": 5, "minutes": 4} for day in SEASON
    ]
    said = verb("load", {"days": days})["weeks"]
    rows = panel(panels_of_all(record), "load").rows
    assert [row[1] for row in reversed(rows)] == [f"{week['load']:.0f}" for week in said]


def test_kept_at_it_counts_days_against_what_is_wanted(record, season, today):
    weeks = completion(record)
    assert sum(week.done for week in weeks) == len(SEASON)
    assert weeks[-1].planned == season.per_week
    assert panel(panels_of_all(record), "kept").rows[0][2] == "3"


def climbed(w, p, today, lengths):
    """Stays of so many passing days each, the last rung open."""
    on = today - timedelta(days=40)
    for length in lengths:
        for _ in range(length):
            log(p, on, 9, 9)
            on += timedelta(days=1)
        move_by_hand(member=w.coach, stay=current(p), kind="climb", reason="seen", on=on)
    return on


def test_how_long_is_the_forecast_of_the_verb(w, today):
    p = put_on(w, on=today - timedelta(days=50))
    climbed(w, p, today, [2, 3])
    record = record_of(w.player, today, today - timedelta(weeks=12), p.pk)
    assert [length for _, length in stay_lengths(record)] == [2, 3]
    assert panel(panels_of_all(record), "long").lines == [
        "Too early to say: 2 of 3 rungs are climbed."
    ]


def test_a_check_later_makes_no_rung_longer(w, today):
    p = put_on(w, on=today - timedelta(days=50))
    on = climbed(w, p, today, [2]) + timedelta(days=1)
    first = p.stays.order_by("arrived", "pk").first()
    record_session(stay=first, entry=given(on, 8, 8), today=on, actor=None)
    [(stay, length)] = stay_lengths(record_of(w.player, today, today - SPAN, p.pk))
    assert (stay.pk, length) == (first.pk, 2)


def test_the_page_is_light_and_takes_any_stretch(
    w, coach, season, today, django_assert_max_num_queries
):
    with django_assert_max_num_queries(20):
        page = coach.get(f"/players/{w.player.pk}/progress/")
    assert "The left is weaker" in text(page)
    short = coach.get(f"/players/{w.player.pk}/progress/?since={today - timedelta(days=5)}")
    assert "Too early to say" in text(short)
    assert coach.get(f"/players/{w.player.pk}/progress/?since=never&ladder=x").status_code == 200


def test_an_empty_record_says_so(w, coach):
    assert "Nothing to look back at yet" in text(coach.get(f"/players/{w.player.pk}/progress/"))


# --- hindsight


def test_stays_are_put_together_as_they_went(w, today):
    p = put_on(w, on=today - timedelta(days=50))
    on = climbed(w, p, today, [2])
    log(p, on, 1, 1)
    move_by_hand(member=w.coach, stay=current(p), kind="step_down", reason="too early", on=on)
    went = how_they_went(w.ladder)
    assert [(one.stay.rung.position, one.left, len(one.days)) for one in went] == [
        (1, Left.UP, 2),
        (2, Left.DOWN, 1),
        (1, Left.OPEN, 0),
    ]
    (first,) = [one for one in past_stays(w.ladder, w.rungs[0]) if one.sessions]
    assert (first.moved, first.came_back) == (Left.UP, True)
    stays = rung_stays(w.ladder)
    assert [(one.rung, one.sessions, one.low_first) for one in stays] == [
        ("1", 2, False),
        ("2", 1, True),
        ("1", 0, False),
    ]
    assert (stays[1].first, stays[1].first_below) == (0.1, 0.9)


def test_forecasts_and_the_ledger(w, coach, today):
    p = put_on(w, on=today - timedelta(days=50))
    on = today - timedelta(days=20)
    log(p, on, 8, 8)
    log(p, on + timedelta(days=1), 8, 8)
    rows = forecasts_of(w.club)
    assert len(rows) == 1
    assert rows[0][1] is True  # the second pass completed the climb
    said = Proposal.objects.filter(stay=current(p)).order_by("pk").first().said.odds_next
    assert rows[0][0] == said
    proposal = Proposal.objects.awaiting_review().get()
    settle(member=w.coach, proposal=proposal, action="confirm", on=on + timedelta(days=1))
    for day in (3, 4, 5, 6):
        log(p, on + timedelta(days=day), 9 if day < 5 else 5, 9)
    ledger = ledger_of(w.coach)
    assert ledger.calls == {("climb", "followed"): 1}
    assert ledger.climbs == {"followed": [(4, False)]}  # four days since, the next rung not passed
    page = text(coach.get("/own-decisions/"))
    assert "climb, followed" in page
    assert "you followed 1 and overruled 0: what came of them is compared from 10 of each" in page
    assert not ledger_of(w.assistant).calls


def test_climbs_are_compared_on_the_rung_they_led_to():
    """Followed: passed after 3 to 12; overruled: after 6 to 15; both medians by hand."""
    followed = [(n, True) for n in range(3, 13)]
    overruled = [(n, True) for n in range(6, 16)]
    calls = Counter({("climb", "followed"): 10})
    few = ledger_panel(Ledger(calls, {"followed": followed, "overruled": overruled[:9]}))
    assert "compared from 10 of each" in " ".join(few.lines)
    told = " ".join(
        ledger_panel(Ledger(calls, {"followed": followed, "overruled": overruled})).lines
    )
    assert "half took 7 full sessions" in told
    assert "and 10 full sessions" in told
    assert "Whom one overrules is chosen" in told


def test_better_is_said_of_forecasts_only_where_it_can_be_told():
    """Said of a coin: never better; said by somebody who knows, fifty times: better."""
    chance = random.Random(41)
    coin = [(chance.choice((0.3, 0.7)), chance.random() < 0.5) for _ in range(60)]
    assert "not surely better" in calibration_panel(coin).lines[0]
    knows = [(p, chance.random() < p) for p in (0.1, 0.9) * 30]
    assert "they tell more" in calibration_panel(knows).lines[0]
    assert "too early to say, 40 of 50" in calibration_panel(knows[:40]).lines[0]
    certain = calibration_panel([*knows, (1.0, True), (0.0, True)]).lines
    assert "2 times it was certain, and right 1 of them." in certain


def test_rules_replayed_on_the_page(w, coach, today):
    p = put_on(w, on=today - timedelta(days=50))
    climbed(w, p, today, [2, 1])
    page = coach.get(f"/ladders/{w.ladder.pk}/replay/1/")
    by_rule = {rule: found for rule, found, *_ in page.context["lines"]}
    assert "(in force)" in next(rule for rule in by_rule if "two passing" in rule)
    two = next(found for rule, found in by_rule.items() if "two passing" in rule)
    assert (two.by_then, two.later) == (1, 0)
    three = next(found for rule, found in by_rule.items() if "three passing" in rule)
    assert (three.by_then, three.later) == (0, 1)
    health = coach.get(f"/ladders/{w.ladder.pk}/steps/")
    assert "Too early to say" in text(health)
    assert Stay.objects.count() == 3


def test_a_replayed_rule_is_taken_from_there(w, coach, today):
    p = put_on(w, on=today - timedelta(days=50))
    climbed(w, p, today, [2, 1])
    page = coach.get(f"/ladders/{w.ladder.pk}/replay/1/")
    lines = page.context["lines"]
    assert [bool(taken_by) for rule, *_, taken_by in lines if "(in force)" in rule] == [False]
    three = next(taken_by for rule, *_, taken_by in lines if "three passing" in rule)
    answer = coach.post(f"/ladders/{w.ladder.pk}/odds/1/", three)
    assert answer.status_code == 302
    w.ladder.refresh_from_db()
    assert w.ladder.rule.school.passes == 3


def test_the_treated_fault_before_and_since(w, season, today):
    """Wide is the fault to treat from the first session on, and its cue is given from the second:
    the first one's share stands before, those of the other six since.
    """
    Treatment.objects.create(club=w.club, drill=w.drill, fault="wide", cue="Swing straight")
    record = record_of(w.player, today, today - SPAN, None)
    missed = next(one for one in panels_of(record) if one.key == "missed")
    misses = fault_sessions(record.on_rung(record.current))
    first, rest = misses[0], misses[1:]
    before = first.faults["wide"] / first.misses
    since = sum(m.faults["wide"] for m in rest) / sum(m.misses for m in rest)
    told = f"Wide is worked on: {percent(before)} of the misses before, {percent(since)} since."
    assert told in missed.lines


def test_form_stands_beside_the_score_and_skips_beside_the_days(w, season, today):
    rows = list(JudgedDay.objects.order_by("on"))
    JudgedDay.objects.filter(pk=rows[0].pk).update(form=0.5)
    JudgedDay.objects.filter(pk=rows[-1].pk).update(form=0.75)
    for ago in (0, 1, 400):
        on = today - timedelta(days=ago)
        Skip.objects.create(club=w.club, stay=current(season), on=on, why="time")
    # a note that reads like one is none
    w.player.notes.create(club=w.club, on=today, text="Skipped “Gate 1”, Gate: too hard today.")
    record = record_of(w.player, today, today - SPAN, None)
    panels = {one.key: one for one in [*panels_of(record), *panels_of_all(record)]}
    assert any(
        "looked right: 50\u00a0% at first, 75\u00a0%" in line for line in panels["better"].lines
    )
    assert panels["better"].rows[-1][3] == "50\u00a0%"
    assert panels["better"].rows[1][3] == ""
    assert "Left out 2 times: no time left (2)." in panels["kept"].lines
    good = sum(sum(makes) for makes in SEASON.values())
    assert f"{good} good ones counted." in panels["kept"].lines


def test_every_picture_and_every_table_goes_out(w, coach, season):
    """The file holds the numbers of the page: each cell of its table."""
    base = f"/players/{w.player.pk}/progress/"
    page = coach.get(base)
    with_table = [one for one in page.context["panels"] if one.rows]
    assert {"better", "side", "missed", "kept", "load"} <= {one.key for one in with_table}
    for one in with_table:
        csv = text(coach.get(f"{base}{one.key}.csv")).removeprefix("\ufeff").splitlines()
        assert len(csv) == len(one.rows) + 1, one.key
        assert csv[0].split(",")[0] == one.head[0]
        book = load_workbook(BytesIO(coach.get(f"{base}{one.key}.xlsx").content))
        assert book.active.max_row == len(one.rows) + 1
        if one.svg:
            drawn = coach.get(f"{base}{one.key}.svg")
            assert drawn.headers["Content-Type"] == "image/svg+xml"
            assert ElementTree.fromstring(drawn.content)[0].tag.endswith("style")
    for wrong in ("kept.exe", "nothing.csv"):
        assert coach.get(base + wrong).status_code == 404


def test_a_weak_lane_that_comes_last_is_no_tiredness(w, today):
    """All of the left, then all of the right, which is weaker from its first to its last."""
    p = put_on(w, on=today - timedelta(days=30))
    for day in range(4):
        sets = [
            SetInput(None, "left", {"attempts": 10, "makes": 10, "strokes": "g" * 10}),
            SetInput(None, "right", {"attempts": 10, "makes": 5, "strokes": "gm" * 5}),
        ]
        entry = SessionInput(
            id=None, on=today - timedelta(days=9 - 2 * day), observer="coach", sets=sets
        )
        record_session(stay=current(p), entry=entry, today=today, actor=None)
    record = record_of(w.player, today, today - timedelta(weeks=12), p.pk)
    told = panel(panels_of(record), "tired").lines[0]
    # by hand: 6 of 20 a third, 3 of each lane; all left good, right g m g early, m g m late
    assert told == "No falling off to be sure of: first third 83\u00a0% good, last third 67\u00a0%."


def test_a_whole_record_by_twenty_questions(w, coach, season, today):
    """However many ladders and days there are, sign-in and all."""
    for number in range(3):
        more = ladder(w.club, w.drill, f"Gate {number}")
        put_on(w, ladder=more, on=today - timedelta(days=400))
    path = f"/players/{w.player.pk}/progress/?since={today - timedelta(days=1100)}"
    with CaptureQueriesContext(connection) as asked:
        assert coach.get(path).status_code == 200
    assert len(asked) <= 20


def test_how_at_ease_is_told_first_to_latest(w, coach, today):
    stay = current(put_on(w, on=today - timedelta(days=60)))
    for back, level in ((40, 2), (26, 3), (12, 4)):
        keep_said(w.player, today - timedelta(days=back), level)
    shown = ease_panel(record_of(w.player, today, today - SPAN, stay.prescription_id))
    assert shown.lines[0] == "From 2 of 5, a little at ease, to 4 of 5, at ease."
    assert [row[1] for row in shown.rows] == ["4 of 5", "3 of 5", "2 of 5"]
    page = text(coach.get(f"/players/{w.player.pk}/progress/"))
    assert "At ease?" in page
