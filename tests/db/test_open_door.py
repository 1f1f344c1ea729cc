"""The open door: tokens that open what they name and nothing else, sessions once, results by
cursor; and the whole schema under random requests.
"""

import json
from datetime import timedelta
from uuid import uuid4

import pytest
import schemathesis
from django.core.cache import cache
from django.core.signals import request_finished, request_started
from django.db import close_old_connections
from django.test import Client
from django.utils import timezone
from hypothesis import HealthCheck, settings

from drill_ladder.apps.api import door
from drill_ladder.apps.api.rows import PAGE
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AccessToken, Membership
from drill_ladder.apps.people.team.tokens import make_access, revoke_access
from drill_ladder.apps.practice.models import Felt, Session
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.practice.work.building import work_of
from drill_ladder.formats.work_words import work_document
from drill_ladder.web.wsgi import application
from tests.make import current, log, put_on, text

ALL = ["players", "names", "ladders", "standings", "results", "sessions", "gate"]


@pytest.fixture
def owner(w):
    Membership.objects.filter(pk=w.coach.pk).update(role="owner")
    w.coach.refresh_from_db()
    return w.coach


@pytest.fixture(autouse=True)
def _fresh(db):
    cache.clear()


class Tool:
    """A tool with a token."""

    def __init__(self, owner, *scopes):
        self.token, self.secret = make_access(member=owner, name="Tool", scopes=scopes or ALL)
        self.client = Client(headers={"Authorization": f"Bearer {self.secret}"})

    def get(self, path):
        return self.client.get(f"/api/v1{path}")

    def post(self, path, body):
        return self.client.post(f"/api/v1{path}", json.dumps(body), "application/json")


def test_a_secret_is_shown_once_and_kept_nowhere(owner, coach):
    page = text(coach.post("/open-door/", {"name": "Scales", "scopes": ["results"]}))
    token = AccessToken.objects.get()
    secret = page.split('class="secret">')[1].split("<")[0]
    assert secret.startswith("dl_")
    assert secret not in str(token.__dict__)
    again = text(coach.get("/open-door/"))
    assert secret not in again
    assert token.start in again
    assert all(secret not in str(e.details) for e in Event.objects.all())


def test_only_the_owner_makes_and_revokes(w, owner, coach):
    tool = Tool(owner)
    Membership.objects.filter(pk=owner.pk).update(role="coach")
    assert coach.get("/open-door/").status_code == 403
    assert coach.post(f"/open-door/{tool.token.pk}/revoke/").status_code == 403
    with pytest.raises(Refused, match="owner"):
        make_access(member=w.assistant, name="x", scopes=["gate"])


def test_a_revoked_or_wrong_token_opens_nothing(owner):
    tool = Tool(owner)
    assert tool.get("/players").status_code == 200
    revoke_access(member=owner, token=tool.token)
    assert tool.get("/players").status_code == 401
    assert Client().get("/api/v1/players").status_code == 401
    wrong = Client(headers={"Authorization": "Bearer dl_x"})
    assert wrong.get("/api/v1/players").status_code == 401


@pytest.mark.parametrize("scope", ALL)
def test_a_token_does_what_it_names_and_nothing_else(owner, scope):
    tool = Tool(owner, scope)
    doors = {
        "players": lambda: tool.get("/players"),
        "ladders": lambda: tool.get("/ladders"),
        "standings": lambda: tool.get("/standings"),
        "results": lambda: tool.get("/results"),
        "sessions": lambda: tool.post("/sessions", {}),
        "gate": lambda: tool.post("/gate/messages", {}),
    }
    for name, come in doors.items():
        assert (come().status_code == 403) is (name != scope), name


def test_names_are_for_tokens_that_may_see_them(w, owner):
    plain = Tool(owner, "players").get("/players").json()
    assert plain == [{"id": w.player.pk, "initials": "IM", "squad": "", "name": None}]
    assert Tool(owner, "players", "names").get("/players").json()[0]["name"] == "Ida Marlow"


