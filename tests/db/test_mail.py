"""Mail as its receiver sees it: what is worth one, who gets it, how it is stopped, what becomes of
it.
"""

from contextlib import nullcontext
from datetime import UTC, date, datetime, timedelta
from smtplib import SMTPServerDisconnected
from types import SimpleNamespace

import pytest
from django.core import mail
from django.db import connection
from django.test import Client
from django.utils import timezone
from procrastinate.contrib.django.models import ProcrastinateJob

from drill_ladder.apps.messages.letters import card_link
from drill_ladder.apps.messages.local import Mailbox
from drill_ladder.apps.messages.models import LocalMail, MailAddress, MailSettings, Message
from drill_ladder.apps.messages.occasions import mail_card
from drill_ladder.apps.messages.posting import (
    TRIES,
    NotSent,
    Receiver,
    deliver,
    hand_over_left,
    send_out,
    write,
)
from drill_ladder.apps.messages.reminders import remind
from drill_ladder.apps.people.agreements.services import agree, agrees, withdraw
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Agreement, Guardian, Squad, SquadDuty
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.progress.report.writing import draft_report, publish_report
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.publishing import publish
from drill_ladder.apps.weeks.services import solve
from tests.make import log, owner_of, put_on, text

FAMILY = "family@example.org"
MONDAY = date(2026, 3, 2)
AT = datetime(2026, 3, 2, 10, tzinfo=UTC)


@pytest.fixture
def family(w):
    Guardian.objects.filter(player=w.player).update(email=FAMILY)


@pytest.fixture
def planned(w, family):
    """A week of work at home, planned and not told yet."""
    w.player.days.create(club=w.club, weekday=1, minutes=30)
    w.player.days.create(club=w.club, weekday=3, minutes=30)
    p = put_on(w, place="home", on=MONDAY)
    solve(member=w.coach, player=w.player, monday=MONDAY)
    return p


def sent_to(address):
    return [one for one in mail.outbox if one.to == [address]]


def test_hurt_goes_at_once_to_family_and_coach_in_words_of_the_card(w, family):
    open_stop(player=w.player, what="left knee", on=MONDAY, actor=None)
    one = sent_to(FAMILY)[0]
    assert one.subject == "Ida Marlow: something hurts"
    assert "“left knee”" in one.body
    assert "is licensed" in one.body
    assert "Marlow family" in one.body
    html = one.alternatives[0].content
    assert "“left knee”" in html
    assert "List-Unsubscribe" not in one.extra_headers
    assert "/players/" in sent_to(w.coach.user.email)[0].body
    assert "/players/" not in one.body


def test_120_reports_in_a_row_are_120_rows_one_stop_and_two_mails(w, family):
    """The first one at once, the others in one mail after ten minutes, with their number."""
    for number in range(120):
        path, words = f"/card/{w.token}/hurt/", f"it hurts, {number} " + "x" * 200
        assert Client().post(path, {"what": words}).status_code == 302
    stop = Stop.objects.get()
    assert stop.reports.count() == 120
    assert len(stop.what) <= 600
    assert len(sent_to(FAMILY)) == 1
    assert Message.objects.filter(kind="hurt").count() == 4  # two receivers, two mails each
    now = timezone.now()
    hand_over_left(now + timedelta(minutes=2), now + timedelta(minutes=2))
    assert len(sent_to(FAMILY)) == 1
    hand_over_left(now + timedelta(minutes=11), now + timedelta(minutes=11))
    assert len(sent_to(FAMILY)) == 2
    assert "119 more times" in sent_to(FAMILY)[1].body
    assert "it hurts, 119" in sent_to(w.coach.user.email)[1].body


def test_the_same_words_without_an_id_are_one_report(w, family):
    for words in ("knee", "knee"):
        open_stop(player=w.player, what=words, on=MONDAY, actor=None)
    assert Stop.objects.get().reports.count() == 1


def test_a_report_after_ten_quiet_minutes_is_a_mail_at_once(w, family):
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    Message.objects.update(made_at=timezone.now() - timedelta(minutes=11))
    open_stop(player=w.player, what="hip", on=MONDAY, actor=None)
    assert len(sent_to(FAMILY)) == 2


