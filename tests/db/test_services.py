"""Prescribing, recording, proposing, deciding, undoing."""

from datetime import date, timedelta

import pytest

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.practice.judged.days import days_of
from drill_ladder.apps.practice.models import Session, SetRow, Stop
from drill_ladder.apps.practice.sessions.services import record_session
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.prescriptions.services import (
    changes_since,
    end_prescription,
    prescribe,
    take_new_terms,
)
from drill_ladder.apps.review.absences import notice_absences
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import offered, settle, undo
from tests.make import current, drill, given, ladder, log, put_on

D = date(2026, 3, 2)


def day(n):
    return D + timedelta(days=n)


def waiting(w):
    return list(Proposal.objects.of_club(w.club).awaiting_review())


def climbed_once(w):
    p = put_on(w)
    log(p, day(0), 8, 8)
    log(p, day(1), 9, 8)
    [proposal] = waiting(w)
    return p, proposal


def test_two_passes_propose_a_climb_and_confirming_moves_the_marker(w):
    p, proposal = climbed_once(w)
    assert (proposal.kind, proposal.to_rung.position) == ("climb", 2)
    settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))
    assert [(s.rung.position, s.how) for s in p.stays.all()] == [(1, "placed"), (2, "climb")]
    assert waiting(w) == []
    assert Event.objects.filter(verb="confirmed", actor=w.coach.user).count() == 1


def test_what_was_said_is_kept_with_its_numbers(w):
    _, proposal = climbed_once(w)
    assert proposal.said.ahead.kind == "climb"
    assert [day.verdict for day in days_of(proposal.stay)] == ["pass", "pass"]
    assert proposal.said.reasons[0].text == "The rule is met: climb."


def test_undo_puts_everything_back(w):
    p, proposal = climbed_once(w)
    decision = settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))
    undo(member=w.coach, decision=decision)
    assert current(p).rung.position == 1
    assert [x.pk for x in waiting(w)] == [proposal.pk]
    again = settle(member=w.coach, proposal=proposal, action="hold", on=day(1))
    assert (again.applied, current(p).rung.position) == ("hold", 1)
    with pytest.raises(Refused):
        undo(member=w.coach, decision=decision)


def test_undo_is_refused_once_results_came_in(w):
    p, proposal = climbed_once(w)
    decision = settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))
    log(p, day(2), 5, 5)
    with pytest.raises(Refused, match="recorded on the new rung"):
        undo(member=w.coach, decision=decision)
    assert current(p).rung.position == 2


def test_an_override_needs_a_reason_and_keeps_it(w):
    p, proposal = climbed_once(w)
    with pytest.raises(Refused, match="reason"):
        settle(member=w.coach, proposal=proposal, action="override", applied="step_down", on=day(1))
    with pytest.raises(Refused, match="no rung"):
        settle(
            member=w.coach,
            proposal=proposal,
            action="override",
            applied="step_down",
            reason="x",
            on=day(1),
        )
    done = settle(
        member=w.coach,
        proposal=proposal,
        action="override",
        applied="ease",
        reason="tired feet",
        on=day(1),
    )
    assert (done.reason, current(p).eased) == ("tired feet", True)
    assert offered(Proposal.objects.get(pk=proposal.pk)) == [("hold", "Hold here")]


def test_two_coaches_decide_once(w):
    _, proposal = climbed_once(w)
    settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))
    with pytest.raises(Refused, match="decided already"):
        settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))


def test_an_assistant_decides_nothing(w):
    p, proposal = climbed_once(w)
    for act in (
        lambda: settle(member=w.assistant, proposal=proposal, action="confirm", on=day(1)),
        lambda: end_prescription(member=w.assistant, prescription=p, on=day(1)),
        lambda: end_stop(
            member=w.assistant,
            stop=open_stop(player=w.player, what="x", on=day(1), actor=None),
            cleared_by="me",
            on=day(1),
        ),
    ):
        with pytest.raises(Refused):
            act()
    assert current(p).rung.position == 1


