"""Erasing one child touches that child alone, whatever the child is called."""

import json
import os
import random
from datetime import timedelta
from io import BytesIO
from unittest import mock
from zipfile import ZipFile

import pytest
from django.core.serializers.json import DjangoJSONEncoder
from django.db import DatabaseError, connection
from django.test import Client
from psycopg import sql

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Guardian, Player, PlayerNote
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.personal import Personal, of_players, ours, undeclared
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.records import keeping
from drill_ladder.apps.records.aside import put_aside
from drill_ladder.apps.records.erase import erase, preview
from drill_ladder.apps.records.family_file import family_file
from drill_ladder.apps.records.keeping import keep_periods, months_before, retain
from drill_ladder.apps.records.mentions import mentions
from drill_ladder.apps.records.models import Receipt
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import settle
from drill_ladder.apps.stored import ValueField
from tests.make import log, owner_of, put_on, text

# short, inside other words, words of the program, quotes, backslashes, shared, right to left
WORDS = [
    *("Mark", "Lane", "Home", "Anna", "Ann", "Al", "Jo", "Bo", "Gate", "Rung", "Left", "Right"),
    *("Good", "Miss", "Ida", "Ruth", "Mila", "A", "makes", "value", "id", "player", "null", "true"),
    *("none", "erased", "Session", "10", "2026", "on", "in", "Push", "pass"),
]
ODD = [
    "O'Neil",
    'Jo "Ace" Lee',
    "back\\slash",
    "100%_x",
    "a.*b",
    "[x]",
    "(y",
    "$1",
    "\\1",
    "נועה כהן",
    "محمد علي",
    "李小龙",
    "Zoë",
    "ZOË",
    "Åsa Öst",
    "e\u0301ve",
    "x" * 120,
    "Ann-Marie",
    "Anna Marlow",
    "Ida Marlow",
    "Marlow family",
    "{}",
    '{"a": 1}',
    "--",
    "; DROP TABLE x",
    "Tern Harbour",
    "\u200dZed Y",
]


def names(count, seed=2026):
    """Adversarial ones, the same for the same seed."""
    chance = random.Random(seed)
    made = [*WORDS, *ODD]
    while len(made) < count:
        parts = chance.sample(
            [*WORDS, *(one for one in ODD if len(one) < 20)], chance.choice([1, 2])
        )
        made.append(" ".join(parts)[:120])
    return made[:count]


BESIDE = ("history_event", "records_receipt", "history_sentform")  # what every erasure writes


def snapshot():
    """(Table, id) -> its row as text, of every table of the program."""
    found = {}
    with connection.cursor() as cursor:
        for model in ours():
            table = model._meta.db_table
            if table in BESIDE:
                continue
            asked = sql.SQL("SELECT {}::text, to_jsonb(t)::text FROM {} t")
            key = sql.Identifier(model._meta.pk.column)
            cursor.execute(asked.format(key, sql.Identifier(table)))
            found |= {(table, pk): row for pk, row in cursor.fetchall()}
    return found


def own_rows(player):
    """(Table, id) of everything that is the player's."""
    mine = set()
    for model, personal in of_players():
        rows = model._default_manager.filter(**{personal.player: player.pk})
        mine |= {(model._meta.db_table, str(pk)) for pk in rows.values_list("pk", flat=True)}
    return mine


def documents_read():
    """Every stored document is read into its value, as the pages would."""
    for model in ours():
        columns = [one.attname for one in model._meta.fields if isinstance(one, ValueField)]
        for row in model._default_manager.all() if columns else ():
            for column in columns:
                getattr(row, column)


@pytest.fixture
def owner(w):
    return owner_of(w.club)


@pytest.fixture
def full(w, owner, today):
    """A club with words about everything, in which a child of any name has worked."""
    log(put_on(w, on=today - timedelta(days=20)), today, 8, 7, word="Anna fed me, Mark too")
    Drill.objects.create(
        club=w.club, title="Anna's gate", measure={"kind": "makes"}, cues=["Home, Al"]
    )
    Guardian.objects.create(club=w.club, player=w.player, name="Home", email="home@example.org")
    return w


