"""Deactivated accounts, a database that is away, addresses that lead nowhere: each is answered with
a sentence.
"""

import json
from unittest import mock

import pytest
from django.core.management import call_command
from django.db import InterfaceError, OperationalError
from django.db.backends.base.base import BaseDatabaseWrapper
from django.test import Client

from drill_ladder.apps.people.models import User
from tests.make import PASSWORD, put_on, text

AWAY = "The program cannot reach its data just now."


def test_a_deactivated_account_is_told_so(w):
    User.objects.filter(pk=w.coach.user.pk).update(is_active=False)
    sent = {"login": w.coach.user.email, "password": PASSWORD}
    answer = Client().post("/accounts/login/", sent, follow=True)
    assert answer.status_code == 200
    assert "This account is not active" in text(answer)
    signed_in = Client()
    signed_in.force_login(w.coach.user)
    assert signed_in.get("/").status_code == 302


@pytest.mark.parametrize("path", ["/", "/accounts/login/", "/card/x/", "/nowhere/", "/players/"])
@pytest.mark.parametrize("error", [OperationalError, InterfaceError])
def test_while_the_database_is_away_every_address_says_so(w, coach, path, error):
    """With a page that asks nothing of the database, and JSON for who wants JSON."""
    with mock.patch.object(BaseDatabaseWrapper, "ensure_connection", side_effect=error):
        page = coach.get(path)
        data = coach.get(path, headers={"Accept": "application/json"})
    assert (page.status_code, data.status_code) == (503, 503)
    assert AWAY in text(page)
    assert json.loads(data.content)["error"] == AWAY
    assert page.headers["Retry-After"] == "30"
    assert coach.get("/").status_code == 200


def test_a_report_that_met_no_database_is_said_not_to_have_arrived(w):
    put_on(w)
    address = f"/card/{w.token}/hurt/"
    with mock.patch.object(BaseDatabaseWrapper, "ensure_connection", side_effect=OperationalError):
        answer = Client().post(address, {"what": "left knee"})
    assert answer.status_code == 503
    assert "“left knee” did not reach the coach." in text(answer)


def test_a_database_that_goes_away_in_the_middle_is_no_fault_of_ours(w):
    client = Client(raise_request_exception=False)
    with mock.patch("drill_ladder.apps.card.today.views.at_home", side_effect=OperationalError):
        assert client.get(f"/card/{w.token}/").status_code == 503


def test_connections_are_checked_before_they_are_used_again(settings):
    assert settings.DATABASES["default"]["CONN_HEALTH_CHECKS"] is True


@pytest.mark.parametrize(
    "path",
    ["/card/a%00b/", "/%00", "/players/1%0a/", "/plans/shape/%0d%0a/", "/drills/%E2%80%AE1/"],
)
def test_an_address_with_signs_that_cannot_be_leads_nowhere(w, coach, path):
    answer = coach.get(path)
    assert answer.status_code == 404
    assert "Not here" in text(answer)


def test_the_demo_says_the_link_of_the_day(w, capsys):
    call_command("demo_card", port=8000)
    told = capsys.readouterr().out
    assert "Drill Ladder runs at" in told


def test_an_upload_that_is_too_large_is_refused_before_it_is_read(coach):
    """By its announced length: nothing of it is written to a disk."""
    answer = coach.generic(
        "POST", "/library/in/", b"x" * 6_000_001, content_type="multipart/form-data; boundary=x"
    )
    assert (answer.status_code, "larger than 6 MB" in text(answer)) == (413, True)


def test_a_form_of_too_many_fields_is_answered_with_a_sentence(coach):
    body = "&".join(f"a{i}=1" for i in range(5000))
    for path in ("/players/new/", "/library/in/"):
        answer = coach.generic("POST", path, body, content_type="application/x-www-form-urlencoded")
        assert (answer.status_code, "Nothing was stored" in text(answer)) == (400, True)