def test_the_top_rung_finishes_the_ladder_and_undo_reopens_it(w):
    p = put_on(w, rung=3)
    log(p, day(0), 8, 8)
    log(p, day(1), 8, 8)
    [proposal] = waiting(w)
    done = settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))
    p.refresh_from_db()
    assert (proposal.kind, p.status) == ("finish", "finished")
    undo(member=w.coach, decision=done)
    p.refresh_from_db()
    assert (p.status, current(p).rung.position) == ("active", 3)


def test_easing_ends_by_itself_when_the_target_is_met(w):
    p = put_on(w, rung=2)
    log(p, day(0), 2, 8)
    log(p, day(1), 2, 8)
    [proposal] = waiting(w)
    assert proposal.kind == "ease"
    settle(member=w.coach, proposal=proposal, action="confirm", on=day(1))
    assert log(p, day(2), 6, 8).eased
    assert current(p).eased
    log(p, day(3), 8, 8)
    assert not current(p).eased
    assert not log(p, day(4), 8, 8).eased


def test_three_weeks_away_ask_for_a_recheck_that_counts_for_no_rung(w):
    p = put_on(w, rung=2)
    log(p, day(0), 7, 8)
    assert notice_absences(w.club, day(20)) == 0
    assert notice_absences(w.club, day(21)) == 1
    assert notice_absences(w.club, day(21)) == 0
    [proposal] = waiting(w)
    assert proposal.kind == "recheck"
    settle(member=w.coach, proposal=proposal, action="confirm", on=day(21))
    assert log(p, day(22), 9, 9).recheck
    assert not current(p).recheck
    log(p, day(23), 8, 8)
    assert days_of(current(p))[-1].on == day(23)
    assert len(days_of(current(p))) == 2
    assert [row.on for row in days_of(current(p), recheck=True)] == [day(22)]


def test_results_keep_the_terms_they_were_judged_by(w):
    p, _ = climbed_once(w)
    rung = w.rungs[0]
    rung.target = {"makes": 10, "of": 10, "each_lane": True}
    rung.save()
    w.drill.measure = {"kind": "streak"}
    w.drill.save()
    log(p, day(2), 8, 8)
    [proposal] = waiting(w)
    assert [day.verdict for day in days_of(proposal.stay)] == ["pass", "pass", "pass"]


def test_sent_twice_is_stored_once(w):
    stay = current(put_on(w))
    sent = given(day(0), 8, 8)
    assert record_session(stay=stay, entry=sent, today=day(0), actor=None)[1] is True
    assert record_session(stay=stay, entry=sent, today=day(0), actor=None)[1] is False
    assert (Session.objects.count(), SetRow.objects.count()) == (1, 2)


def test_a_set_that_came_with_another_session_is_not_stored_again(w):
    stay = current(put_on(w))
    sent = given(day(0), 8, 8)
    record_session(stay=stay, entry=sent, today=day(0), actor=None)
    again = given(day(0))
    object.__setattr__(again, "sets", sent.sets)
    record_session(stay=stay, entry=again, today=day(0), actor=None)
    assert SetRow.objects.count() == 2


def test_hurt_opens_a_stop_that_blocks_until_a_coach_ends_it(w):
    p = put_on(w)
    log(p, day(0), 8, 8)
    open_stop(player=w.player, what="left knee", on=day(0), actor=None)
    stop = Stop.objects.open().get()
    with pytest.raises(Refused, match="stop is open"):
        log(p, day(1), 8, 8)
    assert waiting(w) == []
    with pytest.raises(Refused, match="who cleared"):
        end_stop(member=w.coach, stop=stop, cleared_by=" ", on=day(1))
    end_stop(member=w.coach, stop=stop, cleared_by="physiotherapist", on=day(1))
    log(p, day(1), 8, 8)
    assert [x.kind for x in waiting(w)] == ["climb"]