def test_coaches_are_those_of_the_squad_and_else_all(w, family):
    owner = owner_of(w.club)
    squad = Squad.objects.create(club=w.club, name="Juniors")
    w.player.squad = squad
    w.player.save()
    SquadDuty.objects.create(club=w.club, member=w.coach, squad=squad)
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    assert sent_to(w.coach.user.email)
    assert not sent_to(owner.user.email)
    assert not sent_to(w.assistant.user.email)


def test_cleared_says_by_whom(w, family):
    stop = open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    end_stop(member=w.coach, stop=stop, cleared_by="Dr Brook", on=MONDAY)
    assert "Cleared by: Dr Brook" in sent_to(FAMILY)[-1].body


def test_a_hurt_is_stored_when_no_mail_can_be_written(w, family, monkeypatch, caplog):
    def broken(**_):
        raise RuntimeError("no outbox")

    monkeypatch.setattr("drill_ladder.apps.messages.occasions.write", broken)
    assert open_stop(player=w.player, what="knee", on=MONDAY, actor=None).pk
    assert w.player.is_resting
    assert not Message.objects.exists()


def test_a_week_is_told_and_a_change_says_what_is_another(w, planned):
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    first = sent_to(FAMILY)[0]
    assert first.subject == "Ida Marlow's week from 2 March"
    card = text(Client().get(f"/card/{w.token}/"))
    assert f"/card/{w.token}/" in first.body
    assert "Gate 1" in first.body
    assert "Gate 1" in card
    block = Week.objects.get().blocks.first()
    block.delete()
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT + timedelta(minutes=1))
    second = sent_to(FAMILY)[1]
    assert second.subject == "Ida Marlow's week has changed"
    line = Week.objects.get().told[-1].lines[0]
    assert line in second.body


def test_no_home_work_is_told_where_the_agreement_was_taken_back(w, planned):
    row = agree(member=w.coach, player=w.player, what="home", by="A. Marlow", on=MONDAY)
    withdraw(member=w.coach, agreement=row, on=MONDAY)
    with pytest.raises(Refused, match="withdrawn"):
        publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    agree(member=w.coach, player=w.player, what="home", by="A. Marlow", on=MONDAY)
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    assert len(sent_to(FAMILY)) == 1


def test_a_family_stops_it_without_signing_in_and_hurt_still_comes(w, planned):
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    one = sent_to(FAMILY)[0]
    address = MailAddress.objects.get(email=FAMILY)
    assert f"/mail/{address.token}/" in one.body
    assert (
        one.extra_headers["List-Unsubscribe"]
        == f"<http://127.0.0.1:8000/mail/{address.token}/now/>"
    )
    page = Client(enforce_csrf_checks=True)
    assert FAMILY in text(page.get(f"/mail/{address.token}/"))
    assert page.post(f"/mail/{address.token}/now/").status_code == 302
    assert "None of these comes" in text(page.get(f"/mail/{address.token}/"))
    Week.objects.get().blocks.first().delete()
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT + timedelta(minutes=1))
    assert len(sent_to(FAMILY)) == 1
    assert Message.objects.filter(fate="stopped").count() == 1
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    assert len(sent_to(FAMILY)) == 2
    assert Client().get(f"/mail/{address.token[:-1]}x/").status_code == 404
    Client().post(f"/mail/{address.token}/", {"kinds": ["week"]})
    address.refresh_from_db()
    assert "week" not in address.stopped


def test_a_report_goes_by_mail_where_a_guardian_agreed(w, family, today):
    log(put_on(w, on=today - timedelta(days=9)), today, 8, 8)
    report = draft_report(member=w.coach, player=w.player, on=today, since=today)
    publish_report(member=w.coach, report=report, at=AT)
    assert not sent_to(FAMILY)
    given_ = agree(member=w.coach, player=w.player, what="reports", by="A. Marlow", on=today)
    publish_report(member=w.coach, report=report, at=AT)
    link = f"/card/{w.token}/report/{report.pk}/"
    assert link in sent_to(FAMILY)[0].body
    assert Client().get(link).status_code == 200
    withdraw(member=w.coach, agreement=given_, on=today)
    assert not agrees(w.player, "reports", today)
    with pytest.raises(Refused, match="already"):
        withdraw(member=w.coach, agreement=given_, on=today)


