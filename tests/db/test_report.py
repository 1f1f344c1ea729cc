"""The report: written from the record, the coach's words kept, told only when a coach says so."""

from datetime import date, timedelta

import pytest
from django.db import connection
from django.test import Client
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.paper import pages as paper
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.messages.models import Message
from drill_ladder.apps.people.agreements import agree
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AgreedTo, Guardian, Player
from drill_ladder.apps.people.players.links import renew_link
from drill_ladder.apps.progress.report import draft_reports, publish_reports
from drill_ladder.apps.progress.report.writing import draft_report, publish_report, sections_of
from drill_ladder.apps.review.services import move_by_hand
from tests.make import current, ladder, log, put_on, text

D = date(2026, 3, 2)


@pytest.fixture
def report(w, season, today):
    return draft_report(
        member=w.coach, player=w.player, on=today, since=today - timedelta(weeks=12)
    )


def lines(report, title):
    return next((s.lines for s in report.sections if s.title == title), ())


def test_every_section_is_from_the_record(report, w):
    # the season: 7 days of two lanes, 10 each, and the trend that test_look_back compares with
    # the command line
    assert lines(report, "What went well")[0] == "7 days of practice, 7 sessions."
    assert any("80\u00a0%" in line for line in lines(report, "What went well"))
    stay = current(w.player.prescriptions.get())
    first = stay.rung
    assert lines(report, "What we worked on") == (
        f"{w.ladder.title}: 7 sessions on rung 1, “{first.title}”.",
    )
    (changed,) = lines(report, "What has changed")
    # seven days of counts are too few to be sure of what they seem to show
    assert changed == f"“{first.title}” is steady: no change that is more than chance."
    second = stay.prescription.ladder.rungs.get(position=2)
    assert f"Then “{second.title}”" in lines(report, "What comes next")[0]
    assert lines(report, "At home")[-1].startswith("How to help: ")


def test_more_ladders_ask_no_more(w, coach, season, today):
    def asked():
        with CaptureQueriesContext(connection) as found:
            assert coach.get(f"/players/{w.player.pk}/report/").status_code == 200
        return len(found)

    asked()
    one = asked()
    for title in ("Juggling", "Wall passes", "Turns"):
        more = ladder(w.club, w.drill, title)
        log(put_on(w, ladder=more, on=today - timedelta(days=9)), today - timedelta(days=3), 8, 8)
    assert asked() <= one + 1


def test_too_early_is_said_and_a_fall_is_kind(w, today):
    p = put_on(w, on=today - timedelta(days=40))
    log(p, today - timedelta(days=30), 8, 8)
    args = {"member": w.coach, "player": w.player, "on": today}
    since = today - timedelta(weeks=12)
    (line,) = lines(draft_report(**args, since=since), "What has changed")
    assert line.endswith("too early to say.")
    for day, made in ((26, 8), (22, 7), (18, 6), (14, 5), (10, 4), (6, 3), (2, 2)):
        log(p, today - timedelta(days=day), made, made)
    (line,) = lines(draft_report(**args, since=since), "What has changed")
    assert line.endswith("is harder at the moment; we look at it together.")
    whole = " ".join(line for s in Report.objects.get().sections for line in s.lines)
    assert not any(word in whole for word in ("worse", "bad", "fail", "odds", "chance"))


def test_nobody_is_compared_and_nothing_is_told_of_nothing(w, today):
    report = draft_report(member=w.coach, player=w.player, on=today, since=today)
    assert report.sections == ()


def test_a_draft_is_the_coachs_alone_until_it_is_published(report, w, coach, season):
    path = f"/players/{w.player.pk}/report/"
    card = f"/card/{w.token}/"
    assert Client().get(f"{card}report/{report.pk}/").status_code == 404
    words = {"greeting": "Well done, Ida.", "remark": "Mind the left foot."}
    coach.post(path, words)
    assert "report/" not in text(Client().get(card))
    # written anew from the record, the words stay
    log(season, report.on, 10, 10)
    answer = coach.get(path)
    assert "8 sessions" in text(answer)
    assert "Mind the left foot." in text(answer)
    coach.post(path, {**words, "publish": "1", "seal": answer.context["seal"]})
    assert f'href="{card}report/{report.pk}/"' in text(Client().get(card))
    told = text(Client().get(f"{card}report/{report.pk}/"))
    assert "Well done, Ida." in told
    assert "Mind the left foot." in told
    assert Event.objects.filter(verb="published a report").count() == 1


