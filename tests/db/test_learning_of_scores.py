"""Learning where a score decides: a ladder that is timed, from days as they were judged to the page
that says it.
"""

from copy import deepcopy
from datetime import timedelta
from math import log
from uuid import uuid4

import numpy as np
import pytest
from django.utils import timezone

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.learning.fitting import form_of, learn, outlook_of
from drill_ladder.apps.practice.learning.ways import learnt_by, over_asked
from drill_ladder.apps.practice.models import JudgedDay, LadderLearning, PlayerLearning
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.looking_back import ScoreOf, score_model
from tests import make
from tests.make import current, drill, ladder, put_on, text

TARGET = 9.0


def sprints_of(w):
    """Nine seconds, the best of two runs."""
    run = drill(
        w.club,
        "Shuttle run",
        measure={"kind": "time", "score_by": "best"},
        lanes=[],
        faults=[],
    )
    terms = {"dose": {"sets": 2}, "target": {"value": TARGET}, "floor": None, "ease_note": ""}
    return ladder(w.club, run, "Sprints", **terms)


@pytest.fixture(scope="module")
def made(once):
    """Six players of eleven days, one far from the target, each day a percent quicker."""
    w, today = make.world(), timezone.localdate()
    chance, found, sprints = np.random.default_rng(2), [], sprints_of(w)
    for number in range(6):
        player = Player.objects.create(club=w.club, name=f"Player {number}", joined_on=today)
        on = today - timedelta(days=60)
        p = put_on(w, player=player, on=on, place="both", ladder=sprints)
        first = 12.5 if number == 0 else 9.6
        for n in range(11):
            trials = first * np.exp(chance.normal(-0.01 * n, 0.03, 2))
            run(p, today - timedelta(days=50 - 4 * n), *trials)
        found.append(p)
    return w, sprints, found


@pytest.fixture
def crowded(made, db):
    """As it was made: what a test changes, rows and values, is its own."""
    return deepcopy(made)


@pytest.fixture
def w(crowded):
    return crowded[0]


@pytest.fixture
def sprints(crowded):
    return crowded[1]


@pytest.fixture
def crowd(crowded):
    return crowded[2]


def run(p, on, *seconds):
    sets = [SetInput(uuid4(), "", {"seconds": round(float(s), 2)}) for s in seconds]
    entry = SessionInput(id=uuid4(), on=on, observer="coach", sets=sets)
    record_session(stay=current(p), entry=entry, today=on, actor=None)


def stay_of(p):
    return Stay.objects.with_all().get(pk=current(p).pk)


def test_a_timed_ladder_is_learnt_by_its_times(w, sprints, crowd, today):
    """As a model of the very numbers: the logarithm of the target over the best run."""
    learn(w.club, today)
    kept = LadderLearning.objects.get()
    assert (kept.by, kept.fives) == ("scores", False)
    rows, before = [], {}
    for day in JudgedDay.objects.order_by("on", "pk"):
        player = day.stay.prescription.player_id
        over = log(TARGET / min(one.seconds for one in day.sets))
        place = day.stay.rung.position
        rows.append(ScoreOf(str(player), place, before.get(player, 0), over))
        before[player] = before.get(player, 0) + 1
    by_hand = score_model(rows)
    assert kept.gain == pytest.approx(by_hand.gain.value, rel=1e-3)
    assert kept.days == len(rows)
    row = PlayerLearning.objects.first()
    assert row.known.noise_on(0) == pytest.approx(by_hand.noise[0], abs=1e-5)


def test_who_is_far_off_is_seen_to_be(w, crowd, today):
    learn(w.club, today)
    far, near = (outlook_of(stay_of(p), list(p_days(p))) for p in crowd[:2])
    assert far.chance < 0.25
    assert far.chance < near.chance
    assert form_of(stay_of(crowd[1]), []) is None  # odds of makes are for makes


def p_days(p):
    return JudgedDay.objects.filter(stay=current(p)).order_by("on")


def test_the_page_says_it_in_percent(w, sprints, crowd, today, coach):
    learn(w.club, today)
    page = text(coach.get(f"/ladders/{sprints.pk}/steps/"))
    assert "% less time with each full session" in page
    assert "where half are good" not in page


def test_what_a_ladder_goes_by(w, sprints):
    makes = [rung.core for rung in w.ladder.rungs.all()]
    times = [rung.core for rung in sprints.rungs.all()]
    assert learnt_by(makes) == "counts"
    assert learnt_by(times) == "scores"
    assert learnt_by([*makes, *times]) == "passes"
    sprints.rungs.update(target={"value": TARGET, "faults_max": 1})
    asked = [rung.core for rung in Rung.objects.filter(ladder=sprints)]
    assert learnt_by(asked) == "passes"  # the score alone decides no day


def test_the_worst_lane_counts_where_each_is_asked(w, today):
    points = drill(w.club, "Placing", measure={"kind": "points", "max": 3}, faults=[])
    terms = {"target": {"value": 2.0, "each_lane": True}, "floor": None, "ease_note": ""}
    rung = ladder(w.club, points, "Placing", **terms).rungs.first().core
    worse = over_asked(rung, JudgedDay(lanes={"left": 2.5, "right": 1.75}))
    assert worse == over_asked(rung, JudgedDay(lanes={"left": 1.75, "right": 3.0})) < 0
    assert over_asked(rung, JudgedDay(lanes={"left": 2.5, "right": None})) is None
    assert over_asked(rung, JudgedDay(lanes={})) is None
