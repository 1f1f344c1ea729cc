"""The walk over all addresses must notice a scope that somebody takes out."""

import ast
import random
import sys
from pathlib import Path

import pytest
from django.db import transaction

from drill_ladder.apps.history.querysets import EventQuerySet
from drill_ladder.apps.jobs.querysets import JobQuerySet
from drill_ladder.apps.people.models import Squad, SquadDuty
from drill_ladder.apps.people.querysets import ClubQuerySet
from tests.db.test_access import GENERAL, JSON_ONLY, POST_ONLY
from tests.doors import TABLE
from tests.every_address import paths_of
from tests.make import owner_of, world

APPS = Path(__file__).resolve().parents[2] / "drill_ladder" / "apps"
SEED, PLACES = 16, 10
SCOPED = (ClubQuerySet, JobQuerySet, EventQuerySet)
# a row that is looked up for the club a second time, so that one scope less shows nothing
TWICE = {"session_back"}


def scoped_places():
    """(File, first line, last line) of every row of a club that a view looks up by its address."""
    for file in sorted(APPS.rglob("*views.py")):
        for view in ast.parse(file.read_text()).body:
            if isinstance(view, ast.FunctionDef) and view.name not in TWICE:
                given = {argument.arg for argument in view.args.args}
                for node in ast.walk(view):
                    if is_lookup(node, given):
                        yield str(file), node.lineno, node.end_lineno


def is_lookup(node, given):
    """Whether it is get_object_or_404(… of_club …, pk=what the address says)."""
    if not isinstance(node, ast.Call) or getattr(node.func, "id", "") != "get_object_or_404":
        return False
    words = [getattr(word.value, "id", "") for word in node.keywords]
    scoped = any(getattr(one, "attr", "") == "of_club" for one in ast.walk(node))
    return scoped and all(word in given for word in words)


def status(client, name, path):
    """What comes back; a fault of the program is an answer too."""
    with transaction.atomic():
        if name in JSON_ONLY:
            answer = client.post(path, '{"taps": []}', "application/json")
        else:
            answer = client.post(path) if name in POST_ONLY else client.get(path)
        transaction.set_rollback(True)
    return answer.status_code


def mixed(theirs, own):
    """An address of another club, also with one of its rows replaced by the stranger's own."""
    yield theirs
    parts, mine = theirs.split("/"), own.split("/")
    differ = [place for place, part in enumerate(parts) if part != mine[place]]
    if len(differ) > 1:
        for place in differ:
            yield "/".join([*parts[:place], mine[place], *parts[place + 1 :]])


def leaks(paths, own, client):
    """The addresses that show a stranger of another club something."""
    return [
        path
        for name, access in TABLE.items()
        if access in ("member", "coach", "owner") and name not in GENERAL
        for path in mixed(paths[name], own[name])
        if status(client, name, path) != 404
    ]


@pytest.fixture
def client_of(client):
    def made(user):
        client.raise_request_exception = False
        client.force_login(user)
        return client

    return made


def test_a_stranger_finds_nothing_and_a_scope_taken_out_is_noticed(w, monkeypatch, client_of):
    paths, another = paths_of(w), world("Another")
    own = paths_of(another)
    client = client_of(owner_of(another.club).user)
    assert leaks(paths, own, client) == []
    honest = {kind: kind.of_club for kind in SCOPED}
    chance = random.Random(SEED)
    for file, first, last in chance.sample(list(scoped_places()), PLACES):

        def blind(self, club, file=file, first=first, last=last):
            callers = (sys._getframe(1), sys._getframe(2))  # a manager's method stands between
            here = any(
                caller.f_code.co_filename == file and first <= caller.f_lineno <= last
                for caller in callers
            )
            kind = next(kind for kind in SCOPED if isinstance(self, kind))
            return self.all() if here else honest[kind](self, club)

        with monkeypatch.context() as patch:
            for kind in SCOPED:
                patch.setattr(kind, "of_club", blind)
            assert leaks(paths, own, client), f"{file}:{first} unscoped, and nobody noticed"


# what belongs to the whole club, whichever squads an assistant looks after
OF_ALL = {
    "floor:station",
    "floor:station-change",
    "floor:battery",
    "floor:battery-finish",
    "floor:gate-call",
    "floor:challenge",
    "prescriptions:routine",
}
LIBRARY = ("library:", "api:")


def test_an_assistant_sees_their_own_squads_alone(w, client_of):
    paths = paths_of(w)
    theirs = Squad.objects.create(club=w.club, name="Seniors")
    SquadDuty.objects.create(club=w.club, member=w.assistant, squad=theirs)
    w.assistant.every_squad = False
    w.assistant.save()
    client = client_of(w.assistant.user)
    for name, access in TABLE.items():
        if access != "member" or name in GENERAL | OF_ALL or name.startswith(LIBRARY):
            continue
        assert status(client, name, paths[name]) == 404, name
    for name, access in TABLE.items():
        if access == "member" and name not in POST_ONLY | JSON_ONLY:
            assert w.player.name not in client.get(paths[name]).content.decode(), name
    w.player.squad = theirs
    w.player.save()
    assert w.player.name in client.get("/players/").content.decode()
    assert client.get(paths["progress:player"]).status_code == 200
