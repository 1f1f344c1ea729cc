"""A term in advance: a squad on a ladder simulated from the club's own record, and the same record
asked what it would have said some weeks ago (docs/methods.md, "A season in advance").
"""

from collections import Counter, defaultdict
from collections.abc import Sequence
from dataclasses import dataclass, replace
from datetime import date, timedelta

import numpy as np

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules import USUAL
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.learning import (
    OnRung,
    been_of,
    learning_days,
    learnt_by,
    model_of,
    rule_of,
    storey_of,
)
from drill_ladder.apps.practice.learning_models import LearntBy
from drill_ladder.apps.progress.decisions import Went
from drill_ladder.core.judging import Verdict
from drill_ladder.core.looking_back import (
    Climber,
    ClubModel,
    DayOf,
    Draws,
    Known,
    Left,
    ScoreOf,
    Storey,
    known,
    simulate_season,
    unsimulated,
)
from drill_ladder.core.odds import MakesSession
from drill_ladder.formats.words import many, rule_sentence

RUNS = 400
QUANTILES = (0.1, 0.5, 0.9)
PRIOR = 8  # planned sessions that the squad's own share counts for, beside a player's own
LOOKED_AT = timedelta(weeks=12)  # how far back the share of work done is taken from
FEWEST = 8  # stays on the ladder, before anything is simulated at all


@dataclass(frozen=True, slots=True)
class Starter:
    """A player of the squad where they stood on the day the term begins."""

    player: Player
    at: int
    climber: Climber
    per_week: int


@dataclass(frozen=True, slots=True)
class Start:
    """What a term is simulated from: the club's model of that day, where there was enough for one,
    and what it knows of the starters. stays: on the ladder up to that day.
    """

    ladder: Ladder
    rungs: list[Rung]
    day: date
    day_spread: float
    model: ClubModel | None
    known: Known | None
    storeys: list[Storey]
    starters: list[Starter]
    stays: int

    @property
    def enough(self) -> bool:
        """Whether the record holds enough to say anything."""
        return self.stays >= FEWEST and self.known is not None


def start_of(
    ladder: Ladder,
    rungs: list[Rung],
    players: Sequence[Player],
    went: list[Went],
    day: date,
    day_spread: float,
) -> Start:
    """Everything as it was known on a day. day_spread: by how much days differ at the club."""
    cuts = [cut for gone in went if (cut := _until(gone, day)) is not None]
    cores = {rung.position: rung.core for rung in rungs}
    cuts = [one for one in cuts if one.stay.rung.position in cores]
    low = _low_share(cuts)
    by = learnt_by(list(cores.values()))
    starters = _starters(players, cuts, day, by)
    model = model_of(_days(cuts, by), by, day_spread)
    names = [str(starter.player.pk) for starter in starters]
    knowing = known(model, names, len(rungs)) if model is not None and names else None
    noise = [knowing.noise_on(at) if knowing else 0.0 for at in range(len(rungs))]
    storeys = [
        storey_of(rung.title, cores[rung.position], rule_of(rung), by, blurred, low)
        for rung, blurred in zip(rungs, noise, strict=True)
    ]
    stays = sum(1 for one in cuts if one.days)
    return Start(ladder, rungs, day, day_spread, model, knowing, storeys, starters, stays)


def _days(cuts: Sequence[Went], by: LearntBy) -> list[DayOf | ScoreOf]:
    """Everybody's days on the ladder, player by player."""
    on_rungs: dict[int, list[OnRung]] = defaultdict(list)
    for cut in cuts:
        place, rung = cut.stay.rung.position, cut.stay.terms.rung
        on_rungs[cut.stay.prescription.player_id] += [OnRung(place, rung, day) for day in cut.days]
    return [
        day
        for player, days in on_rungs.items()
        for day in learning_days(player, sorted(days, key=lambda on: on.day.on), by)
    ]


def _starters(
    players: Sequence[Player], cuts: Sequence[Went], day: date, by: LearntBy
) -> list[Starter]:
    by_id = {player.pk: player for player in players}
    rows = [cut for cut in cuts if cut.stay.prescription.player_id in by_id]
    standing = {
        one.stay.prescription_id: one
        for one in rows
        if one.left is Left.OPEN and (one.stay.left is None or one.stay.left > day)
    }
    shares = _shares(rows, standing, day)
    before = Counter(row.stay.prescription_id for row in rows for _ in row.days)
    starters = [
        Starter(
            by_id[one.stay.prescription.player_id],
            one.stay.rung.position - 1,
            Climber(
                one.stay.rung.position - 1,
                before[key],
                shares[key],
                tuple(been_of(day, by) for day in one.days),
            ),
            one.stay.prescription.per_week,
        )
        for key, one in standing.items()
    ]
    return sorted(starters, key=lambda one: one.player.name)


