"""The questions that a progress page answers, one panel each: a sentence first, then the picture,
then its numbers as a table.
"""

from collections import defaultdict
from collections.abc import Callable, Sequence
from itertools import pairwise

from drill_ladder.apps.practice.models import JudgedDay, Session
from drill_ladder.apps.practice.observations import fault_sessions, treated
from drill_ladder.apps.practice.words import read_lines
from drill_ladder.apps.practice.work import limit_of, tempo_sets
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.apps.progress.panels.landings import landed
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.panels.sides import interval, which_side
from drill_ladder.apps.progress.player import Record, cost_line, trend_over
from drill_ladder.charts import rates as rates_chart
from drill_ladder.charts import scores as scores_chart
from drill_ladder.core.coaching import (
    RECENT,
    Answers,
    Feeding,
    Misses,
    Policy,
    feeds_of,
    personal_bests,
    ranked,
    tempo_of,
)
from drill_ladder.core.hall import is_good
from drill_ladder.core.judging import Measure, Rung
from drill_ladder.core.statistics import (
    Fatigue,
    fatigue_of,
    visible_drop,
)
from drill_ladder.formats.measures import change_words, score_words
from drill_ladder.formats.words import many, percent


def panels_of(record: Record) -> list[Panel]:
    """What there is to say about the ladder in question."""
    stay = record.current
    if stay is None:
        return []
    asked: list[Callable[[Record, Stay], Panel | None]] = [
        better,
        which_side,
        landed,
        why_missed,
        tired,
        tempo_panel,
        reads_panel,
        feeds_panel,
    ]
    return [panel for ask in asked if (panel := ask(record, stay)) is not None]


# --- better?


def better(record: Record, stay: Stay) -> Panel:
    """The scores on this rung against its target; only what compares is joined."""
    rung = stay.terms.rung
    days = record.scored(stay)
    title = f"Better? {stay.rung.title}"
    if not days:
        return Panel("better", title, ["Nothing was done on this rung in this time."])
    joined_days, others = record.compares(stay), record.counted_otherwise(stay)
    joins = {day.on for day in joined_days}
    points = [_point(day, day.on not in joins, rung) for day in days]
    returns = [after.on for day, after in pairwise(days) if day.stay_id != after.stay_id]
    joined = [(p.on, p.score) for p in points if not p.apart]
    words, line = _trend(joined_days, rung)
    if others:
        words = f"{_how_counted(joined_days)}: {words[:1].lower()}{words[1:]}"
    lines = [words, *_other_lines(others, rung), *_best(joined, rung)]
    earlier = sum(day.stay_id != stay.pk for day in days)
    if earlier:
        words = many(earlier, "day")
        lines.append(
            f"{words} of an earlier time on this rung counted in; the line breaks between."
        )
    apart = len(points) - len(joined) - len(others)
    if apart:
        lines.append(f"Hollow: {many(apart, 'day')} done easier or another way, not joined.")
    goal = rung.target.rate if rung.counts_makes else rung.target.value
    svg = scores_chart.scores(
        points, goal, line, lambda value: score_words(rung.measure, value), lines[0], returns
    )
    rows = [
        [
            f"{d.on:%-d %b %Y}",
            score_words(rung.measure, d.score),
            d.verdict + (", by ear" if d.heard else ""),
            "" if d.form is None else percent(d.form),
        ]
        for d in days
    ]
    lines += _form_line(days)
    head = ["Day", "Score", "Verdict", "Technique that looked right"]
    return Panel("better", title, lines, svg, head, rows[::-1])


def _form_line(days: Sequence[JudgedDay]) -> list[str]:
    """Form beside the score: of the first and the latest day on which somebody looked."""
    seen = [(day.on, day.form) for day in days if day.form is not None]
    if len(seen) < 2:
        return []
    (_, first), (on, last) = seen[0], seen[-1]
    words = (
        f"Technique that looked right: {percent(first)} at first, {percent(last)} on {on:%-d %B}"
    )
    return [f"{words}; looked at on {many(len(seen), 'day')}."]


def _point(day: JudgedDay, apart: bool, rung: Rung) -> scores_chart.Point:
    said = f"{day.on:%-d %B}: {score_words(rung.measure, day.score)}, {day.verdict}"
    said += ", by ear" if day.heard else ""
    return scores_chart.Point(day.on, day.score or 0.0, apart, said, day.heard)


