"""What the club's learning model is asked by the pages: fitted at night, kept with its date, the
same number wherever it stands.
"""

from copy import deepcopy
from dataclasses import replace
from datetime import timedelta

import numpy as np
import pytest
from django.test import Client
from django.utils import timezone
from scipy.special import expit

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.judged.days import decide_stay, knowing
from drill_ladder.apps.practice.learning.fitting import NEW_DAYS, learn, learn_after_new_days
from drill_ladder.apps.practice.models import JudgedDay, LadderLearning, PlayerLearning, Session
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.progress.panels.all_players import panels_of_all
from drill_ladder.apps.progress.player.record import record_of
from drill_ladder.apps.review.night import learn_of_all, night_of
from drill_ladder.core.judging import InARow, Kind, Reason
from drill_ladder.core.odds import reach_chance
from drill_ladder.formats.sentences import reason_text
from tests import make
from tests.make import current, log, put_on, text


@pytest.fixture(scope="module")
def made(once):
    """Six players of known level on the first rung, eleven days each: one far under the mark."""
    w, chance, today = make.world(), np.random.default_rng(1), timezone.localdate()
    found = []
    for number in range(6):
        player = Player.objects.create(
            club=w.club, name=f"Player {number}", joined_on=today, seen_on=today
        )
        p = put_on(w, player=player, on=today - timedelta(days=60), place="both")
        for n in range(11):
            rate = expit(-0.6 if number == 0 else 0.2 + 0.02 * n)
            left, right = chance.binomial(10, rate, size=2)
            log(p, today - timedelta(days=50 - 4 * n), int(left), int(right))
        found.append(p)
    return w, found


@pytest.fixture
def crowded(made, db):
    """As it was made: what a test changes, rows and values, is its own."""
    return deepcopy(made)


@pytest.fixture
def w(crowded):
    return crowded[0]


@pytest.fixture
def crowd(crowded):
    return crowded[1]


def stay_of(p):
    return Stay.objects.with_all().get(pk=current(p).pk)


def by_rule(p, **change):
    """The player goes on by another rule."""
    stay = current(p)
    stay.terms = replace(stay.terms, rule=replace(stay.terms.rule, **change))
    stay.save(update_fields=["terms"])


def full(stay):
    return list(JudgedDay.objects.filter(stay=stay).order_by("on"))


def test_the_night_fits_it_and_keeps_it_with_its_date(w, crowd, today):
    assert learn(w.club, today) == 1
    kept = LadderLearning.objects.get()
    assert (kept.on, kept.days, kept.players, kept.by) == (today, 66, 6, "counts")
    assert kept.gain_low < kept.gain < kept.gain_high
    assert PlayerLearning.objects.count() == 6
    row = PlayerLearning.objects.get(prescription=crowd[1])
    assert (row.before, row.in_stay, row.carries) == (11, 11, True)
    assert row.known.rungs == w.ladder.rungs.count()
    assert row.next_low <= row.next_middle


def test_odds_of_the_next_session_are_the_models(w, crowd, today):
    """As computed from the kept row by hand: the mean over what is not known, of a day as days
    are.
    """
    learn(w.club, today)
    for p in crowd:
        by_rule(p, school=InARow(1), stall_after=None, low_in_a_row=50)
    asked = [(p, stay_of(p)) for p in crowd]
    holds = [(p, s, d) for p, s in asked if (d := decide_stay(s, today)).odds_next]
    assert holds, "nobody holds with one more pass to go"
    p, stay, decision = holds[0]
    row = PlayerLearning.objects.get(prescription=p)
    mean, sd = row.known.form(0, 11)
    rung = stay.terms.rung
    n, spread = rung.default_attempts, w.club.day_spread
    need = rung.target.makes_needed(n)
    lanes = len(rung.lanes) if rung.target.each_lane else 1
    drawn = np.random.default_rng(0).normal(mean, sd, 4000)
    told = np.mean([reach_chance(n, [need] * lanes, p, spread) for p in expit(drawn)])
    assert decision.odds_next == pytest.approx(told, abs=0.02)


