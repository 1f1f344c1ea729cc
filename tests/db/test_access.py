"""Who may see what: one table over ALL addresses."""

import os
import subprocess
import sys
from datetime import date
from pathlib import Path

import pytest
from django.test import Client
from django.urls import get_resolver

from drill_ladder.apps.practice.models import Stop
from drill_ladder.web import addresses
from tests.doors import TABLE
from tests.every_address import paths_of

D = date(2026, 3, 2)
POST_ONLY = {
    "people:link-renew",
    "prescriptions:end",
    "card:hurt",
    "card:skip",
    "practice:stop-open",
}
POST_ONLY |= {f"{app}:session-{what}" for app in ("card", "practice") for what in ("away", "back")}
POST_ONLY |= {
    "practice:word-read",
    "review:move",
    "review:decide",
    "review:undo",
    "library:plan-preview",
    "prescriptions:new-terms",
    "library:archive",
}
JSON_ONLY = {"floor:taps"}
POST_ONLY |= {"door:session_in", "door:gate_message", "api:revoke", "floor:gate-call"}
POST_ONLY |= {
    "floor:trial-back",
    "floor:battery-finish",
    "floor:taps",
    "floor:goal",
    "floor:guest",
    "floor:guest-stays",
    "floor:group-begin",
    "library:limit-drop",
}
POST_ONLY |= {f"people:{what}" for what in ("squad-save", "squad-drop", "member-end")}
POST_ONLY |= {"people:invitation-back", "people:choose-club", "people:agreement-withdraw"}
POST_ONLY |= {"records:archive", "records:aside", "records:erase"}
POST_ONLY |= {"records:practice", "records:practice-end"}
POST_ONLY |= {"outbox:message-act", "outbox:card-link", "outbox:stop-now"}
POST_ONLY |= {
    "library:limit-drop",
    "library:tool-limit",
    "library:tool-limit-drop",
    "progress:cover-first",
    "progress:cover-gap",
    "library:marks",
    "weeks:weeks-act",
    "weeks:week-act",
    "weeks:block-act",
}
POST_ONLY |= {
    "people:feed-renew",
    "prescriptions:focus",
    "prescriptions:back",
    "floor:station-change",
}
POST_ONLY |= {
    "prescriptions:at-club",
    "prescriptions:looked",
    "prescriptions:routine-end",
    "practice:both-real",
    "progress:reports",
    "card:pin",
    "people:card-pin",
    "library:rung-preview",
    "library:rung-preview-new",
}


def all_names(resolver=None, space=""):
    """Every named address of the project."""
    for pattern in (resolver or get_resolver()).url_patterns:
        if hasattr(pattern, "url_patterns"):
            inner = f"{space}{pattern.namespace}:" if pattern.namespace else space
            yield from all_names(pattern, inner)
        else:
            yield f"{space}{pattern.name}"


def test_every_address_is_in_the_table():
    assert set(all_names()) == set(TABLE)


@pytest.fixture
def paths(w):
    """Every address with real arguments of one club."""
    return paths_of(w)


def status(user, path, name):
    client = Client()
    if user is not None:
        client.force_login(user)
    if name in JSON_ONLY:
        response = client.post(path, '{"taps": []}', "application/json")
    else:
        response = client.post(path) if name in POST_ONLY else client.get(path)
    return response.status_code, response.headers.get("Location", "")