def test_to_look_writes_nothing(w, coach, season):
    answer = coach.get(f"/players/{w.player.pk}/report/")
    assert "7 sessions" in text(answer)
    assert "report.pdf" not in text(answer)
    assert not Report.objects.exists()


def test_what_is_published_is_what_was_read_or_it_says_what_changed(w, coach, season, today):
    """Something is logged between reading and publishing."""
    path = f"/players/{w.player.pk}/report/"
    page = coach.get(path)
    read = [line for section in page.context["report"].sections for line in section.lines]
    sent = {"greeting": "Hello.", "remark": "", "read": read, "seal": page.context["seal"]}
    log(season, today, 10, 10)
    late = coach.post(path, {**sent, "publish": "1"})
    assert late.status_code == 422
    assert "Not published yet." in text(late)
    assert "New: 8 days of practice, 8 sessions." in text(late)
    assert not Report.objects.exists()
    assert "Hello." in text(late)
    shown = [s.lines for s in late.context["report"].sections]
    coach.post(path, {**sent, "publish": "1", "seal": late.context["seal"]})
    row = Report.objects.get()
    assert (row.published_at is None, row.greeting) == (False, "Hello.")
    assert [s.lines for s in row.sections] == shown


def test_published_without_having_read_it_is_asked_back(w, coach, season):
    answer = coach.post(f"/players/{w.player.pk}/report/", {"greeting": "x", "publish": "1"})
    assert answer.status_code == 422
    assert Report.objects.published().count() == 0


def test_a_squads_drafts_are_told_as_they_stand(w, coach, season, today):
    squad = w.club.squads.create(name="Under 14")
    late = Player.objects.create(club=w.club, name="Too Late", joined_on=D)
    Player.objects.filter(pk=w.player.pk).update(squad=squad)
    coach.post("/reports/", {"squad": squad.pk})
    Player.objects.filter(pk=late.pk).update(squad=squad)
    before = [s.lines for s in Report.objects.get().sections]
    log(season, today, 10, 10)
    coach.post("/reports/", {"squad": squad.pk, "publish": "1"})
    told = Report.objects.published().get()
    assert [s.lines for s in told.sections] == before
    assert "Too Late: not drafted yet today" in " ".join(Job.objects.first().lines)


def test_what_is_published_stays_as_it_was(report, w, coach, season):
    path = f"/players/{w.player.pk}/report/"
    sealed = {"publish": "1", "seal": coach.get(path).context["seal"]}
    coach.post(path, {"greeting": "", "remark": "", **sealed})
    before = Report.objects.get()
    assert before.published_at
    log(season, report.on, 10, 10)
    coach.post(f"/players/{w.player.pk}/report/", {"greeting": "later", "remark": "later"})
    after = Report.objects.get()
    assert (after.sections, after.greeting, after.published_at) == (
        before.sections,
        before.greeting,
        before.published_at,
    )


def test_on_paper_for_coach_and_family(report, w, coach, monkeypatch):
    laid_out, real = [], paper.document
    monkeypatch.setattr(
        paper, "document", lambda *given: laid_out.append(real(*given)) or laid_out[-1]
    )
    publish_report(member=w.coach, report=report, at="2026-03-02T10:00:00Z")
    for client, path in (
        (coach, f"/reports/{report.pk}/report.pdf"),
        (Client(), f"/card/{w.token}/report/{report.pk}/report.pdf"),
    ):
        assert client.get(path).content.startswith(b"%PDF-1.7")
    assert [len(one.pages) for one in laid_out] == [1, 1]


def test_a_report_of_another_player_is_not_behind_this_card(report, w):
    mate = Player.objects.create(club=w.club, name="Somebody Else", joined_on=D)
    row = Report.objects.create(
        club=w.club, player=mate, since=report.since, on=report.on, published_at="2026-03-02T10:00Z"
    )
    assert Client().get(f"/card/{w.token}/report/{row.pk}/").status_code == 404


def test_an_assistant_and_another_club_are_refused(w, other, today):
    for member in (w.assistant, other.coach):
        with pytest.raises(Refused):
            draft_report(member=member, player=w.player, on=today, since=today)


