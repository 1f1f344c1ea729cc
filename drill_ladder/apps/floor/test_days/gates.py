"""Hearing timing gates: messages kept once each, made into runs, given to whoever was called up."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime, timedelta
from uuid import UUID, uuid5

from django.db import transaction

from drill_ladder.apps.floor.models import (
    Battery,
    GateCall,
    GateMessage,
    Protocol,
    Timing,
    Trial,
)
from drill_ladder.apps.floor.tap_rows import SPACE
from drill_ladder.apps.floor.test_days.services import TrialInput, add_trial
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AccessToken, Membership, Player, Scope
from drill_ladder.core.hall import Beam, Beat, Doubt, Run, Seen, drifts, runs_of

LATELY = timedelta(hours=12)  # how long runs that nobody was called up for stand on the page
GRACE = timedelta(seconds=2)  # called up while the player already stands in the beam


@dataclass(frozen=True, slots=True)
class Heard:
    """What a gate has seen since it was switched on. given: runs that became trials; lost: run ->
    why it became none; seen: everything, for the page.
    """

    given: int
    lost: dict[UUID, str]
    seen: Seen


def hear(
    *,
    device: AccessToken,
    message: UUID,
    boot: UUID,
    sent_ms: int,
    beats: Sequence[tuple[str, bool, int]],
    came_at: datetime,
) -> tuple[bool, Heard]:
    """(Whether the message is new, what is heard): a message is kept once, however often it is
    sent, and whatever its order; its runs are trials of whoever was called up when they were run.
    """
    with transaction.atomic():
        _, new = GateMessage.objects.get_or_create(
            device=device,
            uid=message,
            defaults={
                "club_id": device.club_id,
                "boot": boot,
                "sent_ms": sent_ms,
                "came_at": came_at,
                "beats": [list(beat) for beat in beats],
            },
        )
    return new, give(device, boot)


def give(device: AccessToken, boot: UUID) -> Heard:
    """Runs of a gate to whoever was called up: each is one trial, under an id of its own."""
    messages = list(GateMessage.objects.filter(device=device, boot=boot))
    seen, marks = _seen(messages)
    late = min((came - sent for sent, came in marks), default=0)
    wrong = drifts(marks)
    calls = list(
        GateCall.objects.filter(device=device).select_related("battery", "protocol", "player")
    )
    runs = {run_id(device, boot, run): run for run in seen.runs}
    stored = Trial.objects.by_uid_among(device.club_id, list(runs))
    given, lost = 0, {}
    for uid, run in runs.items():
        call = _call_at(calls, datetime.fromtimestamp((run.start + late) / 1000, UTC))
        if call is None:
            lost[uid] = "nobody was called up"
            continue
        try:
            given += _add(call, _trial(uid, call, run, late, wrong), stored)
        except Refused as error:
            lost[uid] = str(error)
    return Heard(given, lost, seen)


def _add(call: GateCall, trial: TrialInput, stored: Mapping[tuple[int, UUID], Trial]) -> bool:
    """Whether it is new. What is doubted later is doubted of what was stored before, too. stored:
    what is there already, read once: a gate of sixty runs tells all of them with each message.
    """
    row, new = stored.get((call.battery_id, trial.uid)), False
    if row is None:
        row, new = add_trial(battery=call.battery, trial=trial, by=None)
    if not new and row.doubts != trial.doubts:
        Trial.objects.filter(pk=row.pk).update(doubts=trial.doubts)
    return new


def run_id(device: AccessToken, boot: UUID, run: Run) -> UUID:
    """The id of a run: always the same one, whenever it is worked out."""
    return uuid5(SPACE, f"gate {device.pk} {boot} {run.start}")


def _seen(messages: Sequence[GateMessage]) -> tuple[Seen, list[tuple[int, int]]]:
    beats = [Beat(Beam(beam), broken, at) for row in messages for beam, broken, at in row.beats]
    marks = [(row.sent_ms, round(row.came_at.timestamp() * 1000)) for row in messages]
    now = max((row.sent_ms for row in messages), default=None)
    return runs_of(beats, now), marks


def _trial(uid: UUID, call: GateCall, run: Run, late: int, wrong: bool) -> TrialInput:
    doubts = [*run.doubts, *([Doubt.DRIFT] if wrong else [])]
    return TrialInput(
        uid=uid,
        player=call.player,
        protocol=call.protocol,
        value=run.seconds,
        at=datetime.fromtimestamp((run.finish + late) / 1000, UTC),
        side=call.side,
        timing=Timing.GATE,
        doubts="; ".join(doubts)[:200],
    )


def _call_at(calls: Sequence[GateCall], at: datetime) -> GateCall | None:
    """Who was called up when a run began: the latest call by then."""
    before = [call for call in calls if call.at <= at + GRACE]
    return before[-1] if before else None


@transaction.atomic
def call_up(
    *,
    member: Membership,
    device: AccessToken,
    battery: Battery,
    protocol: Protocol,
    player: Player,
    side: str = "",
    at: datetime,
) -> GateCall:
    """The next runs at a gate are this player's. Raises Refused."""
    if not device.opens(Scope.GATE) or device.club_id != member.club_id:
        raise Refused("This gate is not open any more. Nobody was called up.")
    if not protocol.measure.is_timed:
        raise Refused("A gate measures seconds, and this test has none. Nobody was called up.")
    if player.pk not in battery.players:
        raise Refused(f"{player} is not of this day. Nobody was called up.")
    if Player.objects.resting().filter(pk=player.pk).exists():
        raise Refused(f"{player} rests: a stop is open. Nobody was called up.")
    return GateCall.objects.create(
        club_id=member.club_id,
        device=device,
        battery=battery,
        protocol=protocol,
        player=player,
        side=side,
        at=at,
    )


@dataclass(frozen=True, slots=True)
class GateNow:
    """A gate as the page shows it: who is called up, beams that stay broken, runs of nobody."""

    device: AccessToken
    called: GateCall | None
    stuck: tuple[str, ...]
    waits: bool
    lone: int
    of_nobody: list[str]


def gates_of(battery: Battery, now: datetime) -> list[GateNow]:
    """Every gate of the club that may send."""
    rows = AccessToken.objects.filter(club_id=battery.club_id, revoked_at__isnull=True)
    return [_now(device, now) for device in rows if device.opens(Scope.GATE)]


def _now(device: AccessToken, now: datetime) -> GateNow:
    latest = GateMessage.objects.filter(device=device, came_at__gte=now - LATELY).last()
    called = GateCall.objects.filter(device=device).select_related("player").last()
    if latest is None:
        return GateNow(device, called, (), False, 0, [])
    messages = list(GateMessage.objects.filter(device=device, boot=latest.boot))
    seen, _ = _seen(messages)
    ids = {run_id(device, latest.boot, run): run for run in seen.runs}
    stored = Trial.objects.uids_among(device.club_id, list(ids))
    nobody = [f"{run.seconds:.2f}" for uid, run in ids.items() if uid not in stored]
    stuck = tuple(beam.value for beam in seen.stuck)
    return GateNow(device, called, stuck, seen.open is not None, seen.lone, nobody)
