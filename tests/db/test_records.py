"""Children's records: the trail, everything out, aside and back, erased, kept no longer."""

import csv
import json
import re
from datetime import date, timedelta
from io import BytesIO, StringIO
from zipfile import ZipFile

import pytest
from django.core.management import call_command
from django.db import ProgrammingError, connection, transaction
from django.test import Client
from psycopg import sql

from drill_ladder.apps.exchange.results import rows_out
from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.messages.occasions import mail_card
from drill_ladder.apps.people.agreements.services import agree
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, PlayerNote, User
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.progress.report.writing import draft_report, publish_report
from drill_ladder.apps.records.aside import bring_back, put_aside
from drill_ladder.apps.records.erase import erase
from drill_ladder.apps.records.family_file import family_file
from drill_ladder.apps.records.keeping import due, keep_periods, months_before, periods_of, retain
from drill_ladder.apps.records.models import Receipt
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import settle
from tests.make import current, log, owner_of, put_on, text

NAME, FAMILY = "Zebulon Quill", "quill.family@example.org"
SECRETS = (NAME, "Zebulon", "Quill", "555 0199", "sore quillbone", "quillnote", "quillword")


@pytest.fixture
def owner(w):
    return owner_of(w.club)


@pytest.fixture
def as_owner(owner):
    client = Client()
    client.force_login(owner.user)
    return client


@pytest.fixture
def zeb(w, owner, today, settings):
    """A player with everything: family, notes, sessions, a stop, decisions, mail, a report."""
    settings.EMAIL_BACKEND = "drill_ladder.apps.messages.local.Mailbox"
    player = Player(name=NAME, joined_on=date(2025, 9, 14), birth_month=date(2013, 4, 1))
    player.home_space = "Quill yard"
    family = [{"name": "Ma Quill", "email": FAMILY, "phone": "555 0199"}]
    save_player(member=w.coach, player=player, guardians=family, note="quillnote", on=today)
    begun = today - timedelta(days=20)
    p = put_on(w, player=player, on=begun)
    for back in (9, 7):
        log(p, today - timedelta(days=back), 8, 8, word="quillword")
    settle(
        member=w.coach,
        proposal=Proposal.objects.awaiting_review().get(player=player),
        action="hold",
        reason="quillword for Zebulon Quill",
        on=today,
    )
    stop = open_stop(player=player, what="sore quillbone", on=today, actor=None)
    end_stop(member=w.coach, stop=stop, cleared_by="Dr Quill", on=today)
    agree(member=w.coach, player=player, what="reports", by="Ma Quill", on=today)
    report = draft_report(member=w.coach, player=player, on=today, since=begun)
    publish_report(member=w.coach, report=report, at=report.player.links.first().created_at)
    mail_card(member=w.coach, player=player)
    GroupSession.objects.create(
        club=w.club,
        title="Stations",
        on=today,
        players=[player.pk, w.player.pk],
        stations=[{"name": "s", "capacity": 1, "roles": ["w"], "s_per_rep": 4}],
        slot_s=60,
        slots=2,
    )
    return player


def rows_with(words):
    """(Table, column, rows) of the whole database that hold one of the words, also in tables of no
    club.
    """
    pattern = "|".join(re.escape(word) for word in words)
    with connection.cursor() as cursor:
        cursor.execute(
            "SELECT table_name, column_name FROM information_schema.columns WHERE table_schema = "
            "'public' AND data_type IN ('character varying', 'text', 'jsonb', 'json', 'bytea') "
            "ORDER BY 1, 2"
        )
        for table, column in cursor.fetchall():
            asked = sql.SQL("SELECT count(*) FROM {} WHERE {}::text ~* %s")
            cursor.execute(asked.format(sql.Identifier(table), sql.Identifier(column)), [pattern])
            count = cursor.fetchone()[0]
            if count:
                yield table, column, count


def found(words=SECRETS):
    return sorted({table for table, _, _ in rows_with(words)})


def test_the_trail_cannot_be_changed_but_by_an_erasure(w):
    row = Event.objects.earliest("pk")
    for act in (
        lambda: Event.objects.filter(pk=row.pk).update(verb="nothing happened"),
        lambda: Event.objects.filter(pk=row.pk).delete(),
    ):
        with pytest.raises(ProgrammingError, match="append-only"), transaction.atomic():
            act()
    with connection.cursor() as cursor:
        cursor.execute("SET CONSTRAINTS ALL IMMEDIATE")
        cursor.execute("ALTER TABLE history_event ENABLE TRIGGER history_no_truncate")
        with pytest.raises(ProgrammingError, match="append-only"), transaction.atomic():
            cursor.execute("TRUNCATE history_event")
    row.refresh_from_db()
    assert row.verb != "nothing happened"
    gone = User.objects.create_user("gone@example.org", "x")
    kept = Event.objects.create(club_id=w.club.pk, actor=gone, verb="did", subject="x")
    gone.delete()
    kept.refresh_from_db()
    assert kept.actor is None


