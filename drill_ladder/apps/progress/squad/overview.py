"""A squad at one look: who climbs, holds, is stuck, rests, is away or behind at home, and what many
of them share. Sorted by what needs a coach; never a ranking.
"""

from collections import Counter, defaultdict
from collections.abc import Iterable, Iterator
from dataclasses import dataclass
from datetime import date, timedelta
from enum import Enum
from itertools import groupby

from drill_ladder.apps.people.models import Player, Squad
from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.prescriptions.models import Arrival, Prescription, Setting, Status, Stay
from drill_ladder.apps.progress.desk import LATE_DAYS, UNSEEN_DAYS
from drill_ladder.apps.progress.panels import completion, done_of_planned, lanes_of, weeks_over
from drill_ladder.apps.progress.player import SPAN, Record
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.weeks.models import Week
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.charts import rates as rates_chart
from drill_ladder.core.statistics import WORTH, Gap, shown_from, two_lanes
from drill_ladder.formats.words import many

LATELY = timedelta(weeks=4)
SHARED = 3  # players at least, and half of those who were counted
OFTEN = 3  # times at least, before a fault is somebody's commonest


class Standing(Enum):
    """How somebody stands on a ladder, first what needs a coach: words, look and drawing of it."""

    RESTS = "rests", "stop", "octagon-x"
    STUCK = "stuck", "ease", "triangle-alert"
    BEHIND = "behind at home", "ease", "clock"
    AWAY = "not seen lately", "hold", "eye"
    HOLDS = "holds", "hold", "equal"
    CLIMBS = "climbs", "climb", "arrow-up-from-line"

    @property
    def words(self) -> str:
        """In words."""
        return self.value[0]

    def counted(self, count: int) -> str:
        """So many of them, in words."""
        one_only = self in (Standing.RESTS, Standing.HOLDS, Standing.CLIMBS)
        return f"{count} {self.words[:-1] if one_only and count > 1 else self.words}"

    @property
    def look(self) -> str:
        """The class of its sign."""
        return self.value[1]

    @property
    def icon(self) -> str:
        """Its drawing."""
        return self.value[2]

    @property
    def urgency(self) -> int:
        """0: first."""
        return list(Standing).index(self)


@dataclass(frozen=True, slots=True)
class SquadRow:
    """One player on one ladder. said: what there is to know of it."""

    player: Player
    prescription: Prescription
    stay: Stay
    standing: Standing
    said: str


@dataclass(frozen=True, slots=True)
class SquadRecord:
    """A squad's last twelve weeks. records: each player's, with the sessions of all ladders; days:
    stay id -> its judged days of the last four weeks; kinds: stay id -> what the rule said last.
    """

    squad: Squad
    today: date
    records: list[Record]
    resting: frozenset[int]
    days: dict[int, list[JudgedDay]]
    kinds: dict[int, str]

    @property
    def current(self) -> Iterator[tuple[Record, Prescription, Stay]]:
        """Where everybody stands."""
        for record in self.records:
            for p in record.ladders:
                if p.status == Status.ACTIVE and p.current:
                    yield record, p, p.current[0]


def squad_record(squad: Squad, today: date) -> SquadRecord:
    """By eight questions, however many players there are."""
    since = today - SPAN
    players = list(Player.objects.of_club(squad.club).of_squad(squad.pk).order_by("name"))
    ladders: dict[int, list[Prescription]] = defaultdict(list)
    for p in Prescription.objects.of_players(players).with_current():
        ladders[p.player_id].append(p)
    sessions: dict[int, list[Session]] = defaultdict(list)
    for session in Session.objects.of_players(players).since(since).days_only():
        sessions[session.stay.prescription.player_id].append(session)
    weeks: dict[int, list[Week]] = defaultdict(list)
    for week in Week.objects.of_players(players).since(monday_of(since)):
        weeks[week.player_id].append(week)
    days: dict[int, list[JudgedDay]] = defaultdict(list)
    for day in JudgedDay.objects.of_players(players).since(today - LATELY):
        days[day.stay_id].append(day)
    stand = [stay for rows in ladders.values() for p in rows for stay in p.current]
    kinds = {row.stay_id: row.kind for row in Proposal.objects.latest_of(stand)}
    records = [
        Record(p, since, today, ladders[p.pk], None, [], {}, sessions[p.pk], weeks[p.pk])
        for p in players
    ]
    resting = frozenset(Player.objects.resting().among(players).values_list("pk", flat=True))
    return SquadRecord(squad, today, records, resting, days, kinds)


