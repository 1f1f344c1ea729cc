"""Test days: protocols that keep their word, results against the own past, noise from own repeats.
The arithmetic of real change is checked in tests/core; here the pages are held to it.
"""

from datetime import UTC, datetime, timedelta
from uuid import uuid4

import pytest
from django.utils import timezone

from drill_ladder.apps.floor.challenges.services import board_of, open_challenge, own_of
from drill_ladder.apps.floor.models import Challenge, Protocol, Trial
from drill_ladder.apps.floor.test_days.results import (
    next_up,
    record_of_tests,
    result_of,
    word_to_the_family,
)
from drill_ladder.apps.floor.test_days.services import (
    Conditions,
    Finished,
    TrialInput,
    add_trial,
    new_battery,
    save_protocol,
    take_trial_back,
)
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.agreements.services import agree, is_adult
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.core.statistics import typical_error
from tests.make import drill, text

NOON = datetime(2026, 11, 20, 12, 0, tzinfo=UTC)


@pytest.fixture
def sprint(w):
    """Two trials of ten metres, the best counts, three minutes of rest."""
    run = drill(w.club, "Ten metres", measure={"kind": "time"}, lanes=[], faults=[])
    values = {"title": "Sprint", "drill": run, "trials": 2, "score_by": "best", "rest_s": 180}
    return save_protocol(member=w.coach, protocol=None, values=values)


@pytest.fixture
def crowd(w, today):
    names = [f"Player {n}" for n in range(7)]
    return [Player.objects.create(club=w.club, name=n, joined_on=today) for n in names]


def day_of(w, protocols, players, on, **more):
    return new_battery(
        member=w.coach, title="Day", on=on, protocols=protocols, players=players, **more
    )


def ran(battery, protocol, player, *values, timing="hand", side="", at=None):
    at = at or datetime.combine(battery.on, NOON.timetz())
    for number, value in enumerate(values):
        trial = TrialInput(
            uuid4(), player, protocol, value, at + timedelta(minutes=4 * number), side, timing
        )
        add_trial(battery=battery, trial=trial, by=None)


def said(battery, protocol, player, side=""):
    return result_of(record_of_tests([protocol]), protocol, player.pk, side, battery)


def test_the_best_of_the_trials_counts_and_no_trial_is_doubled(w, sprint, crowd, today):
    day = day_of(w, [sprint], crowd, today)
    uid = uuid4()
    trial = TrialInput(uid, crowd[0], sprint, 2.14, NOON)
    assert add_trial(battery=day, trial=trial, by=None)[1]
    assert not add_trial(battery=day, trial=trial, by=None)[1]
    assert not said(day, sprint, crowd[0]).whole
    ran(day, sprint, crowd[0], 2.08)
    result = said(day, sprint, crowd[0])
    assert (result.score, result.whole, result.told) == (2.08, True, "the first one")
    with pytest.raises(Refused, match="has all 2 trials"):
        ran(day, sprint, crowd[0], 1.99)
    take_trial_back(member=w.coach, trial=Trial.objects.get(value=2.08))
    assert said(day, sprint, crowd[0]).score == 2.14
    ran(day, sprint, crowd[0], 2.05)
    assert Trial.objects.count() == 3


def test_noise_comes_from_the_clubs_own_repeats_and_says_how_many_are_missing(
    w, sprint, crowd, today
):
    first = day_of(w, [sprint], crowd, today - timedelta(days=60))
    again = day_of(w, [sprint], crowd, today - timedelta(days=57), retest=True)
    scores = [(2.00, 2.04), (2.10, 2.08), (2.20, 2.23), (2.05, 2.05), (2.31, 2.27)]
    for player, (one, two) in zip(crowd, scores, strict=False):
        ran(first, sprint, player, one)
        ran(again, sprint, player, two)
    noise = record_of_tests([sprint]).noise[sprint.pk]
    assert (noise.error, noise.missing) == (None, 1)
    last = crowd[5]
    ran(first, sprint, last, 2.40)
    ran(again, sprint, last, 2.43)
    pairs = [*scores, (2.40, 2.43)]
    noise = record_of_tests([sprint]).noise[sprint.pk]
    assert noise.error == pytest.approx(typical_error(pairs))
    assert "6 repeats of this club" in noise.source
    now = day_of(w, [sprint], crowd, today)
    ran(now, sprint, crowd[0], 1.60)
    ran(now, sprint, crowd[1], 2.07)
    better, same = said(now, sprint, crowd[0]), said(now, sprint, crowd[1])
    assert (better.change.verdict, better.change.direction) == ("real", "better")
    assert "0.44\u00a0s better since" in better.told
    assert "a real change" in better.told
    assert same.change.verdict == "within noise"
    assert "within the noise of the test" in same.told


