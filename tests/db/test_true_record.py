"""The record is true, whole, dated and correctable: what was extra, late, wrong, unseen."""

from datetime import timedelta
from uuid import uuid4

import pytest
from django.test import Client

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import PlayerNote
from drill_ladder.apps.practice.judged.days import counted_rows
from drill_ladder.apps.practice.models import Session, SetRow
from drill_ladder.apps.practice.sessions import views as session_views
from drill_ladder.apps.practice.sessions.corrections import AWAY, bring_back, correct, take_away
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.review.models import Decision, Proposal, State
from drill_ladder.apps.review.services import move_by_hand, settle, undo
from tests.make import LANES, current, drill, given, ladder, log, put_on, text


@pytest.fixture
def p(w, today):
    """The player on the first rung, for two weeks."""
    return put_on(w, on=today - timedelta(days=14))


def waiting(p):
    """What waits for a decision."""
    return [one.kind for one in Proposal.objects.filter(stay__prescription=p, state=State.OPEN)]


def verdicts(p):
    """Of the days on the present rung."""
    return [row.verdict for row in counted_rows(current(p))]


def send(w, p, **more):
    """What a card sends."""
    sent = {"session_id": str(uuid4()), "hurts": "no", "seen_by": "self"}
    for i, _ in enumerate(LANES):
        sent |= {f"e{i}-id": str(uuid4()), f"e{i}-makes": "8", f"e{i}-attempts": "10"}
    return Client().post(f"/card/{w.token}/{current(p).pk}/", sent | more)


def test_extra_practice_after_a_pass_takes_nothing_away(w, p, today):
    """Eight of eight in the morning, four of three more in the afternoon."""
    log(p, today - timedelta(days=2), 8, 8, observer="self")
    log(p, today, 8, 8, observer="self")
    assert waiting(p) == ["climb"]
    send(w, p, **{"e0-makes": "1", "e1-makes": "2"})
    assert Session.objects.latest("recorded_at").extra
    assert (verdicts(p), waiting(p)) == (["pass", "pass"], ["climb"])
    told = current(p).judged.get(on=today)
    assert [len(sets) for _, sets in told.extra] == [2]


def test_a_coachs_eyes_still_judge_a_day_that_only_the_player_saw(w, p, today):
    log(p, today, 9, 9, observer="self")
    log(p, today, 3, 3, observer="coach")
    assert not Session.objects.filter(extra=True).exists()
    assert verdicts(p) == ["low"]


def test_sent_again_with_more_takes_up_what_is_new(w, p, today):
    entry = given(today, 8, lanes=LANES)
    record_session(stay=current(p), entry=entry, today=today, actor=None)
    assert verdicts(p) == ["short"]
    more = [*entry.sets, SetInput(uuid4(), "right", {"attempts": 10, "makes": 9})]
    again = SessionInput(id=entry.id, on=today, observer="coach", sets=more)
    session, new = record_session(stay=current(p), entry=again, today=today, actor=None)
    assert (new, Session.objects.count(), session.sets.count()) == (False, 1, 2)
    assert verdicts(p) == ["pass"]
    record_session(stay=current(p), entry=again, today=today, actor=None)
    assert SetRow.objects.count() == 2


def test_a_rung_that_asks_for_form_can_be_passed(w, coach, today):
    w.drill.checkpoints = ["Head up", "Soft hands"]
    w.drill.save()
    strict = ladder(
        w.club,
        w.drill,
        "Strict",
        target={"makes": 8, "of": 10, "each_lane": True, "form_min": 0.5},
    )
    p = put_on(w, ladder=strict, on=today - timedelta(days=3))
    address = f"/log/{current(p).pk}/"
    page = text(coach.get(address))
    assert "This rung asks for technique" in page
    assert "Soft hands" in page
    sent = {"session_id": str(uuid4()), "hurts": "no", "on": f"{today - timedelta(days=1)}"}
    for i, _ in enumerate(LANES):
        sent |= {f"e{i}-id": str(uuid4()), f"e{i}-makes": "9", f"e{i}-attempts": "10"}
    unseen = coach.post(address, sent)
    assert unseen.status_code == 302
    assert verdicts(p) == ["near"]
    assert "target met, form not seen" in text(coach.get(unseen.headers["Location"]))
    again = sent | {
        "session_id": str(uuid4()),
        "on": f"{today}",
        "e0-seen": ["0", "1"],
        "e1-looked": "on",
    }
    for i, _ in enumerate(LANES):
        again[f"e{i}-id"] = str(uuid4())
    coach.post(address, again)
    session = Session.objects.get(on=today)
    assert session.form == 0.5
    assert [row.seen for row in session.sets.all()] == [["Head up", "Soft hands"], []]
    assert verdicts(p) == ["near", "pass"]


