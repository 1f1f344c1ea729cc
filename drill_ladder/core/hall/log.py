"""What was tapped for one player on one rung in one day, from whichever devices, put together.

Taps are only ever added, each under the id that its device gave it, so that devices which did not
know of each other need no more than the union: the same taps give the same work, however often and
in whatever order they are read. Their order is the one in which the server received them, never a
device's clock, which may be wrong. Taking one back is a tap of its own.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Mapping, Sequence
from dataclasses import dataclass, field
from datetime import datetime
from enum import StrEnum
from typing import Any

from drill_ladder.core.hall.strokes import (
    AS_ASKED,
    EASIER,
    VOID,
    attempts_in,
    faults_in,
    makes_in,
)
from drill_ladder.core.judging import Rung, SetResult, drop_off_sum
from drill_ladder.core.thresholds import at_least


class Act(StrEnum):
    """stroke: one attempt; result: one trial or set with its numbers; undo: of a tap; easier: from
    here on, or as asked again; look: what was seen of the technique of the set just done; feeder:
    who feeds from here on; tempo: how fast from here on, as a share of full speed; feed: with which
    feed from here on; read: how one call was answered; tired: done at the end of other work; more:
    one set more than asked; enough: no more of it today.
    """

    STROKE = "stroke"
    RESULT = "result"
    UNDO = "undo"
    EASIER = "easier"
    LOOK = "look"
    FEEDER = "feeder"
    TEMPO = "tempo"
    FEED = "feed"
    READ = "read"
    TIRED = "tired"
    MORE = "more"
    ENOUGH = "enough"


@dataclass(frozen=True, slots=True)
class Tap:
    """id: as its device named it; order: its number in the order of receipt (0 for all where nobody
    has one yet: then their moments decide); at: when it was tapped; stroke: one letter (g good, m a
    miss, a digit: a miss with the fault of that number, a capital: a good one with a fault, v a bad
    feed, r once more); numbers: of a trial, by the names of SetResult, and heard: how many a phone
    heard; faults: by name, None where nobody counted; of: which tap is taken back; word: a feeder's
    name, a feed's, or how a call was answered, by the names of Answers; on: easier or not, tired or
    not; seen: checkpoints by their numbers, None where somebody told a share.
    """

    id: str
    act: Act
    at: datetime
    lane: str = ""
    stroke: str = ""
    numbers: Mapping[str, float] = field(default_factory=dict)
    faults: Mapping[str, int] | None = None
    of: str = ""
    word: str = ""
    on: bool = True
    order: int = 0
    seen: tuple[int, ...] | None = None


@dataclass(slots=True)
class TapSet:
    """One set of one lane: its strokes, or its numbers; eased: whether it was made easier; tempo:
    a share of full speed, None where nobody said; feed: by its name, "" where the rung has none;
    seen: the checkpoints that looked right, by their
    numbers, None where nobody looked; ended: whether a row of strokes is complete; begun_at,
    last_at: its first and its last tap.
    """

    lane: str
    eased: bool
    feeder: str
    tempo: float | None = None
    feed: str = ""
    strokes: str = ""
    numbers: Mapping[str, float] = field(default_factory=dict)
    faults: Mapping[str, int] | None = None
    seen: tuple[int, ...] | None = None
    ended: bool = False
    begun_at: datetime | None = None
    last_at: datetime | None = None

    @property
    def heard(self) -> int | None:
        """How many of them a phone heard; None where nobody counted by ear."""
        return None if (heard := self.numbers.get("heard")) is None else int(heard)

    @property
    def attempts(self) -> int:
        """Strokes that are an attempt."""
        return attempts_in(self.strokes)

    @property
    def makes(self) -> int:
        """Good ones, with a fault or without."""
        return makes_in(self.strokes)

    def named(self, names: Sequence[str]) -> dict[str, int]:
        """Faults of the strokes, on misses and on good ones. names: by their numbers."""
        return faults_in(self.strokes, names)

    def result(self, names: Sequence[str] = ()) -> SetResult:
        """As it is judged; faults of strokes are counted where there are names for them."""
        if self.strokes:
            faults = self.named(names) if names else None
            voids = self.strokes.count(VOID)
            lane, run = self.lane or None, self.makes
            return SetResult(
                lane, self.attempts, self.makes, best_run=run, faults=faults, voids=voids
            )
        numbers = {key: n for key, n in self.numbers.items() if key != "heard"}
        whole = {"attempts", "makes", "best_run", "ticks"}
        counted: dict[str, Any] = {key: int(n) if key in whole else n for key, n in numbers.items()}
        heard = self.heard is not None
        return SetResult(self.lane or None, faults=self.faults, heard=heard, **counted)


@dataclass(frozen=True, slots=True)
class Work:
    """sets: in the order in which they were begun; more: sets asked beyond the dose; closed:
    somebody said that it is enough; tired: done at the end of other work; reads: how calls were
    answered, by the names of Answers; form: technique as a share that was told, 0..1, None where
    nobody did.
    """

    sets: list[TapSet]
    more: int
    closed: bool
    tired: bool = False
    reads: Mapping[str, int] = field(default_factory=dict)
    form: float | None = None


# an answer to a call -> what it counts as, by the names of Answers; the last three are situations:
# read rightly and carried out, read rightly alone, read wrongly
COUNTS_AS = {
    "hits": ("hits",),
    "misses": ("misses",),
    "late": ("misses", "late"),
    "wrong_way": ("misses", "wrong_way"),
    "false_alarms": ("false_alarms",),
    "correct_leaves": ("correct_leaves",),
    "done": ("right", "choices", "carried_out"),
    "right": ("right", "choices"),
    "wrong": ("choices",),
}

Ends = Callable[[TapSet], bool]
LONGEST_REST_S = 3600  # longer ones are no rest between sets


def rests_of(sets: Sequence[TapSet]) -> list[float | None]:
    """The real rest before each set, s: from the last tap of what was done before to its first one.
    None for the first of a lane, inside a round of lanes, and where one was begun before another
    was over.
    """
    rounds: Counter[str] = Counter()
    found: list[float | None] = []
    for i, one in enumerate(sets):
        rounds[one.lane] += 1
        first = rounds[one.lane] == max(rounds.values())
        alone = sum(n == rounds[one.lane] for n in rounds.values()) == 1
        ended = [other.last_at for other in sets[:i] if other.last_at is not None]
        gap = (one.begun_at - max(ended)).total_seconds() if ended and one.begun_at else -1.0
        found.append(gap if first and alone and gap >= 0 else None)
    return found


def ends_of(rung: Rung) -> Ends:
    """When a row of strokes is one set: a turn of a streak by its first miss or at its cap, a race
    to so many good ones with the last of them, else with the attempts of a set.
    """
    return lambda one: rung.measure.over(one.attempts, one.makes, rung.reps_per_set)


def fold(taps: Iterable[Tap], ends: Ends, eased: bool = False, feed: str = "") -> Work:
    """The work that taps come to. ends: whether a set that was begun is complete; eased: whether
    the player is asked for the easier variant from the start; feed: with which feed.
    """
    known = {tap.id: tap for tap in taps}
    back = {tap.of for tap in known.values() if tap.act is Act.UNDO}
    alive = [tap for tap in known.values() if tap.id not in back and tap.act is not Act.UNDO]
    folding = _Folding(ends, eased, feed)
    for tap in sorted(alive, key=lambda tap: (tap.order, tap.at, tap.id)):
        folding.take(tap)
    signs = (folding.more, folding.closed, folding.tired)
    return Work(folding.sets, *signs, dict(folding.reads), folding.form)


def fold_row(strokes: str, eased: bool = False) -> list[TapSet]:
    """A set as the card keeps it, a row of strokes with signs between them, folded as if each
    letter had been a tap of its own: one part with all that was done easier, one with all that was
    not, in the order in which they were begun.
    """
    taps = [_letter(number, letter) for number, letter in enumerate(strokes, 1)]
    parts: dict[bool, TapSet] = {}
    for part in fold(taps, lambda _: False, eased).sets:
        if part.eased in parts:
            parts[part.eased].strokes += part.strokes
        else:
            parts[part.eased] = part
    return list(parts.values())


def _letter(number: int, letter: str) -> Tap:
    """A letter of a row: their order is known, and their moments are not."""
    if letter in (EASIER, AS_ASKED):
        return Tap(f"{number}", Act.EASIER, datetime.min, on=letter == EASIER, order=number)
    return Tap(f"{number}", Act.STROKE, datetime.min, stroke=letter, order=number)


class _Folding:
    def __init__(self, ends: Ends, eased: bool, feed: str) -> None:
        self.ends, self.more, self.closed = ends, 0, False
        self.eased, self.feed, self.feeder, self.tired = eased, feed, "", False
        self.form: float | None = None
        self.tempo: float | None = None
        self.reads: Counter[str] = Counter()
        self.sets: list[TapSet] = []
        self.begun: dict[str, TapSet] = {}

    def take(self, tap: Tap) -> None:
        if tap.act is Act.STROKE:
            self._stroke(tap)
        elif tap.act is Act.RESULT:
            one = self._set(tap.lane, numbers=tap.numbers, faults=tap.faults)
            one.begun_at = one.last_at = tap.at
            self.sets.append(one)
        elif tap.act is Act.READ:
            self.reads.update(COUNTS_AS.get(tap.word, ()))
        elif tap.act is Act.LOOK:
            self._look(tap)
        else:
            self._sign(tap)

    def _look(self, tap: Tap) -> None:
        """What was seen holds for the last set of its lane; looked at again, for that again."""
        if tap.seen is None:
            self.form = tap.numbers.get("form", self.form)
            return
        done = [s for s in self.sets if s.lane == tap.lane or not tap.lane]
        if done:
            done[-1].seen = tap.seen

    def _sign(self, tap: Tap) -> None:
        """What holds from here on."""
        if tap.act is Act.EASIER:
            self.eased = tap.on
        elif tap.act is Act.FEEDER:
            self.feeder = tap.word
        elif tap.act is Act.TEMPO:
            self.tempo = tap.numbers.get("share")
        elif tap.act is Act.FEED:
            self.feed = tap.word
        elif tap.act is Act.TIRED:
            self.tired = tap.on
        elif tap.act is Act.MORE:
            self.more, self.closed = self.more + 1, False
        elif tap.act is Act.ENOUGH:
            self.closed = True

    def _set(
        self,
        lane: str,
        numbers: Mapping[str, float] | None = None,
        faults: Mapping[str, int] | None = None,
    ) -> TapSet:
        told = (self.eased, self.feeder, self.tempo, self.feed)
        return TapSet(lane, *told, numbers=numbers or {}, faults=faults)

    def _stroke(self, tap: Tap) -> None:
        one = self.begun.get(tap.lane)
        now = (self.eased, self.feeder, self.tempo, self.feed)
        if one is None or (one.eased, one.feeder, one.tempo, one.feed) != now:
            one = self.begun[tap.lane] = self._set(tap.lane)
            one.begun_at = tap.at
            self.sets.append(one)
        one.last_at = tap.at
        one.strokes += tap.stroke
        if self.ends(one):
            one.ended = True
            del self.begun[tap.lane]


def is_whole(work: Work, rung: Rung) -> bool:
    """Whether everything that was asked is there, lane by lane where each lane is judged."""
    # a turn or a race that is under way is none yet
    rows = rung.measure.in_rows
    sets = [one.result() for one in work.sets if one.ended or not (rows and one.strokes)]
    asked = rung.measure.asked(rung.dose)
    lanes: Sequence[str] = rung.lanes
    done = {
        lane: asked if _stopped(rung, own) else rung.measure.done(own, rung.dose)
        for lane in lanes or ("",)
        for own in [[s for s in sets if s.lane == (lane or None)]]
    }
    if lanes and rung.target.each_lane:
        return all(at_least(amount, asked) for amount in done.values())
    return at_least(sum(done.values()), asked * len(done))


def _stopped(rung: Rung, sets: Sequence[SetResult]) -> bool:
    """Whether rounds got so much slower that the block ends itself, by what adds up."""
    limit = rung.dose.stop_drop
    rounds = [s.seconds for s in sets if s.seconds]
    return limit is not None and drop_off_sum(rounds, limit).stop_after is not None