def test_an_error_that_somebody_measured_is_taken_with_its_source(w, sprint, crowd, today):
    save_protocol(
        member=w.coach, protocol=sprint, values={"error": 0.05, "error_source": "A handbook"}
    )
    assert Protocol.objects.count() == 1  # how it is done is the same
    before = day_of(w, [sprint], crowd, today - timedelta(days=30))
    now = day_of(w, [sprint], crowd, today)
    ran(before, sprint, crowd[0], 2.20)
    ran(now, sprint, crowd[0], 2.05)
    sprint.refresh_from_db()
    change = said(now, sprint, crowd[0]).change
    # by hand: 0.15 against 1.96 * sqrt(2) * 0.05 = 0.139
    assert change.mdc95 == pytest.approx(0.13859, abs=1e-4)
    assert change.verdict == "real"


def test_hand_and_gate_are_apart_unless_an_offset_is_entered(w, sprint, crowd, today):
    Protocol.objects.update(error=0.05, error_source="x")
    sprint.refresh_from_db()
    before = day_of(w, [sprint], crowd, today - timedelta(days=30))
    now = day_of(w, [sprint], crowd, today)
    ran(before, sprint, crowd[0], 2.10)
    ran(now, sprint, crowd[0], 1.95, timing="gate")
    apart = said(now, sprint, crowd[0])
    assert apart.change is None
    assert apart.told == "timed another way before: no comparison"
    values = {"offset_s": 0.2, "offset_how": "forty runs timed both ways"}
    save_protocol(member=w.coach, protocol=sprint, values=values)
    sprint.refresh_from_db()
    joined = said(now, sprint, crowd[0])
    assert joined.score == pytest.approx(2.15)
    assert joined.change.verdict == "within noise"


def test_another_way_of_doing_it_is_another_test(w, sprint, crowd, today):
    day = day_of(w, [sprint], crowd, today - timedelta(days=3))
    ran(day, sprint, crowd[0], 2.1)
    other = save_protocol(
        member=w.coach, protocol=sprint, values={"drill": sprint.drill, "trials": 3}
    )
    assert (other.version, other.before) == (2, sprint)
    assert list(Protocol.objects.in_force()) == [other]
    now = day_of(w, [other], crowd, today)
    ran(now, other, crowd[0], 2.0)
    assert said(now, other, crowd[0]).told == "the first one"
    with pytest.raises(Refused, match="newer version"):
        save_protocol(member=w.coach, protocol=sprint, values={"title": "Old"})


def test_other_conditions_are_said_beside_the_comparison(w, sprint, crowd, today):
    Protocol.objects.update(error=0.05, error_source="x")
    sprint.refresh_from_db()
    dry = Conditions(surface="hall floor", light="bright", weather="dry")
    wet = Conditions(surface="wet grass", light="bright")
    before = day_of(w, [sprint], crowd, today - timedelta(days=30), conditions=dry)
    now = day_of(w, [sprint], crowd, today, conditions=wet)
    ran(before, sprint, crowd[0], 2.10)
    ran(now, sprint, crowd[0], 2.30)
    assert said(now, sprint, crowd[0]).differs == ("surface: hall floor then, wet grass now",)


def test_a_fall_in_dim_light_alone_is_worth_one_word_and_no_diagnosis(w, sprint, crowd, today):
    other = save_protocol(
        member=w.coach,
        protocol=None,
        values={
            "title": "Jumps",
            "drill": drill(w.club, "Jump", measure={"kind": "count", "window_s": 30}, lanes=[]),
            "trials": 1,
            "error": 1.0,
            "error_source": "x",
        },
    )
    Protocol.objects.filter(pk=sprint.pk).update(error=0.05, error_source="x")
    sprint.refresh_from_db()
    both = [sprint, other]
    bright, dim = Conditions(light="bright"), Conditions(light="dim")
    before = day_of(w, both, crowd, today - timedelta(days=30), conditions=bright)
    now = day_of(w, both, crowd, today, conditions=dim)
    for day, time, jumps in ((before, 2.1, 20), (now, 2.5, 20)):
        ran(day, sprint, crowd[0], time)
        ran(day, other, crowd[0], jumps)
    results = [said(now, one, crowd[0]) for one in both]
    word = word_to_the_family(results, now)
    assert "eye test" in word
    assert word.endswith("This is not a diagnosis.")
    assert word_to_the_family(results[:1], now) == ""  # nothing steady beside it
    assert word_to_the_family([said(before, one, crowd[0]) for one in both], before) == ""