def test_faults_are_counted_by_name_on_any_measure_and_unknown_where_nobody_did(w, coach, today):
    timed = drill(w.club, "Slalom", measure={"kind": "time"}, lanes=[], faults=["cone"])
    run = ladder(
        w.club, timed, "Run", dose={"sets": 1}, target={"value": 9, "faults_max": 1}, floor=None
    )
    p = put_on(w, ladder=run, on=today - timedelta(days=3))
    address = f"/log/{current(p).pk}/"
    assert "Faults count here" in text(coach.get(address))
    sent = {"hurts": "no", "e0-seconds": "8,5", "on": f"{today - timedelta(days=2)}"}
    coach.post(address, sent | {"session_id": str(uuid4())})
    assert (SetRow.objects.get().faults, verdicts(p)) == (None, ["near"])
    counted = {"e0-fault-0": "1", "on": f"{today - timedelta(days=1)}"}
    coach.post(address, sent | counted | {"session_id": str(uuid4())})
    coach.post(address, sent | {"e0-counted": "yes", "on": f"{today}", "session_id": str(uuid4())})
    assert [row.faults for row in SetRow.objects.order_by("session__on")] == [None, {"cone": 1}, {}]
    assert verdicts(p) == ["near", "pass", "pass"]


def test_more_faults_than_misses_are_kept(w, p, coach, today):
    sent = {"session_id": str(uuid4()), "hurts": "no", "on": f"{today}"}
    sent |= {"e0-makes": "9", "e0-attempts": "10", "e0-fault-0": "6"}
    coach.post(f"/log/{current(p).pk}/", sent)
    assert SetRow.objects.get().faults == {"wide": 6}


def test_bad_feeds_and_who_fed(w, coach, today):
    fed = drill(w.club, "Fed", people="feeder")
    p = put_on(w, ladder=ladder(w.club, fed, "Fed"), on=today)
    sent = {"session_id": str(uuid4()), "hurts": "no", "feeder": "Bram", "e0-voids": "3"}
    sent |= {"e0-makes": "8", "e0-attempts": "10"}
    coach.post(f"/log/{current(p).pk}/", sent)
    row = SetRow.objects.get()
    assert (row.voids, row.feeder) == (3, "Bram")


def test_a_late_session_is_judged_in_the_order_of_its_day(w, p, coach, today):
    log(p, today - timedelta(days=1), 8, 8)
    assert waiting(p) == []
    sent = {"session_id": str(uuid4()), "hurts": "no", "on": f"{today - timedelta(days=3)}"}
    for i, _ in enumerate(LANES):
        sent |= {f"e{i}-makes": "9", f"e{i}-attempts": "10"}
    coach.post(f"/log/{current(p).pk}/", sent)
    assert verdicts(p) == ["pass", "pass"]
    assert waiting(p) == ["climb"]
    future = coach.post(f"/log/{current(p).pk}/", sent | {"on": f"{today + timedelta(days=1)}"})
    assert "has not come yet" in text(future)
    before = coach.post(f"/log/{current(p).pk}/", sent | {"on": f"{today - timedelta(days=40)}"})
    assert "came to this rung" in text(before)


def test_a_player_enters_yesterdays_work_as_yesterdays(w, p, today):
    send(w, p, on=f"{today - timedelta(days=1)}")
    assert Session.objects.get().on == today - timedelta(days=1)
    long_ago = send(w, p, on=f"{today - timedelta(days=9)}")
    assert "can be entered back to" in text(long_ago)
    assert Session.objects.count() == 1


def test_a_corrected_session_is_judged_anew_and_its_past_is_kept(w, p, coach, today):
    log(p, today - timedelta(days=3), 8, 8)
    session = log(p, today - timedelta(days=1), 4, 8)
    page = text(coach.get(f"/sessions/{session.pk}/"))
    assert 'value="4"' in page
    sent = {
        "session_id": str(session.pk),
        "on": f"{today - timedelta(days=2)}",
        "word": "miscounted",
    }
    for i, row in enumerate(session.sets.all()):
        sent |= {f"e{i}-id": str(row.pk), f"e{i}-makes": "9", f"e{i}-attempts": "10"}
    answer = coach.post(f"/sessions/{session.pk}/", sent)
    assert answer.status_code == 302
    session.refresh_from_db()
    assert (session.on, session.word) == (today - timedelta(days=2), "miscounted")
    assert (verdicts(p), waiting(p)) == (["pass", "pass"], ["climb"])
    kept = Event.objects.get(verb="corrected a session").details
    assert [one["makes"] for one in kept["before"]["sets"]] == [4, 8]
    assert [one["makes"] for one in kept["after"]["sets"]] == [9, 9]
    p.refresh_from_db()
    assert p.last_on == today - timedelta(days=2)


