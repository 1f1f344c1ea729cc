"""Secret addresses: not in the database, not in a log, closed when they should be; what was given
out moves over.
"""

import logging
import os
import stat
from io import StringIO
from pathlib import Path
from unittest import mock

import pytest
from django.apps import apps
from django.core.management import call_command
from django.db import connection
from django.test import Client, override_settings
from django.test.utils import CaptureQueriesContext

from drill_ladder.apps.card.paper.pages import home_card
from drill_ladder.apps.people.guesses import GUESSES
from drill_ladder.apps.people.models import FEED, Club, Membership, OldSecret, Opens, User
from drill_ladder.apps.people.players import links
from drill_ladder.apps.people.secrets import fingerprint, is_signed, make_token, parts_of
from drill_ladder.demo.people import COACHES, PASSWORD
from drill_ladder.web.logs import PrivateFormatter, without_secrets
from tests.make import current, put_on, text


def old(w, token, opens="card", **more):
    return OldSecret.objects.create(
        club=w.club, fingerprint=fingerprint(token), opens=opens, **more
    )


def test_the_database_alone_opens_nothing(w):
    """No column of any table holds a secret that opens something, nor anything from which it can be
    made.
    """
    secrets = [w.token, w.calendar.split("/")[2], w.coach.feed_token]
    with connection.cursor() as cursor:
        for model in apps.get_models():
            cursor.execute(f"select t::text from {model._meta.db_table} t")  # noqa: S608
            rows = " ".join(row[0] for row in cursor.fetchall())
            assert not [
                secret for secret in secrets if secret in rows or secret.rsplit("-", 1)[1] in rows
            ], model


def test_a_secret_is_of_one_row_version_kind_and_key():
    token = make_token("card", 7, 2)
    assert parts_of(token) == (7, 2)
    assert is_signed(token, "card")
    assert not is_signed(token, "calendar")
    assert not is_signed(make_token("card", 8, 2).rsplit("-", 1)[0] + token[-41:], "card")
    for wrong in (
        "",
        "x",
        "7-2-",
        token.upper(),
        token + "0",
        "٧-2-" + token[-40:],
        "zzzzzzzzzzzzz-1-" + "0" * 40,
    ):
        assert not is_signed(wrong, "card")
    with override_settings(SECRET_KEY="another", SECRET_KEY_FALLBACKS=["only-for-tests"]):
        assert is_signed(token, "card")  # while the keys change, what is on paper still opens
        assert make_token("card", 7, 2) != token
    with override_settings(SECRET_KEY="another"):
        assert not is_signed(token, "card")


def test_the_calendar_opens_no_card_and_the_card_no_calendar(w):
    secret = w.calendar.split("/")[2]
    assert Client().get(w.calendar).status_code == 200
    assert Client().get(f"/card/{secret}/").status_code == 404
    assert Client().get(f"/calendar/{w.token}/drills.ics").status_code == 404
    assert (
        Client().post(w.calendar, {"hurts": "no"}).status_code == 200
    )  # read only: there is nothing to send to


def test_links_are_made_anew_or_closed_by_a_button_each(w, coach):
    for opens, address in (("card", lambda: f"/card/{w.token}/"), ("calendar", lambda: w.calendar)):
        first = address()
        coach.post(f"/players/{w.player.pk}/link/{opens}/")
        assert (Client().get(first).status_code, Client().get(address()).status_code) == (404, 200)
        second = address()
        coach.post(f"/players/{w.player.pk}/link/{opens}/", {"close": "1"})
        assert Client().get(second).status_code == 404
        assert links.open_link(w.player, opens) is None
        page = text(coach.get(f"/players/{w.player.pk}/family/"))
        assert second not in page
        coach.post(f"/players/{w.player.pk}/link/{opens}/")
        assert (Client().get(second).status_code, Client().get(address()).status_code) == (404, 200)
    assert coach.post(f"/players/{w.player.pk}/link/moon/").status_code == 404