def child(w, today, name):
    """With a family, work, a stop, a decision, a note and a place in a group."""
    player = Player(name=name, joined_on=today)
    family = [{"name": "Home", "email": "home@example.org", "phone": "1"}]
    save_player(member=w.coach, player=player, guardians=family, note=f"{name} is shy", on=today)
    p = put_on(w, player=player, on=today - timedelta(days=20))
    for back in (3, 0):
        log(p, today - timedelta(days=back), 8, 8, word=f"{name} did it")
    for proposal in Proposal.objects.awaiting_review().filter(player=player):
        settle(member=w.coach, proposal=proposal, action="hold", reason=f"for {name}", on=today)
    stop = open_stop(player=player, what=f"knee of {name}", on=today, actor=None)
    end_stop(member=w.coach, stop=stop, cleared_by="physio", on=today)
    GroupSession.objects.create(
        club=w.club,
        title="Stations",
        on=today,
        players=[player.pk, w.player.pk],
        stations=[{"name": "s", "capacity": 1, "roles": ["w"], "s_per_rep": 4}],
        past=[{str(player.pk): {"station": "s", "role": "w"}}],
        slot_s=60,
        slots=2,
    )
    return player


PAGES = (
    "/",
    "/players/",
    "/review/",
    "/floor/",
    "/drills/",
    "/ladders/",
    "/club/history/",
    "/weeks/",
)
# all that were thought of by hand; ./ladder bench --names erases 300
NAMES = names(int(os.environ.get("ERASED_NAMES", len(WORDS) + len(ODD))))


@pytest.mark.parametrize("part", range(4))
def test_any_of_all_names_and_every_other_row_is_as_it_was(full, owner, today, part):
    coach = Client()
    coach.force_login(owner.user)
    names = NAMES[part::4]
    for batch in (names[n : n + 10] for n in range(0, len(names), 10)):
        players = [child(full, today, name) for name in batch]
        for player in players:
            put_aside(member=owner, player=player, on=today)
        before = snapshot()
        for player in players:
            mine = own_rows(player)
            erase(member=owner, player=player, on=today)
            after = snapshot()
            changed = {
                key for key in before.keys() | after.keys() if before.get(key) != after.get(key)
            }
            assert changed <= mine, (player.name, changed - mine)
            before = after
        documents_read()
        for path in PAGES:
            assert coach.get(path).status_code == 200, (batch, path)
    assert Player.objects.filter(erased_on__isnull=False).count() == len(names)


def test_nothing_of_the_childs_own_is_left(full, owner, today):
    player = child(full, today, "Zebulon Quill")
    put_aside(member=owner, player=player, on=today)
    parts = {part.name: part.gone for part in preview(player)}
    assert (parts["guardian"], parts["session"]) == (True, False)
    erase(member=owner, player=player, on=today)
    for model, personal in of_players():
        rows = model._default_manager.filter(**{personal.player: player.pk})
        if personal.gone:
            assert not rows.exists(), model
        told = json.dumps(list(rows.values()), cls=DjangoJSONEncoder, default=str)
        assert "Quill" not in told, model


def test_anna_is_listed_in_her_own_places_and_annabel_is_not(full, owner, today):
    anna, annabel = child(full, today, "Anna"), child(full, today, "Annabel")
    shown = {one.shown for one in mentions(anna)}
    assert any("Anna's gate" in one for one in shown)
    assert not any("Annabel" in one for one in shown)
    put_aside(member=owner, player=anna, on=today)
    page = Client()
    page.force_login(owner.user)
    asked = text(page.get(f"/players/{anna.pk}/records/"))
    assert "What others wrote" in asked
    drill = Drill.objects.get(title="Anna's gate")
    key = f"library.drill:{drill.pk}:title"
    assert key in asked
    sent = {"name": "Anna", f"do-{key}": "edit", f"new-{key}": "The gate by the wall"}
    assert page.post(f"/players/{anna.pk}/records/erase/", sent).status_code == 302
    drill.refresh_from_db()
    assert drill.title == "The gate by the wall"
    annabel.refresh_from_db()
    assert (annabel.name, annabel.guardians.get().email) == ("Annabel", "home@example.org")
    word = Session.objects.exclude(word="").get(stay__prescription__player=full.player).word
    assert word == "Anna fed me, Mark too"  # nobody said anything about it: it is left, and counted
    assert Receipt.objects.get().counts["others' words left"] >= 1
    assert Receipt.objects.get().counts["others' words changed"] == 1