def test_taken_away_and_brought_back(w, p, coach, other, today):
    log(p, today - timedelta(days=3), 8, 8)
    session = log(p, today, 8, 8, word="ouch")
    assert waiting(p) == ["climb"]
    before = list(session.sets.values())
    page = text(coach.get(f"/sessions/{session.pk}/"))
    assert "A word about it" in page
    assert "to your coach" not in page
    answer = coach.post(f"/sessions/{session.pk}/away/")
    assert (verdicts(p), waiting(p), Session.objects.count()) == (["pass"], [], 1)
    page = text(coach.get(answer.headers["Location"]))
    assert "Bring it back" in page
    event = Event.objects.get(verb=AWAY)
    stranger = Client()
    stranger.force_login(other.coach.user)
    assert stranger.post(f"/sessions/back/{event.pk}/").status_code == 404
    coach.post(f"/sessions/back/{event.pk}/")
    assert waiting(p) == ["climb"]
    back = Session.objects.get(pk=session.pk)
    assert list(back.sets.values()) == before
    assert (back.word, back.recorded_at) == (session.word, session.recorded_at)
    with pytest.raises(Refused):
        bring_back(event=event, stay=current(p), actor=w.coach.user, today=today)


def test_taken_away_by_two_coaches_at_once(p, coach, today, monkeypatch):
    session = log(p, today, 8, 8)
    known = Session.objects.whole().get(pk=session.pk)
    monkeypatch.setattr(session_views, "get_object_or_404", lambda *_, **__: known)
    Session.objects.filter(pk=session.pk).delete()
    answer = coach.post(f"/sessions/{session.pk}/away/", follow=True)
    assert "This session was taken away meanwhile" in text(answer)


def test_what_was_extra_to_a_session_that_is_gone_is_extra_no_more(w, p, today):
    first = log(p, today, 8, 8, observer="self")
    log(p, today, 6, 6, observer="self")
    take_away(session=first, actor=w.coach.user, today=today)
    assert not Session.objects.get().extra
    assert verdicts(p) == ["near"]


def test_a_player_may_put_right_what_nobody_decided_on(w, p, today):
    session = log(p, today - timedelta(days=2), 8, 8, observer="self")
    entry = given(session.on, 9, 9, observer="self")
    correct(session=session, entry=entry, actor=None, today=today)
    log(p, today, 8, 8, observer="self")
    settle(
        member=w.coach, proposal=Proposal.objects.get(state=State.OPEN), action="confirm", on=today
    )
    with pytest.raises(Refused, match="decided"):
        correct(session=session, entry=entry, actor=None, today=today)
    correct(session=session, entry=entry, actor=w.coach.user, today=today)


def test_moved_by_hand_and_undone(w, p, coach, today):
    stay = current(p)
    page = text(coach.get(f"/players/{w.player.pk}/"))
    assert "Move by hand" in page
    assert "Down one rung" not in page  # the first rung
    coach.post(f"/standing/{stay.pk}/move/", {"kind": "climb", "reason": ""})
    assert current(p).rung.position == 1
    coach.post(f"/standing/{stay.pk}/move/", {"kind": "climb", "reason": "Seen in a game"})
    decision = Decision.objects.get()
    assert (current(p).rung.position, decision.action) == (2, "moved")
    assert decision.reason == "Seen in a game"
    undo(member=w.coach, decision=decision)
    assert current(p).rung.position == 1
    assert waiting(p) == []
    log(p, today - timedelta(days=2), 8, 8)
    log(p, today, 8, 8)
    move_by_hand(member=w.coach, stay=stay, kind="hold", reason="One more week", on=today)
    assert (waiting(p), current(p).rung.position) == ([], 1)
    with pytest.raises(Refused):
        move_by_hand(member=w.assistant, stay=stay, kind="climb", reason="x", on=today)


def test_by_the_coachs_word_nobody_climbs_alone(w, today):
    word = ladder(w.club, w.drill, "Word")
    word.rule = {"school": "by_coach"}
    word.save()
    p = put_on(w, ladder=word, on=today - timedelta(days=9))
    for days in (6, 4, 2):
        log(p, today - timedelta(days=days), 9, 9)
    assert waiting(p) == []
    latest = Proposal.objects.latest("id").said
    assert [m.code.value for m in latest.ahead.missing] == ["coach"]


def test_a_word_stands_on_the_desk_until_it_is_read(w, p, coach, today):
    send(w, p, word="My wrist felt stiff at first")
    assert "My wrist felt stiff" in text(coach.get("/"))
    coach.post(f"/sessions/{Session.objects.get().pk}/read/")
    assert "My wrist felt stiff" not in text(coach.get("/"))
    assert "My wrist felt stiff" in text(coach.get(f"/players/{w.player.pk}/"))


