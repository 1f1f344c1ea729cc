"""What players learn on a ladder, by the club's own model: how much a session brings, and what each
rung costs on arriving.
"""

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.practice.learning import FEWEST_DAYS, FEWEST_PLAYERS
from drill_ladder.apps.practice.models import LadderLearning
from drill_ladder.apps.progress.panel import Panel
from drill_ladder.apps.progress.panels import signed
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
    what = "good ones" if kept.counted else "days passed"
    gain, low, high = (signed(POINTS * n) for n in (kept.gain, kept.gain_low, kept.gain_high))
    lines = [
        f"About {gain} points of {what} with each full session, where half are good ({low} to "
        f"{high}); from {many(kept.days, 'full day')} of {many(kept.players, 'player')}, as known "
        f"on {kept.on:%-d %B}.",
        *_limits(kept),
    ]
    rows = [
        [f"{rung.position}. {rung.title}", *_step(kept, rung.position - 2)] for rung in rungs[1:]
    ]
    return Panel("learnt", TITLE, lines, "", ["Rung", "Costs on arriving", "95 %"], rows)


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


def _step(kept: LadderLearning, index: int) -> list[str]:
    if index >= len(kept.steps):
        return ["nobody was there", ""]
    one = kept.steps[index]
    return [
        f"{POINTS * one.value:.0f} points",
        f"{POINTS * one.low:.0f} to {POINTS * one.high:.0f}",
    ]
