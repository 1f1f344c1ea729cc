"""A ladder and its rungs in words, with odds."""

from dataclasses import dataclass

from drill_ladder.apps.library.models import Intent, Ladder, Rung
from drill_ladder.apps.library.rules.odds import Marks, Risks, risks
from drill_ladder.core.judging import Caller, Rule
from drill_ladder.formats.words import (
    band_words,
    dose_words,
    easing_sentence,
    rule_sentence,
    target_words,
)
from drill_ladder.ui.pages import Context


@dataclass(frozen=True, slots=True)
class RungLines:
    """A rung in words under its ladder's rule. more: intent, tempo, what is expected; risks: None
    without odds.
    """

    rung: Rung
    dose: str
    target: str
    more: str
    easing: str
    own_rule: str
    two_axes: bool
    risks: Risks | None


@dataclass(frozen=True, slots=True)
class LadderLines:
    """A ladder under a rule; odds_at: its first rung with odds, None without any."""

    rule: str
    rungs: list[RungLines]
    marks: Marks | None

    @property
    def odds_at(self) -> int | None:
        """The position of the first rung that has odds."""
        return next((rung.rung.position for rung in self.rungs if rung.risks), None)

    def context(self) -> Context:
        """For the page."""
        return {
            "rule": self.rule,
            "rungs": self.rungs,
            "marks": self.marks,
            "odds_at": self.odds_at,
        }


def ladder_lines(ladder: Ladder, rule: Rule, marks: Marks | None) -> LadderLines:
    """A ladder in words under a rule, with odds where there are marks."""
    rungs = [rung_lines(rung, rule, marks) for rung in ladder.rungs.all()]
    return LadderLines(rule_sentence(rule), rungs, marks)


def rung_lines(rung: Rung, rule: Rule, marks: Marks | None = None) -> RungLines:
    """A rung with its terms in words under the ladder's rule; with marks, the odds too."""
    terms, own = rung.core, rung.rule
    return RungLines(
        rung=rung,
        dose=dose_words(terms),
        target=target_words(terms),
        more=more_words(rung),
        easing=easing_sentence(own or rule, terms),
        own_rule=rule_sentence(own) if own else "",
        two_axes=len(rung.axis) > 1,
        risks=risks(terms, own or rule, marks) if marks else None,
    )


TEMPOS = {0.5: "at half speed", 0.75: "at three quarters of full speed", 1.0: "at full speed"}


def more_words(rung: Rung) -> str:
    """Intent, tempo and what is expected, where they say something."""
    parts = [] if rung.intent == Intent.SKILL else [rung.get_intent_display()]
    if rung.tempo:
        parts.append(_tempo_words(rung.tempo))
        if rung.tempo_high and rung.tempo_high > rung.tempo:
            parts[-1] += f", up to {_tempo_words(rung.tempo_high).removeprefix('at ')} while clean"
    if rung.caller:
        parts.append(caller_words(rung.caller))
    if rung.success:
        parts.append(f"expected here: {band_words(rung.drill.measure, rung.success)}")
    words = ", ".join(parts)
    return words[:1].upper() + words[1:]


def _tempo_words(tempo: float) -> str:
    return TEMPOS.get(tempo, f"at {tempo * 100:.0f}\u00a0% of full speed")


MODE_WORDS = {"known": "told before", "serial": "in turn", "random": "at random"}


def caller_words(caller: Caller) -> str:
    """What is called, and how."""
    words = f"called {MODE_WORDS[caller.mode]}: {', '.join(caller.names)}"
    if caller.leave:
        words += f", {caller.leave:.0%} of them to be left".replace("%", "\u00a0%")
    if caller.late_s:
        words += f", late by {caller.late_s:g}\u00a0s"
    return words + (f", late, at {caller.late_at}" if caller.late_at else "")
