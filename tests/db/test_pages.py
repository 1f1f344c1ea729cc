"""Pages: what they say, what they keep when something is wrong, how few questions they ask the
database.
"""

import re
from datetime import timedelta

import pytest
from django.test import Client

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.models import Session, SetRow, Stop
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.review.models import Proposal
from tests.make import current, drill, ladder, log, put_on, text


def form_of(page: str) -> dict[str, str]:
    """The hidden fields of the session form."""
    found = dict(re.findall(r'<input type="hidden" name="([^"]+)" value="([^"]*)"', page))
    found.pop("csrfmiddlewaretoken", None)
    return found


def card_post(w, stay, **values):
    client = Client()
    path = f"/card/{w.token}/{stay.pk}/"
    given = form_of(text(client.get(path))) | {"hurts": "no", "seen_by": "self"} | values
    return client.post(path, given), given, path


BOTH = {"e0-makes": "8", "e0-attempts": "10", "e1-makes": "9", "e1-attempts": "10"}


def test_the_loop_without_a_browser(w, coach, today):
    new = coach.post(
        "/players/new/",
        {"name": "Bram Ashdown", "dominant_side": "right", "birth_month": "2014-06"},
    )
    player = Player.objects.get(name="Bram Ashdown")
    assert new.headers["Location"] == f"/players/{player.pk}/"
    start = f"/players/{player.pk}/prescribe/{w.ladder.pk}/"
    coach.post(start, {"rung": w.rungs[0].pk, "per_week": 3, "place": "home"})
    p = Prescription.objects.get(player=player)
    w.player = player
    log(p, today - timedelta(days=1), 8, 8, observer="self")
    answer, _, _ = card_post(w, current(p), **BOTH)
    done = text(Client().get(answer.headers["Location"]))
    assert "Target reached" in done
    assert "rung 2" in done
    review = text(coach.get("/review/"))
    assert "Bram Ashdown" in review
    assert "The rule is met: climb." in review
    coach.post(
        f"/review/{Proposal.objects.awaiting_review().get().pk}/decide/", {"action": "confirm"}
    )
    page = text(coach.get(f"/players/{player.pk}/"))
    assert "Rung 2 of 3" in page
    assert "From rung 1 to rung 2 of 3, 2 sessions" in page


def test_the_card_shows_what_is_due_and_what_is_done(w, today):
    p = put_on(w, on=today - timedelta(days=20))
    before = text(Client().get(f"/card/{w.token}/"))
    assert "<h2>Today</h2>" in before
    log(p, today, 8, 8, observer="self")
    after = text(Client().get(f"/card/{w.token}/"))
    assert "<h2>Done for now</h2>" in after
    assert "one of them today" in after


def test_wrong_counts_come_back_with_everything_typed(w):
    stay = current(put_on(w))
    answer, _, _ = card_post(
        w, stay, **{**BOTH, "e0-makes": "12", "word": "slippery <ball>", "effort": "6"}
    )
    page = text(answer)
    assert answer.status_code == 422
    assert "12 good ones out of 10 cannot be." in page
    assert 'value="12"' in page
    assert "slippery &lt;ball&gt;" in page
    assert Session.objects.count() == 0


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"hurts": ""}, "Please say whether anything hurts."),
        ({"e0-makes": "", "e0-attempts": "10"}, "How many of them were good?"),
        ({"e0-makes": "many"}, "Write a number."),
        ({"e0-makes": "-3"}, "A number cannot be negative."),
        (
            {"e0-makes": "", "e0-attempts": "", "e1-makes": "", "e1-attempts": ""},
            "Nothing is counted yet",
        ),
    ],
)
def test_each_mistake_has_its_words(w, change, words):
    answer, _, _ = card_post(w, current(put_on(w)), **{**BOTH, **change})
    assert answer.status_code == 422
    assert words in text(answer)


def test_a_double_tap_stores_once(w):
    stay = current(put_on(w))
    first, given, path = card_post(w, stay, **BOTH)
    second = Client().post(path, given)
    assert first.headers["Location"] == second.headers["Location"]
    assert (Session.objects.count(), SetRow.objects.count()) == (1, 2)


def test_strokes_and_faults_are_kept(w):
    strokes = {
        "e0-strokes": "ggg0m1gggg",
        "e0-makes": "7",
        "e0-attempts": "10",
        "e0-faults": "wide:1;late:1",
    }
    card_post(w, current(put_on(w)), **{**BOTH, **strokes})
    kept = SetRow.objects.get(order=1)
    assert (kept.strokes, kept.faults, kept.lane) == ("ggg0m1gggg", {"wide": 1, "late": 1}, "left")


