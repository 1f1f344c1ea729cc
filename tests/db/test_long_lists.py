"""What a page asks stays the same however many there are, and long lists come by pages."""

from copy import deepcopy
from datetime import timedelta

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from drill_ladder.apps.history.models import Event
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.tasks import tidy
from drill_ladder.apps.people.models import Guardian, Player, PlayerDay
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.review.absences import notice_absences
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.waiting import waiting, waiting_count
from drill_ladder.apps.stored import first_with
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.querysets import monday_of
from tests.make import log, put_on, text, world


@pytest.fixture(scope="module")
def crowded(once):
    """A club of forty-five players, each with two passes behind them and planned at the club
    today.
    """
    w, today = world("Crowded"), timezone.localdate()
    club = w.club
    squad = club.squads.create(name="Under 14")
    for n in range(45):
        name = f"Player {n:02}"
        player = Player(name=name, joined_on=today, squad=squad if n < 3 else None)
        save_player(member=w.coach, player=player)
        p = put_on(w, player=player, on=today - timedelta(days=9))
        log(p, today - timedelta(days=4), 9, 9)
        log(p, today - timedelta(days=2), 9, 9)
        week = Week.objects.create(club=club, player=player, monday=monday_of(today))
        same = {"club": club, "week": week, "prescription": p, "on": today}
        PlannedBlock.objects.create(order=1, minutes=8, place="club", **same)
    return w


@pytest.fixture
def w(crowded, db):
    """That club, and what a test changes in it is its own."""
    return deepcopy(crowded)


@pytest.fixture
def many(w):
    """Its club."""
    return w.club


def asked(client, path):
    """How many questions a page asks the database."""
    with CaptureQueriesContext(connection) as questions:
        assert client.get(path).status_code == 200
    return len(questions)


PAGES = ("/", "/players/", "/weeks/", "/review/", "/ladders/{ladder}/players/")


def test_pages_ask_no_more_for_many_players(w, coach, many, today):
    paths = [path.format(ladder=w.ladder.pk) for path in PAGES]
    for path in paths:
        asked(coach, path)
    lots = [asked(coach, path) for path in paths]
    kept = Player.objects.filter(name__gte="Player 05")
    PlannedBlock.objects.filter(week__player__in=kept).delete()
    kept.update(name="x")
    for player in kept:
        player.prescriptions.all().delete()
    assert lots == [asked(coach, path) for path in paths]
    assert max(lots) <= 14


def test_a_player_and_a_card_ask_no_more_for_a_long_history(w, coach, today):
    p = put_on(w, on=today - timedelta(days=400))
    card, player = f"/card/{w.token}/", f"/players/{w.player.pk}/"
    log(p, today - timedelta(days=300), 5, 5)
    few = asked(coach, player), asked(Client(), card)
    for days in range(40):
        log(p, today - timedelta(days=200 - 2 * days), 5, 5)
    assert (asked(coach, player), asked(Client(), card)) == few
    assert few[0] <= 12


def test_players_come_by_pages_and_are_found_by_name(w, coach, many):
    first, second = text(coach.get("/players/")), text(coach.get("/players/?page=2"))
    assert "Ida Marlow" in first
    assert "Player 44" in second
    assert "Player 44" not in first
    assert "Player 44" in text(coach.get("/players/?find=er 44"))
    assert "Ida Marlow" not in text(coach.get("/players/?find=er 44"))
    assert "Player 44" in text(coach.get("/players/?page=99"))  # the last one there is
    assert coach.get("/players/?page=%00&find=%27%3B").status_code == 200


def test_the_desk_shows_the_first_and_then_everybody(w, coach, many):
    assert waiting_count(w.club) == 45
    short, whole = text(coach.get("/")), text(coach.get("/?all=1"))
    assert sum(f"Player {n:02}" in short for n in range(45)) < 45
    assert all(f"Player {n:02}" in whole for n in range(45))


def test_who_rests_waits_for_no_decision(w, many, today):
    before = waiting_count(w.club)
    open_stop(player=Player.objects.get(name="Player 07"), what="knee", on=today, actor=None)
    assert waiting_count(w.club) == before - 1 == len(waiting(w.club)[0])


def test_another_club_counts_its_own(w, other, many):
    assert waiting_count(other.club) == 0


def test_absences_are_noticed_by_a_few_questions(w, many, today):
    Proposal.objects.all().delete()
    for player in Player.objects.filter(name__startswith="Player"):
        rung = w.rungs[1]
        stay = player.prescriptions.get().stays.get(left__isnull=True)
        stay.rung = rung
        stay.save()
    later = today + timedelta(days=60)
    with CaptureQueriesContext(connection) as questions:
        assert notice_absences(w.club, later) == 45
    assert len(questions) < 15
    assert notice_absences(w.club, later) == 0


