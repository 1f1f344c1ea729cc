"""Paper typed back in: the rows of the sheet, one save, each session marked as from paper."""

from datetime import timedelta

import pytest

from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.practice.models import Felt, Session, Stop
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.core.planning import ToldBlock
from tests.make import current, drill, ladder, log, put_on, text

PAGE = "/sheet/typed/"


@pytest.fixture
def week(w, today):
    """The push pass told for Monday and today, at home."""
    p = put_on(w, on=today - timedelta(days=10), place="home")
    monday = today - timedelta(days=today.weekday())
    days = sorted({monday, today})
    told = [
        ToldBlock(
            key=f"{p.pk}-{n}",
            prescription=p.pk,
            ladder="Gate",
            title="Gate 1",
            on=on,
            order=1,
            minutes=5,
            place="home",
            stay=current(p).pk,
        )
        for n, on in enumerate(days, 1)
    ]
    Week.objects.create(
        club=w.club, player=w.player, monday=monday, published=tuple(told), published_at=AT_NOON
    )
    return p, days


AT_NOON = "2026-01-01T12:00:00Z"


def key(p, on, number=1):
    return f"s{current(p).pk}-{on}-{number}"


def counts(p, on, left, right, **more):
    """What is typed for one block."""
    at = key(p, on)
    typed = {f"{at}-e0-makes": left, f"{at}-e1-makes": right}
    return typed | {f"{at}-{name}": value for name, value in more.items()}


def test_the_rows_are_those_of_the_sheet_with_its_days(w, coach, week):
    _, days = week
    page = coach.get(f"{PAGE}?player={w.player.pk}")
    (one,) = page.context["grid"].people
    assert [block.on for block in one.blocks] == days
    assert [row["entry"].title for row in one.blocks[0].form.rows()] == ["Left", "Right"]


def test_one_save_stores_all_of_it_and_a_second_one_nothing(w, coach, week):
    p, days = week
    typed = {}
    for on in days:
        typed |= counts(p, on, 8, 9, effort=6)
    typed |= {key.replace("effort", "at_ease"): "4" for key in list(typed) if "effort" in key}
    for _ in range(2):
        answer = coach.post(f"{PAGE}?player={w.player.pk}", typed)
        assert answer.status_code == 302
    rows = Session.objects.order_by("on")
    assert [(row.on, row.paper, row.observer, row.effort) for row in rows] == [
        (on, True, "self", 6) for on in days
    ]
    assert [row.attempts for row in rows[0].sets.all()] == [10, 10]  # as many as the sheet asks
    assert list(Felt.objects.order_by("on").values_list("on", "level")) == [(on, 4) for on in days]
    page = coach.get(f"/players/{w.player.pk}/sessions/")
    assert "from paper" in text(page)


def test_what_is_stored_already_is_shown_and_not_asked_again(w, coach, week, today):
    p, _ = week
    log(p, today, 7, 7, observer="self")
    page = coach.get(f"{PAGE}?player={w.player.pk}")
    shown = {block.on: block.stored for block in page.context["grid"].people[0].blocks}
    assert shown[today] == "left 7 of 10, right 7 of 10"
    coach.post(f"{PAGE}?player={w.player.pk}", counts(p, today, 9, 9))
    assert Session.objects.count() == 1


def test_a_number_that_cannot_be_stores_nothing_and_keeps_what_was_typed(w, coach, week):
    p, days = week
    typed = counts(p, days[0], 12, 9) | {f"{key(p, days[0])}-e0-attempts": 10}
    answer = coach.post(f"{PAGE}?player={w.player.pk}", typed)
    assert (answer.status_code, Session.objects.count()) == (422, 0)
    assert "12 good ones out of 10 cannot be" in text(answer)
    assert 'value="12"' in text(answer)
    assert "Nothing is typed yet" in text(coach.post(f"{PAGE}?player={w.player.pk}", {}))


def test_a_hurt_on_the_sheet_is_heard_first(w, coach, week):
    p, days = week
    at = f"p{w.player.pk}-hurt"
    wrong = counts(p, days[0], 12, 9) | {f"{key(p, days[0])}-e0-attempts": 10, at: "heel"}
    answer = coach.post(f"{PAGE}?player={w.player.pk}", wrong)
    assert Stop.objects.get().what == "heel"
    assert "What hurts is stored" in text(answer)


def test_a_lone_number_beside_the_question_is_asked_back_and_mailed_to_nobody(w, coach, week):
    p, days = week
    at = f"p{w.player.pk}-hurt"
    typed = counts(p, days[0], 8, 9) | {at: "8"}
    answer = coach.post(f"{PAGE}?player={w.player.pk}", typed)
    assert (answer.status_code, Stop.objects.count()) == (422, 0)
    assert "“8” is a number. Did something hurt?" in text(answer)
    assert Session.objects.count() == 1  # the row beside it is stored all the same
    coach.post(f"{PAGE}?player={w.player.pk}", {at: "8", f"{at}s": "yes"})
    assert Stop.objects.get().what == "8"