def test_another_clubs_rows_are_never_there(w, other, owner, today):
    theirs = put_on(other, on=today)
    mine = put_on(w, on=today)
    tool = Tool(owner)
    assert [one["player"] for one in tool.get("/standings").json()] == [w.player.pk]
    assert len(tool.get("/ladders").json()) == 1
    sent = session(current(theirs), today)
    assert tool.post("/sessions", sent).status_code == 404
    assert tool.post("/sessions", session(current(mine), today)).status_code == 200


def test_work_is_read_as_card_and_hall_show_it(w, other, owner, today):
    """The same document as in the hall, for one player and day; a name where a token may see it."""
    stay = current(put_on(w, on=today))
    tool, named = Tool(owner, "standings"), Tool(owner, "standings", "names")
    [shown] = tool.get(f"/work?player={w.player.pk}").json()
    known = json.loads(json.dumps(work_document(work_of(stay, today))))
    assert shown == known | {"name": "IM"}
    assert named.get(f"/work?player={w.player.pk}&on={today}").json() == [known]
    assert (shown["dose"], shown["target"], shown["lanes"]) == (
        known["dose"],
        known["target"],
        ["left", "right"],
    )
    # at home what is done at the club alone is left out, and before it began there is none
    w.player.prescriptions.update(place="coached")
    assert tool.get(f"/work?player={w.player.pk}&place=home").json() == []
    early = today - timedelta(days=1)
    assert tool.get(f"/work?player={w.player.pk}&on={early}").json() == []
    assert tool.get(f"/work?player={other.player.pk}").status_code == 404
    assert tool.get(f"/work?player={w.player.pk}&place=park").status_code == 422


def test_whoever_rests_has_no_work(w, owner, today):
    put_on(w, on=today)
    open_stop(player=w.player, what="knee", on=today, actor=None)
    answer = Tool(owner, "standings").get(f"/work?player={w.player.pk}")
    assert (answer.status_code, answer.json()) == (200, [])


def session(stay, today, **more):
    sets = [{"lane": lane, "attempts": 10, "makes": 8} for lane in ("left", "right")]
    return {"id": str(uuid4()), "stay": stay.pk, "on": str(today), "sets": sets} | more


def test_a_session_sent_again_is_stored_once(w, owner, today):
    stay = current(put_on(w, on=today))
    tool, sent = Tool(owner), session(current(put_on_again(stay)), today)
    assert tool.post("/sessions", sent).json() == {"id": sent["id"], "new": True}
    assert tool.post("/sessions", sent).json() == {"id": sent["id"], "new": False}
    row = Session.objects.get()
    assert (row.observer, row.sets.count()) == ("device", 2)
    assert [s.faults for s in row.sets.all()] == [None, None]  # nobody counted them


def test_how_at_ease_comes_with_it(w, owner, today):
    stay = current(put_on(w, on=today))
    tool = Tool(owner)
    assert tool.post("/sessions", session(stay, today) | {"at_ease": 6}).status_code == 422
    assert tool.post("/sessions", session(stay, today) | {"at_ease": 2}).status_code == 200
    assert list(Felt.objects.values_list("stay", "level")) == [(stay.pk, 2)]


def put_on_again(stay):
    return stay.prescription


@pytest.mark.parametrize(
    ("change", "words"),
    [
        ({"sets": [{"lane": "left", "seconds": 9.0}]}, "scored by attempts, makes"),
        ({"sets": [{"lane": "left", "attempts": 3, "makes": 4}]}, "more good ones"),
        ({"sets": [{"lane": "up", "attempts": 3, "makes": 1}]}, "the lanes are left, right"),
        ({"on": "2999-01-01"}, "in the future"),
        ({"on": "0001-01-01"}, "came to this rung"),
        ({"sets": []}, "sets"),
        ({"more": 1}, "more"),
        ({"id": "x"}, "id"),
    ],
)
def test_what_does_not_fit_is_refused_in_words(w, owner, today, change, words):
    stay = current(put_on(w, on=today))
    answer = Tool(owner).post("/sessions", session(stay, today) | change)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]
    assert not Session.objects.exists()


