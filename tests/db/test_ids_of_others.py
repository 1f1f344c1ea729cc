"""Ids from outside open nothing of others: of another club, of another player."""

import ast
from uuid import uuid4

import pytest
from django.db import connection
from django.test import Client
from psycopg import sql

from drill_ladder.apps.floor.models import Protocol, Trial
from drill_ladder.apps.floor.test_days.services import TrialInput, add_trial, new_battery
from drill_ladder.apps.people.models import AccessToken, Player, Squad
from drill_ladder.apps.people.team.services import end_member, invitation_by, invite, take_up
from drill_ladder.apps.people.team.tokens import make_access, token_of
from drill_ladder.apps.personal import ours
from drill_ladder.apps.practice.models import Session, SetRow
from scripts.check_client_ids import found, models_of, trees, wrong_in
from tests.db.test_pages import BOTH, card_post
from tests.doors import TABLE
from tests.every_address import paths_of
from tests.make import current, log, member, owner_of, put_on, text


def test_our_own_code_says_whose_it_has_to_be():
    assert found(trees()) == []


@pytest.mark.parametrize(
    "line",
    [
        "Session.objects.get(pk=sent)",
        "Session.objects.filter(id=sent).first()",
        "Trial.objects.filter(uid=sent)",
        "FloorTap.objects.filter(uid__in=ids)",
        "SetRow.objects.in_bulk(ids)",
        "HurtReport.objects.get_or_create(pk=sent)",
    ],
)
def test_a_question_by_a_devices_id_alone_is_noticed(line):
    models = models_of(trees())
    assert len(models) == 7
    assert list(wrong_in(ast.parse(line), models, [line])) != []


def test_a_session_id_of_another_player_or_club_is_another_session(w, other, today):
    """The child has theirs, and nothing of the other one's has changed."""
    for world in (w, other):
        theirs = log(
            put_on(other, on=today) if world is other else put_on(w, on=today), today, 8, 8
        )
        mate = Player.objects.create(club=w.club, name="Mate", joined_on=today)
        stay = current(put_on(w, player=mate, on=today, place="home"))
        token = mate.links.get(opens="card").token if mate.links.exists() else None
        before = list(theirs.sets.values())
        stolen = {"session_id": str(theirs.pk), "e0-id": str(theirs.sets.first().pk)}
        sent = {"hurts": "no", **BOTH, **stolen}
        if token is None:
            client = Client()
            client.force_login(w.coach.user)
            answer = client.post(f"/log/{stay.pk}/", sent)
        else:
            answer = Client().post(f"/card/{token}/{stay.pk}/", sent)
        assert answer.status_code == 302
        mine = Session.objects.get(stay=stay)
        assert mine.pk != theirs.pk
        assert mine.sets.count() == 2
        assert list(theirs.sets.values()) == before
        mate.delete()


def test_sent_again_under_a_taken_id_it_is_one(w, other, today):
    theirs = log(put_on(other, on=today), today, 8, 8)
    stay = current(put_on(w, on=today, place="home"))
    ids = {f"e{lane}-id": str(uuid4()) for lane in (0, 1)}
    for _ in range(2):
        card_post(w, stay, **BOTH, **ids, session_id=str(theirs.pk))
    assert Session.objects.filter(stay=stay).count() == 1
    assert SetRow.objects.filter(session__stay=stay).count() == 2


def test_a_trial_id_of_another_day_is_another_trial(w, other, today):
    days = []
    for world in (w, other):
        one = Protocol.objects.create(club=world.club, title="T", drill=world.drill, trials=2)
        days.append(
            (
                world,
                one,
                new_battery(
                    member=world.coach, title="D", on=today, protocols=[one], players=[world.player]
                ),
            )
        )
    uid = uuid4()
    from django.utils import timezone

    for world, one, day in days:
        trial = TrialInput(uid, world.player, one, 3, timezone.now())
        assert add_trial(battery=day, trial=trial, by=None)[1]
    assert Trial.objects.filter(uid=uid).count() == 2


def rows_of(club):
    """Every row of a club, byte by byte."""
    found = {}
    with connection.cursor() as cursor:
        for model in ours():
            if any(one.name == "club" for one in model._meta.concrete_fields):
                asked = sql.SQL("SELECT to_jsonb(t)::text FROM {} t WHERE club_id = %s ORDER BY 1")
                cursor.execute(asked.format(sql.Identifier(model._meta.db_table)), [club.pk])
                found[model._meta.db_table] = cursor.fetchall()
    return found