def test_who_is_next_has_the_fewest_trials_and_has_rested(w, sprint, crowd, today):
    day = day_of(w, [sprint], crowd[:3], today)
    at = datetime.combine(today, NOON.timetz()).timestamp()
    assert next_up(day, sprint, [], at)[0] == crowd[0].pk
    ran(day, sprint, crowd[0], 2.1)
    trials = list(Trial.objects.that_count())
    assert next_up(day, sprint, trials, at + 10) == (crowd[1].pk, {crowd[0].pk: 170})
    for player in crowd[1:3]:
        ran(day, sprint, player, 2.1)
    trials = list(Trial.objects.that_count())
    assert next_up(day, sprint, trials, at + 60)[0] is None
    assert next_up(day, sprint, trials, at + 181)[0] == crowd[0].pk


def test_who_rests_is_not_tested(w, sprint, crowd, today):
    day = day_of(w, [sprint], crowd, today)
    told = timezone.now()
    open_stop(player=crowd[0], what="knee", on=today, actor=None, at=told)
    with pytest.raises(Refused, match="a stop is open"):
        ran(day, sprint, crowd[0], 2.0, at=told + timedelta(seconds=1))
    # what a gate saw before it was told comes in later, and counts
    ran(day, sprint, crowd[0], 2.0, at=told - timedelta(minutes=1))
    assert Trial.objects.count() == 1


def test_a_finished_day_asks_and_keeps_both_values(w, coach, sprint, crowd, today):
    day = day_of(w, [sprint], crowd, today)
    ran(day, sprint, crowd[0], 2.14, 2.08)
    page = f"/test-days/{day.pk}/"
    assert "Finish this test day" in text(coach.get(page))
    coach.post(f"{page}finish/")
    assert "Finished" in text(coach.get(page))
    best = Trial.objects.get(value=2.08)
    asked = coach.post(f"/test-days/trials/{best.pk}/back/")
    assert (asked.status_code, Trial.objects.that_count().count()) == (200, 2)
    assert "This test day is finished" in text(asked)
    coach.post(f"/test-days/trials/{best.pk}/back/", {"sure": "yes"})
    event = Event.objects.filter(verb="took a trial back").get()
    assert (event.details["before"], event.details["after"]) == ([2.14, 2.08], [2.14])
    assert "Let it count again" in text(coach.get(page))
    coach.post(f"/test-days/trials/{best.pk}/back/", {"sure": "yes"})
    assert Trial.objects.that_count().count() == 2
    trial = {
        "uid": uuid4(),
        "player": crowd[1].pk,
        "value": "2.2",
        "timing": "hand",
        "test": sprint.pk,
    }
    assert coach.post(page, trial).status_code == 422
    assert coach.post(page, trial | {"sure": "on"}).status_code == 302
    event = Event.objects.filter(verb="added a trial to a finished test day").get()
    assert (event.details["before"], event.details["after"]) == ([], [2.2])


def test_a_day_that_is_over_is_finished_by_itself(w, sprint, crowd, today):
    day = day_of(w, [sprint], crowd, today - timedelta(days=1))
    ran(day, sprint, crowd[0], 2.0)
    with pytest.raises(Finished):
        ran(day, sprint, crowd[0], 2.0, at=timezone.now())


def test_hurt_on_a_test_day_comes_back_to_it(w, coach, sprint, crowd, today):
    day = day_of(w, [sprint], crowd, today)
    back = f"/test-days/{day.pk}/?test={sprint.pk}"
    assert text(coach.get(back)).count("Hurt: stop") == len(crowd)
    sent = {"what": "Stopped on a test day", "back": back}
    answer = coach.post(f"/players/{crowd[0].pk}/stop/", sent)
    assert answer.headers["Location"] == back
    assert "rests: something hurts" in text(coach.get(back))
    away = coach.post(f"/players/{crowd[1].pk}/stop/", sent | {"back": "//evil.example.org/"})
    assert away.headers["Location"] == f"/players/{crowd[1].pk}/"