def test_a_late_result_of_a_rung_left_behind_is_kept_and_proposes_nothing(w):
    p, proposal = climbed_once(w)
    old = current(p)
    settle(member=w.coach, proposal=proposal, action="confirm", on=day(2))
    old.refresh_from_db()
    before = Proposal.objects.count()
    record_session(stay=old, entry=given(day(1), 9, 9), today=day(2), actor=None)
    assert (old.sessions.count(), Proposal.objects.count()) == (3, before)


def test_coached_only_never_goes_home_by_any_path(w):
    risky = drill(w.club, "Block tackle", caution="coached_only")
    steps = ladder(w.club, risky, "Tackles")
    for place in ("home", "both"):
        with pytest.raises(Refused, match="coached sessions only"):
            put_on(w, ladder=steps, place=place)
    assert Prescription.objects.count() == 0
    p = put_on(w, ladder=steps, place="coached")
    with pytest.raises(Refused, match="coached sessions only"):
        log(p, day(0), 8, 8, observer="self")
    # the drill became coached-only after it was prescribed for home
    mild = put_on(w, place="home")
    w.drill.caution = "coached_only"
    w.drill.save()
    with pytest.raises(Refused, match="coached sessions only"):
        log(mild, day(0), 8, 8, observer="helper")


def test_with_an_adult_only_where_there_is_one(w):
    swing = drill(w.club, "Clear", caution="home_with_adult")
    steps = ladder(w.club, swing, "Clears")
    with pytest.raises(Refused, match="adult"):
        put_on(w, ladder=steps, place="home")
    w.player.home_adult = True
    w.player.save()
    p = put_on(w, ladder=steps, place="home")
    with pytest.raises(Refused, match="adult has to be there"):
        log(p, day(0), 8, 8, observer="self")
    assert log(p, day(0), 8, 8, observer="self", adult_present=True)


def test_prescribing_twice_or_across_clubs_is_refused(w, other):
    put_on(w)
    with pytest.raises(Refused, match="already on"):
        put_on(w)
    for strange in ({"ladder": other.ladder}, {"player": other.player}):
        with pytest.raises(Refused, match="not on this club"):
            put_on(w, **strange)
    with pytest.raises(Refused, match="not on this club"):
        prescribe(
            member=w.coach,
            player=w.player,
            ladder=ladder(w.club, w.drill, "B"),
            rung=w.rungs[0],
            per_week=2,
            place="home",
            on=D,
        )


def test_tomorrow_cannot_be_recorded_today(w):
    with pytest.raises(Refused, match="future"):
        record_session(stay=current(put_on(w)), entry=given(day(1), 8, 8), today=day(0), actor=None)


def test_new_terms_by_the_coachs_choice_with_history_untouched(w):
    p = put_on(w, rung=2)
    log(p, day(0), 8, 8)
    old = current(p)
    assert changes_since(old) == []
    rung = w.rungs[1]
    rung.target = {"makes": 9, "of": 10, "each_lane": True}
    rung.save()
    w.ladder.rule = {"school": "one_pass"}
    w.ladder.save()
    old = current(p)
    assert changes_since(old) == [
        "target: 8 of 10, both left and right → 9 of 10, both left and right",
        "rule: Climbs after two passing sessions in a row. → Climbs after one passing session.",
    ]
    with pytest.raises(Refused):
        take_new_terms(member=w.assistant, stay=old, on=day(1))
    take_new_terms(member=w.coach, stay=old, on=day(1))
    new = current(p)
    assert (new.rung.position, new.how, new.sessions.count()) == (2, "new_terms", 0)
    old.refresh_from_db()
    assert (old.left, old.sessions.count(), old.terms.rung.target.makes) == (day(1), 1, 8)
    log(p, day(2), 8, 9)
    assert waiting(w) == []
    with pytest.raises(Refused, match="not on this rung any more"):
        take_new_terms(member=w.coach, stay=old, on=day(2))