# the addresses that show nothing of a club in particular
GENERAL = {
    "help:page",
    "help:words",
    "help:methods",
    "progress:find",
    "progress:insights",
    "library:shelf",
    "exchange:results-columns",
    "floor:turns",
    "floor:challenge-new",
    "api:about",
    "floor:tests",
    "floor:test-new",
    "floor:battery-new",
    "floor:hall",
    "floor:taps",
    "floor:feed",
    "floor:goal",
    "floor:guest",
    "floor:group-begin",
    "library:limits",
    "library:tool-limit",
    "practice:stop-new",
    "people:feed-renew",
    "floor:stations",
    "exchange:roster-in",
    "exchange:roster-out",
    "weeks:weeks",
    "weeks:weeks-act",
    "card:sheet",
    "card:sheet-of-all",
    "library:rung-preview-new",
    "library:export",
    "library:import",
    "progress:desk",
    "progress:players",
    "people:player-new",
    "review:queue",
    "review:after",
}
GENERAL |= {
    "records:history",
    "records:history-out",
    "records:archive",
    "records:practice",
    "records:practice-end",
    "records:records",
    "review:lately",
    "outbox:outbox",
    "outbox:mailbox",
    "people:club",
    "people:team",
    "people:squad-save",
    "api:tokens",
    "library:marks",
    "library:drill-new",
    "library:ladder-draft",
    "library:ladder-new",
    "library:ladders",
    "library:routines",
    "card:typed-in",
    "progress:own-decisions",
    "exchange:results-out",
    "exchange:results-in",
    "library:routine-new",
    "library:drills",
    "library:plan-preview",
    "library:plan-shape",
}


def test_the_door(w, other, paths):
    assert set(paths) == set(TABLE)
    for name in TABLE:
        path, access = paths[name], TABLE[name]
        nobody = status(None, path, name)
        if name == "practice:stop-open":
            assert nobody[0] == 403, name  # told that the report did not arrive, not led away
        elif access in ("member", "coach", "owner", "account", "stage"):
            assert nobody[0] == 302, name
            assert nobody[1].startswith("/accounts/login/"), name
        if access == "token":
            assert nobody[0] == 401, name
            assert status(w.coach.user, path, name)[0] == 401, name  # a browser is no tool
        if access == "owner":
            assert status(w.assistant.user, path, name)[0] == 403, name
            assert status(w.coach.user, path, name)[0] == 403, name
        if access in ("member", "coach"):
            stranger = status(other.coach.user, path, name)[0]
            assert stranger in ((200, 204, 302, 422) if name in GENERAL else (404,)), name
        if access == "coach":
            assert status(w.assistant.user, path, name)[0] == 403, name
        if access == "member":
            assert status(w.assistant.user, path, name)[0] in (200, 302), name
        if access == "moved":
            assert nobody[0] == 404, name  # only what was given out leads on: test_secrets
        if access == "link":
            assert nobody[0] in (200, 302), name
            invited = paths["people:join"].split("/")[2]
            secrets = (w.token, w.coach.feed_token, w.calendar.split("/")[2], invited)
            secrets = (*secrets, paths["outbox:stops"].split("/")[2])
            strange = next(path.replace(secret, "x" * 43) for secret in secrets if secret in path)
            assert status(None, strange, name)[0] == 404, name


# what a new club has not enough of a record for: test_term
NEEDS_A_RECORD = {"progress:term-file"}


def test_a_coach_comes_in_everywhere(w, paths):
    for name, path in paths.items():
        if name in NEEDS_A_RECORD:
            continue
        if TABLE[name] in ("member", "coach") and name not in POST_ONLY:
            assert status(w.coach.user, path, name)[0] == 200, name


def test_a_link_opens_one_player_only(w, other, paths):
    for name in ("card:done", "card:block"):
        assert status(None, paths[name].replace(w.token, other.token), name)[0] == 404


def test_a_renewed_link_closes_the_old_one(w, paths):
    client = Client()
    client.force_login(w.coach.user)
    old = paths["card:card"]
    client.post(paths["people:link-renew"])
    assert Client().get(old).status_code == 404
    assert Client().get(f"/card/{w.token}/").status_code == 200


def test_an_account_without_a_club_sees_nothing(w, paths):
    w.assistant.delete()
    for name in ("progress:desk", "progress:player", "review:queue"):
        assert status(w.assistant.user, paths[name], name)[0] == 404


def test_refusals_say_why(w, paths):
    client = Client()
    client.force_login(w.assistant.user)
    assert "coach&#x27;s call" in client.get(paths["review:queue"]).content.decode()
    assert Stop.objects.open().count() == 1


def test_pages_are_private_and_strict(w, paths):
    client = Client()
    client.force_login(w.coach.user)
    for path in (paths["progress:player"], paths["card:card"]):
        headers = client.get(path).headers
        assert headers["Cache-Control"] == "private, no-store"
        assert "script-src 'self'" in headers["Content-Security-Policy"]
        assert "unsafe" not in headers["Content-Security-Policy"]
    assert client.get(paths["card:card"]).headers["Referrer-Policy"] == "same-origin"


