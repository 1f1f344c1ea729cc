"""What players learn on a ladder, by the club's own model: how much a session brings, and what each
rung costs on arriving.
"""

from dataclasses import dataclass

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.practice.learning import FEWEST_DAYS, FEWEST_PLAYERS
from drill_ladder.apps.practice.learning_models import LearntBy
from drill_ladder.apps.practice.models import LadderLearning
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.formats.measures import form_of
from drill_ladder.formats.words import many

# a log-odds as points of a hundred at even odds
POINTS = 25
TITLE = "What does a session bring?"


def learnt_panel(ladder: Ladder, rungs: list[Rung]) -> Panel:
    """As fitted the last night; said with how little it is where it is little."""
    kept: LadderLearning | None = getattr(ladder, "learning", None)
    if kept is None:
        wanted = f"{FEWEST_DAYS} full days of {FEWEST_PLAYERS} players"
        return Panel("learnt", TITLE, [f"Nothing is known of it yet: it takes {wanted} to tell."])
    unit = _unit(kept, rungs)
    gains = (kept.gain, kept.gain_low, kept.gain_high)
    gain, low, high = (unit.told(value, signed=True) for value in gains)
    lines = [
        f"About {gain} {unit.of} with each full session{unit.where} ({low} to {high}); from "
        f"{many(kept.days, 'full day')} of {many(kept.players, 'player')}, as known on "
        f"{kept.on:%-d %B}.",
        *_limits(kept),
    ]
    rows = [
        [f"{rung.position}. {rung.title}", *_step(kept, unit, rung.position - 2)]
        for rung in rungs[1:]
    ]
    return Panel("learnt", TITLE, lines, "", ["Rung", "Costs on arriving", "95 %"], rows)


@dataclass(frozen=True, slots=True)
class _Unit:
    """What gains and steps are told in. scale: what one of the model's units is; digits: after the
    point.
    """

    of: str
    short: str
    where: str = ""
    scale: float = 1.0
    digits: int = 0

    def told(self, value: float, signed: bool = False) -> str:
        """A number without its unit."""
        sign = "+" if signed else ""
        return f"{self.scale * value:{sign}.{self.digits}f}".replace("-", "\u2212")


def _unit(kept: LadderLearning, rungs: list[Rung]) -> _Unit:
    if kept.by != LearntBy.SCORES:
        of = "points of " + LearntBy(kept.by).label
        return _Unit(of, "points", ", where half are good", POINTS)
    measure = rungs[0].core.measure
    learnt = form_of(measure).learnt
    if not learnt:
        return _Unit("points of a hundred", "points", ", half-way up the scale", POINTS)
    if learnt.startswith("%"):  # learnt on the logarithm, where a hundredth is about one percent
        return _Unit(learnt, "%", scale=100, digits=1)
    return _Unit(learnt, learnt, digits=1)


def _limits(kept: LadderLearning) -> list[str]:
    unsure = ["It may be nothing: the record cannot tell yet."] if kept.gain_low < 0 else []
    return unsure + _not_taken(kept)


def _not_taken(kept: LadderLearning) -> list[str]:
    """Why nothing else is taken from it, where nothing is."""
    if kept.fives:
        return [
            "Most counts here are told in fives: odds, what lies ahead and who is stuck are not "
            "taken from them, since a mark is passed otherwise by round numbers than by counts."
        ]
    if kept.days < FEWEST_DAYS or kept.players < FEWEST_PLAYERS:
        wanted = f"{FEWEST_DAYS} full days of {FEWEST_PLAYERS} players"
        return [f"Odds and forecasts are taken from it from {wanted} on."]
    return []


def _step(kept: LadderLearning, unit: _Unit, index: int) -> list[str]:
    if index >= len(kept.steps):
        return ["nobody was there", ""]
    one = kept.steps[index]
    return [
        f"{unit.told(one.value)} {unit.short}",
        f"{unit.told(one.low)} to {unit.told(one.high)}",
    ]