def test_words_taken_out_of_a_document_leave_its_shape(full, owner, today):
    al = child(full, today, "Al")
    [cue] = [one for one in mentions(al) if one.column == "cues"]
    put_aside(member=owner, player=al, on=today)
    erase(member=owner, player=al, on=today, others={cue.key: None})
    assert Drill.objects.get(title="Anna's gate").cues == ["erased"]


def test_more_rows_than_a_child_can_have_erase_nothing(full, owner, today, monkeypatch):
    player = child(full, today, "Bo")
    put_aside(member=owner, player=player, on=today)
    few = Personal("player", gone=True, plain=("name", "email", "phone"), most=0)
    monkeypatch.setattr(Guardian, "personal", few)
    with pytest.raises(Refused, match="cannot be one player"):
        erase(member=owner, player=player, on=today)
    player.refresh_from_db()
    assert (player.name, player.guardians.count()) == ("Bo", 1)


@pytest.mark.parametrize("fault", [Refused("no"), DatabaseError("no")])
def test_one_players_fault_never_stops_the_nights_periods_for_the_next(
    full, owner, today, fault, caplog
):
    first, second = child(full, today, "First"), child(full, today, "Second")
    for one in (first, second):
        put_aside(member=owner, player=one, on=months_before(today, 13))
    keep_periods(member=owner, players=12, mail=None, on=today)
    real = keeping.erase_for

    def fails(actor, player, on):
        if player.pk == first.pk:
            raise fault
        return real(actor, player, on)

    with mock.patch.object(keeping, "erase_for", fails):
        retain(full.club, today)
    assert "was not erased" in caplog.text
    names = set(Player.objects.values_list("name", flat=True))
    assert "First" in names
    assert "Second" not in names


def test_the_familys_file_holds_everything_and_coaches_notes_when_the_owner_ticks_them(
    full, owner, today
):
    player = child(full, today, "Zeb")
    PlayerNote.objects.create(club=full.club, player=player, on=today, text="for all", shared=True)
    plain = ZipFile(BytesIO(family_file(player, today)))
    told = {name.removeprefix("all/") for name in plain.namelist() if name.startswith("all/")}
    assert told >= {
        "review.proposal.jsonl",
        "review.decision.jsonl",
        "practice.hurtreport.jsonl",
        "practice.judgedday.jsonl",
        "practice.setrow.jsonl",
        "prescriptions.stay.jsonl",
    }
    everything = "".join(plain.read(name).decode() for name in plain.namelist())
    assert "for Zeb" in everything  # the reason of a decision
    assert "is shy" not in everything
    coach = Client()
    coach.force_login(full.coach.user)
    owners = Client()
    owners.force_login(owner.user)
    for client, has in ((coach, False), (owners, True)):
        file = ZipFile(
            BytesIO(client.get(f"/players/{player.pk}/records/all.zip?notes=all").content)
        )
        assert (b"is shy" in file.read("all/people.playernote.jsonl")) is has


def test_every_column_of_words_is_declared():
    assert {model._meta.label: undeclared(model) for model in ours() if undeclared(model)} == {}
    wrong = [
        (model._meta.label, column)
        for model in ours()
        for column in getattr(model, "personal", Personal()).declared
        if column not in {one.name for one in model._meta.concrete_fields}
    ]
    assert wrong == []


def test_a_column_that_declares_nothing_is_noticed(monkeypatch):
    monkeypatch.setattr(
        Guardian, "personal", Personal("player", gone=True, plain=("name", "email"))
    )
    assert undeclared(Guardian) == ["phone"]


def test_every_model_that_leads_to_a_player_says_so():
    """By the shortest way from row to row."""
    known = {model for model, _ in of_players()}
    for model in ours():
        links = {one.related_model for one in model._meta.concrete_fields if one.many_to_one}
        if Player in links:
            assert model in known, model
