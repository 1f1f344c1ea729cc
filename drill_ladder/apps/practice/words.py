"""What a player is told after a session: plainly, kindly, about nobody but themselves."""

from collections.abc import Callable
from dataclasses import dataclass, replace

from drill_ladder.apps.library.models import Rung
from drill_ladder.core.coaching import Answers
from drill_ladder.core.judging import (
    Ahead,
    Course,
    Judged,
    Kind,
    Lacking,
    Missing,
    Verdict,
    dose_done,
    form_and_faults,
    lacks,
    made_of,
    on_course,
)
from drill_ladder.core.judging import Rung as CoreRung
from drill_ladder.core.plans import swapped
from drill_ladder.formats.measures import band_words, score_words
from drill_ladder.formats.sentences import missing_text

HEADLINES = {
    Verdict.PASS: ("Target reached", "That is what this rung asks for."),
    Verdict.NEAR: (
        "Nearly there",
        "Not quite the target yet. This is how it should feel: mostly good, some misses.",
    ),
    Verdict.LOW: (
        "A hard one today",
        "That happens to everyone who tries something new. Your coach sees it too.",
    ),
    Verdict.SHORT: (
        "Part of it done",
        "It counts as work done. To be judged it needs the whole dose.",
    ),
}


Say = Callable[[str], str]  # a lane as this player is told it


@dataclass(frozen=True, slots=True)
class Outcome:
    """Headline, comment, what was reached, what was missing, what comes next."""

    kind: str
    headline: str
    comment: str
    reached: list[str]
    missing: list[str]
    upcoming: str


# said instead where the rung is meant to be beyond the player
EXPECTED = {
    Course.ON_COURSE: (
        "On course",
        "This rung is meant to be hard: {band} is what it should look like.",
    ),
    Course.OVER: (
        "Better than expected",
        "This rung is meant to be hard: {band} is what it should look like.",
    ),
}


def outcome(
    judged: Judged,
    ahead: Ahead,
    rung: CoreRung,
    next_rung: Rung | None,
    mirrored: bool = False,
) -> Outcome:
    """What to tell about one judged day. mirrored: lanes as a left-hander is told them."""
    say = _mirrored if mirrored else str.capitalize
    success = rung.success
    headline, comment = HEADLINES[judged.verdict]
    if success and judged.score is not None and judged.verdict in (Verdict.NEAR, Verdict.LOW):
        course = on_course(judged.score, success, rung.measure.higher_is_better)
        if course in EXPECTED:
            headline, comment = EXPECTED[course]
            comment = comment.format(band=band_words(rung.measure, success))
    reached, missing = _reached(judged, rung, say), _missing(judged, rung, say)
    return Outcome(
        judged.verdict.value, headline, comment, reached, missing, _upcoming(ahead, next_rung, say)
    )


def _mirrored(lane: str) -> str:
    return swapped(lane).capitalize()


def reached_lines(judged: Judged, rung: CoreRung, mirrored: bool = False) -> list[str]:
    """What was reached on a day, lane by lane, without a word about whether it is enough."""
    return _reached(judged, rung, _mirrored if mirrored else str.capitalize)


def _reached(judged: Judged, rung: CoreRung, say: Say) -> list[str]:
    if not rung.measure.counts_makes:
        return [score_words(rung.measure, judged.score)] if judged.score is not None else []
    lines = []
    for lane in rung.lanes or (None,):
        attempts, makes = made_of(
            [s for s in judged.day.sets if s.lane == lane] if lane else judged.day.sets
        )
        if attempts:
            lines.append(
                f"{say(lane)}: {makes} of {attempts}" if lane else f"{makes} of {attempts}"
            )
    return lines


def _missing(judged: Judged, rung: CoreRung, say: Say) -> list[str]:
    """Everything that kept the day from being a pass, each by its name."""
    parts = []
    for lack in lacks(rung, judged.day):
        need = (
            f"{lack.need:g}" if rung.measure.counts_makes else score_words(rung.measure, lack.need)
        )
        parts.append(f"{say(lack.lane)} needs {need}" if lack.lane else f"The target is {need}")
    parts += [_TOLD_MISSING[lack.code](lack) for lack in form_and_faults(rung, judged)]
    if judged.met and judged.day.eased:
        parts.append(_easier(rung))
    if not judged.full:
        parts.append(_dose_missing(judged, rung))
    return parts