def _trend(days: Sequence[JudgedDay], rung: Rung) -> tuple[str, scores_chart.Line | None]:
    """In words, and as a line through the points where there is one."""
    trend = trend_over(days, rung)
    line = None
    if trend.slope_per_week is not None and trend.low is not None and trend.high is not None:
        line = scores_chart.Line(trend.slope_per_week, trend.low, trend.high)
    return _better_line(trend.verdict, line, trend.n, rung.measure), line


def _how_counted(days: Sequence[JudgedDay]) -> str:
    return "By ear" if days[-1].heard else "By hand"


def _other_lines(others: Sequence[JudgedDay], rung: Rung) -> list[str]:
    """The days that were counted the other way, as a line of their own."""
    if not others:
        return []
    words, _ = _trend(others, rung)
    return [f"{_how_counted(others)}: {words[:1].lower()}{words[1:]} Squares are by ear."]


def _better_line(verdict: str, line: scores_chart.Line | None, n: int, measure: Measure) -> str:
    if line is None:
        return f"Too early to say: {n} of 5 days that compare."
    words = {
        "improving": "Getting better",
        "worsening": "Getting worse",
        "flat": "No change to be sure of",
    }
    times, unit, _ = change_words(measure)
    slope, low, high = (signed(times * v) for v in (line.slope, line.low, line.high))
    over = f"over {many(n, 'day')}"
    return f"{words[verdict]}: {slope} {unit} a week, between {low} and {high}, {over}."


def signed(value: float) -> str:
    """+1.2, −0.4, 0."""
    rounded = round(value, 1) + 0.0
    return f"{rounded:+.1f}".replace("-", "\u2212") if rounded else "0"


def _best(points: Sequence[tuple[object, float]], rung: Rung) -> list[str]:
    if not points:
        return []
    bests = personal_bests(points, rung.measure.higher_is_better)  # type: ignore[arg-type]
    on, score = bests[-1]
    return [f"Best so far: {score_words(rung.measure, score)} on {on:%-d %B}."]


# --- why missed?


def why_missed(record: Record, stay: Stay) -> Panel | None:
    """Faults by name, as shares of the misses of the last sessions; where an attempt is told by
    where it ended, nothing is a miss.
    """
    if getattr(stay.terms.rung.measure, "landings", ()):
        return None
    sessions = record.on_rung(stay)
    misses = fault_sessions(sessions)
    ranking = ranked(misses)
    if not ranking:
        return None
    counted = [s for s in sessions if any(row.faults is not None for row in s.sets.all())]
    first = ranking[0]
    lines = [
        f"Most often: {first.fault}, {first.count} of {many(first.of, 'miss', 'misses')} of the "
        f"last {many(min(RECENT, len(sessions)), 'session')}.",
        f"Faults were counted in {len(counted)} of {many(len(sessions), 'session')}; where nobody "
        "counted, nothing is known.",
        *_treated_lines(stay, misses),
    ]
    drawn = [
        rates_chart.Rate(one.fault, one.counted, None, None, many(one.count, "time"))
        for one in ranking[:6]
    ]
    rows = [[one.fault, f"{one.count}", percent(one.counted)] for one in ranking]
    svg = rates_chart.rates(drawn, lines[0])
    head = ["Fault", "Times", "Share of misses"]
    return Panel("missed", "Why missed?", lines, svg, head, rows)


def _treated_lines(stay: Stay, misses: Sequence[Misses]) -> list[str]:
    """The fault that is worked on, before its cue was given and since."""
    treatments = treated(stay.worked_on.drill, misses)
    if treatments is None:
        return []
    before, since = (None if share is None else percent(share) for share in treatments.shares)
    if before is None or since is None:
        return []
    fault = treatments.fault.capitalize()
    return [f"{fault} is worked on: {before} of the misses before, {since} since."]


# --- tired?