def test_history_is_searched_by_player_member_and_day_and_goes_out(w, coach, today):
    put_on(w, on=today)
    page = text(coach.get("/club/history/?q=prescribed"))
    assert "Ida Marlow" in page or "Gate" in page
    only = text(coach.get(f"/club/history/?player={w.player.pk}&q=added"))
    assert "added a player" in only
    assert "added a player" not in text(coach.get(f"/club/history/?who={w.assistant.user_id}"))
    tomorrow = today + timedelta(days=1)
    assert "Nothing found" in text(coach.get(f"/club/history/?since={tomorrow}"))
    rows = list(csv.DictReader(StringIO(text(coach.get("/club/history.csv")).lstrip("\ufeff"))))
    assert {"at", "who", "did", "about"} <= set(rows[0])
    assert "added a player" in {row["did"] for row in rows}
    assert Event.objects.of_verb("exported").count() == 1
    assert coach.get("/club/history/?player=999999").status_code == 404
    assert coach.get("/club/history/?since=junk&who=x&page=9").status_code == 200


def test_a_look_at_a_player_is_noted_once_a_day(w, coach):
    for _ in range(3):
        coach.get(f"/players/{w.player.pk}/")
        coach.get(f"/players/{w.player.pk}/progress/")
    looks = Event.objects.of_verb("looked at")
    assert [(row.actor, row.subject) for row in looks] == [(w.coach.user, "Ida Marlow")]


def test_everything_about_a_player_in_open_formats(w, zeb, as_owner, today):
    PlayerNote.objects.create(
        club=w.club, player=zeb, on=today, text="well done, all of you", shared=True
    )
    answer = as_owner.get(f"/players/{zeb.pk}/records/all.zip")
    file = ZipFile(BytesIO(answer.content))
    assert file.testzip() is None
    told = json.loads(file.read("player.json"))
    assert told["guardians"][0]["email"] == FAMILY
    assert told["agreements"][0]["what"] == "reports"
    assert told["stops"][0]["what"] == "sore quillbone"
    assert len(told["ladders"]) == 1
    sessions = list(csv.DictReader(StringIO(file.read("sessions.csv").decode())))
    stored = list(rows_out(Session.objects.filter(stay__prescription__player=zeb).whole()))
    assert len(sessions) == len(stored) == 4
    assert {row["note"] for row in sessions} >= {"quillword"}
    notes = file.read("notes.csv").decode()
    assert "well done" in notes
    assert "quillnote" not in notes  # the coaches' own
    assert "A report for" in file.read("messages.csv").decode()
    assert "What we worked on" in file.read("reports.txt").decode()
    assert Event.objects.of_verb("exported").about(zeb).count() == 1


def test_put_aside_is_in_no_list_and_comes_back_as_it_was(w, coach, today):
    p = put_on(w, on=today - timedelta(days=3))
    card, who = f"/card/{w.token}/", f"/players/{w.player.pk}/"
    coach.post(f"{who}records/aside/")
    coach.get("/players/")  # what was just said is said once
    for path in ("/", "/players/", "/weeks/", "/floor/", "/review/", "/roster.csv"):
        assert w.player.name not in text(coach.get(path)), path
    for path in (who, f"{who}progress/", f"/log/{current(p).pk}/", f"{who}week/"):
        assert coach.get(path).status_code == 404, path
    assert Client().get(card).status_code == 404
    Client().post(f"{card}hurt/", {"what": "knee"})
    assert w.player.is_resting  # a report arrives all the same
    with pytest.raises(Refused, match="already"):
        put_aside(member=w.coach, player=w.player, on=today)
    assert coach.get(f"{who}records/").status_code == 200
    coach.post(f"{who}records/aside/", {"back": "1"})
    assert coach.get(who).status_code == 200
    assert Client().get(card).status_code == 200
    with pytest.raises(Refused, match="nobody to bring back"):
        bring_back(member=w.coach, player=w.player)


