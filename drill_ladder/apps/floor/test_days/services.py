"""Writing tests: protocols, test days, trials."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, datetime
from typing import Any
from uuid import UUID

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.floor.models import Battery, Protocol, Timing, Trial
from drill_ladder.apps.floor.tap_rows import tell_taken_back, tell_trial
from drill_ladder.apps.history.services import record
from drill_ladder.apps.library.models import RoutinePart
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Squad, User
from drill_ladder.apps.people.players import lock_club, refuse_unless_coach
from drill_ladder.apps.practice.models import Stop
from drill_ladder.formats.measures import MEASURES, Tested, form_of
from drill_ladder.formats.rung_words import dose_words

# a change of one of these makes another test of it: results before and after do not compare
COMPARES = (
    *("drill", "routine", "routine_by", "sides", "trials", "score_by"),
    *("attempts", "rest_s", "counts", "ends", "called"),
)

TESTABLE = tuple(one.kind.kind for one in MEASURES if one.test is not None)
SIDES = {"": ("",), "own": ("left", "right"), "both": ("left", "right")}


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
    """A trial as it was measured. uid: given by whoever measured, so that nothing is doubled; sure:
    it is added although the day is finished.
    """

    uid: UUID
    player: Player
    protocol: Protocol
    value: float
    at: datetime
    side: str = ""
    timing: str = Timing.HAND
    doubts: str = ""
    sure: bool = False


@transaction.atomic
def add_trial(
    *, battery: Battery, trial: TrialInput, by: User | None, tapped: bool = False
) -> tuple[Trial, bool]:
    """(The trial, whether it is new); sent twice it is stored once. tapped: it came from the hall,
    and its tap is stored with it. Raises Refused.
    """
    player = Player.objects.select_for_update(of=("self",)).get(pk=trial.player.pk)
    stored = Trial.objects.filter(battery=battery, uid=trial.uid).first()
    if stored is not None:
        return stored, False
    _refuse(battery, trial, player)
    before = _values(trial_row(battery, trial))
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
    if not tapped:
        tell_trial(row, by)
    if trial.sure:
        _trail("added a trial to a finished test day", row, before, by)
    return row, True


def tested(protocol: Protocol) -> Tested:
    """How its measure is tested."""
    return form_of(protocol.measure).test or Tested(0)


def steps_of(protocol: Protocol) -> list[str]:
    """What a routine that is a test goes through, part by part, each as on the first rung of its
    ladder; nothing of a drill.
    """
    if protocol.routine is None:
        return []
    parts = protocol.routine.parts.with_first_rungs()
    return [_step(part) for part in parts]


def _step(part: RoutinePart) -> str:
    rung = next(iter(part.ladder.rungs.all()), None)
    if rung is None:
        return part.ladder.title
    asked = rung.core
    asked = replace(asked, dose=replace(asked.dose, sets=part.sets or asked.dose.sets))
    return f"{rung.drill}, {rung.title}: {dose_words(asked)}"


def most_of(protocol: Protocol) -> float:
    """The most that a trial can come to, in the test's own unit."""
    return float(protocol.attempts or tested(protocol).most)


def least_of(protocol: Protocol) -> float:
    """The least that a trial can come to."""
    return float(tested(protocol).least(protocol.measure))


def value_fault(protocol: Protocol, value: float) -> str:
    """Why a trial cannot have come to that: more good ones than attempts, beyond belief, half of
    what is counted whole; or nothing.
    """
    least, most = least_of(protocol), most_of(protocol)
    if value < least:
        return f"A result, please: nothing below {least:g}."
    if value > most:
        return f"At most {most:g}."
    if tested(protocol).whole and not float(value).is_integer():
        return "This is counted in whole numbers."
    return ""


def trial_row(battery: Battery, trial: TrialInput) -> Trial:
    """The row that a trial would be, for what is asked about it."""
    return Trial(battery=battery, protocol=trial.protocol, player=trial.player, side=trial.side)


def _values(trial: Trial) -> list[float]:
    """What counts together with a trial now."""
    return list(Trial.objects.of_one(trial).values_list("value", flat=True))


def _trail(verb: str, trial: Trial, before: list[float], by: User | None) -> None:
    record(
        club_id=trial.club_id,
        actor=by,
        verb=verb,
        subject=trial.player,
        test=str(trial.protocol),
        before=before,
        after=_values(trial),
    )


def _refuse(battery: Battery, trial: TrialInput, player: Player) -> None:
    begun = Stop.objects.open().begun_among([player.pk]).get(player.pk)
    if begun is not None and trial.at >= begun:
        raise Refused(f"{player} rests: a stop is open. Nothing was stored.")
    _refuse_over(battery, trial.at, trial.sure)
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


class Finished(Refused):
    """The test day is over: whoever changes it has to say that it is meant."""


def _refuse_over(battery: Battery, at: datetime, sure: bool) -> None:
    """What was measured before the day was finished comes in all the same, as a gate's message that
    was late. Raises Finished.
    """
    closed = battery.closed_at
    measured_on = at.astimezone(battery.club.zone).date()
    late = at > closed if closed else measured_on > battery.on
    if late and battery.is_over(battery.club.today()) and not sure:
        raise Finished("This test day is finished. Say that you are sure, and it is changed.")


@transaction.atomic
def finish(*, member: Membership, battery: Battery) -> Battery:
    """Nothing in it is changed any more without being asked about."""
    if battery.closed_at is None:
        battery.closed_at = timezone.now()
        battery.save(update_fields=["closed_at"])
        record(
            club_id=member.club_id, actor=member.user, verb="finished a test day", subject=battery
        )
    return battery


@transaction.atomic
def take_trial_back(
    *, member: Membership, trial: Trial, sure: bool = False, tapped: bool = False
) -> Trial:
    """It stands in the record, and counts no more. Raises Finished."""
    row = _turned(member, trial, True, sure, "took a trial back")
    if not tapped:
        tell_taken_back(row, member.user)
    return row


@transaction.atomic
def bring_trial_back(*, member: Membership, trial: Trial, sure: bool = False) -> Trial:
    """It counts again. Raises Refused where another one is in its place, and Finished."""
    if Trial.objects.of_one(trial).count() >= trial.protocol.trials:
        raise Refused("There are as many trials as the test has. Take another one back first.")
    row = _turned(member, trial, False, sure, "brought a trial back")
    tell_trial(row, member.user)
    return row


def _turned(member: Membership, trial: Trial, back: bool, sure: bool, verb: str) -> Trial:
    Player.objects.select_for_update(of=("self",)).get(pk=trial.player_id)
    _refuse_over(trial.battery, timezone.now(), sure)
    before = _values(trial)
    trial.taken_back = back
    trial.save(update_fields=["taken_back"])
    _trail(verb, trial, before, member.user)
    return trial


def players_of(battery: Battery, club: Club) -> list[Player]:
    """In the order in which they are called up."""
    rows: dict[int, Player] = Player.objects.of_club(club).in_bulk(battery.players)
    return [rows[pk] for pk in battery.players if pk in rows]
