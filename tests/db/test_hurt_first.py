"""A report of hurt is never lost: whatever else is wrong with the form, whoever sends it, however
often.
"""

import json
from datetime import timedelta
from unittest import mock
from urllib.parse import quote_plus
from uuid import uuid4

import pytest
from django.test import Client
from django.utils import timezone

from drill_ladder.apps.people.players.links import close_link, renew_link
from drill_ladder.apps.practice.models import HurtReport, Session, SetRow, Stop
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.prescriptions.changes.differences import CHANGES  # noqa: F401  the app is loaded
from tests.db.test_pages import BOTH, card_post, form_of
from tests.make import current, drill, ladder, put_on, text

WORDS = "left knee, since the second set"


def ended(w, today):
    """Every open stop ended by the coach."""
    for stop in Stop.objects.open():
        end_stop(member=w.coach, stop=stop, cleared_by="physio", on=today)


def told():
    """What coaches are told now, in order."""
    return list(
        HurtReport.objects.filter(stop__ended_on__isnull=True).values_list("words", flat=True)
    )


def test_a_second_hurt_the_same_day_after_the_first_was_cleared(w, today):
    """(a) the card's draft sends the number of the session that came with the first one."""
    stay = current(put_on(w))
    _, sent, path = card_post(w, stay, hurts="yes", hurt_where="ankle")
    ended(w, today)
    Client().post(path, sent | {"hurt_where": "wrist"})
    assert told() == ["wrist"]
    ended(w, today)
    Client().post(
        path, sent | {"hurt_where": "wrist"}
    )  # the same words, after they were cleared: it hurts again
    assert told() == ["wrist"]


def test_a_known_session_that_comes_again_with_a_hurt(w):
    """(b) the answer got lost, and it began to hurt meanwhile."""
    _, sent, path = card_post(w, current(put_on(w)), **BOTH)
    answer = Client().post(path, sent | {"hurts": "yes", "hurt_where": WORDS})
    assert told() == [WORDS]
    assert Session.objects.count() == 1
    page = text(Client().get(answer.headers["Location"]))
    assert "Your coach will see this:" in page
    assert f'data-told="{WORDS}"' in page


def test_a_different_report_while_a_stop_is_open(w):
    """(c) it is added, with its time; the same one twice is one."""
    put_on(w)
    for words in ("ankle", "ankle", "and my head, I fell"):
        page = text(Client().post(f"/card/{w.token}/hurt/", {"what": words}, follow=True))
        assert words in page
    assert told() == ["ankle", "and my head, I fell"]
    assert Stop.objects.get().what == "ankle; and my head, I fell"
    first, second = HurtReport.objects.all()
    assert first.at < second.at


def test_an_adult_only_drill_without_the_adults_tick(w):
    """(d) the session is refused, the report is not; what was counted comes back."""
    w.player.home_adult = True
    w.player.save()
    steps = ladder(w.club, drill(w.club, "Clear", caution="home_with_adult"), "Clears")
    answer, _, _ = card_post(
        w, current(put_on(w, ladder=steps, place="home")), hurts="yes", hurt_where=WORDS, **BOTH
    )
    page = text(answer)
    assert (answer.status_code, told(), Session.objects.count()) == (422, [WORDS], 0)
    assert WORDS in page
    assert "An adult has to be there" in page
    assert 'value="9"' in page


@pytest.mark.parametrize(
    "fault",
    [
        {"e0-makes": "11"},
        {"e0-makes": "many"},
        {"e0-makes": "9" * 5000},
        {"e0-makes": "²"},
        {"e0-id": "not an id"},
        {"word": "w" * 501},
        {"word": "nul \x00"},
        {"effort": "11"},
        {"seen_by": "nobody"},
        {"session_id": ""},
        {"session_id": "not an id"},
        {"e0-faults": "x" * 9000},
        {"e0-strokes": "g" * 9000},
    ],
)
def test_any_other_fault_in_the_form(w, fault):
    """(e) the report is told, the page says so, and shows the fault besides."""
    sent = BOTH | {"hurts": "yes", "hurt_where": WORDS} | fault
    answer, _, _ = card_post(w, current(put_on(w)), **sent)
    assert told() == [WORDS]
    page = text(answer if answer.status_code == 422 else Client().get(answer.headers["Location"]))
    assert "Your coach will see this:" in page
    assert WORDS in page