def test_totals_alone_mean_the_whole_dose(w):
    card_post(w, current(put_on(w)), **{"e0-makes": "8", "e1-makes": "7"})
    assert list(SetRow.objects.values_list("attempts", "makes")) == [(10, 8), (10, 7)]


def test_hurt_without_counts_stops_the_card(w, coach):
    stay = current(put_on(w))
    answer, _, path = card_post(w, stay, hurts="yes", hurt_where="ankle, since Monday")
    assert answer.headers["Location"].startswith(f"/card/{w.token}/?told={stay.pk}")
    assert Stop.objects.open().get().what == "ankle, since Monday"
    for page in (f"/card/{w.token}/", path):
        shown = text(Client().get(page))
        assert "licensed" in shown
        assert "pad-good" not in shown
    assert "Ida Marlow rests" in text(coach.get("/"))
    blocked = Client().post(
        path, {"hurts": "no", "session_id": "7b0f1f8e-1111-4222-8333-444455556666", **BOTH}
    )
    assert blocked.status_code == 422
    assert Session.objects.count() == 0


def test_hurt_sent_twice_is_one_stop(w):
    """A double tap, or a page sent again: the device's own number makes it one."""
    stay = current(put_on(w))
    first, given, path = card_post(w, stay, hurts="yes", hurt_where="ankle")
    again = Client().post(path, given)
    assert again.headers["Location"] == first.headers["Location"]
    assert Stop.objects.count() == 1


def test_the_hurt_button_alone(w, coach):
    Client().post(f"/card/{w.token}/hurt/", {"what": ""})
    Client().post(f"/card/{w.token}/hurt/", {"what": "twice"})
    stop = Stop.objects.open().get()
    assert stop.what == "Something hurts; twice"
    empty = coach.post(f"/stops/{stop.pk}/end/", {"cleared_by": ""})
    assert (empty.status_code, "who cleared" in text(empty)) == (422, True)
    coach.post(f"/stops/{stop.pk}/end/", {"cleared_by": "doctor"})
    assert Stop.objects.open().count() == 0


def test_an_adult_has_to_say_so(w):
    w.player.home_adult = True
    w.player.save()
    steps = ladder(w.club, drill(w.club, "Clear", caution="home_with_adult"), "Clears")
    stay = current(put_on(w, ladder=steps, place="home"))
    answer, _, _ = card_post(w, stay, **BOTH)
    assert "An adult has to be there" in text(answer)
    assert card_post(w, stay, **BOTH, adult="on")[0].status_code == 302


@pytest.mark.parametrize(
    ("measure", "target", "typed", "reached"),
    [
        ({"kind": "streak"}, {"value": 10}, {"best_run": "12"}, "12 in a row"),
        ({"kind": "count", "window_s": 30}, {"value": 20}, {"count": "21"}, "21 in 30\u00a0s"),
        ({"kind": "time"}, {"value": 9}, {"seconds": "8.25"}, "8.25\u00a0s"),
        (
            {"kind": "points", "max": 3},
            {"value": 2},
            {"points": "25", "attempts": "10"},
            "2.50 points",
        ),
        ({"kind": "to_n", "n": 4}, {"value": 6}, {"attempts": "5"}, "5 attempts"),
        ({"kind": "checklist", "items": ["a", "b"]}, {"value": 0.5}, {"ticks": "2"}, "100\u00a0%"),
        ({"kind": "done"}, {"value": 1}, {"share": "100"}, "100\u00a0%"),
    ],
)
def test_every_kind_of_measure_can_be_logged(w, measure, target, typed, reached):
    reps = 10 if measure["kind"] == "points" else None
    steps = ladder(
        w.club,
        drill(w.club, "Odd", measure=measure, lanes=[]),
        "Odd",
        dose={"sets": 1, "reps": reps},
        target=target,
        floor=None,
    )
    stay = current(put_on(w, ladder=steps))
    answer, _, _ = card_post(w, stay, **{f"e0-{name}": value for name, value in typed.items()})
    page = text(Client().get(answer.headers["Location"]))
    assert "Target reached" in page
    assert reached in page