def test_every_post_with_ids_of_the_other_club_changes_nothing_there(w, other, today):
    """Coach and owner of one club, the card of one player, at each address of theirs."""
    paths, theirs = paths_of(w), put_on(other, on=today)
    session = log(theirs, today, 8, 8)
    squad = Squad.objects.create(club=other.club, name="Theirs")
    sent = {
        **dict.fromkeys(("player", "players", "of", "who", "other"), other.player.pk),
        **dict.fromkeys(("squad", "squads"), squad.pk),
        **dict.fromkeys(("to", "tokens_to", "member"), other.coach.pk),
        **dict.fromkeys(("drill", "drills", "by_drill"), other.drill.pk),
        **dict.fromkeys(("ladder", "ladders"), other.ladder.pk),
        **dict.fromkeys(("rung", "start", "to_rung", "target_rung"), other.rungs[0].pk),
        **{name: current(theirs).pk for name in ("stay", "prescription")},
        **{name: str(session.pk) for name in ("session", "session_id", "uid", "report")},
        "form_id": str(session.pk),
        "e0-id": str(session.sets.first().pk),
        "hurts": "no",
        "what": "x",
        "name": "x",
        "title": "x",
        "e0-makes": "8",
        "e1-makes": "8",
        "value": "3",
        "action": "hold",
        "on": f"{today}",
    }
    before = rows_of(other.club)
    owner = owner_of(w.club)
    count = 0
    for user in (w.coach.user, owner.user):
        for name in TABLE:
            if name not in paths or "logout" in name or name.startswith("admin"):
                continue
            client = Client(raise_request_exception=False)
            client.force_login(user)
            assert client.post(paths[name], sent).status_code < 500, name
            count += 1
    assert rows_of(other.club) == before
    assert count > 300


# --- people


def test_inviting_an_assistant_with_a_squad_ticked_gives_that_squad_alone(w, today):
    owner = owner_of(w.club)
    squad = Squad.objects.create(club=w.club, name="Juniors")
    client = Client()
    client.force_login(owner.user)
    sent = {"name": "Ann", "email": "ann@example.org", "role": "assistant"}
    # as the form comes: all squads are ticked, and one more is ticked beside them
    client.post("/club/people/", sent | {"squads": ["all", squad.pk]})
    page = text(client.get("/club/people/"))
    assert "assistant, Juniors" in page
    row = w.club.invitations.get()
    user = member(w.club, "Ann", "coach").user
    user.memberships.all().delete()
    user.email = "ann@example.org"
    user.save()
    made = take_up(invitation=invitation_by(row.token), user=user)
    assert (made.every_squad, [duty.squad for duty in made.duties.all()]) == (False, [squad])
    invite(member=owner, email="b@example.org", name="B", role="assistant", squads=None)
    assert "assistant, all squads" in text(client.get("/club/people/"))


def test_a_token_ends_with_its_maker_unless_another_owner_takes_it_over(w):
    first, second = owner_of(w.club), member(w.club, "Otto", "owner")
    _, kept_secret = make_access(member=second, name="kept", scopes=["players"])
    assert token_of(kept_secret)
    with pytest.raises(Exception, match="Another owner"):
        end_member(member=first, of=second, to=None, tokens_to=w.coach)
    end_member(member=first, of=second, to=None, tokens_to=first)
    assert token_of(kept_secret).made_by == first.user
    third = member(w.club, "Tess", "owner")
    _, gone_secret = make_access(member=third, name="gone", scopes=["players"])
    client = Client()
    client.force_login(first.user)
    assert "Their tokens (gone)" in text(client.get(f"/club/people/{third.pk}/"))
    client.post(f"/club/people/{third.pk}/end/", {})
    assert token_of(gone_secret) is None
    assert AccessToken.objects.get(name="gone").revoked_at is not None


def test_an_assistant_is_offered_their_own_players_alone(w, today):
    """In what a floor plan is measured by, and who is called up at a gate."""
    Player.objects.filter(pk=w.player.pk).update(stride_m=0.7)
    w.drill.plan = {"units": "m", "markers": [{"id": "A", "x": 0, "y": 0}], "legs": []}
    w.drill.save()
    squad = Squad.objects.create(club=w.club, name="Theirs")
    w.assistant.every_squad = False
    w.assistant.save()
    w.assistant.duties.create(club=w.club, squad=squad)
    client = Client()
    client.force_login(w.assistant.user)
    assert w.player.name not in text(client.get(f"/drills/{w.drill.pk}/"))
