"""What a player did in a stretch of time, read once: judged days, sessions, weeks."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.core.judging import Rung, made_of
from drill_ladder.core.statistics import Trend, trend_of, trend_of_counts

SPAN = timedelta(weeks=12)


@dataclass(frozen=True, slots=True)
class Record:
    """A player from a day on to another. ladder: the one in question, with its stays, its judged
    days by stay and its sessions, oldest first; sessions: of all ladders; weeks: as they were
    told.
    """

    player: Player
    since: date
    today: date
    ladders: list[Prescription]
    ladder: Prescription | None
    stays: list[Stay]
    days: dict[int, list[JudgedDay]]
    sessions: list[Session]
    weeks: list[Week]

    @property
    def of_ladder(self) -> list[Session]:
        """The sessions of the ladder in question, rechecks left out."""
        ids = {stay.pk for stay in self.stays}
        return [s for s in self.sessions if s.stay_id in ids and not s.recheck]

    @property
    def current(self) -> Stay | None:
        """Where the player stands on it, or stood last."""
        open_ = [stay for stay in self.stays if stay.left is None]
        return next(iter(open_), self.stays[-1] if self.stays else None)

    def on_rung(self, stay: Stay) -> list[Session]:
        """The sessions of one stay."""
        return [s for s in self.of_ladder if s.stay_id == stay.pk]

    def stays_on(self, stay: Stay) -> list[Stay]:
        """Every stay on the rung of a stay, up to it, that asked for the same work."""
        return [
            one
            for one in self.stays
            if one.rung_id == stay.rung_id
            and (one.arrived, one.pk) <= (stay.arrived, stay.pk)
            and one.terms.rung.measure == stay.terms.rung.measure
        ]

    def scored(self, stay: Stay) -> list[JudgedDay]:
        """The days on a stay's rung that have a score, of earlier stays there too."""
        days = [day for one in self.stays_on(stay) for day in self.days.get(one.pk, [])]
        return [day for day in days if day.score is not None]

    def compares(self, stay: Stay) -> list[JudgedDay]:
        """Those of them that one line may join: nothing easier, all of them done the way that most
        were (at home in the same version, or in full), and all counted as the latest was, by ear or
        not.
        """
        days = self._alike(stay)
        return [day for day in days if day.heard == days[-1].heard]

    def counted_otherwise(self, stay: Stay) -> list[JudgedDay]:
        """Those that are a line of their own: counted by ear where the latest was not, or the other
        way about.
        """
        days = self._alike(stay)
        return [day for day in days if day.heard != days[-1].heard]

    def _alike(self, stay: Stay) -> list[JudgedDay]:
        days = self.scored(stay)
        rows = [session for one in self.stays_on(stay) for session in self.on_rung(one)]
        ways = {session.on: session.way for session in rows}
        usual = Counter(ways.get(day.on, "") for day in days).most_common(1)
        return [d for d in days if not d.eased and ways.get(d.on, "") == usual[0][0]]

    def about(self, ladder: Prescription) -> "Record":
        """It, with another ladder in question."""
        return self.about_each([ladder])[0]

    def about_each(self, ladders: Sequence[Prescription]) -> list["Record"]:
        """It, with each of these ladders in question: two questions more, however many they are."""
        return about_all([(self, ladder) for ladder in ladders])

    @property
    def mondays(self) -> list[date]:
        """The weeks of the stretch."""
        first = monday_of(self.since)
        count = (monday_of(self.today) - first).days // 7 + 1
        return [first + timedelta(weeks=n) for n in range(count)]


def about_all(asked: Sequence[tuple[Record, Prescription]]) -> list[Record]:
    """Each record with its ladder in question, of one stretch: two questions, however many."""
    if not asked:
        return []
    stays: dict[int, list[Stay]] = {ladder.pk: [] for _, ladder in asked}
    for stay in _stays([ladder for _, ladder in asked]):
        stays[stay.prescription_id].append(stay)
    days: dict[int, list[JudgedDay]] = {}
    every = [stay for of_one in stays.values() for stay in of_one]
    rows = JudgedDay.objects.filter(stay__in=every, recheck=False)
    since, today = asked[0][0].since, asked[0][0].today
    for row in rows.filter(on__gte=since, on__lte=today).order_by("on"):
        days.setdefault(row.stay_id, []).append(row)
    return [
        replace(
            record,
            ladder=ladder,
            stays=stays[ladder.pk],
            days={stay.pk: days[stay.pk] for stay in stays[ladder.pk] if stay.pk in days},
        )
        for record, ladder in asked
    ]


def record_of(player: Player, today: date, since: date, ladder: int | None) -> Record:
    """By seven questions, however long the stretch is."""
    whole = records_of([player], today, since)[player.pk]
    first = next(iter(whole.ladders), None)
    chosen = next((p for p in whole.ladders if p.pk == ladder), first)
    return whole if chosen is None else whole.about(chosen)


def records_of(players: Sequence[Player], today: date, since: date) -> dict[int, Record]:
    """Player -> their record with no ladder in question: four questions, however many they are."""
    records = {
        player.pk: Record(player, since, today, [], None, [], {}, [], []) for player in players
    }
    ladders = Prescription.objects.of_players(players).with_names().with_learning()
    for ladder in ladders.order_by("status", "ladder__title"):
        records[ladder.player_id].ladders.append(ladder)
    done = Session.objects.filter(stay__prescription__player__in=list(records))
    sessions = (
        done.filter(on__gte=since, on__lte=today)
        .select_related("stay__prescription", "stay__rung")
        .prefetch_related("sets")
        .order_by("on", "recorded_at")
    )
    for session in sessions:
        records[session.stay.prescription.player_id].sessions.append(session)
    weeks = Week.objects.filter(player__in=list(records))
    for week in weeks.filter(monday__gte=monday_of(since), monday__lte=today):
        records[week.player_id].weeks.append(week)
    return records


def _stays(chosen: Sequence[Prescription]) -> list[Stay]:
    rows = (
        Stay.objects.filter(prescription__in=chosen)
        .select_related("rung__drill", "prescription__ladder", "prescription__player")
        .order_by("arrived", "pk")
    )
    return list(rows)


def trend_over(days: Sequence[JudgedDay], rung: Rung) -> Trend:
    """The trend of days that compare: of counts by their counts, which know how sure they are, of
    other scores by the scores.
    """
    if rung.counts_makes:
        counts = [(day.on, *made_of(day.sets)) for day in days]
        return trend_of_counts([(on, n, makes) for on, n, makes in counts if n])
    points = [(day.on, day.score or 0.0) for day in days]
    return trend_of(points, rung.measure.higher_is_better)