def test_what_was_given_out_before_opens_once_and_leads_on(w):
    old(w, "a-random-one", player=w.player)
    old(w, "a-random-one", Opens.CALENDAR, player=w.player)
    old(w, "a-coachs-one", FEED, member=w.coach)
    moved = Client().get("/card/a-random-one/")
    assert (moved.status_code, moved.headers["Location"]) == (301, f"/card/{w.token}/")
    assert Client().get("/card/a-random-one/").status_code == 404
    assert Client().get("/card/a-random-one/calendar.ics").headers["Location"] == w.calendar
    assert Client().get("/card/a-random-one/calendar.ics").status_code == 404
    feed = Client().get("/feed/a-coachs-one/sessions.ics")
    assert feed.headers["Location"] == f"/feed/{w.coach.feed_token}/sessions.ics"
    assert Client().get("/feed/a-coachs-one/sessions.ics").status_code == 404


def test_a_new_link_closes_those_of_an_earlier_version_too(w):
    old(w, "a-random-one", player=w.player)
    links.renew_link(member=w.coach, player=w.player)
    assert Client().get("/card/a-random-one/").status_code == 404


@pytest.mark.parametrize("how", ["leaves", "is deactivated", "changes the password", "closes it"])
def test_a_members_feed_closes(w, how):
    path = f"/feed/{w.coach.feed_token}/sessions.ics"
    assert Client().get(path).status_code == 200
    user = w.coach.user
    if how == "leaves":
        w.coach.delete()
    elif how == "is deactivated":
        User.objects.filter(pk=user.pk).update(is_active=False)
    elif how == "changes the password":
        user.set_password("another long one")
        user.save()
    else:
        links.renew_feed(member=w.coach, closed=True)
    assert Client().get(path).status_code == 404


def test_a_closed_feed_is_said_and_opened_again(w, coach):
    coach.post("/feed/new/", {"close": "1"})
    w.coach.refresh_from_db()
    assert w.coach.feed_closed
    assert w.coach.feed_token not in text(coach.get("/weeks/"))
    coach.post("/feed/new/")
    w.coach.refresh_from_db()
    assert w.coach.feed_token in text(coach.get("/weeks/"))
    assert Client().get(f"/feed/{w.coach.feed_token}/sessions.ics").status_code == 200


def test_guessing_is_limited_and_the_right_link_never(w):
    client = Client()
    answers = [
        client.get(f"/card/{w.token[:-1]}{i % 10}x/").status_code for i in range(GUESSES + 2)
    ]
    assert answers[:GUESSES] == [404] * GUESSES
    assert answers[-1] == 429
    assert client.get(f"/card/{w.token}/").status_code == 200
    assert client.post(f"/card/{w.token}/hurt/", {"what": "knee"}).status_code == 302
    assert Client(REMOTE_ADDR="192.0.2.7").get("/card/x/").status_code == 404


def test_paper_shows_the_public_address(w, coach, monkeypatch):
    put_on(w)
    seen = []
    monkeypatch.setattr(
        "drill_ladder.apps.card.paper.views.home_card", lambda *a: seen.append(a[2]) or b"%PDF"
    )
    with override_settings(PUBLIC_ADDRESS="https://drills.example.org/"):
        coach.get(f"/players/{w.player.pk}/card.pdf")
        assert f"https://drills.example.org/card/{w.token}/" in text(
            coach.get(f"/players/{w.player.pk}/family/")
        )
    coach.get(f"/players/{w.player.pk}/card.pdf")
    assert seen == [
        f"https://drills.example.org/card/{w.token}/",
        f"http://testserver/card/{w.token}/",
    ]
    assert callable(home_card)


@pytest.fixture
def written():
    """What the application's own handler would write, whatever is logged during a test."""
    out = StringIO()
    handler = logging.StreamHandler(out)
    handler.setFormatter(PrivateFormatter())
    loggers = [
        logging.getLogger(name) for name in ("", "django", "django.request", "django.security")
    ]
    for logger in loggers:
        logger.addHandler(handler)
    yield out
    for logger in loggers:
        logger.removeHandler(handler)


NOTE = "left knee, told by grandmother"


