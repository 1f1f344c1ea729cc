"""Routines: written, given, one block in the week, one page on card and log, results onto each
part's ladder, out and in as JSON.
"""

import json
from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.card.today.blocks import home_blocks
from drill_ladder.apps.card.today.running import minutes_today
from drill_ladder.apps.library.models import Ladder, Routine
from drill_ladder.apps.library.routines.services import PartInput, RoutineHead, save_routine
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, PlayerDay
from drill_ladder.apps.practice.models import Session, Stop
from drill_ladder.apps.practice.routines.log import stays_of
from drill_ladder.apps.prescriptions.minutes.demand import wanted
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Prescription
from drill_ladder.apps.prescriptions.routines.services import (
    end_routine,
    give_routine,
    parts_in_hand,
    timed,
)
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.querysets import monday_of
from tests.db.test_weeks import AT
from tests.make import current, drill, ladder, put_on, text


@pytest.fixture
def routine(w):
    """Three parts: the gate ladder, a ladder of juggling, a plain drill; five tries at the gate as
    the check after the second.
    """
    juggling = ladder(
        w.club,
        drill(w.club, "Juggle", lanes=[], measure={"kind": "streak"}),
        "Juggling",
        target={"value": 5},
        dose={"sets": 4},
        floor=None,
    )
    plain = drill(w.club, "Balance", lanes=[], measure={"kind": "done"})
    return save_routine(
        member=w.coach,
        routine=None,
        head=RoutineHead("Morning set", "Wake the feet", 20, (0, 5, 4)),
        parts=[
            PartInput(w.ladder, keep=True),
            PartInput(juggling, insert_after=True),
            PartInput(plain),
        ],
    )


def give(w, routine, today, **more):
    return give_routine(
        member=w.coach, routine=routine, player=w.player, per_week=2, place="home", on=today, **more
    )


def has_day(w, minutes=40):
    for weekday in range(7):
        PlayerDay.objects.create(
            club=w.club, player=w.player, weekday=weekday, minutes=minutes, place="home"
        )


def test_a_plain_drill_stands_on_a_ladder_of_one_rung(w, routine):
    parts = [part.ladder.title for part in routine.parts.all()]
    assert parts == ["Gate", "Juggling", "Balance"]
    made = Ladder.objects.get(title="Balance")
    assert [rung.drill.title for rung in made.rungs.all()] == ["Balance"]
    assert made.rule.school.name == "by_coach"


def test_given_it_goes_on_where_the_player_stands_and_begins_elsewhere(w, routine, today):
    before = put_on(w, rung=2, on=today, place="home")
    given = give(w, routine, today)
    rows = list(given.prescriptions.order_by("part"))
    assert [(row.part, row.made_for_it) for row in rows] == [(1, False), (2, True), (3, True)]
    assert current(rows[0]).rung.position == 2
    with pytest.raises(Refused, match="already"):
        give(w, routine, today)
    end_routine(member=w.coach, given=given, on=today)
    before.refresh_from_db()
    assert (before.status, before.player_routine) == ("active", None)
    assert Prescription.objects.active().count() == 1
    with pytest.raises(Refused, match="ended already"):
        end_routine(member=w.coach, given=given, on=today)


def test_nothing_is_given_where_one_part_cannot_be(w, routine, today):
    last = routine.parts.last().ladder.rungs.get()
    last.drill.caution = "coached_only"
    last.drill.save()
    with pytest.raises(Refused, match="coached sessions only"):
        give(w, routine, today)
    assert (PlayerRoutine.objects.count(), Prescription.objects.count()) == (0, 0)


def test_it_is_one_block_in_the_week_with_its_real_minutes(w, routine, today):
    has_day(w)
    given = give(w, routine, today)
    monday = today - timedelta(days=today.weekday())
    (want,) = wanted(w.player)
    plan = timed(given, parts_in_hand(given, stays_of(given)))
    # set-up once (60 s); gate: two lanes of ten at 6 s with a change of 5 s; juggling: four tries
    # of 20 s; the check: five at 4 s; balance: 60 s; three changes of 20 s
    assert plan.seconds == 60 + (2 * 60 + 5) + 4 * 20 + 5 * 4 + 60 + 3 * 20
    assert want.wish.minutes == 7
    assert [stay.prescription.part for stay in want.parts] == [1, 2, 3]
    next_monday = monday + timedelta(days=7)
    weeks.solve(member=w.coach, player=w.player, monday=next_monday)
    week = publish(member=w.coach, player=w.player, monday=next_monday, at=AT).week
    assert {(block.ladder, block.dose, block.minutes) for block in week.published} == {
        ("Morning set", "3 parts", 7)
    }
    assert len(week.published) == 2


