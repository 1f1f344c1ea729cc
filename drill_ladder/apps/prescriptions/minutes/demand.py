"""What a player's prescriptions ask of a week: how often, how long, where, with whom."""

from collections import Counter
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.prescriptions.dose import minutes_a_day, strain_of
from drill_ladder.apps.prescriptions.home import home_of, version_at
from drill_ladder.apps.prescriptions.models import PlayerRoutine, Prescription, Stay, by_routine
from drill_ladder.apps.prescriptions.routines import minutes_of_routine
from drill_ladder.core.judging import Intent, Rung
from drill_ladder.core.planning import AtHome, Home, Wish

EVERYBODY = 99  # helpers at the club


@dataclass(frozen=True, slots=True)
class Wanted:
    """A prescription for the planner: its wish, the home version (None: not at home), the terms of
    its rung. For a routine the first of its parts stands for all: routine, and where the player
    stands on each.
    """

    prescription: Prescription
    stay: Stay
    rung: Rung
    wish: Wish
    home: AtHome | None
    routine: PlayerRoutine | None = None
    parts: tuple[Stay, ...] = ()

    @property
    def tired_too(self) -> bool:
        """Whether each day has it twice; never where it is done fresh alone."""
        twice = self.prescription.tired_too and self.routine is None
        return twice and not self.stay.worked_on.drill.only_fresh

    @property
    def minutes(self) -> float:
        """Of one block; a wish that is done twice a day takes the minutes of both."""
        return self.wish.minutes / 2 if self.tired_too else self.wish.minutes

    @property
    def lost(self) -> tuple[str, ...]:
        """What the home version lacks."""
        return self.home.lost if self.home and self.way else ()

    @property
    def way(self) -> str:
        """The home version's name; empty for the full drill."""
        return self.home.way if self.home else ""


def asked_minutes(wanted: Iterable[Wanted]) -> float:
    """Minutes a week that all of it takes."""
    return sum(want.wish.minutes * want.wish.per_week for want in wanted)


def wanted(player: Player, monday: date | None = None) -> list[Wanted]:
    """What the player's active prescriptions ask of a week; monday: only those that have begun by
    the end of that week.

    A player who rests is asked for nothing.
    """
    return wanted_of([player], monday)[player.pk]


def wanted_by_id(player: Player, monday: date) -> dict[str, Wanted]:
    """What a player's prescriptions ask of a week, by the wish's id, the most urgent first."""
    return {want.wish.id: want for want in wanted(player, monday)}


def wanted_of(players: Sequence[Player], monday: date | None = None) -> dict[int, list[Wanted]]:
    """What is asked of a week, for many at once: player id -> what is asked, the most
    urgent first.
    """
    resting = set(
        Player.objects.resting().filter(pk__in=[p.pk for p in players]).values_list("pk", flat=True)
    )
    asked = {player.pk: player for player in players if player.pk not in resting}
    wanted: dict[int, list[Wanted]] = {player.pk: [] for player in players}
    homes = {pk: (home_of(player), bool(player.home_tools.strip())) for pk, player in asked.items()}
    for stay in Stay.objects.for_weeks(list(asked)):
        if monday is not None and stay.prescription.started_on > monday + timedelta(days=6):
            continue
        pk = stay.prescription.player_id
        stay.prescription.player = asked[pk]  # with their days at hand
        wanted[pk].append(_wanted(stay, *homes[pk]))
    return {pk: _folded(wishes) for pk, wishes in wanted.items()}


def _folded(asked: list[Wanted]) -> list[Wanted]:
    """The parts of a routine as one: where all of them may be done, with all that any of them
    needs.
    """
    parts = by_routine(want.stay for want in asked)
    if not parts:
        return asked
    routines = {row.pk: row for row in PlayerRoutine.objects.going().filter(pk__in=list(parts))}
    by_stay = {want.stay.pk: want for want in asked}
    first = {stays[0].pk: pk for pk, stays in parts.items()}
    folded = []
    for want in asked:
        pk = want.prescription.player_routine_id
        if pk is None or pk not in routines:
            folded.append(want)
        elif want.stay.pk in first:
            wishes = [by_stay[stay.pk] for stay in parts[pk]]
            folded.append(_as_one(want, routines[pk], wishes))
    return folded


def _as_one(lead: Wanted, routine: PlayerRoutine, parts: Sequence[Wanted]) -> Wanted:
    stays = tuple(part.stay for part in parts)
    places = frozenset.intersection(*(part.wish.places for part in parts))
    longest = max((day.minutes for day in lead.prescription.player.days.all()), default=0)
    wish = replace(
        lead.wish,
        minutes=minutes_of_routine(routine, stays, longest),
        places=places or frozenset({"nowhere"}),
        helpers=max(part.wish.helpers for part in parts),
        adult=any(part.wish.adult for part in parts),
        strain=sum((Counter(part.wish.strain) for part in parts), Counter()),
    )
    home = next((part.home for part in parts if part.home is None or part.way), lead.home)
    return replace(lead, wish=wish, home=home, routine=routine, parts=stays)


def _wanted(stay: Stay, at: Home, tools_noted: bool) -> Wanted:
    p, rung = stay.prescription, stay.terms.rung
    work = stay.worked_on
    home = (
        version_at(work.drill, work.floor_plan, at, tools_noted, p.smaller)
        if p.place != "coached"
        else None
    )
    places = {"home": {"home"}, "coached": {"club"}}.get(p.place, {"home", "club"})
    if home is None or home.version is None:
        places = places - {"home"}
    version = home.version if home else None
    wish = Wish(
        id=str(p.pk),
        per_week=p.per_week,
        minutes=minutes_a_day(rung, p.tired_too),
        priority=p.priority,
        intent=Intent(p.intent) if p.intent else rung.intent,
        # nowhere at all is a place that no day has: the planner then says that the place is what
        # lacks
        places=frozenset(places or {"nowhere"}),
        helpers=int(bool(version and version.feeder)),
        adult=bool(version and version.adult),
        rest_day_between=p.rest_day_between,
        first=p.started_on,
        strain=strain_of(stay),
    )
    return Wanted(p, stay, rung, wish, home)
