"""What strains a body: counted, kept to the club's own limits by prescribing, planning and telling.
The numbers of the limits are invented: the program ships none.
"""

from datetime import timedelta

import pytest
from django.utils import timezone

from drill_ladder.apps.library.limits.services import drop_limit, limits_for, save_limit
from drill_ladder.apps.library.models import StrainLimit
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import PlayerDay
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.dose.dosing import done_in, kept_of, reps_of
from drill_ladder.apps.progress.panels.all_players import strain_lines
from drill_ladder.apps.progress.player.record import SPAN, record_of
from drill_ladder.apps.weeks.plan import stored_plan
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.apps.weeks.services import solve
from tests.make import current, log, put_on, text


@pytest.fixture
def throws(w):
    """The drill's repetitions are throws: twenty a session on every rung."""
    w.drill.strain = ["throws"]
    w.drill.save()
    return w.drill


@pytest.fixture
def monday(today):
    return monday_of(today) + timedelta(days=7)


def limit(w, per_week, squad=None, strain="throws"):
    return save_limit(
        member=w.coach, strain=strain, squad=squad, per_week=per_week, body="The Union", of=D
    )


@pytest.fixture(autouse=True)
def _days(w, today):
    global D
    D = today - timedelta(days=100)
    rows = [
        PlayerDay(club=w.club, player=w.player, weekday=n, minutes=60, place="club", helper=True)
        for n in range(5)
    ]
    PlayerDay.objects.bulk_create(rows)


def test_a_squads_limit_counts_before_the_clubs(w, throws):
    squad = w.club.squads.create(name="Under 14")
    limit(w, 100)
    limit(w, 60, squad)
    assert limits_for(w.player)["throws"].per_week == 100
    w.player.squad = squad
    assert limits_for(w.player)["throws"].per_week == 60
    limit(w, 80, squad)
    assert limits_for(w.player)["throws"].per_week == 80
    assert StrainLimit.objects.count() == 2
    drop_limit(member=w.coach, limit=limits_for(w.player)["throws"])
    assert limits_for(w.player)["throws"].per_week == 100


def test_what_was_done_is_counted_with_voids_and_uncounted_trials(w, throws, today):
    p = put_on(w, on=today - timedelta(days=9))
    session = log(p, today, 8, 7)
    session.sets.filter(order=1).update(voids=3)
    first = session.sets.order_by("order").first()
    done = done_in(w.player, today, today)
    assert done[p.pk, today]["throws"] == 23
    first.makes = None
    first.attempts = None
    first.save()
    assert done_in(w.player, today, today)[p.pk, today]["throws"] == 10 + 3 + 1
    assert not done_in(w.player, today - timedelta(days=5), today - timedelta(days=1))


def test_planned_and_done_on_one_day_is_counted_once(w, throws, today):
    one = limit(w, 50)
    planned = {(1, today): {"throws": 20}, (2, today): {"throws": 20}}
    done = {(1, today): {"throws": 25}}
    found = kept_of({"throws": one}, done, planned)
    assert (found[0].done, found[0].planned, found[0].expected, found[0].over) == (25, 20, 45, 0)
    assert "5 left of 50 a week (The Union" in found[0].words
    assert kept_of({}, done, {})[0].words == "Throws: 25 done; no limit is entered."


def test_the_planner_leaves_out_what_is_over(w, throws, today, monday):
    put_on(w, on=today - timedelta(days=9), place="coached")
    limit(w, 45)
    plan = solve(member=w.coach, player=w.player, monday=monday)
    assert len(plan.blocks) == 2
    assert [one.unmet.why for one in plan.unplaced()] == ["strain"]
    assert plan.strain[0].expected == 40
    limit(w, 200)
    assert len(solve(member=w.coach, player=w.player, monday=monday).blocks) == 3


def test_a_week_over_the_limit_is_not_told(w, throws, today, monday, coach):
    put_on(w, on=today - timedelta(days=9), place="coached")
    solve(member=w.coach, player=w.player, monday=monday)
    limit(w, 45)
    with pytest.raises(Refused, match="60 more planned; 15 over of 45 a week") as refused:
        publish(member=w.coach, player=w.player, monday=monday, at=timezone.now())
    assert "Take something out" in str(refused.value)
    assert stored_plan(w.player, monday).week.published_at is None
    assert "15 over of 45 a week (The Union" in text(
        coach.get(f"/players/{w.player.pk}/week/?of={monday}")
    )
    limit(w, 60)
    publish(member=w.coach, player=w.player, monday=monday, at=timezone.now())


def test_prescribing_warns_of_the_week_and_stops_at_a_session(w, throws, today, coach):
    limit(w, 50)
    page = text(coach.get(f"/players/{w.player.pk}/prescribe/{w.ladder.pk}/?rung={_first(w).pk}"))
    assert "60 throws a week would be asked, and the limit is 50 (The Union" in page
    limit(w, 19)
    with pytest.raises(Refused, match="One session alone has 20 throws"):
        put_on(w, on=today)
    assert reps_of(_first(w).core) == 20


def _first(w):
    return w.ladder.rungs.select_related("drill").get(position=1)


def test_progress_says_what_is_left_this_week(w, throws, today):
    p = put_on(w, on=today - timedelta(days=9))
    log(p, today, 8, 8)
    limit(w, 50)
    limit(w, 30, strain="jumps")  # nothing that she does: not told
    said = strain_lines(record_of(w.player, today, today - SPAN, None))
    assert said[0].startswith("This week, throws: 20 done; 30 left of 50 a week (The Union")
    assert len(said) == 1
    Session.objects.update(on=today - timedelta(days=8))
    said = strain_lines(record_of(w.player, today, today - SPAN, None))
    assert said[0].startswith("This week, throws: 0 done; 50 left of 50")
    assert current(p).worked_on.drill.strain == ["throws"]


def test_the_page_keeps_whose_limit_it_is(w, throws, today, coach):
    sent = {"strain": "throws", "per_week": 80, "body": "The Union", "of": "2025-09-01"}
    assert coach.post("/limits/", sent).status_code == 302
    said = text(coach.get("/limits/"))
    assert "80 throws a week" in said
    assert "The Union, 1 September 2025" in said
    assert "Push pass" in said
    wrong = coach.post(
        "/limits/", {**sent, "per_week": 0, "body": "", "of": today.replace(year=today.year + 1)}
    )
    assert wrong.status_code == 422
    assert StrainLimit.objects.get().per_week == 80
    pk = StrainLimit.objects.get().pk
    assert coach.post(f"/limits/{pk}/away/").status_code == 302
    assert "No limit is entered" in text(coach.get("/limits/"))


def test_an_assistant_looks_and_sets_nothing(w, client):
    client.force_login(w.assistant.user)
    sent = {"strain": "throws", "per_week": 80, "body": "The Union", "of": "2025-09-01"}
    client.post("/limits/", sent)
    assert not StrainLimit.objects.exists()
    assert "Set a limit" not in text(client.get("/limits/"))
