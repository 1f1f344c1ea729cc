"""Writing tests: protocols, test days, trials."""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db import transaction

from drill_ladder.apps.floor.models import Battery, Protocol, Timing, Trial
from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Squad, User
from drill_ladder.apps.people.services import lock_club, refuse_unless_coach

# a change of one of these makes another test of it: results before and after do not compare
COMPARES = (
    *("drill", "sides", "trials", "score_by", "attempts", "rest_s", "counts", "ends", "called"),
)


@transaction.atomic
def save_protocol(
    *, member: Membership, protocol: Protocol | None, values: dict[str, Any]
) -> Protocol:
    """A new test, or a changed one: what changes how it is done makes a new version, and what was
    measured by the old one stays with it. Raises Refused.
    """
    refuse_unless_coach(member)
    lock_club(member.club_id)
    row = Protocol(club=member.club, before=None)
    if protocol is not None:
        if Protocol.objects.filter(before=protocol).exists():
            raise Refused("This test has a newer version already. Nothing was changed.")
        done = protocol.trials_done.exists()  # type: ignore[attr-defined]
        other = any(getattr(protocol, name) != values[name] for name in COMPARES if name in values)
        row = protocol
        if done and other:
            version = protocol.version + 1
            row = Protocol(club=member.club, before=protocol, version=version)
    for name, value in values.items():
        setattr(row, name, value)
    row.save()
    record(club_id=member.club_id, actor=member.user, verb="saved a test", subject=row)
    return row


@dataclass(frozen=True, slots=True)
class Conditions:
    """As it was on the day; empty where nobody said."""

    weather: str = ""
    surface: str = ""
    shoes: str = ""
    light: str = ""


@transaction.atomic
def new_battery(
    *,
    member: Membership,
    title: str,
    on: date,
    protocols: Sequence[Protocol],
    players: Sequence[Player],
    squad: Squad | None = None,
    conditions: Conditions = Conditions(),
    retest: bool = False,
) -> Battery:
    """A test day. players: in the order in which they are called up. Raises Refused."""
    if not protocols or not players:
        raise Refused("A test day needs a test and a player. Nothing was stored.")
    row = Battery.objects.create(
        club=member.club,
        squad=squad,
        title=title,
        on=on,
        players=[player.pk for player in players],
        retest=retest,
        weather=conditions.weather,
        surface=conditions.surface,
        shoes=conditions.shoes,
        light=conditions.light,
    )
    row.protocols.set(protocols)
    record(club_id=member.club_id, actor=member.user, verb="began a test day", subject=row)
    return row


@dataclass(frozen=True, slots=True)
class TrialInput:
    """A trial as it was measured. uid: given by whoever measured, so that nothing is doubled."""

    uid: UUID
    player: Player
    protocol: Protocol
    value: float
    at: datetime
    side: str = ""
    timing: str = Timing.HAND
    doubts: str = ""


@transaction.atomic
def add_trial(*, battery: Battery, trial: TrialInput, by: User | None) -> tuple[Trial, bool]:
    """(The trial, whether it is new); sent twice it is stored once. Raises Refused."""
    player = Player.objects.select_for_update(of=("self",)).get(pk=trial.player.pk)
    known = Trial.objects.filter(uid=trial.uid).first()
    if known is not None:
        return known, False
    _refuse(battery, trial, player)
    row = Trial.objects.create(
        uid=trial.uid,
        club_id=battery.club_id,
        battery=battery,
        protocol=trial.protocol,
        player=player,
        side=trial.side,
        value=trial.value,
        timing=trial.timing,
        doubts=trial.doubts,
        at=trial.at,
        by=by,
    )
    return row, True


def _refuse(battery: Battery, trial: TrialInput, player: Player) -> None:
    if Player.objects.resting().filter(pk=player.pk).exists():
        raise Refused(f"{player} rests: a stop is open. Nothing was stored.")
    if not battery.protocols.filter(pk=trial.protocol.pk).exists():
        raise Refused("This test is not of this day. Nothing was stored.")
    done = Trial.objects.filter(
        battery=battery, protocol=trial.protocol, player=player, taken_back=False
    )
    if done.filter(side=trial.side).count() >= trial.protocol.trials:
        raise Refused(
            f"{player} has all {trial.protocol.trials} trials. Take one back first. "
            "Nothing was stored."
        )


@transaction.atomic
def take_trial_back(*, member: Membership, trial: Trial) -> Trial:
    """It stands in the record, and counts no more."""
    trial.taken_back = True
    trial.save(update_fields=["taken_back"])
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="took a trial back",
        subject=trial.player,
        value=trial.value,
        test=str(trial.protocol),
    )
    return trial


def players_of(battery: Battery, club: Club) -> list[Player]:
    """In the order in which they are called up."""
    rows: dict[int, Player] = Player.objects.of_club(club).in_bulk(battery.players)
    return [rows[pk] for pk in battery.players if pk in rows]