def test_a_whole_squad_in_one_go(w, coach, season):
    squad = w.club.squads.create(name="Under 14")
    mates = [
        Player.objects.create(club=w.club, name=f"Mate {n}", squad=squad, joined_on=D)
        for n in (1, 2)
    ]
    Player.objects.filter(pk=w.player.pk).update(squad=squad)
    coach.post("/reports/", {"squad": squad.pk})
    job = Job.objects.get()
    assert (job.state, job.done, job.total) == ("done", 3, 3)
    assert Report.objects.published().count() == 0
    coach.post("/reports/", {"squad": squad.pk, "publish": "1"})
    assert set(Report.objects.published().values_list("player", flat=True)) == {
        w.player.pk,
        *(m.pk for m in mates),
    }


def test_a_childs_own_climb_says_where_and_the_best_and_no_odds(w, season, today):
    second = put_on(w, player=Player.objects.create(club=w.club, name="Mate X", joined_on=D))
    log(second, today - timedelta(days=1), 10, 10)
    page = text(Client().get(f"/card/{w.token}/climb/"))
    first = current(season).rung
    assert f"You are on rung 1 of 3, “{first.title}”." in page
    assert "Your best on this rung: 80\u00a0%, on" in page
    assert 'class="climb-chart"' in page
    assert "Mate X" not in page
    assert not any(word in page for word in ("chance", "odds", "likely", "%, between"))


def test_a_childs_own_climb_after_climbs_and_at_the_top(w, season, today):
    stay = current(season)
    move_by_hand(member=w.coach, stay=stay, kind="climb", reason="ready", on=today)
    page = text(Client().get(f"/card/{w.token}/climb/"))
    assert "You are on rung 2 of 3" in page
    assert ": 1 rung up since you began." in page
    season.status = "finished"
    season.save()
    assert "All 3 rungs climbed." in text(Client().get(f"/card/{w.token}/climb/"))


def squad_of(w, count, today):
    """So many with a link, a guardian and a ladder of twelve weeks."""
    squad = w.club.squads.create(name=f"Squad of {count}")
    players = []
    for n in range(count):
        player = Player.objects.create(club=w.club, name=f"M{n} {count}", squad=squad, joined_on=D)
        log(put_on(w, player=player, on=D), today, 8, 9)
        mail = f"g{n}{count}@x.example"
        Guardian.objects.create(club=w.club, player=player, name="G", email=mail)
        agree(member=w.coach, player=player, what=AgreedTo.REPORTS, by="G", on=D)
        renew_link(member=w.coach, player=player)
        players.append(player)
    return players


def questions(action):
    with CaptureQueriesContext(connection) as asked:
        action()
    return len(asked)


def test_the_reports_of_many_ask_as_many_questions_as_those_of_few(w, today, monkeypatch):
    # the mails themselves are the queue's work
    monkeypatch.setattr("drill_ladder.apps.messages.posting._hand_over_all", lambda pks: None)
    asked = {"draft": [], "publish": []}
    for count in (3, 9):
        players = squad_of(w, count, today)
        given = {"member": w.coach, "players": players, "on": today}
        asked["draft"].append(questions(lambda g=given: draft_reports(**g, since=D)))
        asked["publish"].append(questions(lambda g=given: publish_reports(**g, at=timezone.now())))
    assert asked["draft"][0] == asked["draft"][1] <= 16
    assert asked["publish"][0] == asked["publish"][1] <= 16
    mails = Message.objects.filter(kind="report")
    assert mails.count() == 12
    assert Event.objects.filter(verb="published a report").count() == 12


def test_many_say_the_same_as_one_by_one_and_are_told_once(w, season, today):
    squad_of(w, 3, today)
    players = [w.player, *Player.objects.filter(squad__isnull=False)]
    alone = [sections_of(player, today, D) for player in players]
    made = draft_reports(member=w.coach, players=players, on=today, since=D)
    assert [row.sections for row in made] == alone
    for _ in range(2):
        told = publish_reports(member=w.coach, players=players, on=today, at=timezone.now())
        assert told == {player.pk for player in players}
    assert Message.objects.filter(kind="report").count() == 3
    again = draft_reports(member=w.coach, players=players, on=today, since=today)
    assert [row.since for row in again] == [D] * 4  # told ones stay as they were