def test_a_day_on_the_page_from_the_test_to_its_results(w, coach, today):
    run = drill(w.club, "Ten metres", measure={"kind": "time"}, lanes=[], faults=[])
    form = {
        "title": "Sprint",
        "drill": run.pk,
        "trials": 2,
        "score_by": "best",
        "rest_s": 0,
        "sides": "own",
    }
    assert coach.post("/tests/new/", form).status_code == 302
    wrong = coach.post("/tests/new/", {**form, "error": "0.05", "trials": 0})
    assert wrong.status_code == 422
    assert "needs its source" in text(wrong)
    test = Protocol.objects.get()
    assert "nobody knows yet: 6 repeats are missing" in text(coach.get("/tests/"))
    empty = coach.post("/test-days/new/", {"title": "Day"})
    assert empty.status_code == 422
    begun = coach.post(
        "/test-days/new/",
        {"title": "Day", "protocols": [test.pk], "players": [w.player.pk], "light": "dim"},
    )
    page = begun.headers["Location"]
    assert "Now: Ida Marlow" in text(coach.get(page))
    trial = {
        "uid": uuid4(),
        "player": w.player.pk,
        "value": "2.14",
        "side": "left",
        "timing": "hand",
        "test": test.pk,
    }
    assert coach.post(page, trial).status_code == 302
    assert coach.post(page, trial).status_code == 302
    assert Trial.objects.count() == 1
    bad = coach.post(page, {**trial, "uid": uuid4(), "value": "9999"})
    assert bad.status_code == 422
    assert "At most 3600." in text(bad)
    said_now = text(coach.get(page))
    assert "2.14\u00a0s" in said_now
    assert "so far" in said_now
    assert "the first one" in said_now
    assert coach.post(f"/test-days/trials/{Trial.objects.get().pk}/back/").status_code == 302
    assert "Taken back (1)" in text(coach.get(page))
    assert "2.14\u00a0s" not in text(coach.get(page))


def test_a_players_page_tells_each_test_with_how_sure_it_is(w, sprint, coach, today):
    Protocol.objects.update(error=0.05, error_source="x")
    for back, best in ((60, 2.30), (30, 2.28), (1, 2.10)):
        ran(day_of(w, [sprint], [w.player], today - timedelta(days=back)), sprint, w.player, best)
    page = coach.get(f"/players/{w.player.pk}/progress/?since={today - timedelta(days=90)}")
    panel = next(one for one in page.context["panels"] if one.key == "tests")
    assert [row[2] for row in panel.rows] == ["2.10\u00a0s", "2.28\u00a0s", "2.30\u00a0s"]
    assert "a real change" in panel.rows[0][4]
    assert "within the noise" in panel.rows[1][4]
    assert panel.rows[2][4] == "the first one"
    assert "Sprint: 2.10\u00a0s, 0.18\u00a0s better since" in panel.lines[1]
    assert panel.svg
    table = coach.get(
        f"/players/{w.player.pk}/progress/tests.csv?since={today - timedelta(days=90)}"
    )
    assert "2.28" in table.content.decode()


def test_a_challenge_is_own_best_against_own_best_and_ends_by_itself(
    w, sprint, crowd, today, client
):
    before = day_of(w, [sprint], crowd, today - timedelta(days=20))
    row = open_challenge(
        member=w.coach, protocol=sprint, title="Fast feet", begins=today, ends=today, board=True
    )
    now = day_of(w, [sprint], crowd, today)
    young, adult = crowd[:2]
    Player.objects.filter(pk=adult.pk).update(birth_month="1990-01-01")
    adult.refresh_from_db()
    ran(before, sprint, young, 2.30)
    ran(now, sprint, young, 2.20)
    ran(now, sprint, adult, 2.50)
    assert own_of(row, young).told == "own best beaten by 0.10\u00a0s: 2.20\u00a0s"
    assert own_of(row, crowd[2]).told == "not tried yet"
    assert board_of(row, crowd, today) == [("P1", "2.50\u00a0s")]  # no child on it
    assert board_of(row, crowd, today + timedelta(days=1)) == []
    agree(member=w.coach, player=young, what="boards", by="A guardian", on=today)
    assert len(board_of(row, crowd, today)) == 2
    assert list(Challenge.objects.for_player(young, today)) == [row]
    assert not Challenge.objects.for_player(young, today + timedelta(days=1)).exists()
    page = text(client.get(f"/card/{w.token}/climb/"))
    assert "Fast feet" in page
    assert "Not tried yet." in page
    assert "2.20" not in page  # nobody else's


def test_a_challenge_is_opened_on_the_page_and_lasts_no_season(w, sprint, coach, today):
    sent = {"title": "Fast feet", "protocol": sprint.pk, "ends": today + timedelta(days=200)}
    wrong = coach.post("/challenges/new/", sent)
    assert wrong.status_code == 422
    assert "from one day to 90" in text(wrong)
    done = coach.post("/challenges/new/", sent | {"ends": today + timedelta(days=7)})
    assert "own best against own best" in text(coach.get(done.headers["Location"]))
    assert "Fast feet" in text(coach.get("/tests/"))


def test_nobody_is_an_adult_whose_age_is_not_known(w, today):
    assert not is_adult(w.player, today)
    w.player.birth_month = today.replace(year=today.year - 18, day=1)
    assert not is_adult(w.player, today)  # the month of the birthday: perhaps not yet
    w.player.birth_month = today.replace(year=today.year - 19, day=1)
    assert is_adult(w.player, today)