def test_stuck_is_a_chance_where_the_record_carries_it(w, crowd, today):
    """Without: a slope, and the sentence says how little that is. With: the chance itself."""
    for p in crowd[:2]:
        by_rule(p, stall_after=8, low_in_a_row=50)
    weak = stay_of(crowd[0])
    assert knowing(weak, full(weak)).outlook is None
    learn(w.club, today)
    weak, other = stay_of(crowd[0]), stay_of(crowd[1])
    chances = [knowing(one, full(one)).outlook for one in (weak, other)]
    assert chances[0] < 0.25
    assert chances[0] < chances[1]
    decision = decide_stay(weak, today)
    if decision.kind is Kind.STALLED:
        said = reason_text(decision.reasons[0])
        assert "the chance to climb within six more like these is" in said


def test_how_sure_stuck_is_is_said():
    slope = reason_text(Reason(Kind.STALLED, {"sessions": 9, "limit": 8}))
    assert slope.startswith("Perhaps stuck here: scores did not rise over 9 full sessions.")
    assert "half of those who do learn look like this too" in slope
    known = reason_text(Reason(Kind.STALLED, {"sessions": 9, "limit": 8, "outlook": 0.1}))
    assert known.endswith("within six more like these is about one in ten.")
    first = reason_text(Reason(Kind.STALLED, {"lows": 2}))
    assert first == "Stuck here: 2 low sessions in a row, and nothing easier below."


def test_fifty_new_days_bring_a_new_fit(w, crowd, today):
    assert not learn_after_new_days(w.club, today)  # the first is the night's
    learn(w.club, today)
    before = LadderLearning.objects.get().days
    for n in range(NEW_DAYS - 1):
        when = today + timedelta(days=n)
        log(crowd[n % 6], when, 7, 7)
    assert not learn_after_new_days(w.club, today)
    log(crowd[0], today + timedelta(days=80), 7, 7)
    assert learn_after_new_days(w.club, today + timedelta(days=80))
    assert LadderLearning.objects.get().days == before + NEW_DAYS


def test_it_is_the_workers_work_once_a_day_and_no_requests(w, crowd, today):
    """The night that the first write of a day brings does not wait for it."""
    w.club.night_on = None
    w.club.save()
    night_of(w.club)
    assert not LadderLearning.objects.exists()
    assert learn_of_all() == 1
    assert LadderLearning.objects.count() == 1
    assert learn_of_all() == 0


def test_tired_work_alone_teaches_the_model_nothing(w, crowd, today):
    learn(w.club, today)
    days = LadderLearning.objects.get().days
    Session.objects.filter(stay=current(crowd[0])).update(tired=True)
    learn(w.club, today)
    assert LadderLearning.objects.get().days == days - 11


def test_the_pages_say_what_was_kept(w, crowd, today, coach):
    learn(w.club, today)
    row = PlayerLearning.objects.get(prescription=crowd[1])
    player = crowd[1].player
    record = record_of(player, today, today - timedelta(weeks=12), crowd[1].pk)
    (long_,) = [one for one in panels_of_all(record) if one.key == "long"]
    if row.top_middle is not None:
        assert f"most likely about {row.top_middle}" in " ".join(long_.lines)
    else:
        assert "Too early to say" in long_.lines[0]
    page = text(coach.get(f"/prescriptions/{crowd[1].pk}/change/"))
    if row.next_high is not None:
        low, high = (round(7 * n / crowd[1].per_week) for n in (row.next_low, row.next_high))
        assert f"the next rung is likely in {low} to {high}" in page
        assert "with one more, in" in page
    else:
        assert "the next rung is likely" not in page


def test_too_little_says_nothing(other, today):
    w, coach = other, Client()
    coach.force_login(w.coach.user)
    p = put_on(w, on=today - timedelta(days=9))
    log(p, today - timedelta(days=4), 6, 6)
    assert learn(w.club, today) == 0
    assert not PlayerLearning.objects.filter(prescription=p).exists()
    assert "the next rung is likely" not in text(coach.get(f"/prescriptions/{p.pk}/change/"))
    assert knowing(stay_of(p), full(stay_of(p))).form is None