def _easier(rung: CoreRung) -> str:
    if rung.feeds:
        return f"It was made easier, or fed more gently: fed “{rung.feeds[-1]}” counts"
    return "It was done the easier way: the full one counts"


def _form_missing(missing: Missing) -> str:
    need = f"{missing.numbers['need']:.0%}"
    if missing.numbers["have"] is None:
        return f"Nobody looked at the technique: {need} of it has to look right"
    return f"Technique looked right in {missing.numbers['have']:.0%}: it needs {need}"


def _faults_missing(missing: Missing) -> str:
    if missing.numbers["have"] is None:
        return "Nobody counted the faults: they have to be counted"
    return f"{missing.numbers['have']} faults: at most {missing.numbers['allowed']} count as clean"


_TOLD_MISSING = {Lacking.FORM: _form_missing, Lacking.FAULTS: _faults_missing}


def _dose_missing(judged: Judged, rung: CoreRung) -> str:
    done, asked = dose_done(rung, judged.day)
    return f"{done:g} of {asked:g} done"


def _upcoming(ahead: Ahead, next_rung: Rung | None, say: Say) -> str:
    up = f"rung {next_rung.position}, “{next_rung.title}”" if next_rung else "the next rung"
    match ahead.kind:
        case Kind.CLIMB | Kind.SKIP:
            return f"You have done what it takes. When your coach says yes, it is {up}."
        case Kind.FINISH:
            return "That was the top rung. Your coach will decide with you what comes next."
        case Kind.CHECK:
            return "You are ready: your coach just wants to see it once."
        case Kind.EASE | Kind.STEP_DOWN:
            return "Your coach will look at making this a bit easier for a while."
        case _:
            missing = [missing_text(_said(m, say)) for m in ahead.missing if m.code in _TOLD]
            return (
                f"Once more at this rung. To climb: {'; '.join(missing)}."
                if missing
                else "Once more at this rung."
            )


def _said(missing: Missing, say: Say) -> Missing:
    lane = missing.numbers.get("lane")
    if lane is None:
        return missing
    return replace(missing, numbers={**missing.numbers, "lane": say(str(lane))})


_TOLD = (Lacking.PASSES, Lacking.SESSIONS, Lacking.REPS, Lacking.DAYS, Lacking.DOSE, Lacking.LANE)


SURE, OFTEN = 2.0, 1.0  # d′ from which calls are told apart surely, mostly (common practice)


def read_lines_for_player(answers: Answers) -> list[str]:
    """How calls were answered, in a child's words."""
    lines = []
    asked, left = answers.hits + answers.misses, answers.false_alarms + answers.correct_leaves
    if asked:
        lines.append(f"You went for {answers.hits} of {asked} calls")
    if answers.late:
        lines.append(f"{answers.late} came late")
    if answers.wrong_way:
        lines.append(f"{answers.wrong_way} at the right place, the wrong way")
    if left:
        lines.append(f"You left {answers.correct_leaves} of {left} that were to be left")
    apart = answers.reads.d_prime
    if apart is not None:
        lines.append(f"Telling the calls apart is {_how_sure(apart)}")
    if answers.choices:
        lines.append(
            f"You read {answers.right} of {answers.choices} right, and did {answers.carried_out} "
            "of these"
        )
    return lines


def _how_sure(d_prime: float) -> str:
    if d_prime >= SURE:
        return "sure"
    return "mostly right" if d_prime >= OFTEN else "still a guess"


def read_lines(answers: Answers) -> list[str]:
    """How calls were answered, in words: looking apart from doing."""
    lines, reads = [], answers.reads
    asked, left = answers.hits + answers.misses, answers.false_alarms + answers.correct_leaves
    parts = [f"{answers.hits} of {asked} calls answered"] if asked else []
    if answers.late:
        parts.append(f"{answers.late} late")
    if answers.wrong_way:
        parts.append(f"{answers.wrong_way} right place, wrong foot, hand or tool")
    if left:
        parts.append(f"{answers.correct_leaves} of {left} left as they should be")
    if parts:
        lines.append(", ".join(parts))
    if reads.d_prime is not None:
        words = f"how well calls are told apart, d′ {reads.d_prime:.1f} (0 is guessing, 2 is sure)"
        lines.append(words[0].upper() + words[1:] if not parts else words)
    if answers.choices:
        lines.append(
            f"{answers.right} of {answers.choices} situations read rightly, "
            f"{answers.carried_out} of these carried out"
        )
    return lines
