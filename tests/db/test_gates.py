"""Gates through the endpoint: every run once, to whoever was called up, whatever goes wrong."""

from datetime import timedelta
from uuid import uuid4

import pytest
from django.utils import timezone

from drill_ladder.apps.api.simulated_gate import FAULTS, story
from drill_ladder.apps.floor.models import GateCall, GateMessage, Trial
from drill_ladder.apps.floor.test_days.gates import call_up, gates_of
from drill_ladder.apps.floor.test_days.services import new_battery, save_protocol
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.people.team.tokens import revoke_access
from tests.db.test_open_door import Tool, _fresh, owner  # noqa: F401
from tests.make import drill, text


@pytest.fixture
def day(w, today):
    run = drill(w.club, "Ten metres", measure={"kind": "time"}, lanes=[], faults=[])
    values = {"title": "Sprint", "drill": run, "trials": 20, "score_by": "best", "rest_s": 0}
    test = save_protocol(member=w.coach, protocol=None, values=values)
    players = [Player.objects.create(club=w.club, name=n, joined_on=today) for n in ("Ada", "Bo")]
    return new_battery(member=w.coach, title="Day", on=today, protocols=[test], players=players)


@pytest.fixture
def gate(owner):  # noqa: F811
    return Tool(owner, "gate")


def called(w, gate, day, name, at=None):
    player = Player.objects.get(name=name)
    call_up(
        member=w.coach,
        device=gate.token,
        battery=day,
        protocol=day.protocols.get(),
        player=player,
        at=at or timezone.now() - timedelta(hours=1),
    )
    return player


def send(gate, messages):
    answers = [gate.post("/gate/messages", one) for one in messages]
    assert {one.status_code for one in answers} == {200}
    return [one.json() for one in answers]


def seconds():
    return sorted(Trial.objects.values_list("value", flat=True))


def test_runs_become_trials_of_who_was_called_up(w, gate, day):
    player = called(w, gate, day, "Ada")
    told = story(1, 4)
    answers = send(gate, told.messages)
    assert seconds() == sorted(told.seconds)
    assert set(Trial.objects.values_list("player", "timing")) == {(player.pk, "gate")}
    assert [one["given"] for one in answers] == [1, 1, 1, 1]


@pytest.mark.parametrize("seed", range(6))
def test_whatever_goes_wrong_nothing_is_lost_and_nothing_doubled(w, gate, day, seed):
    called(w, gate, day, "Ada")
    faults = [one for one in FAULTS if one != "drift"]
    told = story(seed, 8, faults)
    answers = send(gate, told.messages)
    assert seconds() == sorted(told.seconds)
    assert GateMessage.objects.count() == 8
    assert sum(one["new"] for one in answers) == 8


def test_a_beam_that_stays_broken_is_said_on_the_page(w, gate, day, coach):
    called(w, gate, day, "Ada")
    answers = send(gate, story(2, 2, ["stuck"]).messages)
    assert answers[-1]["stuck"] == ["finish"]
    page = text(coach.get(f"/test-days/{day.pk}/"))
    assert "the finish beam stays broken" in page
    assert "Ada is called up" in page


def test_a_clock_that_runs_fast_is_doubted_beside_its_seconds(w, gate, day, monkeypatch):
    called(w, gate, day, "Ada")
    told = story(3, 60, ["drift"])
    begin = timezone.now()
    for message in told.messages:
        real = begin + timedelta(milliseconds=message["sent_ms"] / 1.02)
        monkeypatch.setattr("drill_ladder.apps.api.endpoints.timezone.now", lambda at=real: at)
        monkeypatch.setattr("drill_ladder.apps.api.door._too_often", lambda token: False)
        send(gate, [message])
    doubts = set(Trial.objects.values_list("doubts", flat=True))
    assert doubts == {"the gate’s clock runs wrong"}  # the first ones too, once it is known


def test_a_run_that_comes_late_is_of_who_was_called_up_then(w, gate, day):
    now = timezone.now()
    ada = called(w, gate, day, "Ada", now - timedelta(minutes=10))
    bo = called(w, gate, day, "Bo", now - timedelta(minutes=5))
    boot, clock = str(uuid4()), 1_000_000
    for back, length in ((7, 2_000), (2, 3_000)):
        start = clock - back * 60_000
        beats = [
            {"beam": "start", "broken": True, "at_ms": start},
            {"beam": "start", "broken": False, "at_ms": start + 80},
            {"beam": "finish", "broken": True, "at_ms": start + length},
            {"beam": "finish", "broken": False, "at_ms": start + length + 80},
        ]
        send(gate, [{"message": str(uuid4()), "boot": boot, "sent_ms": clock, "beats": beats}])
    found = dict(Trial.objects.values_list("player", "value"))
    assert found == {ada.pk: 2.0, bo.pk: 3.0}


def test_runs_of_nobody_are_shown_and_given_to_nobody(gate, day, coach):
    answers = send(gate, story(4, 1).messages)
    assert list(answers[0]["lost"].values()) == ["nobody was called up"]
    assert not Trial.objects.exists()
    assert gates_of(day, timezone.now())[0].of_nobody == [f"{story(4, 1).seconds[0]:.2f}"]


def test_a_coach_calls_up_on_the_page_and_a_closed_gate_is_refused(w, gate, day, coach, owner):  # noqa: F811
    ada = Player.objects.get(name="Ada")
    address = f"/test-days/{day.pk}/gate/{gate.token.pk}/"
    assert coach.post(address, {"player": ada.pk}).status_code == 302
    GateCall.objects.update(at=timezone.now() - timedelta(hours=1))
    send(gate, story(5, 1).messages)
    assert Trial.objects.get().player == ada
    revoke_access(member=owner, token=gate.token)
    with pytest.raises(Refused, match="not open any more"):
        called(w, gate, day, "Ada")
    page = coach.get(f"/test-days/{day.pk}/?part=results")
    assert b"<html" not in page.content


@pytest.mark.parametrize("at", [0, 10**10])
def test_any_clock_that_a_gate_may_have_is_borne(w, gate, day, at):
    called(w, gate, day, "Ada")
    beats = [
        {"beam": "start", "broken": True, "at_ms": at},
        {"beam": "finish", "broken": True, "at_ms": 10**10},
    ]
    message = {"message": str(uuid4()), "boot": str(uuid4()), "sent_ms": 0, "beats": beats}
    assert gate.post("/gate/messages", message).status_code == 200
    wild = message | {"message": str(uuid4()), "sent_ms": 2**53}
    assert gate.post("/gate/messages", wild).status_code == 422