@pytest.mark.parametrize(("yes", "words", "stops"), [("no", "", 0), ("yes", "", 1), ("", "no", 0)])
def test_yes_or_no_and_then_words(w, coach, week, yes, words, stops):
    p, days = week
    at = f"p{w.player.pk}-hurt"
    sent = counts(p, days[0], 8, 9) | {f"{at}s": yes, at: words}
    assert coach.post(f"{PAGE}?player={w.player.pk}", sent).status_code == 302
    assert (Stop.objects.count(), Session.objects.count()) == (stops, 1)


def test_one_resting_player_never_refuses_a_sheet(w, coach, week, today):
    """Ida's row is stored; Ben rests since before, and his row stays with its reason."""
    p, days = week
    ben = Player.objects.create(club=w.club, name="Ben Vale", joined_on=today, squad=None)
    his = put_on(w, player=ben, on=today - timedelta(days=10), place="home")
    open_stop(player=ben, what="knee", on=days[0], actor=None)
    line = f"s{current(his).pk}-line-1"
    typed = counts(p, days[0], 8, 9) | {f"{line}-e0-makes": 7, f"{line}-e1-makes": 6}
    answer = coach.post(PAGE, typed | {f"{line}-on": f"{days[0]}"})
    assert answer.status_code == 422
    assert [row.stay.prescription.player for row in Session.objects.all()] == [w.player]
    page = text(answer)
    assert "1 session stored from paper" in page
    assert "A stop is open" in page
    assert 'value="7"' in page
    # what stands on the paper of a day before it hurt is work done
    Stop.objects.update(opened_on=days[0] + timedelta(days=8))
    coach.post(PAGE, {f"{line}-e0-makes": 7, f"{line}-e1-makes": 6, f"{line}-on": f"{days[0]}"})
    assert Session.objects.filter(stay__prescription__player=ben).exists()


def test_without_a_told_week_there_are_empty_lines_for_the_day(w, coach, today):
    p = put_on(w, on=today - timedelta(days=3), place="home")
    page = coach.get(f"{PAGE}?player={w.player.pk}")
    blocks = page.context["grid"].people[0].blocks
    assert [block.on for block in blocks] == [None] * 3
    at = f"s{current(p).pk}-line-1"
    typed = {f"{at}-e0-makes": 8, f"{at}-e1-makes": 8}
    refused = coach.post(f"{PAGE}?player={w.player.pk}", typed)
    assert (refused.status_code, "On which day" in text(refused)) == (422, True)
    coach.post(f"{PAGE}?player={w.player.pk}", typed | {f"{at}-on": f"{today}"})
    assert Session.objects.get().on == today


def test_a_whole_squad_stands_on_one_page(w, coach, week):
    squad = Squad.objects.create(club=w.club, name="Under 12")
    assert coach.get(f"{PAGE}?squad={squad.pk}").context["grid"].people == []
    w.player.squad = squad
    w.player.save()
    page = coach.get(f"{PAGE}?squad={squad.pk}")
    assert [str(one.player) for one in page.context["grid"].people] == [w.player.name]


def test_a_days_sheet_of_the_club_was_seen_by_a_coach(w, coach, today):
    p = put_on(w, on=today - timedelta(days=3))
    week = Week.objects.create(
        club=w.club, player=w.player, monday=today - timedelta(days=today.weekday())
    )
    PlannedBlock.objects.create(
        club=w.club, week=week, prescription=p, on=today, order=1, minutes=10, place="club"
    )
    page = coach.get(f"{PAGE}?club=1&of={today}")
    assert [block.on for block in page.context["grid"].blocks] == [today]
    coach.post(f"{PAGE}?club=1&of={today}", counts(p, today, 8, 8))
    row = Session.objects.get()
    assert (row.observer, row.paper) == ("coach", True)


def test_a_number_that_hardly_can_be_is_asked_about_once(w, coach, today):
    made = drill(w.club, "Taps", lanes=[], measure={"kind": "count", "window_s": 10})
    steps = ladder(w.club, made, "Taps", target={"value": 20}, dose={"sets": 1}, floor=None)
    p = put_on(w, ladder=steps, on=today, place="home")
    at = f"s{current(p).pk}-line-1"
    typed = {f"{at}-e0-count": 500, f"{at}-on": f"{today}"}
    asked = coach.post(f"{PAGE}?player={w.player.pk}", typed)
    assert (asked.status_code, "50 a second" in text(asked)) == (422, True)
    coach.post(f"{PAGE}?player={w.player.pk}", typed | {f"{at}-sure": "on"})
    assert Session.objects.get().sets.get().count == 500
