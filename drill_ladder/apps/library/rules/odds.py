"""The odds of a rung's rule, as the ladder's page shows them: a curve, two risks, the other schools
beside it.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from typing import Any, Self

from drill_ladder.charts.odds import Curve, at, odds_chart, small_chart
from drill_ladder.core.judging import ByCoach, Evidence, InARow, Rule, Rung, School, Volume, Window
from drill_ladder.core.odds import (
    NOT_FOR,
    Found,
    MakesSession,
    Question,
    climb_curve,
    find_rule,
    odds,
    simulate,
    simulated_curve,
)
from drill_ladder.formats.words import rule_sentence

RATES = [i / 40 for i in range(41)]
# where simulated curves turn, they are simulated: quick enough to follow a hand on the numbers
SIMULATED = [0.0, 0.4, 0.55, 0.65, 0.7, 0.75, 0.8, 0.85, 0.9, 0.95, 1.0]
DRAWN_RUNS = 100
FOLLOWED = 60  # sessions beyond the horizon in which a simulated ready player may still climb
MOST_ATTEMPTS = 40
LONGEST = 2000  # attempts of a session
# school -> who wants it, and why
WHO = {
    "one_pass": "Keep it moving: success breeds confidence.",
    "in_a_row": "Make it stick before it gets harder.",
    "window": "Forgiving of one bad day.",
    "evidence": "Decide on what is known, not on luck.",
    "volume": "Hours on the ball first.",
    "by_coach": "The coach’s eye decides; results say how it goes.",
}
USUAL: dict[str, School] = {
    "one_pass": InARow(1),
    "in_a_row": InARow(2),
    "window": Window(2, 3),
    "evidence": Evidence(0.9, 3),
    "volume": Volume(sessions=4),
}
NAMES = {
    "one_pass": "One pass",
    "in_a_row": "In a row",
    "window": "Window",
    "evidence": "Evidence",
    "volume": "Volume",
    "by_coach": "Coach’s word",
}


@dataclass(frozen=True, slots=True)
class Marks:
    """The coach's own two marks and horizon: true rates not ready < ready, sessions. spread: by how
    much days differ here, 0..0.5.
    """

    not_ready: float
    ready: float
    horizon: int
    spread: float = 0.0


# the marks by which a coach without own ones looks at rules: percent, sessions, and the two risks
# in percent
USUAL_MARKS = {"not_ready": 60, "ready": 85, "horizon": 6, "alpha": 10, "beta": 10}


def marks_of(numbers: dict[str, Any], spread: float = 0.0) -> Marks:
    """A coach's own marks, or the usual ones. spread: the club's own."""
    marks = USUAL_MARKS | numbers
    return Marks(marks["not_ready"] / 100, marks["ready"] / 100, marks["horizon"], spread)


def marks_at(rung: Rung, marks: Marks) -> Marks:
    """The marks by which a rung is looked at: where it is meant to be hard, or easy, the ends of
    what is expected there, and not what is usual elsewhere.
    """
    if rung.success is None or not rung.counts_makes or rung.success[0] >= rung.success[1]:
        return marks
    low, high = rung.success
    return replace(marks, not_ready=low, ready=high)


@dataclass(frozen=True, slots=True)
class Risks:
    """What a rule does at the coach's marks: shares 0..1 of those moved up too soon and kept back;
    a small drawing.
    """

    soon: float
    back: float
    svg: str


def risks(rung: Rung, rule: Rule, marks: Marks) -> Risks | None:
    """The risks of a rung; None where it is not one of good or missed, too long to be worth the
    sum, or the coach's own call.
    """
    by_coach = isinstance(rule.school, ByCoach)
    if by_coach or not rung.counts_makes or rung.default_attempts > LONGEST:
        return None
    marks = marks_at(rung, marks)
    drawn = Curve("", curve(session_of(rung), rule, marks.horizon, marks.spread))
    soon, climbs = at(RATES, drawn, marks.not_ready), at(RATES, drawn, marks.ready)
    return Risks(soon, 1 - climbs, small_chart(RATES, drawn, marks.not_ready, marks.ready))


def session_of(rung: Rung) -> MakesSession:
    """One session of a rung scored in makes: n and k of one lane, or of all lanes where they share
    the mark.
    """
    lanes, shared = lanes_asked(rung)
    n = rung.dose.sets * (rung.reps_per_set or 10) * shared
    return MakesSession(n, rung.target.makes_needed(n), lanes, rung.target.each_lane, rung.floor)


@lru_cache(maxsize=256)
def curve(session: MakesSession, rule: Rule, horizon: int, spread: float = 0.0) -> list[float]:
    """P(climbed by the horizon) over the drawn rates; for evidence simulated at a few of them,
    straight between.
    """
    if isinstance(rule.school, Evidence):
        scenarios = [[rate] * session.lanes for rate in SIMULATED]
        asked = (session, rule, scenarios, horizon, DRAWN_RUNS)
        simulated = Curve("", simulated_curve(*asked, day_spread=spread))
        return [at(SIMULATED, simulated, rate) for rate in RATES]
    return climb_curve(session, rule, [[rate] * session.lanes for rate in RATES], horizon, spread)


@dataclass(frozen=True, slots=True)
class SchoolRow:
    """A school in the comparison: percent moved up too soon and kept back; sessions: that a ready
    player needs.

    unending: what to say where sessions is None; line: which of the drawn lines it is, 0 for the
    own one.
    """

    name: str
    sentence: str
    own: bool
    soon: int
    back: int
    sessions: float | None
    unending: str
    line: int = 0


@dataclass(frozen=True, slots=True)
class LaneOdds:
    """Where some lanes are ready and others are not: the chances 0..1 to climb, and to be eased
    first.
    """

    name: str
    climbs: float
    eased: float


@dataclass(frozen=True, slots=True)
class Comparison:
    """The drawing, the schools, the rule as a sentence, and the lanes where each lane counts.
    alike: percent moved up too soon and kept back by the rule, were all days alike.
    """

    svg: str
    rows: list[SchoolRow]
    sentence: str
    lanes: list[LaneOdds]
    alike: tuple[int, int] | None = None

    def context(self) -> dict[str, Any]:
        """For the page."""
        document = {"svg": self.svg, "rows": self.rows, "sentence": self.sentence}
        return document | {"lanes": self.lanes, "alike": self.alike}


def compare(rung: Rung, rule: Rule, marks: Marks) -> Comparison:
    """The drawing, and for each school both risks and the sessions that a ready player needs. Of a
    coach's own call there is nothing to draw: what the others would do stands there alone.
    """
    session, main, marks = session_of(rung), None, marks_at(rung, marks)
    own = rule.school.name
    rows: list[SchoolRow] = []
    others: list[Curve] = []
    for name, school in USUAL.items():
        tried = rule if name == own else Rule(school)
        drawn = Curve(NAMES[name], curve(session, tried, marks.horizon, marks.spread))
        if name == own:
            main = drawn
        else:
            others.append(drawn)
        rows.append(_row(name, session, tried, drawn, marks, 0 if name == own else len(others)))
    ends = (marks.not_ready, marks.ready, marks.horizon)
    svg = odds_chart(RATES, main, others, *ends) if main else ""
    lanes = by_lane(rung, session, rule, marks)
    return Comparison(svg, rows, rule_sentence(rule), lanes, _if_alike(session, rule, marks))


def _if_alike(session: MakesSession, rule: Rule, marks: Marks) -> tuple[int, int] | None:
    """What the rule would do if nobody ever had a good or a bad day."""
    if not marks.spread or isinstance(rule.school, ByCoach):
        return None
    drawn = Curve("", curve(session, rule, marks.horizon))
    soon, climbs = at(RATES, drawn, marks.not_ready), at(RATES, drawn, marks.ready)
    return round(soon * 100), round((1 - climbs) * 100)


def by_lane(rung: Rung, session: MakesSession, rule: Rule, marks: Marks) -> list[LaneOdds]:
    """Where each lane counts: the chance to climb, and to be eased, when some lanes are ready and
    others are not.
    """
    if not session.each_lane or session.lanes < 2 or isinstance(rule.school, ByCoach):
        return []
    lanes = " or ".join(rung.lanes) if session.lanes == 2 else "any one lane"
    names = {0: "every lane ready", session.lanes: "no lane ready"}
    return [
        LaneOdds(names.get(n, f"only {lanes} not ready yet"), climbs, eased)
        for n, climbs, eased in _some_ready(session, rule, marks)
    ]


@lru_cache(maxsize=256)
def _some_ready(session: MakesSession, rule: Rule, marks: Marks) -> list[tuple[int, float, float]]:
    """(lanes that are not ready, chance to climb, chance to be eased first) within the horizon."""
    weak = (0, 1, session.lanes)
    scenarios = [[marks.not_ready] * n + [marks.ready] * (session.lanes - n) for n in weak]
    if isinstance(rule.school, Evidence):
        asked = (session, rule, scenarios, marks.horizon)
        runs = simulate(*asked, runs=DRAWN_RUNS, beyond=0, day_spread=marks.spread)
    else:
        runs = odds(session, rule, scenarios, marks.horizon, marks.spread)
    return [
        (n, answer.climb_by[-1], answer.ease_by[-1]) for n, answer in zip(weak, runs, strict=True)
    ]


def _row(
    name: str, session: MakesSession, rule: Rule, drawn: Curve, marks: Marks, line: int
) -> SchoolRow:
    unending = "over 10\u00a0000, or never"
    if name == "evidence":
        unending = f"not all within {marks.horizon + FOLLOWED}"
    return SchoolRow(
        name=NAMES[name],
        sentence=rule_sentence(rule),
        own=line == 0,
        soon=round(at(RATES, drawn, marks.not_ready) * 100),
        back=round((1 - at(RATES, drawn, marks.ready)) * 100),
        sessions=_expected(session, rule, marks),
        unending=unending,
        line=line,
    )


@lru_cache(maxsize=256)
def _expected(session: MakesSession, rule: Rule, marks: Marks) -> float | None:
    ready = [[marks.ready] * session.lanes]
    if isinstance(rule.school, Evidence):
        asked = (session, rule, ready, marks.horizon)
        runs = simulate(*asked, runs=DRAWN_RUNS, beyond=FOLLOWED, day_spread=marks.spread)
        return runs[0].expected_sessions
    return odds(session, rule, ready, marks.horizon, marks.spread)[0].expected_sessions


def lanes_asked(rung: Rung) -> tuple[int, int]:
    """(lanes that must each reach the mark, lanes that share it)."""
    lanes = max(1, len(rung.lanes))
    return (lanes, 1) if rung.target.each_lane else (1, lanes)


@dataclass(frozen=True, slots=True)
class FoundRule:
    """A mark that keeps both risks, by a school; its key and name, and the rule as a sentence."""

    key: str
    name: str
    sentence: str
    found: Found


@lru_cache(maxsize=256)
def finder(
    marks: Marks, alpha: float, beta: float, lanes: int = 1, shared: int = 1
) -> list[FoundRule]:
    """What keeps both risks, school by school; lanes that each need the mark, lanes that
    share one.
    """
    question = Question(
        *(marks.not_ready, marks.ready, alpha, beta, marks.horizon, MOST_ATTEMPTS, lanes, shared),
        day_spread=marks.spread,
    )
    rows = []
    for name, school in USUAL.items():
        if type(school) not in NOT_FOR:
            rule = Rule(school)
            rows.append(
                FoundRule(name, NAMES[name], rule_sentence(rule), find_rule(question, rule))
            )
    return rows


@dataclass(frozen=True, slots=True)
class Numbers:
    """The numbers of every school as forms show them: passes, of so many, confidence in percent,
    half-life and sessions in sessions, repetitions. One by itself is the usual one.
    """

    passes: int = 2
    of: int = 3
    confidence: float = 90
    half_life: float = 3
    sessions: int = 4
    reps: int | None = None

    @classmethod
    def typed(cls, **numbers: float | None) -> Self:
        """As typed; what is empty takes the usual number."""
        said = {key: value for key, value in numbers.items() if value is not None}
        return replace(cls(), **said)  # type: ignore[arg-type]


def school_of(name: str, numbers: Numbers) -> School:
    """The school of that name with those numbers."""
    match name:
        case "in_a_row":
            return InARow(numbers.passes)
        case "window":
            return Window(min(numbers.passes, numbers.of), numbers.of)
        case "evidence":
            return Evidence(numbers.confidence / 100, numbers.half_life)
        case "volume":
            reps = numbers.reps or None
            return Volume(reps=reps, sessions=None if reps else numbers.sessions)
        case "by_coach":
            return ByCoach()
        case _:
            return InARow(1)


def numbers_of(school: School) -> Numbers:
    """A school's numbers; the usual ones for those it does not have."""
    match school:
        case InARow(passes):
            return Numbers(passes=max(2, passes))
        case Window(passes, of):
            return Numbers(passes=passes, of=of)
        case Evidence(confidence, half_life):
            return Numbers(confidence=round(confidence * 100), half_life=half_life)
        case Volume(sessions, reps):
            return Numbers.typed(sessions=sessions, reps=reps)
        case ByCoach():
            return Numbers()


def choices() -> Sequence[tuple[str, str]]:
    """Schools with who wants them."""
    return list(NAMES.items())
