"""Weeks of many: the same as one by one, by as many questions for thirty as for ten."""

from datetime import date, timedelta

import pytest
from django.db import connection
from django.test.utils import CaptureQueriesContext
from django.utils import timezone

from drill_ladder.apps.jobs.models import Job, State
from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.library.limits import save_limit
from drill_ladder.apps.messages.models import Fate, Message
from drill_ladder.apps.people.models import AgreedTo, Agreement, Guardian, Player, Squad
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.weeks import many
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.publishing import publish
from tests.make import drill, ladder, put_on

MONDAY = date(2026, 3, 2)
DAYS = [
    {"weekday": 0, "minutes": 20, "place": "home"},
    {"weekday": 2, "minutes": 12, "place": "home"},
    {"weekday": 3, "minutes": 60, "place": "club"},
]


def players_of(w, many):
    """So many with three days, a guardian who gets mail, and three ladders: one strains, one is
    done twice a day.
    """
    throws = drill(w.club, "Long throw", strain=["throws"])
    strains = ladder(w.club, throws, "Throws")
    third = ladder(w.club, drill(w.club, "Wall"), "Wall")
    made = []
    for n in range(many):
        player = Player(name=f"Player {n:02}", joined_on=MONDAY)
        save_player(member=w.coach, player=player, days=DAYS[: 1 + n % 3])
        Guardian.objects.create(
            club=w.club, player=player, name="Ann", email=f"ann.{n}@example.org"
        )
        for order, own in enumerate((w.ladder, strains, third)):
            row = put_on(w, player=player, ladder=own)
            row.priority, row.tired_too = order + 1, order == 2
            row.save()
        made.append(player)
    return made


def lines_of(w, what, squad=None):
    """What the work told in the end."""
    arguments = {"monday": MONDAY.isoformat(), "squad": squad}
    job = start(member=w.coach, name=f"weeks.{what}", label="x", arguments=arguments)
    job.refresh_from_db()
    assert (job.state, job.done) == (State.DONE, job.total)
    return job.lines


def in_all(player):
    """Everything that a week is, but for its ids."""
    told = ("on", "prescription_id", "order", "minutes", "place", "way", "stay_id", "sets", "reps")
    blocks = PlannedBlock.objects.filter(week__player=player).order_by("on", "order")
    week = Week.objects.get(player=player)
    return list(blocks.values_list(*told, "bound", "locked", "tired")), week.unplaced


def test_many_are_planned_and_told_as_one_by_one(w):
    players = players_of(w, 6)
    for player in players:
        weeks.solve(member=w.coach, player=player, monday=MONDAY)
    alone = {player.pk: in_all(player) for player in players}
    Week.objects.all().delete()
    assert lines_of(w, "solve") == []
    assert {player.pk: in_all(player) for player in players} == alone
    assert any(blocks for blocks, _ in alone.values())
    assert any(unplaced for _, unplaced in alone.values())
    assert lines_of(w, "publish") == []
    told = {week.player_id: week.published for week in Week.objects.all()}
    Week.objects.update(published_at=None, told_at=None, published=[], revision=0)
    for player in players:
        publish(member=w.coach, player=player, monday=MONDAY, at=timezone.now())
    assert told == {week.player_id: week.published for week in Week.objects.all()}


@pytest.mark.parametrize("what", ["solve", "publish"])
def test_the_questions_do_not_grow_with_players(w, what, monkeypatch):
    """But for what a mail costs here, where it is sent at once, and for showing how far it is."""
    monkeypatch.setattr("drill_ladder.apps.messages.posting._hand_over_all", lambda pks: None)
    monkeypatch.setattr("drill_ladder.apps.weeks.tasks.SHOWN", 1000)
    players = players_of(w, 30)
    squad = Squad.objects.create(club=w.club, name="Ten of them")
    Player.objects.filter(pk__in=[p.pk for p in players[:10]]).update(squad=squad)
    lines_of(w, "solve")  # the weeks are there
    asked = []
    for which in (squad.pk, None):
        with CaptureQueriesContext(connection) as found:
            assert lines_of(w, what, which) == []
        asked.append(len(found))
        Week.objects.update(published_at=None, published=[])
        Job.objects.all().delete()
    assert asked[0] == asked[1] <= 40


def test_whoever_cannot_be_told_is_named_and_the_rest_is_told(w):
    fit, resting, strained, taken_back = players_of(w, 4)
    squad = Squad.objects.create(club=w.club, name="Throwers")
    Player.objects.filter(pk=strained.pk).update(squad=squad)
    lines_of(w, "solve")
    open_stop(player=resting, what="knee", on=timezone.localdate(), actor=None)
    Agreement.objects.create(
        club=w.club,
        player=taken_back,
        what=AgreedTo.HOME,
        by="Ann",
        given_on=MONDAY,
        withdrawn_on=MONDAY + timedelta(days=1),
    )
    once = {"strain": "throws", "squad": squad, "per_week": 1, "body": "Own rule", "of": MONDAY}
    save_limit(member=w.coach, **once)
    rests, over, withdrawn = lines_of(w, "publish")
    assert rests.startswith("Player 01: Player 01 rests since")
    assert over.startswith("Player 02: Not told. Throws: 0 done")
    assert withdrawn.startswith("Player 03: Not told. The agreement to work at home is withdrawn")
    told = Week.objects.filter(published_at__isnull=False)
    assert [week.player_id for week in told] == [fit.pk]


def test_a_week_that_changed_meanwhile_is_worked_out_again(w):
    """Another day, between the solver and the store."""
    (player,) = players_of(w, 1)
    solved = many.solve_ahead([player], MONDAY, lambda done: None)
    player.days.update(weekday=5)
    again = Player.objects.get(pk=player.pk)
    many.store_solved(w.coach, [again], MONDAY, solved)
    assert {block.on.weekday() for block in PlannedBlock.objects.all()} == {5}


def test_a_mail_is_written_to_each_guardian_once(w):
    players = players_of(w, 3)
    Guardian.objects.create(club=w.club, player=players[0], name="Ann", email="ANN.0@example.org")
    lines_of(w, "solve")
    lines_of(w, "publish")
    rows = Message.objects.filter(kind="week")
    assert sorted(rows.values_list("to_email", flat=True)) == [
        f"ann.{n}@example.org" for n in range(3)
    ]
    assert set(rows.values_list("fate", flat=True)) <= {Fate.SENT, Fate.HELD}