def test_results_go_out_line_by_line_and_on_from_a_cursor(w, owner, today, monkeypatch):
    p = put_on(w, on=today - timedelta(days=20))
    for back in range(5, 0, -1):
        log(p, today - timedelta(days=back), 8, 7)
    Session.objects.update(recorded_at=timezone.now() - timedelta(minutes=5))
    monkeypatch.setattr("drill_ladder.apps.api.rows.PAGE", 2)
    tool, after, seen = Tool(owner), "", []
    while True:
        answer = tool.get(f"/results?after={after}")
        lines = [json.loads(line) for line in answer.content.decode().splitlines()]
        seen += lines
        after = answer.headers.get("X-Next", after)
        if not lines:
            break
    assert len(seen) == 10
    assert len({(one["session"], one["lane"]) for one in seen}) == 10
    assert {one["player"] for one in seen} == {"Ida Marlow"}
    assert "note" not in seen[0]
    assert PAGE == 500
    table = Tool(owner, "results").get("/results?format=csv").content.decode()
    assert "IM" in table
    assert "Ida" not in table
    assert tool.get("/results?after=zzz").status_code == 422
    assert tool.get("/results?format=xml").status_code == 422


def test_what_is_still_being_stored_waits_for_the_next_look(w, owner, today):
    log(put_on(w, on=today), today, 8, 8)
    assert Tool(owner).get("/results").content == b""


def test_too_often_is_told_and_every_use_stands_in_the_history(owner, monkeypatch):
    monkeypatch.setattr(door, "MOST", 3)
    tool = Tool(owner, "players")
    codes = [tool.get("/players").status_code for _ in range(5)]
    assert codes == [200, 200, 200, 429, 429]
    used = Event.objects.filter(verb="used the open door")
    assert used.count() == 3
    assert used.first().details == {"method": "GET", "path": "/api/v1/players"}
    tool.token.refresh_from_db()
    assert tool.token.used_at is not None


def test_the_page_about_the_door_is_made_from_its_schema(coach, owner):
    page = text(coach.get("/open-door/about/"))
    paths = coach.get("/api/v1/openapi.json").json()["paths"]
    assert len(paths) == 7
    for path, item in paths.items():
        assert path in page
        for one in item.values():
            assert one["summary"]
    assert "sent_ms" in page
    assert 'script src="http' not in page


def test_any_request_is_answered_as_the_schema_says(w, owner, today, monkeypatch):
    """schemathesis makes the requests up; no answer is a server error, and each keeps to the
    schema.
    """
    monkeypatch.setattr(door, "MOST", 100_000)
    # as Django's own test client does: the connection holds the test's transaction
    for signal in (request_started, request_finished):
        signal.disconnect(close_old_connections)
    put_on(w, on=today)
    tool = Tool(owner)
    schema = schemathesis.openapi.from_wsgi("/api/v1/openapi.json", application)
    head = {"Authorization": f"Bearer {tool.secret}"}
    quiet = settings(
        max_examples=25,
        deadline=None,
        database=None,
        derandomize=True,
        suppress_health_check=list(HealthCheck),
    )
    checks = [schemathesis.checks.not_a_server_error]
    for operation in schema.get_all_operations():
        case_of = operation.ok().as_strategy()

        @quiet
        @schemathesis_given(case_of)
        def each(case):
            answer = case.call(headers=head)
            case.validate_response(answer, checks=checks)

        each()
    for signal in (request_started, request_finished):
        signal.connect(close_old_connections)


def schemathesis_given(strategy):
    from hypothesis import given

    return given(case=strategy)
