"""What is prescribed is changed while it runs; what was done stays as it was judged."""

from datetime import timedelta

import pytest
from django.utils import timezone

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.prescriptions.changes.differences import (
    change_prescription,
    look_again,
    seen,
)
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.prescriptions.services import end_prescription
from drill_ladder.formats.documents import OVERRIDES
from tests.make import current, log, put_on, text

TODAY = timezone.localdate()
SENT = {"per_week": 3, "place": "both", "priority": 2, "retention": "on"}


@pytest.fixture
def p(w):
    return put_on(w, on=TODAY - timedelta(days=20))


def path(p, what="change"):
    return f"/prescriptions/{p.pk}/{what}/"


def fresh(p):
    return Prescription.objects.get(pk=p.pk)


def send(coach, p, **change):
    return coach.post(path(p), SENT | {"seen": seen(fresh(p))} | change, follow=True)


def test_how_often_where_and_how_urgent(coach, p):
    stay = current(p)
    page = send(coach, p, per_week=2, place="coached", priority=1, rest_day_between="on")
    assert "Gate is changed for Ida Marlow." in text(page)
    assert "new terms" not in text(page)
    now = fresh(p)
    assert (now.per_week, now.place, now.priority, now.rest_day_between) == (2, "coached", 1, True)
    assert current(p).pk == stay.pk
    changed = Event.objects.get(verb="changed a prescription").details["changed"]
    assert changed == ["per_week", "place", "priority", "rest_day_between"]


def test_the_form_opens_with_what_is_prescribed(coach, w):
    own = {"dose": {"sets": 2}, "target": {"makes": 6, "of": 8}, "target_rung": w.rungs[1].pk}
    own["rule"] = {"school": "window", "passes": 2, "of": 5}
    p = put_on(w, rung=2, more={"overrides": own, "intent": "pressure"})
    form = coach.get(path(p)).context["form"]
    opened = {
        name: form[name].value()
        for name in ("per_week", "intent", "sets", "makes", "of", "school", "of_last")
    }
    assert opened == {
        "per_week": 3,
        "intent": "pressure",
        "sets": 2,
        "makes": 6,
        "of": 8,
        "school": "window",
        "of_last": 5,
    }
    # sent back as it opened, it changes nothing
    sent = {
        name: form[name].value() for name in form.fields if form[name].value() not in (None, False)
    }
    stay = current(p)
    coach.post(path(p), sent)
    assert current(p).pk == stay.pk
    assert fresh(p).overrides == OVERRIDES.read(own)


def test_another_target_counts_from_now_on(coach, p):
    log(p, TODAY - timedelta(days=2), 8, 8)
    before = current(p)
    page = send(coach, p, makes=6, of=10)
    assert "goes on by the new terms" in text(page)
    now = current(p)
    assert (now.rung_id, now.how) == (before.rung_id, "new_terms")
    assert now.terms.rung.target.makes == 6
    before.refresh_from_db()
    assert before.left == TODAY
    assert before.sessions.count() == 1
    assert before.terms.rung.target.makes == 8


def test_a_target_of_another_rung_stays_where_it_is(coach, w):
    own = {"target": {"makes": 5, "of": 10}, "target_rung": w.rungs[2].pk}
    p = put_on(w, rung=3, more={"overrides": own})
    stay = current(p)
    stay.left = TODAY
    stay.save()
    p.stays.create(club=w.club, rung=w.rungs[1], arrived=TODAY, how="step_down", terms=stay.terms)
    send(coach, p, sets=2)
    assert OVERRIDES.write(fresh(p).overrides) == own | {"dose": {"sets": 2}}


@pytest.mark.parametrize(
    ("change", "why"),
    [
        ({"per_week": 0}, "At least one a week."),
        ({"makes": 6}, "Give both, or neither."),
        ({"makes": 9, "of": 5}, "does not fit"),
        ({"review_on": "2020-01-01"}, "That is before it starts."),
    ],
)
def test_what_cannot_be_is_said_and_nothing_is_changed(coach, p, change, why):
    answer = send(coach, p, **change)
    assert answer.status_code == 422
    assert why in text(answer)
    assert OVERRIDES.write(fresh(p).overrides) == {}
    assert fresh(p).per_week == 3


def test_a_review_day_that_has_passed_may_stand(coach, p):
    Prescription.objects.update(review_on=TODAY - timedelta(days=3))
    assert "is changed for" in text(send(coach, p, review_on=TODAY - timedelta(days=3), per_week=2))


def test_a_home_where_it_may_not_go_is_refused(w, coach, p):
    w.drill.caution = "coached_only"
    w.drill.save()
    assert "for coached sessions only" in text(send(coach, p, place="home"))
    assert fresh(p).place == "both"


def test_two_coaches_notice_each_other(coach, p):
    was = seen(fresh(p))
    send(coach, p, per_week=5)
    late = coach.post(path(p), SENT | {"seen": was, "per_week": 1})
    assert late.status_code == 422
    assert "Somebody changed this while you had it open" in text(late)
    assert fresh(p).per_week == 5


def test_only_a_coach_and_only_while_it_runs(w, p):
    given = {"prescription": p, "values": {"per_week": 1}, "was": seen(p), "on": TODAY}
    with pytest.raises(Refused):
        change_prescription(member=w.assistant, **given)
    end_prescription(member=w.coach, prescription=p, on=TODAY)
    with pytest.raises(Refused, match="has ended"):
        change_prescription(member=w.coach, **given)
    with pytest.raises(Refused, match="has ended"):
        look_again(member=w.coach, prescription=p, on=TODAY)


def test_the_minutes_do_not_count_what_is_changed_twice(w, coach, p):
    w.player.days.create(club=w.club, weekday=0, minutes=60, place="home")
    typed = coach.post(path(p), SENT | {"seen": "x", "per_week": 5}, headers={"hx-request": "true"})
    assert (typed.context["minutes"].wants, typed.context["minutes"].there) == (20, 0)
    assert fresh(p).per_week == 3


def test_what_was_to_be_looked_at_stands_on_the_desk_until_somebody_looked(coach, p):
    assert "To look at again" not in text(coach.get("/"))
    Prescription.objects.update(review_on=TODAY)
    assert "To look at again" in text(coach.get("/"))
    assert "You wanted to look at this again" in text(coach.get(f"/players/{p.player_id}/"))
    coach.post(path(p, "looked"))
    assert fresh(p).review_on == TODAY + timedelta(weeks=6)
    assert "To look at again" not in text(coach.get("/"))


def test_what_the_home_allows_is_said_while_it_is_chosen(w, coach, p):
    """At once: how it is done there and what is lost, or why it cannot be, and the way out."""
    w.drill.people = "feeder"
    w.drill.save()
    htmx = {"headers": {"hx-request": "true"}}
    typed = SENT | {"seen": "x"}
    page = text(coach.post(path(p), typed, **htmx))
    assert "Not possible at home: at home there is no feeder. Write a solo version" in page
    w.drill.versions = [
        {"name": "Wall alone", "people": "solo", "wall": True, "loses": ["no live feed"]}
    ]
    w.drill.save()
    assert "“Wall alone” would do with a wall" in text(coach.post(path(p), typed, **htmx))
    w.player.home_wall = True
    w.player.save()
    page = text(coach.post(path(p), typed, **htmx))
    assert "<strong>Wall alone</strong>. Lost: no live feed." in page
    assert "Wall alone" not in text(coach.post(path(p), typed | {"place": "coached"}, **htmx))