def rows_of(found: SquadRecord) -> list[SquadRow]:
    """Everybody on each of their ladders, who needs a coach first."""
    rows = []
    for record, p, stay in found.current:
        standing, said = _standing(found, record, p, stay)
        rows.append(SquadRow(record.player, p, stay, standing, said))
    return sorted(rows, key=lambda row: (row.standing.urgency, row.player.name, row.stay.pk))


def _standing(
    found: SquadRecord, record: Record, p: Prescription, stay: Stay
) -> tuple[Standing, str]:
    kind = found.kinds.get(stay.pk, "")
    if record.player.pk in found.resting:
        return Standing.RESTS, "A stop is open."
    if kind in ("stalled", "ease", "step_down"):
        return Standing.STUCK, STUCK_WORDS[kind]
    late = _behind(record, p)
    if late:
        return Standing.BEHIND, late
    seen = record.player.seen_on
    if seen is None or seen < found.today - timedelta(days=UNSEEN_DAYS):
        return Standing.AWAY, f"Last seen {seen:%-d %B}." if seen else "Not seen yet."
    return _moving(found, stay, kind)


STUCK_WORDS = {
    "stalled": "Perhaps stuck: Review says how sure that is.",
    "ease": "Low several times running: an easier way waits in Review.",
    "step_down": "Low several times running: one rung down waits in Review.",
}


def _behind(record: Record, p: Prescription) -> str:
    """Home work of the last seven days that is less than wanted, in words."""
    if p.place == Setting.COACHED or p.started_on > record.today - timedelta(days=LATE_DAYS):
        return ""
    first = record.today - timedelta(days=LATE_DAYS - 1)
    done = {s.on for s in record.sessions if s.stay.prescription_id == p.pk and s.on >= first}
    if len(done) >= p.per_week:
        return ""
    return f"{len(done)} of {many(p.per_week, 'day')} in the last week."


def _moving(found: SquadRecord, stay: Stay, kind: str) -> tuple[Standing, str]:
    up = stay.how in (Arrival.CLIMB, Arrival.SKIP) and stay.arrived >= found.today - LATELY
    if kind in ("climb", "finish", "skip"):
        return Standing.CLIMBS, "May climb: it waits in Review."
    if up:
        return Standing.CLIMBS, f"On this rung since {stay.arrived:%-d %B}."
    return Standing.HOLDS, f"{many(len(found.days.get(stay.pk, [])), 'day')} here in four weeks."


@dataclass(frozen=True, slots=True)
class Shared:
    """What many of a squad have in common. title: of a group block that would serve; drill,
    players: what those of them who are furthest together would do in it.
    """

    line: str
    title: str
    drill: int
    players: tuple[int, ...]


def shared(found: SquadRecord) -> list[Shared]:
    """Faults and weak lanes that half of those counted share, three players at least."""
    surely = _sure_gaps(found)
    faults: Counter[tuple[str, str, str]] = Counter()
    weak: Counter[tuple[str, str]] = Counter()
    counted: Counter[tuple[str, str]] = Counter()
    sided: Counter[str] = Counter()
    at: dict[str, dict[int, list[int]]] = defaultdict(lambda: defaultdict(list))
    for _, p, stay in found.current:
        at[p.ladder.title][stay.rung.drill_id].append(p.player_id)
        days, title = found.days.get(stay.pk, []), p.ladder.title
        for lane, most in _commonest(days).items():
            counted[title, lane] += 1
            faults[title, most, lane] += bool(most)
        side = surely.get(stay.pk)
        sided[title] += side is not None
        weak[title, side or ""] += bool(side)
    signs = [*_shared_faults(faults, counted), *_shared_lanes(weak, sided)]
    return [
        Shared(f"{line}: one group block would serve.", about, *_most_alike(at[title]))
        for title, line, about in signs
    ]


def _most_alike(at: dict[int, list[int]]) -> tuple[int, tuple[int, ...]]:
    """The drill that most of them stand on, and who they are."""
    drill = max(at, key=lambda one: len(at[one]))
    return drill, tuple(at[drill])


def _commonest(days: Iterable[JudgedDay]) -> dict[str, str]:
    """Lane -> the fault seen most there, "" for none often enough; where faults were counted."""
    seen: dict[str, Counter[str]] = defaultdict(Counter)
    for day in days:
        for s in day.sets:
            if s.faults is not None and s.attempts:
                seen[s.lane or ""].update(s.faults)
    most = {lane: next(iter(faults.most_common(1)), ("", 0)) for lane, faults in seen.items()}
    return {lane: fault if times >= OFTEN else "" for lane, (fault, times) in most.items()}