def test_a_coach_logs_what_they_watch_and_an_assistant_helps(w, coach):
    stay = current(put_on(w))
    path = f"/log/{stay.pk}/"
    given = form_of(text(coach.get(path))) | {"hurts": "no"} | BOTH
    assert coach.post(path, given).status_code == 302
    helper = Client()
    helper.force_login(w.assistant.user)
    given = form_of(text(helper.get(path))) | {"hurts": "no"} | BOTH
    helper.post(path, given)
    assert sorted(Session.objects.values_list("observer", flat=True)) == ["coach", "helper"]


def test_a_wrong_player_form_keeps_what_was_typed(coach, w):
    given = {
        "name": "",
        "birth_month": "June",
        "guardian_phone": "123",
        "dominant_side": "left",
        "home_space": "attic",
    }
    answer = coach.post("/players/new/", given)
    page = text(answer)
    assert answer.status_code == 422
    for words in ("Write a year and a month", "Whose address is this?", "attic", 'value="June"'):
        assert words in page


def test_prescribing_what_may_not_be_done_at_home_says_why(w, coach):
    steps = ladder(w.club, drill(w.club, "Tackle", caution="coached_only"), "Tackles")
    path = f"/players/{w.player.pk}/prescribe/{steps.pk}/"
    answer = coach.post(path, {"rung": steps.rungs.first().pk, "per_week": 2, "place": "home"})
    assert answer.status_code == 422
    assert "is for coached sessions only" in text(answer)
    assert (
        coach.post(
            path, {"rung": steps.rungs.first().pk, "per_week": 0, "place": "coached"}
        ).status_code
        == 422
    )
    strange = coach.post(path, {"rung": w.rungs[0].pk, "per_week": 2, "place": "coached"})
    assert strange.status_code == 422


def two_passes(w, today):
    p = put_on(w, on=today - timedelta(days=9))
    log(p, today - timedelta(days=2), 8, 8)
    log(p, today - timedelta(days=1), 8, 8)
    return p, Proposal.objects.awaiting_review().get()


def test_review_by_fragment_and_by_page(w, coach, today):
    p, proposal = two_passes(w, today)
    decide, htmx = f"/review/{proposal.pk}/decide/", {"hx-request": "true"}
    wrong = coach.post(decide, {"action": "override", "applied": "hold"}, headers=htmx)
    assert wrong.status_code == 422
    assert "needs a reason" in text(wrong)
    assert "<html" not in text(wrong)
    right = coach.post(decide, {"action": "confirm"}, headers=htmx)
    assert "now on rung 2" in text(right)
    undo = re.search(r"/review/undo/\d+/", text(right)).group()
    back = coach.post(undo)
    assert "<html" in text(back)
    assert "The rule is met: climb." in text(back)
    assert current(p).rung.position == 1


def test_the_desk_knows_who_is_late_and_who_was_not_seen(w, coach, today):
    p = put_on(w, on=today - timedelta(days=30))
    log(p, today - timedelta(days=12), 6, 6)
    log(p, today - timedelta(days=3), 6, 6, observer="self")
    page = text(coach.get("/"))
    assert "1 of 3" in page
    assert "12 days ago" in page
    assert "Nothing waits for a decision." in page


def test_empty_places_say_what_to_do(w, coach):
    Player.objects.all().delete()
    assert "Add the first one" in text(coach.get("/players/"))
    page = text(coach.get("/"))
    assert "Nobody is behind" in page
    assert "on time" not in page


def crowd(w, today, players):
    for n in range(players):
        player = Player(name=f"Player {n:02}", joined_on=today)
        save_player(member=w.coach, player=player)
        p = put_on(w, player=player, on=today - timedelta(days=20))
        log(p, today - timedelta(days=2), 8, 8)
        log(p, today - timedelta(days=1), 8, 8)


def test_a_day_that_was_set_stands_on_every_page_for_its_scripts(coach, settings):
    """`./ladder demo --on DATE`: the page says by how much the program's day is another one."""
    settings.CLOCK_SHIFT = timedelta(days=-3)
    assert 'data-clock-shift="-259200000"' in text(coach.get("/"))
    settings.CLOCK_SHIFT = timedelta()
    assert "data-clock-shift" not in text(coach.get("/"))


@pytest.mark.parametrize(
    ("path", "ceiling"),
    [("/", 14), ("/players/", 10), ("/ladders/", 8), ("/drills/", 8), ("/review/", 14)],
)
def test_lists_ask_few_questions(w, coach, today, path, ceiling, django_assert_max_num_queries):
    crowd(w, today, 12)
    coach.get(path)
    with django_assert_max_num_queries(ceiling):
        assert coach.get(path).status_code == 200