def tired(record: Record, stay: Stay) -> Panel | None:
    """Early against late attempts inside the sessions, and fresh against tired days."""
    rows = [_attempts(s) for s in record.on_rung(stay) if not s.tired]
    recent = [row for row in rows if len(row) >= 3][-4:]
    cost = cost_line(stay)
    if not recent:
        return Panel("tired", "Tired?", [cost]) if cost else None
    fatigue = fatigue_of(recent)
    lines = [_tired_line(fatigue), *([cost] if cost else [])]
    thirds = sum(len(row) // 3 for row in recent)
    seen = visible_drop(thirds, fatigue.early) if fatigue.early is not None else None
    if seen is not None and not fatigue.flagged:
        lines.append(f"A drop of {100 * seen:.0f} points could have been seen with these numbers.")
    if fatigue.early is None or fatigue.late is None:
        return None
    table = [["First third", percent(fatigue.early)], ["Last third", percent(fatigue.late)]]
    return Panel("tired", "Tired?", lines, "", ["Of the session", "Good"], table)


def _attempts(session: Session) -> list[int]:
    """1 for a good one, 0 for a miss, in their order; only what was tapped has an order. Lanes lie
    side by side, each from its first to its last: a weak lane that comes last is no tiredness.
    """
    by_lane: dict[str, list[int]] = defaultdict(list)
    for row in session.sets.all():
        if row.makes is not None:
            by_lane[row.lane] += [
                int(is_good(stroke)) for stroke in row.strokes if stroke not in "vrzy"
            ]
    placed = [
        ((number + 0.5) / len(marks), mark)
        for marks in by_lane.values()
        for number, mark in enumerate(marks)
    ]
    return [mark for _, mark in sorted(placed, key=lambda one: one[0])]


def _tired_line(found: Fatigue) -> str:
    if found.early is None or found.late is None or found.drop is None:
        return "Too few attempts in order to say."
    words = f"first third {percent(found.early)} good, last third {percent(found.late)}"
    if found.flagged:
        return f"It falls off inside a session: {words}. Try shorter sets, or it earlier."
    return f"No falling off to be sure of: {words}."


# --- tempo, reads, feeds


def tempo_panel(record: Record, stay: Stay) -> Panel | None:
    """How fast it is clean."""
    sets = tempo_sets(row for s in record.on_rung(stay) for row in s.sets.all())
    tempo = tempo_of(sets, limit_of(stay.terms.rung))
    if not tempo.tempos:
        return None
    fastest = tempo.fastest_clean
    lines = [
        f"Clean up to {percent(fastest)} of full speed."
        if fastest is not None
        else "At no tempo are there enough clean attempts yet."
    ]
    rows = [
        [percent(t.tempo), f"{t.attempts}", percent(t.rate or 0), percent(t.fault_rate or 0)]
        for t in tempo.tempos
    ]
    head = ["Tempo", "Attempts", "Good", "With a fault"]
    return Panel("tempo", "How fast is it clean?", lines, "", head, rows)


def reads_panel(record: Record, stay: Stay) -> Panel | None:
    """Deciding apart from doing."""
    reads = [row.reads for s in record.on_rung(stay) for row in s.sets.all() if row.reads]
    lines = read_lines(sum(reads, Answers()))
    if not lines:
        return None
    return Panel("reads", "Reads it?", [line[:1].upper() + line[1:] + "." for line in lines])


def feeds_panel(record: Record, stay: Stay) -> Panel | None:
    """Whose feeds were good, and what was made of them."""
    feeds = [
        Feeding(row.feeder, row.attempts + row.voids, row.attempts, row.makes, row.makes)
        for s in record.on_rung(stay)
        for row in s.sets.all()
        if row.feeder and row.attempts is not None and row.makes is not None
    ]
    if not feeds:
        return None
    account = feeds_of(feeds, Policy.VOID)
    drawn = [
        rates_chart.Rate(f.feeder, f.share, f.low, f.high, percent(f.share))
        for f in account.feeders
        if f.share is not None
    ]
    line = f"Good feeds were turned into {percent(account.rate_on_good or 0)} good ones, all feeds "
    line += f"into {percent(account.rate or 0)}."
    rows = [[one.name, one.said, interval(one.low, one.high)] for one in drawn]
    head = ["Feeder", "Good feeds", "95 %"]
    return Panel("feeds", "The feeds", [line], rates_chart.rates(drawn, line), head, rows)