def _sure_gaps(found: SquadRecord) -> dict[int, str]:
    """Stay -> the weaker of its two lanes, "" where that is not sure; stays where nobody can tell
    are not in it. Of the signs of a squad at most one in ten is expected to be false.
    """
    gaps = {
        stay.pk: gap
        for _, _, stay in found.current
        if (gap := _gap(stay, found.days.get(stay.pk, []))) is not None
    }
    bar = shown_from([gap.e or 0.0 for gap in gaps.values()])
    return {
        pk: gap.weaker if gap.weaker and gap.real and (gap.e or 0.0) >= bar else ""
        for pk, gap in gaps.items()
    }


def _gap(stay: Stay, days: list[JudgedDay]) -> Gap | None:
    rung = stay.terms.rung
    if not rung.counts_makes or len(rung.lanes) != 2:
        return None
    lanes = lanes_of(days, rung.lanes)
    if not all(lane.attempts for lane in lanes):
        return None
    return two_lanes(lanes[0], lanes[1], many_looks=True, worth=WORTH)


def _is_shared(players: int, of: int) -> bool:
    return players >= SHARED and 2 * players >= of


def _shared_faults(
    faults: Counter[tuple[str, str, str]], counted: Counter[tuple[str, str]]
) -> Iterator[tuple[str, str, str]]:
    """Ladder, the line, what a group block would be about."""
    # lanes with the same sentence share it
    lanes: dict[tuple[int, int, str, str], list[str]] = defaultdict(list)
    for (title, fault, lane), players in faults.most_common():
        of = counted[title, lane]
        if fault and _is_shared(players, of):
            lanes[players, of, title, fault] += [lane] if lane else []
    for (players, of, title, fault), where in lanes.items():
        there = f" on the {' and the '.join(where)}" if where else ""
        line = f"{players} of {of} on {title} miss most often by “{fault}”{there}"
        yield title, line, f"{title}: {fault}{there}"


def _shared_lanes(
    weak: Counter[tuple[str, str]], sided: Counter[str]
) -> Iterator[tuple[str, str, str]]:
    """Ladder, the line, what a group block would be about."""
    for (title, lane), players in weak.most_common():
        if lane and _is_shared(players, sided[title]):
            line = f"{players} of {sided[title]} on {title} are weaker on the {lane}, for real"
            yield title, line, f"{title}: the {lane}"


@dataclass(frozen=True, slots=True)
class Covered:
    """A lane of a ladder: how many of those who stand there did it in the last four weeks."""

    ladder: str
    lane: str
    seen: int
    of: int


def covered(found: SquadRecord) -> list[Covered]:
    """Lanes by ladders, over the squad."""
    seen: Counter[tuple[str, str]] = Counter()
    of: Counter[tuple[str, str]] = Counter()
    for _, p, stay in found.current:
        done = {s.lane for day in found.days.get(stay.pk, []) for s in day.sets}
        for lane in stay.terms.rung.lanes:
            of[p.ladder.title, lane] += 1
            seen[p.ladder.title, lane] += lane in done
    return [Covered(*key, seen[key], count) for key, count in sorted(of.items())]


def covered_lines(found: SquadRecord) -> list[tuple[str, str]]:
    """Ladder by ladder, the lanes that somebody left out, the emptiest first."""
    lines = []
    for title, group in groupby(covered(found), key=lambda one: one.ladder):
        lanes = sorted(group, key=lambda one: one.seen / one.of)
        short = [f"{lane.lane} {lane.seen} of {lane.of}" for lane in lanes if lane.seen < lane.of]
        lines.append((title, ", ".join(short) or f"every lane, by all of {lanes[0].of}"))
    return lines


def kept(found: SquadRecord) -> list[tuple[Player, str, str]]:
    """Each player with their weeks as a small picture, and as words."""
    rows = []
    for record in found.records:
        weeks = completion(record)
        over = weeks_over(record, weeks)
        told = done_of_planned(over)
        planned = f"{told.done} of {many(told.planned, 'planned day')} done"
        said = planned if told.planned else "nothing planned"
        bars = [rates_chart.Bar(f"{w.start:%-d.%-m}", w.done, w.planned or None) for w in weeks]
        rows.append((record.player, rates_chart.strip(bars, f"{record.player}: {said}"), said))
    return rows