LONG = "It began when I landed and " * 30


@pytest.mark.parametrize(
    ("sent", "kept"),
    [
        (LONG, f"{LONG[:299].rstrip()}…"),
        ("left\x00 knee\n\tsince  Monday", "left knee since Monday"),
        ("knee \u202eworse", "knee worse"),
        ("", "Something hurts"),
        ("\x00", "Something hurts"),
        ("👍🏽 no: 👎", "👍🏽 no: 👎"),
        ("\u200b \u2060", "Something hurts"),
    ],
)
def test_the_buttons_take_words_of_any_kind(w, coach, sent, kept):
    """(f) from the card and from the coach's pages."""
    put_on(w)
    assert kept in text(Client().post(f"/card/{w.token}/hurt/", {"what": sent}, follow=True))
    assert told() == [kept]
    Stop.objects.all().delete()
    for address, more in (
        (f"/players/{w.player.pk}/stop/", {}),
        ("/stops/new/", {"player": w.player.pk}),
    ):
        page = text(coach.post(address, {"what": sent} | more, follow=True))
        words = kept if kept != "Something hurts" else "Stopped by the coach"
        assert words in page
        assert told() == [words]
        Stop.objects.all().delete()


def raw(client, path, body, **more):
    return client.generic(
        "POST", path, body, content_type="application/x-www-form-urlencoded", **more
    )


@pytest.mark.parametrize("size", [2600, 60_000])
def test_no_form_is_too_large_to_hold_a_report(w, coach, size):
    """(g) more fields, or more bytes, than the server takes."""
    stay = current(put_on(w))
    rows = "&".join(f"e{i}-seconds=2.5&e{i}-faults=&e{i}-strokes={'g' * 40}" for i in range(size))
    body = f"session_id={uuid4()}&{rows}&hurts=yes&hurt_where={quote_plus(WORDS)}"
    answer = raw(Client(enforce_csrf_checks=True), f"/card/{w.token}/{stay.pk}/", body)
    assert (answer.status_code, told()) == (422, [WORDS])
    assert "too much for one form" in text(answer)
    assert WORDS in text(answer)
    Stop.objects.all().delete()
    answer = raw(coach, f"/log/{stay.pk}/", body)
    assert (answer.status_code, told()) == (422, [WORDS])


def test_a_large_form_still_needs_its_token(w):
    """What makes room for a report opens no door: another site cannot stop a player through a
    coach's browser.
    """
    stay = current(put_on(w))
    client = Client(enforce_csrf_checks=True)
    client.force_login(w.coach.user)
    body = "&".join(["hurts=yes", *(f"e{i}-makes=1" for i in range(3000))])
    assert raw(client, f"/log/{stay.pk}/", body).status_code == 403
    assert told() == []


def test_five_sets_of_140_trials_are_a_page_that_can_be_sent(w, today):
    """The form that lost reports: it takes 200 rows at once now, and the day's sessions count
    together.
    """
    sprint = drill(w.club, "Sprint", measure={"kind": "time", "score_by": "best"}, lanes=[])
    timed = ladder(
        w.club, sprint, "Sprints", dose={"sets": 5, "reps": 140}, target={"value": 5.0}, floor=9.0
    )
    stay = current(put_on(w, ladder=timed, place="home"))
    page = text(Client().get(f"/card/{w.token}/{stay.pk}/"))
    assert page.count('<fieldset class="entry"') == 200
    assert "for the other 500" in page
    sent = {f"e{i}-seconds": "5.5" for i in range(200)} | {
        "session_id": str(uuid4()),
        "hurts": "no",
    }
    assert Client().post(f"/card/{w.token}/{stay.pk}/", sent).status_code == 302
    assert SetRow.objects.count() == 200


@pytest.mark.parametrize(
    ("hurts", "where", "heard"),
    [
        ("no", "", False),
        ("no", "nowhere", False),
        ("no", "Nothing.", False),
        ("no", "my knee a bit", True),
        ("", "my knee", True),
        ("", "", False),
        ("yes", "nothing", True),
        ("on", "", True),
    ],
)
def test_what_counts_as_a_report(w, hurts, where, heard):
    """Words under "where?" are one even beside a "no" from a hurried thumb."""
    card_post(w, current(put_on(w)), **BOTH | {"hurts": hurts, "hurt_where": where})
    assert bool(told()) is heard