def at_hour(day, hour):
    return datetime(2026, 3, day, hour, tzinfo=UTC)


def test_a_reminder_is_off_by_default_wanted_once_a_week_and_never_in_the_evening(w, planned):
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    mail.outbox.clear()
    thursday = 5
    assert remind(w.club, at_hour(thursday, 16)) == 0  # nobody agreed
    agree(member=w.coach, player=w.player, what="reminder", by="A. Marlow", on=MONDAY)
    remind(w.club, at_hour(thursday, 16))
    assert not sent_to(FAMILY)  # the club has not switched it on
    Message.objects.filter(kind="reminder").delete()
    MailSettings.objects.create(club=w.club, kinds=["reminder"])
    assert remind(w.club, at_hour(thursday, 20)) == 0
    assert remind(w.club, at_hour(thursday, 23)) == 0
    assert remind(w.club, at_hour(3, 16)) == 0  # a Tuesday
    assert remind(w.club, at_hour(thursday, 19)) == 1
    assert "Gate" in sent_to(FAMILY)[0].body
    assert remind(w.club, at_hour(thursday + 1, 10)) == 0
    assert len(sent_to(FAMILY)) == 1


def test_no_reminder_for_who_rests_or_has_done_it(w, planned):
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT)
    agree(member=w.coach, player=w.player, what="reminder", by="A. Marlow", on=MONDAY)
    MailSettings.objects.create(club=w.club, kinds=["reminder"])
    for block in Week.objects.get().published:
        log(planned, block.on, 4, 4)
    assert remind(w.club, at_hour(5, 16)) == 0
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    assert remind(w.club, at_hour(5, 16)) == 0


def test_the_link_of_the_card_by_mail(w, coach, family):
    assert coach.post(f"/players/{w.player.pk}/mail-card/").status_code == 302
    assert f"/card/{w.token}/" in sent_to(FAMILY)[0].body
    Guardian.objects.update(email="")
    with pytest.raises(Refused, match="mail address"):
        mail_card(member=w.coach, player=w.player)


@pytest.mark.parametrize(
    ("tried", "fate"), [(0, "waiting"), (TRIES - 2, "waiting"), (TRIES - 1, "failed")]
)
def test_a_worker_gives_up_with_the_last_try_and_not_before(
    w, family, monkeypatch, settings, tried, fate
):
    settings.JOBS_INLINE = False
    letter = card_link(w.player, w.token, "1")
    row = write(club=w.club, letter=letter, to=[Receiver("A", FAMILY)], player=w.player)[0]

    def away(self, fail_silently=False):
        raise SMTPServerDisconnected("connection lost")

    monkeypatch.setattr("django.core.mail.message.EmailMessage.send", away)
    asked = SimpleNamespace(job=SimpleNamespace(attempts=tried))
    with pytest.raises(NotSent) if fate == "waiting" else nullcontext():
        send_out(asked, row.pk)
    row.refresh_from_db()
    assert row.fate == fate


def test_what_fails_is_tried_again_given_up_and_sent_by_hand(w, coach, monkeypatch, settings):
    settings.JOBS_INLINE = False
    letter = card_link(w.player, w.token, "1")
    row = write(club=w.club, letter=letter, to=[Receiver("A", FAMILY)], player=w.player)[0]

    def away(self, fail_silently=False):
        raise SMTPServerDisconnected("connection lost")

    with monkeypatch.context() as patch:
        patch.setattr("django.core.mail.message.EmailMessage.send", away)
        assert deliver(row.pk, last=False) == "waiting"
        assert deliver(row.pk, last=True) == "failed"
    page = text(coach.get(f"/club/outbox/{row.pk}/"))
    assert "connection lost" in page
    assert "2 times" in page
    settings.JOBS_INLINE = True
    coach.post(f"/club/outbox/{row.pk}/send/")
    row.refresh_from_db()
    assert (row.fate, row.error) == ("sent", "")
    assert len(sent_to(FAMILY)) == 1
    coach.post(f"/club/outbox/{row.pk}/send/")
    coach.post(f"/club/outbox/{row.pk}/back/")
    assert len(sent_to(FAMILY)) == 1
    assert deliver(row.pk, last=True) == "sent"


