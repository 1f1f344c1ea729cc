"""Stations for a group session: set up, shown, and solved again when somebody comes late or
goes.
"""

from collections import Counter
from collections.abc import Collection, Iterable, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from math import ceil
from typing import Any

from django import forms
from django.db import transaction

from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.library.models import Drill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Squad
from drill_ladder.apps.practice.models import Stop
from drill_ladder.core.errors import CoreError
from drill_ladder.core.planning import Rotation, Spot, Station, Turn, resume, rotate
from drill_ladder.ui.fields import FormValues, Line, Number, Row, Whole, listed

MOST_PLAYERS, ROWS = 60, 6
MOST_TURN = 100  # attempts of one worker before all change
LEAST_SLOT, MOST_SLOT = 10, 7200  # seconds
FEEDS = ("feeder", "server", "thrower")  # roles whose feeds are somebody's account


class StationForm(Row):
    """One station; a row without a name is none."""

    name = forms.ChoiceField(label="Drill", required=False)
    capacity = Whole(label="Players at it", min_value=1, max_value=MOST_PLAYERS, required=False)
    roles = Line(label="Roles, with commas", max_length=120, required=False)
    s_per_rep = Number(label="Seconds a repetition", min_value=0.5, max_value=600, required=False)
    balls = Whole(label="Balls to share", min_value=1, max_value=500, required=False)

    def __init__(self, *args: Any, titles: Sequence[str] = (), **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        choices = [("", "no station"), *((title, title) for title in titles)]
        self.fields["name"].choices = choices  # type: ignore[attr-defined]

    def clean(self) -> FormValues:
        """Players a multiple of the roles."""
        data = super().clean() or self.cleaned_data
        if not data.get("name"):
            return data
        roles = self.role_names()
        if len(set(roles)) < len(roles):
            self.add_error("roles", "A role is named twice.")
        if not data.get("capacity"):
            self.add_error("capacity", "How many players?")
        elif data["capacity"] % len(roles):
            self.add_error(
                "capacity",
                f"With {len(roles)} roles: {len(roles)}, {2 * len(roles)}, {3 * len(roles)}...",
            )
        if not data.get("s_per_rep"):
            self.add_error("s_per_rep", "How long does one take?")
        return data

    def role_names(self) -> list[str]:
        """The roles as a list; the first one is who repeats."""
        return listed(self.cleaned_data.get("roles")) or ["worker"]

    def station(self) -> Station:
        """As it is kept."""
        data = self.cleaned_data
        roles = tuple(self.role_names())
        return Station(data["name"], data["capacity"], roles, data["s_per_rep"], data["balls"])


class GroupForm(forms.Form):
    """Who is there, how long a slot is."""

    title = Line(label="Name of the session", max_length=120)
    squad = forms.ModelChoiceField(
        queryset=Squad.objects.none(),
        label="Everybody of",
        required=False,
        empty_label="nobody in particular",
    )
    people = forms.ModelMultipleChoiceField(
        queryset=Player.objects.none(),
        label="And these",
        required=False,
        widget=forms.CheckboxSelectMultiple,
    )
    minutes = Number(label="Minutes a slot", min_value=0.5, max_value=60, initial=4)
    change_s = Whole(label="Seconds to change", min_value=0, max_value=600, initial=20)
    turn_reps = Whole(
        label="Or change after so many each",
        min_value=1,
        max_value=MOST_TURN,
        required=False,
        help_text="Empty: by the clock",
    )
    slots = Whole(
        label="Slots in all",
        min_value=1,
        max_value=MOST_PLAYERS,
        required=False,
        help_text="Empty: as many as players, so that everybody works everywhere",
    )

    def __init__(self, *args: Any, club: Club, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        fields: dict[str, Any] = self.fields
        fields["squad"].queryset = Squad.objects.of_club(club)
        fields["people"].queryset = Player.objects.of_club(club).by_name()

    def clean(self) -> FormValues:
        """At least two players, each once."""
        data = super().clean() or self.cleaned_data
        players = self.players()
        if not self.errors and not 2 <= len(players) <= MOST_PLAYERS:
            self.add_error(
                "people", f"From 2 to {MOST_PLAYERS} players, please: there are {len(players)}."
            )
        return data

    def players(self) -> list[Player]:
        """The squad's who do not rest, then those that were ticked, each once."""
        squad = self.cleaned_data.get("squad")
        fit = (
            squad.players.filter(archived_on=None).exclude(stops__in=Stop.objects.open())
            if squad
            else []
        )
        both = {player.pk: player for player in [*fit, *(self.cleaned_data.get("people") or [])]}
        return list(both.values())


Names = Mapping[int, str]  # player -> the name that is shown


def named(players: Iterable[Player]) -> dict[int, str]:
    """Player -> name as it is shown, in their order; two of one name are told apart."""
    names: dict[int, str] = {}
    for player in players:
        name, number = player.name, 2
        while name in names.values():
            name, number = f"{player.name} ({number})", number + 1
        names[player.pk] = name
    return names


def names_in(session: GroupSession) -> dict[int, str]:
    """Everybody who is or was in a session, by the names of now."""
    players = Player.objects.of_club(session.club).in_bulk(session.everybody)
    return named(players[pk] for pk in session.everybody if pk in players)


def resting_among(club: Club, players: Collection[int]) -> list[str]:
    """The names of those with an open stop."""
    resting = Player.objects.of_club(club).resting().filter(pk__in=players)
    return [player.name for player in resting.by_name()]


def _refuse_resting(club: Club, players: Collection[int]) -> None:
    resting = resting_among(club, players)
    if resting:
        who = f"{resting[0]} rests" if len(resting) == 1 else f"{', '.join(resting)} rest"
        raise Refused(
            f"{who}: a stop is open, and only a coach ends it. Nothing was changed: please take "
            "them out."
        )


def rotation(session: GroupSession) -> Rotation:
    """What is still to be run. Raises CoreError when no station can be filled."""
    stations, n = session.stations, len(session.players)
    if not session.past and session.slots == n:
        return rotate(n, stations, session.slot_s, session.change_s)
    before = [_been(session, player) for player in session.players]
    return resume(n, stations, session.slots, before, session.slot_s, session.change_s)


def _been(session: GroupSession, player: int) -> Counter[str]:
    return Counter(slot[player].station for slot in session.past if player in slot)


@dataclass(frozen=True, slots=True)
class Shared:
    """A station with fewer balls than workers, and what that leaves each of them in a slot."""

    station: Station
    each: int
    with_own: int


def shared_balls(session: GroupSession, found: Rotation) -> list[Shared]:
    """The stations that are run at which players wait for a ball."""
    return [
        Shared(s, s.reps(session.slot_s), replace(s, balls=None).reps(session.slot_s))
        for s in session.stations
        if s.name not in found.left_out and s.balls is not None and s.balls < s.workers
    ]


@dataclass(frozen=True, slots=True)
class PlayerLine:
    """A player: what they do in each slot of the whole session (None: rest), and their repetitions
    still to come.
    """

    name: str
    past: list[Spot | None]
    slots: list[Spot | None]
    reps: int


def lines(session: GroupSession, found: Rotation, names: Names) -> list[PlayerLine]:
    """One line a player who is there."""
    turns = [{t.player: Spot(t.station, t.role) for t in slot} for slot in found.slots]
    return [
        PlayerLine(
            names.get(player, ""),
            [slot.get(player) for slot in session.past],
            [slot.get(i) for slot in turns],
            found.players[i - 1].reps,
        )
        for i, player in enumerate(session.players, 1)
    ]


@dataclass(frozen=True, slots=True)
class AtStation:
    """Somebody at a station: as what, whether they are who repeats there, and the name of who
    feeds them ("" for nobody).
    """

    player: int
    name: str
    role: str
    works: bool
    feeder: str = ""


@dataclass(frozen=True, slots=True)
class SlotPlaces:
    """One slot: station -> who is there, and the names of those who rest."""

    number: int
    stations: dict[str, list[AtStation]]
    rest: list[str]


def where(session: GroupSession, found: Rotation, names: Names) -> list[SlotPlaces]:
    """Who is where in each slot still to be run, numbered over the whole session."""
    return [
        _slot(session, number, turns, names)
        for number, turns in enumerate(found.slots, len(session.past) + 1)
    ]


def _slot(session: GroupSession, number: int, turns: Sequence[Turn], names: Names) -> SlotPlaces:
    roles = {station.name: station.roles for station in session.stations}
    stations: dict[str, list[AtStation]] = {}
    for turn in turns:
        player = session.players[turn.player - 1]
        alone = len(roles[turn.station]) == 1
        place = AtStation(
            player,
            names.get(player, ""),
            "" if alone else turn.role,
            turn.role == roles[turn.station][0],
        )
        stations.setdefault(turn.station, []).append(place)
    busy = {turn.player for turn in turns}
    rest = [names.get(who, "") for i, who in enumerate(session.players, 1) if i not in busy]
    return SlotPlaces(number, {name: _fed(there) for name, there in stations.items()}, rest)


def _fed(places: Sequence[AtStation]) -> list[AtStation]:
    """Each who works with the feeder of their own group: the next one at the station, round the
    circle in which places are changed.
    """
    feeders = [(at, place.name) for at, place in enumerate(places) if place.role in FEEDS]

    def feeder_of(at: int) -> str:
        after = [name for place, name in feeders if place > at]
        return after[0] if after else feeders[0][1]

    if not feeders:
        return list(places)
    return [
        replace(place, feeder=feeder_of(at)) if place.works else place
        for at, place in enumerate(places)
    ]


@transaction.atomic
def set_up(
    *,
    member: Membership,
    title: str,
    on: date,
    players: list[int],
    stations: Sequence[Station],
    slot_s: int,
    change_s: int,
    slots: int | None = None,
    turn_reps: int | None = None,
) -> GroupSession:
    """A new group session. players: their ids; slots: how many, None: as many as players;
    turn_reps: how many each does before all change, None: by the clock. Raises Refused when no
    station can be filled.
    """
    session = GroupSession(
        club=member.club, title=title, on=on, players=players, stations=tuple(stations)
    )
    session.slot_s, session.change_s, session.turn_reps = slot_s, change_s, turn_reps
    if turn_reps is not None:
        longest = max(station.seconds(turn_reps) for station in stations)
        session.slot_s = max(LEAST_SLOT, min(MOST_SLOT, ceil(longest)))
    session.slots = slots or len(players)
    titles = [station.name for station in stations]
    session.drills = dict(
        Drill.objects.of_club(member.club).titled(titles).values_list("title", "pk")
    )
    _refuse_resting(member.club, players)
    _refuse_empty(session)
    session.save()
    return session


def _refuse_empty(session: GroupSession) -> None:
    try:
        rotation(session)
    except CoreError:
        raise Refused(
            f"With {len(session.players)} players no station can be filled: fewer players at a "
            "station, please. "
            "Nothing was changed."
        ) from None


@transaction.atomic
def change_players(*, session: GroupSession, players: list[int], slot: int) -> GroupSession:
    """Others are there from a slot on (from 1 among those still to be run); what was run stays as
    it was.

    Raises Refused.
    """
    session = GroupSession.objects.select_for_update().get(pk=session.pk)
    plan = rotation(session)
    if not 1 <= slot <= len(plan.slots):
        raise Refused(f"There are {len(plan.slots)} slots left. Nothing was changed.")
    if not 2 <= len(players) <= MOST_PLAYERS:
        raise Refused(f"From 2 to {MOST_PLAYERS} players, please. Nothing was changed.")
    _refuse_resting(session.club, players)
    run = [
        {session.players[t.player - 1]: Spot(t.station, t.role) for t in turns}
        for turns in plan.slots[: slot - 1]
    ]
    session.past = (*session.past, *run)
    session.players = players
    # before anything was run it simply begins anew, with as many slots as players
    session.slots = len(plan.slots) - slot + 1 if session.past else len(players)
    _refuse_empty(session)
    session.save()
    return session


def in_sight(club: Club, sessions: Iterable[GroupSession]) -> list[GroupSession]:
    """Those sessions whose players are all of those whom whoever asks may see."""
    rows = list(sessions)
    if club.seen is None:
        return rows
    ids = {pk for row in rows for pk in row.everybody}
    seen = set(Player.objects.of_club(club).in_bulk(ids))
    return [row for row in rows if set(row.everybody) <= seen]