def test_an_old_link_still_carries_a_report(w):
    """A closed link shows nothing, but a child who has it open in the yard is heard."""
    put_on(w)
    for change in (renew_link, close_link):
        old = w.token
        change(member=w.coach, player=w.player)
        assert Client().get(f"/card/{old}/").status_code == 404
        answer = Client().post(
            f"/card/{old}/hurt/", {"what": "x", "hurts": "yes", "hurt_where": WORDS}
        )
        assert f"Your coach will see this: <strong>“{WORDS}”" in text(answer)
        assert "Ida" not in text(answer)
        renew_link(member=w.coach, player=w.player)
    assert told() == [WORDS]


def test_a_block_that_is_gone_from_the_card_still_carries_a_report(w, today):
    """The page was open while the coach made it a coached one."""
    p = put_on(w)
    stay = current(p)
    _, sent, path = card_post(w, stay)
    p.place = "coached"
    p.save()
    assert Client().post(path, sent).status_code == 404
    page = text(Client().post(path, sent | {"hurts": "yes", "hurt_where": WORDS}, follow=True))
    assert WORDS in page


def test_a_log_whose_ladder_has_ended_still_carries_a_report(w, coach):
    p = put_on(w)
    stay = current(p)
    sent = (
        form_of(text(coach.get(f"/log/{stay.pk}/"))) | BOTH | {"hurts": "yes", "hurt_where": WORDS}
    )
    coach.post(f"/prescriptions/{p.pk}/end/")
    assert WORDS in text(coach.post(f"/log/{stay.pk}/", sent, follow=True))
    assert told() == [WORDS]


def test_the_report_is_committed_before_the_session_is_tried(w, transactional_db):
    """An error of our own while the session is stored takes nothing of the report with it."""
    stay = current(put_on(w))
    client = Client(raise_request_exception=False)
    sent = (
        form_of(text(client.get(f"/card/{w.token}/{stay.pk}/")))
        | BOTH
        | {"hurts": "yes", "hurt_where": WORDS}
    )
    stored = "drill_ladder.apps.practice.sessions.log_page.record_session"
    with mock.patch(stored, side_effect=RuntimeError):
        answer = client.post(f"/card/{w.token}/{stay.pk}/", sent)
    assert answer.status_code == 500
    assert told() == [WORDS]
    assert WORDS in text(answer)


def test_a_card_needs_no_cookie_to_be_heard(w):
    """Cookies blocked or thrown away: the secret link is what lets somebody in."""
    put_on(w)
    Client(enforce_csrf_checks=True).post(f"/card/{w.token}/hurt/", {"what": WORDS})
    assert told() == [WORDS]


def test_a_device_that_asks_first_is_answered_plainly(w, coach):
    put_on(w)
    for client, address in (
        (Client(), f"/card/{w.token}/hurt/"),
        (coach, f"/players/{w.player.pk}/stop/"),
    ):
        answer = client.post(
            address, {"what": f" {WORDS} "}, headers={"Accept": "application/json"}
        )
        assert json.loads(answer.content) == {"told": WORDS}
    assert told() == [WORDS]


def test_a_player_that_was_not_chosen_keeps_the_words(w, coach):
    answer = coach.post("/stops/new/", {"what": WORDS})
    assert (answer.status_code, f'value="{WORDS}"' in text(answer), told()) == (422, True, [])
    for strange in ("²", "9" * 40, "-1"):
        assert coach.post("/stops/new/", {"what": WORDS, "player": strange}).status_code == 422


def test_a_stop_is_ended_once_by_one_coach_who_has_read_it_all(w, coach, today):
    stop = open_stop(player=w.player, what="knee", on=today, actor=None)
    seen = form_of(text(coach.get(f"/stops/{stop.pk}/end/")))
    open_stop(player=w.player, what="and my head", on=today, actor=None)
    answer = coach.post(f"/stops/{stop.pk}/end/", seen | {"cleared_by": "physio"})
    assert (answer.status_code, "and my head" in text(answer)) == (422, True)
    assert Stop.objects.open().count() == 1
    again = form_of(text(coach.get(f"/stops/{stop.pk}/end/")))
    coach.post(f"/stops/{stop.pk}/end/", again | {"cleared_by": "physio"})
    late = coach.post(f"/stops/{stop.pk}/end/", again | {"cleared_by": "somebody else"})
    assert "ended already by Ruth" in text(late)
    assert Stop.objects.get().cleared_by == "physio"
    assert "nothing left to end" in text(coach.get(f"/stops/{stop.pk}/end/"))