def test_it_is_one_block_on_the_card_and_done_with_any_of_its_parts(w, routine, today):
    has_day(w)
    given = give(w, routine, today)
    (block,) = home_blocks(w.player, today)
    assert (block.routine, block.parts, block.due, block.done) == (given, 3, True, 0)
    assert minutes_today([block]) == 7
    page = Client().get(f"/card/{w.token}/")
    assert f'href="/card/{w.token}/routine/{given.pk}/run/"' in text(page)
    assert "3 parts, one after the other" in text(page)
    send(w, given, today, **{"p3-e0-share": 100})
    (block,) = home_blocks(w.player, today)
    assert (block.due, block.done, block.done_today) == (False, 1, True)


def send(w, given, today, **fields):
    """A routine from the card."""
    return Client().post(
        f"/card/{w.token}/routine/{given.pk}/",
        {"on": f"{today}", "hurts": "no", "effort": "6", **fields},
        headers={"Accept": fields.pop("accept", "text/html")},
    )


COUNTED = {
    "p1-e0-makes": 8,
    "p1-e0-attempts": 10,
    "p1-e1-makes": 9,
    "p1-e1-attempts": 10,
    "p2-e0-best_run": 7,
    "c2-e0-makes": 3,
    "c2-e0-attempts": 5,
    "c2-e1-makes": 2,
    "c2-e1-attempts": 5,
}


def test_each_part_goes_onto_its_own_ladder_and_the_check_is_tired(w, routine, today):
    given = give(w, routine, today)
    answer = send(w, given, today, **COUNTED, word="went well")
    assert answer.headers["Location"] == f"/card/{w.token}/routine/{given.pk}/{today}/"
    rows = Session.objects.order_by("recorded_at")
    told = [(row.stay.prescription.ladder.title, row.tired, row.word, row.effort) for row in rows]
    assert told == [
        ("Gate", False, "went well", 6),
        ("Juggling", False, "", 6),
        ("Gate", True, "", 6),
    ]
    (day,) = current(given.prescriptions.get(part=1)).judged.all()
    assert (day.verdict, day.score) == ("pass", 0.85)  # the fresh ones alone
    done = text(Client().get(answer.headers["Location"]))
    assert "the check, tired" in done
    assert "Left: 8 of 10" in done


def test_the_players_page_names_it_and_its_parts_are_one_piece_of_work(w, coach, routine, today):
    given = give(w, routine, today)
    week = Week.objects.create(club=w.club, player=w.player, monday=monday_of(today))
    first = given.prescriptions.get(part=1)
    same = {"club": w.club, "week": week, "order": 1, "minutes": 7, "place": "home"}
    PlannedBlock.objects.create(prescription=first, on=today, **same)
    send(w, given, today, **COUNTED)
    plan = coach.get(f"/players/{w.player.pk}/").context["plan"]
    [(on, [line])] = plan.days
    assert (on, line.title, line.done, plan.extra) == (today, "Morning set", True, 0)


def test_what_is_wrong_in_one_part_keeps_all_of_it_and_says_where(w, routine, today):
    given = give(w, routine, today)
    answer = send(w, given, today, **COUNTED | {"p1-e0-makes": 12})
    assert (answer.status_code, Session.objects.count()) == (422, 0)
    assert "Gate: 12 good ones out of 10 cannot be." in text(answer)
    assert 'value="7"' in text(answer)
    nothing = send(w, given, today)
    assert "Nothing is counted yet" in text(nothing)


def test_sent_twice_it_is_stored_once(w, routine, today):
    given = give(w, routine, today)
    page = Client().get(f"/card/{w.token}/routine/{given.pk}/")
    ids = {
        f"{part.key}-session_id": str(part.form["session_id"].value())
        for part in page.context["parts"]
    }
    for _ in range(2):
        answer = Client().post(
            f"/card/{w.token}/routine/{given.pk}/",
            {"on": f"{today}", "hurts": "no", **COUNTED, **ids},
            headers={"Accept": "application/json"},
        )
        assert answer.json()["state"] == "stored"
    assert Session.objects.count() == 3


def test_a_hurt_stops_everything_and_what_was_done_counts(w, routine, today):
    given = give(w, routine, today)
    answer = Client().post(
        f"/card/{w.token}/routine/{given.pk}/",
        {"on": f"{today}", "hurts": "yes", "hurt_where": "left knee", "p2-e0-best_run": 3},
    )
    assert answer.status_code == 302
    assert Stop.objects.get().what == "left knee"
    assert Session.objects.count() == 1


def test_few_minutes_cut_sets_and_then_parts_and_the_page_says_so(w, routine, today):
    has_day(w, minutes=4)
    given = give(w, routine, today)
    page = Client().get(f"/card/{w.token}/routine/{given.pk}/")
    assert "Fitted to the time there is" in text(page)
    assert "Juggling" in text(page)
    shown = [part.key for part in page.context["parts"]]
    assert shown[0] == "p1"
    plan = page.context["page"].plan
    assert plan.seconds <= 240
    assert (
        page.context["page"].told
        == [
            *(
                f"{part.ladder}: left out today"
                for part in routine.parts.all()
                if str(part.position) in plan.left_out
            )
        ]
        or plan.cut
    )