def test_what_was_left_by_a_killed_worker_is_handed_over_again_once(w, settings):
    settings.JOBS_INLINE = False
    row = write(club=w.club, letter=card_link(w.player, w.token, "1"), to=[Receiver("A", FAMILY)])[
        0
    ]
    jobs = ProcrastinateJob.objects.filter(task_name="send_out")
    assert jobs.count() == 1
    later = row.made_at + timedelta(minutes=2)
    assert hand_over_left(later, later) == 1
    assert jobs.count() == 1  # its work is there still
    with connection.cursor() as cursor:
        cursor.execute("UPDATE procrastinate_jobs SET status = 'failed'")
    assert hand_over_left(row.made_at, later) == 0
    assert hand_over_left(later, later) == 1
    assert jobs.filter(status="todo").count() == 1
    assert deliver(row.pk, last=False) == "sent"
    assert hand_over_left(later, later) == 0


def test_the_same_thing_is_written_once(w):
    letter = card_link(w.player, w.token, "1")
    to = [Receiver("A", FAMILY), Receiver("B", "Family@example.org "), Receiver("", "")]
    assert len(write(club=w.club, letter=letter, to=to)) == 1
    assert write(club=w.club, letter=letter, to=to) == []
    assert len(mail.outbox) == 1


def test_held_until_somebody_looked_but_never_what_hurts(w, coach, family):
    coach.post("/club/outbox/", {"kinds": ["week"], "look_first": "on"})
    row = mail_card(member=w.coach, player=w.player)[0]
    assert row.fate == "held"
    assert not mail.outbox
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    assert len(sent_to(FAMILY)) == 1
    coach.post(f"/club/outbox/{row.pk}/send/")
    assert len(sent_to(FAMILY)) == 2


def test_words_of_people_stay_words(w, family):
    Guardian.objects.update(name="<b>Eve</b>")
    open_stop(player=w.player, what="<script>x</script>", on=MONDAY, actor=None)
    html = sent_to(FAMILY)[0].alternatives[0].content
    assert "<script>" not in html
    assert "&lt;b&gt;Eve&lt;/b&gt;" in html
    assert "<b>Eve</b>" in sent_to(FAMILY)[0].body


def test_the_outbox_previews_and_searches(w, coach, family):
    mail_card(member=w.coach, player=w.player)
    row = Message.objects.get()
    answer = coach.get(f"/club/outbox/{row.pk}/mail.html")
    assert "sandbox" in answer.headers["Content-Security-Policy"]
    assert answer.headers["X-Frame-Options"] == "SAMEORIGIN"
    assert text(answer) == mail.outbox[0].alternatives[0].content
    assert FAMILY in text(coach.get("/club/outbox/?q=family&fate=sent"))
    assert FAMILY not in text(coach.get("/club/outbox/?q=nothing+like+it"))


def test_the_local_mailbox_shows_a_mail_as_it_arrives(w, family, settings):
    settings.EMAIL_BACKEND = "drill_ladder.apps.messages.local.Mailbox"
    mail_card(member=w.coach, player=w.player)
    row = LocalMail.objects.get()
    owner = Client()
    owner.force_login(owner_of(w.club).user)
    assert row.subject in text(owner.get("/club/mailbox/"))
    assert f"/card/{w.token}/" in text(owner.get(f"/club/mailbox/{row.pk}/"))
    assert f"/card/{w.token}/" in text(owner.get(f"/club/mailbox/{row.pk}/mail.html"))
    assert Mailbox().send_messages([]) == 0


def test_agreements_are_noted_shown_and_withdrawn(w, coach):
    path = f"/players/{w.player.pk}/agreements/"
    assert "Marlow family" in text(coach.get(path))
    good = {"what": "boards", "by": "A. Marlow", "on": "2026-03-01"}
    assert coach.post(path, good | {"on": "2099-01-01"}).status_code == 422
    assert coach.post(path, good | {"by": ""}).status_code == 422
    assert coach.post(path, good).status_code == 302
    assert coach.post(path, good).status_code == 422
    row = Agreement.objects.get()
    assert "A. Marlow, 1 March 2026" in text(coach.get(path))
    coach.post(f"/agreements/{row.pk}/withdraw/")
    row.refresh_from_db()
    assert row.withdrawn_on is not None