@pytest.mark.parametrize("page", ["card", "block", "player", "save"])
def test_no_log_holds_a_token_a_name_or_a_note(w, coach, written, page):
    """Errors caused on pages that have all three: the error itself speaks of them, and the log does
    not.
    """
    stay = current(put_on(w))
    card = f"/card/{w.token}/"
    error = ValueError(f"{w.player.name} {NOTE} {w.token}")
    client = Client(raise_request_exception=False)
    coach.raise_request_exception = False
    if page == "save":
        target, act = (
            "people.players.views.save_player",
            lambda: coach.post(
                f"/players/{w.player.pk}/edit/",
                {"name": w.player.name, "dominant_side": "right", "note": NOTE, "revision": 1},
            ),
        )
    elif page == "player":
        target, act = (
            "progress.player.views.standings",
            lambda: coach.get(f"/players/{w.player.pk}/?told={NOTE}"),
        )
    elif page == "block":
        target, act = (
            "card.today.views.session_form",
            lambda: client.post(f"{card}{stay.pk}/", {"word": NOTE}),
        )
    else:
        target, act = "card.today.views.at_home", lambda: client.get(card)
    with mock.patch(f"drill_ladder.apps.{target}", side_effect=error):
        assert act().status_code == 500
    log = written.getvalue()
    assert "ValueError" in log
    assert "views.py:" in log
    for secret in (w.token, w.token.rsplit("-", 1)[1], "Ida", "Marlow", NOTE, "knee"):
        assert secret not in log, log


def test_what_other_programs_log_is_cleaned(w, written):
    logging.getLogger("somebody").error("Error handling request /card/%s/?told=%s", w.token, NOTE)
    logging.getLogger("somebody").error(
        "Error handling request /card/an-old-random-one/calendar.ics"
    )
    assert w.token not in written.getvalue()
    assert "an-old-random-one" not in written.getvalue()
    assert without_secrets("nothing secret, 12 of 20") == "nothing secret, 12 of 20"


def test_the_databases_log_is_its_owners_and_holds_no_values(w):
    told = {}
    with connection.cursor() as cursor:
        for name in (
            "log_min_messages",
            "log_min_error_statement",
            "log_error_verbosity",
            "log_statement",
        ):
            cursor.execute(f"show {name}")
            told[name] = cursor.fetchone()[0]
        cursor.execute("show log_parameter_max_length_on_error")
        told["parameters"] = cursor.fetchone()[0]
    assert told == {
        "log_min_messages": "fatal",
        "log_min_error_statement": "panic",
        "log_error_verbosity": "terse",
        "log_statement": "none",
        "parameters": "0",
    }
    log = Path(os.environ["PG_HOME"]) / "server.log"
    assert stat.S_IMODE(log.stat().st_mode) == 0o600


def test_the_demos_password_opens_no_club_that_is_served(db):
    """Only the published password is closed; an owner who chose another keeps it."""
    published, chosen = COACHES[0][0], COACHES[1][0]
    club = Club.objects.create(name="Own")
    for email, password in ((published, PASSWORD), (chosen, "one of my own")):
        Membership.objects.create(
            club=club, user=User.objects.create_user(email, password, "x"), role="owner"
        )
    out = StringIO()
    call_command("close_demo_accounts", stdout=out)
    assert published in out.getvalue()
    assert not User.objects.get(email=published).has_usable_password()
    assert User.objects.get(email=chosen).check_password("one of my own")
    answer = Client().post("/accounts/login/", {"login": published, "password": PASSWORD})
    assert answer.status_code == 200
    assert "not correct" in text(answer)


def test_behind_a_proxy_the_real_client_is_counted(w):
    """The sign-in limit of one client does not lock out another that comes through the same
    proxy.
    """
    wrong = {"login": "nobody@example.org", "password": "wrong one"}
    with override_settings(ALLAUTH_TRUSTED_PROXY_COUNT=1):
        for _ in range(31):
            last = Client(headers={"X-Forwarded-For": "198.51.100.1"}).post(
                "/accounts/login/", wrong
            )
        assert last.status_code == 429
        right = {"login": w.coach.user.email, "password": "a long password"}
        other = Client(headers={"X-Forwarded-For": "198.51.100.2"}).post("/accounts/login/", right)
        assert other.status_code == 302


def test_a_link_asks_the_database_little(w):
    put_on(w)
    Client().get(f"/card/{w.token}/")
    with CaptureQueriesContext(
        connection,
    ) as asked:
        Client().get(f"/card/{w.token}/")
    assert len(asked) <= 14, [q["sql"][:90] for q in asked]