def test_two_players_share_a_page_and_each_keeps_their_own(w, coach, routine, today):
    given = give(w, routine, today)
    other = Player.objects.create(club=w.club, name="Bo", joined_on=today)
    mate = give_routine(
        member=w.coach, routine=routine, player=other, per_week=1, place="both", on=today
    )
    page = coach.get(f"/log/routine/{given.pk}/?with={mate.pk}")
    keys = [part.key for part in page.context["parts"]]
    assert keys == ["ap1", "bp1", "bp2", "ap2", "ac2", "bc2", "bp3", "ap3"]
    answer = coach.post(
        f"/log/routine/{given.pk}/?with={mate.pk}",
        {
            "on": f"{today}",
            "hurts": "no",
            "b-hurts": "yes",
            "b-hurt_where": "toe",
            "ap2-e0-best_run": 4,
            "bp2-e0-best_run": 6,
        },
    )
    assert answer.status_code == 302
    runs = {
        row.stay.prescription.player.name: row.sets.get().best_run for row in Session.objects.all()
    }
    assert runs == {w.player.name: 4, "Bo": 6}
    assert Stop.objects.get().player == other


def test_written_on_the_page_moved_and_saved(w, coach, today):
    page = coach.get("/routines/new/")
    assert page.status_code == 200
    rows = {
        "part-TOTAL_FORMS": 2,
        "part-INITIAL_FORMS": 0,
        "part-0-of": f"d{w.drill.pk}",
        "part-0-sets": "",
        "part-1-of": f"l{w.ladder.pk}",
        "part-1-keep": "on",
        "title": "Two",
        "change_s": "15",
        "insert_at": "1",
        "revision": 0,
    }
    moved = coach.post("/routines/new/", rows | {"step": "down-0"})
    assert [form["of"].value() for form in moved.context["rows"]] == [
        f"l{w.ladder.pk}",
        f"d{w.drill.pk}",
    ]
    assert moved.context["head"]["title"].value() == "Two"
    saved = coach.post("/routines/new/", rows)
    made = Routine.objects.get(title="Two")
    assert saved.headers["Location"] == f"/routines/{made.pk}/"
    assert (made.insert_of.title, made.insert_reps) == ("Push pass", 5)
    wrong = coach.post("/routines/new/", rows | {"title": "Three", "insert_at": "9"})
    assert (wrong.status_code, "no such part" in text(wrong)) == (422, True)
    same = coach.post("/routines/new/", rows | {"part-0-of": f"l{w.ladder.pk}", "title": "X"})
    assert "stands twice" in text(same)


def test_given_to_a_squad_all_of_them_or_none(w, coach, routine, today):
    other = Player.objects.create(club=w.club, name="Bo", joined_on=today)
    give_routine(member=w.coach, routine=routine, player=other, per_week=1, place="both", on=today)
    both = {"players": [w.player.pk, other.pk], "per_week": 2, "place": "home"}
    answer = coach.post(f"/routines/{routine.pk}/give/", both)
    assert (answer.status_code, PlayerRoutine.objects.count()) == (422, 1)
    assert "Bo has Morning set already" in text(answer)
    coach.post(f"/routines/{routine.pk}/give/", both | {"players": [w.player.pk]})
    assert PlayerRoutine.objects.count() == 2
    page = text(coach.get(f"/routines/{routine.pk}/"))
    assert "Ida Marlow" in page
    assert "Log" in page


def test_out_and_in_as_json(w, other, coach, routine):
    text_ = coach.get(f"/library.json?routine={routine.pk}").content.decode()
    sent = json.loads(text_)
    assert [part["ladder"] for part in sent["routines"][0]["parts"]] == [
        "Gate",
        "Juggling",
        "Balance",
    ]
    assert sent["routines"][0]["check"] == {"ladder": "Gate", "reps": 5, "s_per_rep": 4.0}
    stranger = Client()
    stranger.force_login(other.coach.user)
    stranger.post("/library/in/", {"text": text_, "sure": "yes"})
    made = Routine.objects.get(club=other.club)
    assert [part.ladder.title for part in made.parts.all()] == ["Gate", "Juggling", "Balance"]
    again = stranger.post("/library/in/", {"text": text_})
    assert again.context["counts"] == {"same": 7}
    assert stranger.get("/library.json").json()["routines"] == sent["routines"]


@pytest.mark.parametrize(
    ("change", "told"),
    [
        ({"parts": [{"ladder": "Nowhere"}]}, "no ladder of this file"),
        ({"check": {"ladder": "Nowhere", "reps": 5, "s_per_rep": 4}}, "no part of this routine"),
        ({"parts": []}, "$.routines[0].parts"),
        ({"parts": [{"ladder": "Gate"}, {"ladder": "Gate"}]}, "$.routines[0].parts[1]"),
    ],
)
def test_a_routine_that_cannot_be_is_named(w, coach, routine, change, told):
    sent = coach.get(f"/library.json?routine={routine.pk}").json()
    sent["routines"][0] |= change
    answer = coach.post("/library/in/", {"text": json.dumps(sent)})
    assert (answer.status_code, told in text(answer).replace("&#x27;", "'")) == (422, True)
