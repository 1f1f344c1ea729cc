"""Simulated clubs of which the truth is known: players who learn, unlike days, streaks of good and
bad days, days missed, counts rounded to fives. The tests and `./ladder bench --truth` share it.
"""

from dataclasses import dataclass, field
from datetime import date, timedelta
from math import log

import numpy as np
from scipy.special import expit

from drill_ladder.core.judging import InARow, Points, Rule
from drill_ladder.core.looking_back import (
    Been,
    Climber,
    ClubModel,
    DayOf,
    Scored,
    ScoreOf,
    Storey,
    club_model,
    day_spread,
    known,
    over_target,
    score_model,
)
from drill_ladder.core.odds import MakesSession

RUNGS = 12
RULE = Rule(InARow(2))
BEGIN = date(2026, 1, 5)


@dataclass(frozen=True, slots=True)
class Kind:
    """What a club is like, on the log-odds: levels, gains a session and steps with their spreads
    between players and rungs; day: noise of a day; streak: how much of it stays until the next day,
    0..1; missed: share of days missed; rounded: counts are told to multiples of it.
    """

    players: int = 25
    level: tuple[float, float] = (0.8, 0.6)
    gain: tuple[float, float] = (0.08, 0.02)
    step: tuple[float, float] = (0.6, 0.2)
    day: float = 0.5
    streak: float = 0.0
    missed: float = 0.0
    rounded: int = 1
    attempts: int = 20
    mark: int = 16


@dataclass(slots=True)
class Player:
    """Somebody in the middle of it. here: (pass, makes) of the full days on the present rung."""

    name: str
    level: float
    gain: float
    noise: float = 0.0
    rung: int = 1
    before: int = 0
    run: int = 0
    here: list[tuple[bool, int]] = field(default_factory=list)


class Simulated:
    """A club that plays day by day. rows: what was recorded; kept: by stay, for the day spread."""

    def __init__(self, kind: Kind, seed: int) -> None:
        self.kind, self.chance = kind, np.random.default_rng(seed)
        self.steps = self.chance.normal(*kind.step, RUNGS)
        self.players = [
            Player(f"p{n}", self.chance.normal(*kind.level), self.chance.normal(*kind.gain))
            for n in range(kind.players)
        ]
        self.rows: list[DayOf] = []
        self.kept: dict[tuple[str, int], list[tuple[date, int, int]]] = {}
        self.today = BEGIN

    def play(self, days: int) -> "Simulated":
        """So many days of everybody."""
        for _ in range(days):
            for player in self.players:
                if self.chance.random() >= self.kind.missed:
                    self.session(player)
            self.today += timedelta(days=2)
        return self

    def session(self, player: Player) -> bool:
        """One day of a player by their truth; whether they climb by it."""
        kind = self.kind
        fresh = self.chance.normal(0, kind.day * np.sqrt(1 - kind.streak**2))
        player.noise = kind.streak * player.noise + fresh
        climbed = self.steps[: player.rung - 1].sum()
        log_odds = player.level + player.gain * player.before - climbed + player.noise
        passed, makes = self.record(player, log_odds)
        player.before += 1
        player.here.append((passed, makes))
        player.run = player.run + 1 if passed else 0
        if player.run < 2 or player.rung > RUNGS:
            return False
        player.rung, player.run, player.here = player.rung + 1, 0, []
        return True

    def record(self, player: Player, log_odds: float) -> tuple[bool, int]:
        """What is counted on a day; (passed, makes)."""
        kind = self.kind
        makes = int(self.chance.binomial(kind.attempts, expit(log_odds)))
        makes = min(kind.attempts, kind.rounded * round(makes / kind.rounded))
        self.rows.append(DayOf(player.name, player.rung, player.before, kind.attempts, makes))
        stay = self.kept.setdefault((player.name, player.rung), [])
        stay.append((self.today, kind.attempts, makes))
        return makes >= kind.mark, makes

    def until(self, player: Player, rung: int, most: int = 200) -> int:
        """Sessions from now until a rung is reached, played on by the truth; most + 1: not in
        them.
        """
        for number in range(1, most + 1):
            if self.session(player) and player.rung >= rung:
                return number
        return most + 1

    @property
    def spread(self) -> float:
        """By how much days differ, as the program measures it."""
        return day_spread(list(self.kept.values())).spread

    def model(self) -> ClubModel:
        """What the program learns of it."""
        found = club_model(self.rows, self.spread)
        assert found is not None
        return found

    def storeys(self) -> list[Storey]:
        """The rungs as the program simulates them."""
        return [Storey("", MakesSession(self.kind.attempts, self.kind.mark), RULE)] * RUNGS


class Timed(Simulated):
    """A club whose days are timed: log-odds are taken as ten hundredths of a time's logarithm."""

    unit = 0.1

    def __init__(self, kind: Kind, seed: int) -> None:
        super().__init__(kind, seed)
        self.scores: list[ScoreOf] = []

    def record(self, player: Player, log_odds: float) -> tuple[bool, int]:
        """By how much a day was better than its target; no makes."""
        over = self.over(log_odds)
        self.scores.append(ScoreOf(player.name, player.rung, player.before, over))
        return over >= 0, 0

    def over(self, log_odds: float) -> float:
        """Of one day."""
        return self.unit * log_odds

    @property
    def spread(self) -> float:
        """Of counts; here a day's own noise is learnt."""
        return 0.0

    def model(self) -> ClubModel:
        """What the program learns of it."""
        found = score_model(self.scores)
        assert found is not None
        return found

    def storeys(self) -> list[Storey]:
        """Each rung with the noise that was learnt of it."""
        noise = known(self.model(), ["p0"], RUNGS)
        return [Storey("", Scored(1, noise.noise_on(at)), RULE) for at in range(RUNGS)]


# what a club that times, and one that gives points, is like: ten hundredths of a time's logarithm
TIMED = Kind(level=(0.0, 0.6), gain=(0.05, 0.02), step=(0.6, 0.2), day=0.7)
POINTED = Kind(level=(0.0, 0.6), day=0.4)


class Pointed(Timed):
    """A club that gives 0 to 3 points for each of ten attempts; two on average are asked."""

    def over(self, log_odds: float) -> float:
        """Two of three is a log-odds of 0.7."""
        points = self.chance.binomial(3, expit(log_odds + log(2)), size=10)
        over = over_target(Points(max=3), float(points.mean()), 2.0, 30)
        assert over is not None
        return over


def climber_of(player: Player, attempts: int) -> Climber:
    """Where a player stands, as the program knows it."""
    here = tuple(Been("pass" if ok else "near", makes / attempts) for ok, makes in player.here)
    return Climber(player.rung - 1, player.before, after=here)