def test_word_and_effort_survive_when_only_a_hurt_is_told(w, p):
    sent = {"hurts": "yes", "hurt_where": "knee", "word": "It began on the way", "effort": "7"}
    Client().post(f"/card/{w.token}/{current(p).pk}/", sent)
    note = PlayerNote.objects.get()
    assert "It began on the way" in note.text
    assert "effort 7 of 10" in note.text


def test_the_result_is_read_at_once(w, p, coach, today):
    log(p, today - timedelta(days=2), 9, 9)
    sent = {"session_id": str(uuid4()), "hurts": "no", "on": f"{today}"}
    sent |= {
        "e0-makes": "5",
        "e0-attempts": "10",
        "e0-fault-0": "4",
        "e1-makes": "9",
        "e1-attempts": "10",
    }
    page = text(coach.get(coach.post(f"/log/{current(p).pk}/", sent).headers["Location"]))
    for line in (
        "Near: 70\u00a0%, target not met.",
        "Weakest: left, 5 of 10.",
        "Commonest fault in the last 2 sessions: wide, 4 times.",
        "Chance that the next session completes it",
        "Undo",
    ):
        assert line in page


def test_a_player_takes_away_brings_back_and_corrects_on_the_card(w, p, coach, today):
    done = send(w, p).headers["Location"]
    session = Session.objects.get()
    card, page = f"/card/{w.token}/", text(Client().get(done))
    assert f"{card}session/{session.pk}/" in page
    away = Client().post(f"{card}session/{session.pk}/away/").headers["Location"]
    assert Session.objects.count() == 0
    assert "Bring it back" in text(Client().get(away))
    event = Event.objects.get(verb=AWAY)
    Client().post(f"{card}back/{event.pk}/")
    assert Session.objects.get().pk == session.pk
    sent = {"session_id": str(session.pk), "on": f"{today}", "e0-makes": "9", "e0-attempts": "10"}
    Client().post(f"{card}session/{session.pk}/", sent)
    assert [row.makes for row in Session.objects.get().sets.all()] == [9]
    entry = given(today - timedelta(days=1), 8, 8)
    record_session(stay=current(p), entry=entry, today=today, actor=w.coach.user)
    assert "Your coach logged this one" in text(Client().get(f"{card}session/{entry.id}/"))


def test_extra_practice_says_so(w, p, today):
    log(p, today, 8, 8, observer="self")
    page = text(Client().get(send(w, p).headers["Location"]))
    assert "Extra practice" in page
    assert "takes nothing away" in page


def test_a_coachs_own_word_waits_for_nobody(w, p, coach, today):
    sent = {"session_id": str(uuid4()), "hurts": "no", "on": f"{today}", "word": "Good session"}
    sent |= {"e0-makes": "9", "e0-attempts": "10"}
    coach.post(f"/log/{current(p).pk}/", sent)
    assert "Good session" not in text(coach.get("/"))


def test_a_late_session_of_a_rung_that_was_left_is_told_and_changes_nothing(w, p, today):
    log(p, today - timedelta(days=4), 8, 8)
    log(p, today - timedelta(days=2), 8, 8)
    left = current(p)
    proposal = Proposal.objects.get(state=State.OPEN)
    settle(member=w.coach, proposal=proposal, action="confirm", on=today - timedelta(days=1))
    entry = given(today - timedelta(days=3), 2, 2)
    left.refresh_from_db()
    record_session(stay=left, entry=entry, today=today, actor=w.coach.user)
    assert current(p).rung.position == 2
    assert "would have said “hold” and not “climb”" in PlayerNote.objects.get().text


def test_the_number_in_the_rail_follows(w, p, coach, today):
    log(p, today - timedelta(days=4), 8, 8)
    log(p, today - timedelta(days=2), 8, 8)
    proposal = Proposal.objects.get(state=State.OPEN)
    assert ">1</span>" in text(coach.get("/review/"))
    part = coach.post(
        f"/review/{proposal.pk}/decide/", {"action": "confirm"}, headers={"HX-Request": "true"}
    )
    assert 'id="review-count" hx-swap-oob="true" aria-label="0 waiting" hidden' in text(part)


def test_a_players_strokes_never_show_in_a_coachs_log(w, p, coach):
    stay = current(p).pk
    assert f'data-kept="draft-log-{stay}"' in text(coach.get(f"/log/{stay}/"))
    assert f'data-kept="draft-{stay}"' in text(Client().get(f"/card/{w.token}/{stay}/"))
