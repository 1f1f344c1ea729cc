"""A ladder and its rungs in words, with odds."""

from dataclasses import dataclass

from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.library.rules import Marks, Risks, risks
from drill_ladder.core.judging import Rule
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.formats.rung_fields import said_of
from drill_ladder.formats.rung_words import dose_words, easing_sentence, target_words
from drill_ladder.formats.words import caller_words, rule_sentence
from drill_ladder.ui.pages import Context


@dataclass(frozen=True, slots=True)
class RungLines:
    """A rung in words under its ladder's rule. more: what its other fields say; risks: None
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
        more=more_words(terms),
        easing=easing_sentence(own or rule, terms),
        own_rule=rule_sentence(own) if own else "",
        two_axes=len(rung.axis) > 1,
        risks=risks(terms, own or rule, marks) if marks else None,
    )


def more_words(rung: CoreRung) -> str:
    """What its other fields say, and who calls."""
    parts = said_of(rung, for_player=False)
    if rung.caller:
        parts.append(caller_words(rung.caller))
    words = ", ".join(parts)
    return words[:1].upper() + words[1:]