def _until(one: Went, day: date) -> Went | None:
    """A stay as it was known on a day; None where it had not begun."""
    if one.stay.arrived > day:
        return None
    over = one.stay.left is not None and one.stay.left <= day
    days = [d for d in one.days if d.on <= day]
    return replace(one, days=days, left=one.left if over else Left.OPEN)


def _low_share(known: Sequence[Went]) -> float:
    """How many of the days that did not pass were low."""
    missed = [day.verdict for one in known for day in one.days if day.verdict != Verdict.PASS]
    return missed.count(Verdict.LOW) / len(missed) if missed else 0.0


def _shares(rows: Sequence[Went], standing: dict[int, Went], day: date) -> dict[int, float]:
    """Prescription -> share of the wanted sessions really done, drawn towards the squad's."""
    since = day - LOOKED_AT
    counts = {}
    for key, one in standing.items():
        p = one.stay.prescription
        weeks = max(0, (day - max(since, p.started_on)).days) / 7
        wanted = weeks * p.per_week
        days = {d.on for r in rows if r.stay.prescription_id == key for d in r.days if d.on > since}
        counts[key] = (min(float(len(days)), wanted), wanted)
    done, wanted = (sum(pair[i] for pair in counts.values()) for i in (0, 1))
    squad = done / wanted if wanted else 1.0
    return {key: (d + PRIOR * squad) / (w + PRIOR) for key, (d, w) in counts.items()}


# --- simulated


@dataclass(frozen=True, slots=True)
class Wish:
    """What is asked: so many weeks, another school, sessions a week more, a half-step below a rung
    (its position, None for none).
    """

    weeks: int
    school: str = ""
    more: int = 0
    half: int | None = None


@dataclass(frozen=True, slots=True)
class Term:
    """A simulated term. reached: week (a fraction, from 0) in which each starter reaches each rung
    in each run, starters x runs x (rungs + 1); infinity: not in this time.
    """

    start: Start
    weeks: int
    reached: np.ndarray

    def through_by(self, place: int, week: float) -> list[int]:
        """How many are at a place (from 0) or above it by a week: 10, 50, 90 %."""
        return _quantiles((self.reached[:, :, place] <= week).sum(axis=0))

    def at_end(self, row: int) -> list[int]:
        """The place where a starter is at the end: 10, 50, 90 %."""
        return _quantiles((self.reached[row] <= self.weeks).sum(axis=1) - 1)

    def climbs(self) -> list[int]:
        """Climbs of all together: 10, 50, 90 %."""
        before = sum(starter.at for starter in self.start.starters)
        return _quantiles(
            (self.reached <= self.weeks).sum(axis=(0, 2)) - len(self.reached) - before
        )

    def days_to(self, row: int, place: int) -> list[int | None]:
        """Days until a starter reaches a place: 10, 50, 90 %; None: not in this time."""
        at = np.quantile(self.reached[row, :, place], QUANTILES, method="inverted_cdf")
        return [round(7 * week) if np.isfinite(week) else None for week in at]


def _quantiles(counts: np.ndarray) -> list[int]:
    return [int(n) for n in np.quantile(counts, QUANTILES, method="inverted_cdf")]


def simulated(start: Start, wish: Wish, seed: int = 0) -> Term:
    """A term of everybody. One seed serves every wish: two differ by what is wished alone."""
    draws = _draws(start, seed)
    storeys, draws, extra = _wished(start.storeys, draws, wish)
    most = max((starter.per_week for starter in start.starters), default=1) + wish.more
    climbers = [
        replace(
            starter.climber,
            at=starter.at + (extra is not None and starter.at >= extra),
            done=starter.climber.done * (starter.per_week + wish.more) / most,
        )
        for starter in start.starters
    ]
    sessions = wish.weeks * most
    planned = simulate_season(storeys, climbers, draws, sessions, seed, start.day_spread)
    reached = np.where(planned > 0, planned / most, 0.0)
    if extra is not None:
        reached = np.delete(reached, extra, axis=2)
    return Term(start, wish.weeks, reached)


def _draws(start: Start, seed: int) -> Draws:
    if start.known is None:
        raise ValueError("too little is known to simulate a term: ask `enough` first")
    return start.known.drawn(RUNS, seed)