def test_the_climb_shows_twelve_weeks_and_on_demand_all_of_it(w, coach, today):
    p = put_on(w, on=today - timedelta(days=200))
    log(p, today - timedelta(days=150), 5, 5)
    log(p, today - timedelta(days=10), 6, 6)
    page = text(coach.get(f"/players/{w.player.pk}/"))
    whole = text(coach.get(f"/players/{w.player.pk}/?all=1"))
    assert "Show the whole climb" in page
    assert "Show the whole climb" not in whole
    assert (page.count("<td>near</td>") + page.count("<td>low</td>")) == 1
    assert (whole.count("<td>near</td>") + whole.count("<td>low</td>")) == 2


def test_who_changed_what_is_asked_for_when_it_is_opened(w, coach, client):
    p = put_on(w)
    path = f"/players/{w.player.pk}/trail/"
    assert f'hx-get="{path}"' in text(coach.get(f"/players/{w.player.pk}/decisions/"))
    whole, part = text(coach.get(path)), text(coach.get(path, headers={"HX-Request": "true"}))
    assert "prescribed: Ida Marlow on Gate" in whole
    assert "prescribed" in part
    assert "<html" in whole
    assert "<html" not in part
    assert Event.objects.about(p).count() == 1
    client.force_login(w.assistant.user)
    assert client.get(path).status_code == 403


def test_rows_beside_a_row_are_those_of_a_prefetch(w, today):
    PlayerDay.objects.create(club=w.club, player=w.player, weekday=4, minutes=30)
    PlayerDay.objects.create(club=w.club, player=w.player, weekday=1, minutes=20, place="club")
    Guardian.objects.create(club=w.club, player=w.player, name="Näf", consent_on=today)
    names = ("days", "guardians", "links", "stops")
    open_stop(player=w.player, what="knee\n“left”", on=today, actor=None)
    with CaptureQueriesContext(connection) as questions:
        row = first_with(Player.objects.filter(pk=w.player.pk), *names)
        beside = {name: list(getattr(row, name).all()) for name in names}
    assert len(questions) == 1
    known = Player.objects.prefetch_related(*names).get(pk=w.player.pk)
    for name in names:
        wanted = list(getattr(known, name).all())
        assert [vars_of(r) for r in beside[name]] == [vars_of(r) for r in wanted] != []
        assert all(r.player is row for r in beside[name])
    assert first_with(Player.objects.none(), "days") is None


def vars_of(row):
    """Every column of a row."""
    return {f.attname: getattr(row, f.attname) for f in row._meta.concrete_fields}


def test_the_sheet_of_a_large_club_is_made_beside_the_request(w, coach, other, many, today):
    answer = coach.get("/sheet.pdf")
    assert (answer.status_code, answer.headers["Location"]) == (302, f"/sheet/?of={today}")
    page = text(coach.get(answer.headers["Location"]))
    assert "45 blocks at the club" in page
    squad = coach.get(f"/sheet.pdf?squad={many.squads.get().pk}")
    assert squad.content.startswith(b"%PDF")
    started = coach.post(answer.headers["Location"])
    job = Job.objects.get()
    assert (job.state, job.done, job.total) == ("done", 45, 45)
    assert "Open it" in text(coach.get(started.headers["Location"]))
    file = coach.get(f"/jobs/{job.pk}/file/")
    assert file.content.startswith(b"%PDF")
    assert file.headers["Content-Type"] == "application/pdf"
    for stranger, status in ((other.coach, 404), (w.assistant, 403)):
        client = Client()
        client.force_login(stranger.user)
        assert client.get(f"/jobs/{job.pk}/file/").status_code == status
    tidy.func(0)
    assert coach.get(f"/jobs/{job.pk}/file/").status_code == 200
    Job.objects.update(beat_at=job.beat_at - timedelta(days=2))
    tidy.func(0)
    assert coach.get(f"/jobs/{job.pk}/file/").status_code == 404
    assert Job.objects.get().file is None


def test_pages_and_calendars_go_compressed_paper_does_not(w, coach):
    put_on(w)
    packed = {"Accept-Encoding": "gzip"}
    assert coach.get("/players/", headers=packed).headers["Content-Encoding"] == "gzip"
    paper = coach.get(f"/players/{w.player.pk}/card.pdf", headers=packed)
    assert "Content-Encoding" not in paper.headers


def test_a_calendar_that_is_known_is_not_sent_again(w, coach, many, today):
    Week.objects.update(published_at=f"{today}T10:00Z")
    path = f"/feed/{w.coach.feed_token}/sessions.ics"
    first = Client().get(path)
    again = Client().get(path, headers={"If-None-Match": first.headers["ETag"]})
    assert (first.status_code, again.status_code, again.content) == (200, 304, b"")
    Week.objects.filter(player__name="Player 03").update(published_at=f"{today}T11:00Z")
    assert Client().get(path, headers={"If-None-Match": first.headers["ETag"]}).status_code == 200
