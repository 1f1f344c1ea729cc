"""The words of the trade for coaches, each with a picture."""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

from drill_ladder.charts import word_pictures as draw


@dataclass(frozen=True, slots=True)
class Word:
    """svg: its picture."""

    name: str
    meaning: str
    svg: str

    @property
    def anchor(self) -> str:
        """Where it stands on the page."""
        return self.name.replace(" ", "-")


Picture = Callable[[], str]
_WORDS: tuple[tuple[str, str, Picture], ...] = (
    ("ladder", "A row of rungs from easy to hard for one skill.", lambda: draw.ladder(at=2)),
    ("rung", "One step: a drill with its dose and target.", lambda: draw.ladder(at=3, only=True)),
    ("dose", "How much: sets of repetitions, with the rest between.", lambda: draw.sets(3, 5)),
    ("target", "What has to be reached for a day to pass.", lambda: draw.target(0.8)),
    ("lane", "A side or spot that is counted by itself.", draw.lanes),
    (
        "rule",
        "What has to happen before somebody climbs: passes in a row, 2 of 3, all sets weighed, "
        "so much work, or your word.",
        lambda: draw.days("pass", "pass"),
    ),
    (
        "verdict",
        "Pass, near, low or short: what a day was by its target and floor.",
        lambda: draw.days("pass", "near", "low"),
    ),
    ("floor", "Below this a day is low: too hard for now.", draw.floor),
    ("climb", "One rung up, when the rule is met and you confirm it.", lambda: draw.move(1)),
    ("hold", "Stay on the rung; it says what is missing.", lambda: draw.move(0)),
    ("ease", "The easier way of a rung, for a while, after low days.", draw.ease),
    ("step down", "One rung down, when even the easier way stays low.", lambda: draw.move(-1)),
    (
        "stalled",
        "No climb in sight: how sure that is, is said.",
        lambda: draw.days("near", "near", "near", "near"),
    ),
    ("check", "The rule is met by what nobody of the club has seen: watch one.", draw.eye),
    ("recheck", "After a long time away the rung below is done once.", lambda: draw.move(-1)),
    ("retention", "A passed rung is checked after 2, 4 and 8 weeks, then every 8.", draw.retention),
    ("placement", "A few tries that find the rung to start on.", draw.placement),
    ("fault", "What went wrong in a miss, by name; it has something that treats it.", draw.fault),
    ("cue", "The one thing to think of today.", draw.cue),
    ("bad feed", "A ball that came badly: it counts for nothing.", draw.bad_feed),
    ("drill", "What is done: text, drawing, faults, cautions, tools.", draw.plan),
    ("home version", "How a drill is done at home, and what it then lacks.", draw.home),
    ("caller", "Says what to do next, so that looking is practised too.", draw.caller),
    (
        "by ear",
        "A phone hears each hit and counts it; the player looks the number over.",
        draw.by_ear,
    ),
    ("routine", "Parts done in one go, each counted on its own ladder.", draw.routine),
    ("station", "A place in a group’s round, with roles that change.", draw.stations),
    ("turn", "Who works now, who is next, who rests.", draw.turns),
    ("stop", "Somebody is hurt: nothing is counted before a coach ends it.", draw.stop),
    ("real change", "More than a test differs from itself by chance.", draw.change),
    (
        "day spread",
        "By how much one player’s days differ: odds are of days as they are.",
        draw.spread,
    ),
)


@cache
def trade_words() -> tuple[Word, ...]:
    """All of them, in the order in which they are met."""
    return tuple(Word(name, meaning, picture()) for name, meaning, picture in _WORDS)