# --- a report has an id and a time of its own


def hurt_by(w, **sent):
    return Client().post(f"/card/{w.token}/hurt/", sent, headers={"accept": "application/json"})


def test_sent_again_after_the_stop_was_ended_it_opens_nothing(w, today):
    sent = {"what": "ankle", "report": str(uuid4())}
    for _ in range(2):
        assert hurt_by(w, **sent).json() == {"told": "ankle"}
    assert HurtReport.objects.count() == 1
    ended(w, today)
    assert hurt_by(w, **sent).json() == {"told": "ankle"}
    assert told() == []
    hurt_by(w, what="ankle", report=str(uuid4()))  # told anew, it is a new one
    assert told() == ["ankle"]


def test_the_same_id_of_another_player_is_another_report(w, other):
    sent = {"what": "ankle", "report": str(uuid4())}
    hurt_by(w, **sent)
    hurt_by(other, **sent)
    assert Stop.objects.open().count() == 2


def test_it_is_dated_by_when_it_was_told_by_the_servers_clock(w, today):
    """Told three hours ago on a phone whose clock is a day ahead."""
    now = timezone.now()
    device = now + timedelta(days=1)
    at = (device - timedelta(hours=3)).isoformat()
    hurt_by(w, what="ankle", report=str(uuid4()), told_at=at, device_now=device.isoformat())
    report = HurtReport.objects.get()
    assert abs(report.at - (now - timedelta(hours=3))) < timedelta(minutes=1)
    assert Stop.objects.get().opened_on == timezone.localdate(report.at)


@pytest.mark.parametrize("junk", ["", "soon", "9999-12-31T23:59:59Z", "2026-11-26", "9" * 400])
def test_a_time_that_is_none_is_now(w, junk):
    hurt_by(w, what="ankle", report=junk, told_at=junk, device_now=junk)
    assert abs(HurtReport.objects.get().at - timezone.now()) < timedelta(minutes=1)


def test_a_report_of_before_is_added_to_the_open_stop_with_its_own_day(w, today):
    hurt_by(w, what="ankle")
    at = (timezone.now() - timedelta(days=2)).isoformat()
    hurt_by(w, what="knee", report=str(uuid4()), told_at=at, device_now=timezone.now().isoformat())
    assert Stop.objects.get().opened_on == today - timedelta(days=2)


# --- in whatever form it is sent

PARTS = "".join(
    f'--x\r\nContent-Disposition: form-data; name="f{n}"\r\n\r\n{n}\r\n' for n in range(4100)
)
LAST = '--x\r\nContent-Disposition: form-data; name="what"\r\n\r\nleft knee\r\n--x--\r\n'


@pytest.mark.parametrize(
    ("body", "kind"),
    [
        (PARTS + LAST, "multipart/form-data; boundary=x"),
        ("what=left+knee".encode("utf-16"), "application/x-www-form-urlencoded; charset=utf-16"),
        ("what=left+knee", "application/x-www-form-urlencoded; charset=latin-1"),
        ("what=left+knee", "application/x-www-form-urlencoded; charset=klingon"),
        (json.dumps({"what": "left knee", "more": [1]}), "application/json"),
        ("more=1\nwhat=left knee", "text/plain"),
        ("&".join(f"f{n}={n}" for n in range(4100)) + "&what=left+knee", None),
    ],
)
def test_a_report_comes_in_in_whatever_form(w, coach, body, kind):
    kind = kind or "application/x-www-form-urlencoded"
    for client, path in (
        (Client(), f"/card/{w.token}/hurt/"),
        (coach, f"/players/{w.player.pk}/stop/"),
    ):
        HurtReport.objects.all().delete()
        Stop.objects.all().delete()
        sent = body if isinstance(body, bytes) else body.encode()
        assert client.generic("POST", path, sent, kind).status_code in (200, 302)
        assert told() == ["left knee"]