def _wished(
    storeys: list[Storey], draws: Draws, wish: Wish
) -> tuple[list[Storey], Draws, int | None]:
    """The rungs and what they cost as wished, and where a half-step was put in."""
    if wish.school in USUAL:
        storeys = [_by(storey, wish.school) for storey in storeys]
    if wish.half is None or not 1 < wish.half <= len(storeys):
        return storeys, draws, None
    place = wish.half - 1
    half = draws.steps[place] / 2
    steps = np.vstack([draws.steps[:place], half, half, draws.steps[place + 1 :]])
    storeys = [*storeys[:place], storeys[place], *storeys[place:]]
    return storeys, replace(draws, steps=steps), place


def _by(storey: Storey, school: str) -> Storey:
    return replace(storey, rule=replace(storey.rule, school=USUAL[school]))


def may_try(start: Start, school: str) -> bool:
    """Whether a school can be tried: evidence needs good ones that are counted on every rung."""
    counted = all(isinstance(storey.session, MakesSession) for storey in start.storeys)
    return school != "evidence" or counted


def steepest(start: Start) -> int | None:
    """The position of the rung ahead of somebody that costs most to arrive at, if any costs."""
    if start.known is None:
        return None
    low = min((starter.at for starter in start.starters), default=0)
    places = range(max(1, low + 1), len(start.storeys))
    ahead = [(start.known.step(place), place + 1) for place in places]
    cost, position = max(ahead, default=(0.0, 0))
    return position if cost > 0 else None


def assumptions(start: Start) -> list[str]:
    """What the simulation goes by, in words."""
    shares = [starter.climber.done for starter in start.starters]
    return [
        f"Learning: {_learnt(start.model)}.",
        f"Work: each does the share of planned sessions that they did in the last twelve weeks "
        f"({100 * min(shares):.0f} to {100 * max(shares):.0f} %), drawn a little towards the "
        "squad’s.",
        "Rungs: what a rung costs on arriving is taken from those who arrived; where nobody did, "
        "the ladder’s own mean. What is not known of it is drawn once for all of a simulated term.",
        f"Days: a player’s days differ as they do at your club ({start.day_spread:.2f} on a scale "
        "from 0, all days alike, to 0.5).",
        f"Rules: {_rules(start)} Days apart, trust, form and pauses are taken as no hindrance.",
        "All lanes are taken as alike. Nobody is promised anything by this.",
    ]


def _learnt(model: ClubModel | None) -> str:
    """A gain in log-odds as points at even odds, a quarter of it."""
    if model is None:
        return "too little is known of it yet"
    gain, players = model.gain, len(model.players)
    return (
        f"about {25 * gain.value:+.1f} points of good ones with each session at half good "
        f"({25 * gain.low:+.1f} to {25 * gain.high:+.1f}), from {many(players, 'player')}, each "
        "one’s own as far as it is known"
    )


def _rules(start: Start) -> str:
    rule = start.ladder.rule
    if unsimulated(rule):
        return "the coach’s word cannot be simulated; two passes in a row stand in for it."
    return rule_sentence(rule)


# --- asked of the past


@dataclass(frozen=True, slots=True)
class Hindsight:
    """What would have been said on a day of today: climbs (10, 50, 90 %) and how many there really
    were; inside: of so many players, those who stand where their band said.
    """

    day: date
    climbs: list[int]
    really: int
    inside: int
    of: int


def hindsight_of(start: Start, weeks: int, went: list[Went], today: date) -> Hindsight:
    """start: as of `weeks` before today, with enough known then."""
    term = simulated(start, Wish(weeks))
    now = {gone.stay.prescription_id: gone for gone in went}
    by_player = {one.stay.prescription.player_id: one for one in now.values()}
    inside = really = 0
    for row, one in enumerate(start.starters):
        place = _place(by_player[one.player.pk], len(start.rungs))
        low, _, high = term.at_end(row)
        inside += low <= place <= high
        really += _climbs(went, one.player.pk, start.day, today)
    return Hindsight(start.day, term.climbs(), really, inside, len(start.starters))


def _place(one: Went, top: int) -> int:
    return top if one.left is Left.UP and one.after is None else one.stay.rung.position - 1


def _climbs(went: list[Went], player: int, since: date, until: date) -> int:
    """Rungs gained since a day, what was lost again taken off."""
    return sum(
        _gained(gone)
        for gone in went
        if gone.stay.prescription.player_id == player
        and gone.stay.left is not None
        and since < gone.stay.left <= until
    )


def _gained(one: Went) -> int:
    if one.after is None:
        return int(one.left is Left.UP)
    return one.after.rung.position - one.stay.rung.position