def test_an_absence_that_was_decided_about_is_not_brought_up_again(w):
    p = put_on(w, rung=2)
    log(p, day(0), 8, 8)
    log(p, day(1), 8, 8)
    assert [x.kind for x in waiting(w)] == ["climb"]
    assert notice_absences(w.club, day(22)) == 1
    [proposal] = waiting(w)
    assert proposal.kind == "recheck"
    decision = settle(member=w.coach, proposal=proposal, action="hold", on=day(22))
    assert notice_absences(w.club, day(23)) == 0
    undo(member=w.coach, decision=decision)
    assert [x.kind for x in waiting(w)] == ["recheck"]
    settle(member=w.coach, proposal=proposal, action="hold", on=day(22))
    log(p, day(24), 7, 7)
    assert notice_absences(w.club, day(50)) == 1


def test_two_reports_of_hurt_are_one_stop(w):
    first = open_stop(player=w.player, what="knee", on=day(0), actor=None)
    again = open_stop(player=w.player, what="wrist too", on=day(1), actor=None)
    same = open_stop(player=w.player, what="knee", on=day(1), actor=None)
    assert first.pk == again.pk == same.pk
    assert Stop.objects.get().what == "knee; wrist too"
    assert Stop.objects.get().opened_on == day(0)
    end_stop(member=w.coach, stop=first, cleared_by="physio", on=day(2))
    later = open_stop(player=w.player, what="knee", on=day(3), actor=None)
    assert later.pk != first.pk


def test_a_stop_rests_and_asks_nothing(w):
    p = put_on(w, rung=2)
    log(p, day(0), 7, 7)
    open_stop(player=w.player, what="x", on=day(1), actor=None)
    assert notice_absences(w.club, day(40)) == 0


def test_what_is_prescribed_for_the_club_is_not_logged_from_home(w):
    """The guard of the service itself, whatever page or device sends it; the drill alone would be
    one for home.
    """
    p = put_on(w, place="coached")
    for observer in ("self", "helper"):
        with pytest.raises(Refused, match="coached sessions only"):
            log(p, day(0), 8, 8, observer=observer)
    assert Session.objects.count() == 0
    log(p, day(0), 8, 8, observer="coach")
    assert Session.objects.count() == 1


def test_a_log_entry_names_its_row_and_who_changed_it_is_exact(w, other):
    """Two players of one name: what was done to one is not said of the other. Renamed, the trail
    stays with the row.
    """
    from drill_ladder.apps.history.models import Event
    from drill_ladder.apps.people.models import Player
    from drill_ladder.apps.people.players.services import save_player

    twin = save_player(member=w.coach, player=Player(name=w.player.name, joined_on=day(0)))
    twin.name = "Ida Marlow-West"
    save_player(member=w.coach, player=twin)
    assert [e.verb for e in Event.objects.about(twin)] == ["changed a player", "added a player"]
    assert [e.subject for e in Event.objects.about(twin)] == ["Ida Marlow-West", "Ida Marlow"]
    assert [e.verb for e in Event.objects.about(w.player)] == ["added a player"]
    assert list(Event.objects.about_any([])) == []


def test_the_trail_stands_on_the_players_and_the_ladders_page(w, coach):
    put_on(w)
    page = coach.get(f"/players/{w.player.pk}/decisions/").content.decode()
    assert "Who changed what" in page
    trail = coach.get(f"/players/{w.player.pk}/trail/").content.decode()
    assert "prescribed: Ida Marlow on Gate" in trail
    coach.post(f"/library/ladders/{w.ladder.pk}/aside/", {})
    assert "Who changed what" in coach.get(f"/ladders/{w.ladder.pk}/").content.decode()
    assert "archived" in coach.get(f"/ladders/{w.ladder.pk}/trail/").content.decode()