def test_erased_no_table_and_no_export_holds_the_name(w, zeb, owner, as_owner, today):
    log(put_on(w, on=today - timedelta(days=9)), today, 8, 8)
    before = numbers()
    assert {"people_player", "history_event", "outbox_localmail"} <= set(found())
    with pytest.raises(Refused, match="archived"):
        erase(member=owner, player=zeb, on=today)
    put_aside(member=owner, player=zeb, on=today)
    path = f"/players/{zeb.pk}/records/erase/"
    assert as_owner.post(path, {"name": "Zebulon"}).status_code == 422
    assert as_owner.post(path, {"name": NAME.upper()}).status_code == 302
    with connection.cursor() as cursor:
        cursor.execute("DELETE FROM django_session")  # a signed-in browser's own toasts
    as_owner.force_login(owner.user)
    assert found() == []
    receipt = Receipt.objects.get()
    assert receipt.number in text(as_owner.get("/club/records/"))
    assert numbers() == before
    for export in ("/roster.csv", "/results.csv", "/club/history.csv", "/library.json"):
        told = text(as_owner.get(export))
        assert not [word for word in SECRETS if word in told], export
    assert as_owner.get(f"/players/{zeb.pk}/records/").status_code == 404
    with pytest.raises(Refused):
        bring_back(member=owner, player=zeb)
    with pytest.raises(ProgrammingError, match="append-only"), transaction.atomic():
        Event.objects.all().update(verb="x")


def numbers():
    """What the club's own statistics are made from."""
    days = JudgedDay.objects.order_by("pk").values_list("on", "verdict", "score")
    return list(days), Session.objects.count(), Proposal.objects.count()


def test_words_that_others_share_stay_where_they_are_about_them(w, zeb, owner, today):
    twin = Player(name=NAME, joined_on=today)
    save_player(
        member=w.coach,
        player=twin,
        guardians=[{"name": "Ma Quill", "email": FAMILY, "phone": "555 0199"}],
    )
    put_aside(member=owner, player=zeb, on=today)
    erase(member=owner, player=zeb, on=today)
    twin.refresh_from_db()
    assert (twin.name, twin.guardians.get().email) == (NAME, FAMILY)
    assert Player.objects.get(pk=zeb.pk).name.startswith("Erased ")


def test_only_an_owner_erases_and_a_strange_club_is_left_alone(w, other, zeb, today):
    put_aside(member=w.coach, player=zeb, on=today)
    with pytest.raises(Refused, match="owner"):
        erase(member=w.coach, player=zeb, on=today)
    Player.objects.filter(pk=other.player.pk).update(name=NAME)
    erase(member=owner_of(w.club), player=zeb, on=today)
    other.player.refresh_from_db()
    assert other.player.name == NAME


def test_periods_are_tried_first_and_done_at_night(w, zeb, owner, as_owner, today):
    put_aside(member=owner, player=zeb, on=months_before(today, 13))
    page = text(as_owner.post("/club/records/", {"players": "12", "mail": "", "try": "1"}))
    assert "1 player and 0 mails" in page
    assert NAME in page
    assert periods_of(w.club).pk is None
    assert as_owner.post("/club/records/", {"players": "0"}).status_code == 422
    as_owner.post("/club/records/", {"players": "12"})
    assert due(w.club, periods_of(w.club), today - timedelta(days=60)).nothing
    assert [p.pk for p in retain(w.club, today).players] == [zeb.pk]
    assert retain(w.club, today).nothing
    assert Receipt.objects.get().by is None
    keep_periods(member=owner, players=None, mail=1, on=today)
    assert retain(w.club, today + timedelta(days=40)).mails == 0


@pytest.mark.parametrize(
    ("on", "months", "before"),
    [
        (date(2026, 3, 31), 1, date(2026, 2, 28)),
        (date(2024, 3, 31), 1, date(2024, 2, 29)),
        (date(2026, 1, 15), 12, date(2025, 1, 15)),
        (date(2026, 1, 15), 1, date(2025, 12, 15)),
    ],
)
def test_months_back(on, months, before):
    assert months_before(on, months) == before


def test_a_note_for_the_family_is_on_the_climb_and_others_are_not(w, zeb, today):
    PlayerNote.objects.create(club=w.club, player=zeb, on=today, text="Keep it up", shared=True)
    link = zeb.links.get(opens="card").token
    page = text(Client().get(f"/card/{link}/climb/"))
    assert "Keep it up" in page
    assert "quillnote" not in page
    assert family_file(zeb, today)


def test_the_role_that_serves_empties_and_changes_no_table(db):
    """Asked of this very role, in a transaction that is taken back (docs/deploy.md: two roles)."""
    with connection.cursor() as cursor:
        cursor.execute("SELECT current_user")
        call_command("grant", cursor.fetchone()[0], verbosity=0, stdout=StringIO())
        asked = "SELECT has_table_privilege(current_user, 'history_event', %s)"
        for right, may in (("TRUNCATE", False), ("TRIGGER", False), ("INSERT", True)):
            cursor.execute(asked, [right])
            assert cursor.fetchone()[0] is may, right