def test_too_many_wrong_passwords_are_slowed_down(w):
    client = Client()
    given = {"login": w.coach.user.email, "password": "wrong one"}
    answers = [client.post("/accounts/login/", given) for _ in range(6)]
    assert "Too many" in answers[-1].content.decode() or answers[-1].status_code == 429
    right = {**given, "password": "a long password"}
    assert client.post("/accounts/login/", right).status_code != 302


def test_strangers_who_try_keep_the_coach_out_of_nothing_on_a_known_device(w):
    right = {"login": w.coach.user.email, "password": "a long password"}
    own = Client()
    assert own.post("/accounts/login/", right).status_code == 302
    own.post("/accounts/logout/")
    stranger = Client(REMOTE_ADDR="198.51.100.7")
    for _ in range(9):
        stranger.post("/accounts/login/", {**right, "password": "wrong one"})
    assert stranger.post("/accounts/login/", right).status_code != 302
    assert own.post("/accounts/login/", right).status_code == 302
    own.post("/accounts/logout/")
    # a cookie of somebody else, or a made-up one, is a stranger's
    stranger.cookies["known-device"] = "made:up"
    assert stranger.post("/accounts/login/", right).status_code != 302


def test_a_known_device_has_few_tries_of_its_own(w):
    right = {"login": w.coach.user.email, "password": "a long password"}
    own = Client()
    own.post("/accounts/login/", right)
    own.post("/accounts/logout/")
    for _ in range(6):
        own.post("/accounts/login/", {**right, "password": "wrong one"})
    assert own.post("/accounts/login/", right).status_code != 302


@pytest.mark.parametrize(
    ("path", "more"),
    [
        ("/join/1-1-{}/", {}),
        ("/mail/1-1-{}/", {}),
        ("/api/v1/players", {"Authorization": "Bearer dl_{}"}),
    ],
)
def test_wrong_secrets_are_counted_at_every_door(db, path, more):
    client = Client()
    statuses = set()
    for number in range(40):
        guess = f"{number:040x}"
        headers = {key: value.format(guess) for key, value in more.items()}
        statuses.add(client.get(path.format(guess), headers=headers).status_code)
    assert 429 in statuses
    assert statuses <= {401, 404, 429}


@pytest.mark.parametrize("hosts", ["*", "", " , ", "a.example.org,*", "*.example.org"])
def test_hosts_are_named_one_by_one(hosts):
    given = {"ALLOWED_HOSTS": hosts, "SECRET_KEY": "x" * 50}
    given["DATABASE_URL"] = "postgresql://a:b@127.0.0.1/c"
    code = "import drill_ladder.web.settings.prod as prod; print(prod.ALLOWED_HOSTS)"

    def run(more):
        env = {**os.environ, **given, **more}
        words = [sys.executable, "-c", code]
        return subprocess.run(words, env=env, capture_output=True, text=True, check=False)

    assert "names the hosts one by one" in run({}).stderr
    good = run({"ALLOWED_HOSTS": " a.example.org , b.example.org"})
    assert good.stdout == "['a.example.org', 'b.example.org']\n"


def test_the_tables_of_addresses_and_roles_are_current():
    docs = Path(__file__).resolve().parents[2] / "docs"
    assert (docs / "addresses.md").read_text() == addresses.table(), "run: scripts/addresses"
    assert (docs / "access.md").read_text() == addresses.access(), "run: scripts/addresses"


# what the page for people says of each kind that the walk above proves
SAYS = {
    "public": "anybody",
    "stage": "anybody",
    "account": "whoever is signed in",
    "member": "member",
    "coach": "coach",
    "owner": "owner",
    "link": "secret link",
    "moved": "an old secret link",
    "token": "a token",
}


def test_the_page_about_roles_says_what_the_walk_proves():
    told = {name: who for _, name, _, who, _ in addresses.rows()}
    assert {name: SAYS[kind] for name, kind in TABLE.items()} == told
