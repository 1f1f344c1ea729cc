"""The questions about all of a player's work: kept at it, how much, how long, does it hold."""

from collections import Counter
from collections.abc import Sequence
from datetime import date, timedelta
from itertools import pairwise

from drill_ladder.apps.library.limits import limits_for
from drill_ladder.apps.practice.judged import Passed, passed, weeks_done
from drill_ladder.apps.practice.models import Session, Skip, Why
from drill_ladder.apps.prescriptions.dose import Kept, done_in, kept_of, minutes_of
from drill_ladder.apps.prescriptions.models import Arrival, Prescription, Stay
from drill_ladder.apps.progress.panels.one_player import signed
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.player import Record
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.weeks.querysets import monday_of
from drill_ladder.charts import rates as rates_chart
from drill_ladder.core.statistics import (
    Completion,
    Effort,
    PlannedWeek,
    forecast_of,
    kept,
    weeks,
)
from drill_ladder.core.statistics import Kept as WeeksKept
from drill_ladder.formats.words import many, percent

SHOWN = 12  # weeks
UPWARDS = (Arrival.CLIMB, Arrival.SKIP)


def panels_of_all(record: Record) -> list[Panel]:
    """What there is to say about all of it."""
    panels = [kept_at_it(record), how_much(record), how_long(record), holds(record)]
    return [panel for panel in panels if panel is not None]


def completion(record: Record) -> list[Completion]:
    """The record's weeks, oldest first."""
    return weeks_done(record.ladders, record.sessions, record.weeks, record.mondays)


def kept_at_it(record: Record) -> Panel | None:
    """Done of planned, week by week, home and club apart, and weeks in a row."""
    weeks_ = completion(record)
    over = weeks_over(record, weeks_)
    if not any(week.planned or week.done for week in weeks_):
        return None
    told = done_of_planned(over)
    share = "" if told.share is None else f", {percent(told.share)}"
    lines = [
        f"{told.done} of {told.planned} planned days of work{share}, over "
        f"{many(len(over), 'week')}.",
        *_beyond(over, told),
        *row_lines(over),
        *_places(record.sessions),
        *_good_ones(record.sessions),
        *_doses(record),
        *_skips(record),
    ]
    shown = weeks_[-SHOWN:]
    drawn = [
        rates_chart.Bar(f"{w.start:%-d.%-m}", w.done, w.planned or None, f"{w.done}/{w.planned}")
        for w in shown
    ]
    rows = [[f"{w.start:%-d %b %Y}", f"{w.done}", f"{w.planned}"] for w in weeks_]
    svg = rates_chart.bars(drawn, lines[0])
    return Panel("kept", "Kept at it?", lines, svg, ["Week of", "Done", "Planned"], rows[::-1])


def done_of_planned(over: Sequence[Completion]) -> WeeksKept:
    """What was done of what was planned; a busy week pays for no other."""
    return kept([PlannedWeek(week.planned, week.done) for week in over])


def _beyond(over: Sequence[Completion], told: WeeksKept) -> list[str]:
    """What was done beyond what a week asked is said beside it."""
    more = sum(week.done for week in over) - told.done
    return [f"{many(more, 'day')} more than a week had asked."] if more > 0 else []


def weeks_over(record: Record, weeks_: Sequence[Completion] | None = None) -> list[Completion]:
    """Those of the record's weeks that are over; weeks_: all of them, where they are known."""
    completions = completion(record) if weeks_ is None else weeks_
    return [week for week in completions if week.start < monday_of(record.today)]


def row_lines(over: Sequence[Completion]) -> list[str]:
    """Weeks in a row with everything done, where there is more than one."""
    count = done_of_planned(over).weeks_in_row
    return [f"{many(count, 'week')} in a row with everything done."] if count > 1 else []


def _good_ones(sessions: list[Session]) -> list[str]:
    """How many good ones were counted, on all ladders."""
    good = sum(row.makes or 0 for session in sessions for row in session.sets.all())
    return [f"{many(good, 'good one')} counted."] if good else []


def _doses(record: Record) -> list[str]:
    """On how many days the dose was done, of the ladder in question."""
    days = [day for own in record.days.values() for day in own]
    whole = sum(day.verdict != "short" for day in days)
    return [f"The whole dose was done on {whole} of {many(len(days), 'day')}."] if days else []


def _skips(record: Record) -> list[str]:
    """What was left out on the card, and why."""
    reasons = Counter(Skip.objects.of_player(record.player).since(record.since).reasons())
    if not reasons:
        return []
    words = ", ".join(f"{Why(reason).label} ({count})" for reason, count in reasons.most_common())
    return [f"Left out {many(reasons.total(), 'time')}: {words}."]


def _places(sessions: list[Session]) -> list[str]:
    seen = sum(session.recorded_by_id is not None for session in sessions)
    if not sessions:
        return []
    return [f"{len(sessions) - seen} sessions told by the player, {seen} logged by a coach."]


def how_much(record: Record) -> Panel | None:
    """Load by week: effort times minutes; what has no effort told is not in it."""
    days = [
        Effort(session.on, session.effort, minutes_of(session.stay.terms.rung))
        for session in record.sessions
        if session.effort is not None
    ]
    if not days:
        lines = strain_lines(record)
        return Panel("load", "How much?", [*lines, "No effort was told."]) if lines else None
    loads = weeks(days)
    over = [week for week in loads if week.start < monday_of(record.today)]
    last = (over or loads)[-1]
    change = ""
    if last.change is not None:
        change = f", {signed(100 * last.change)}\u00a0% on the week before"
    efforts = sum(session.effort is not None for session in record.sessions)
    lines = [
        *strain_lines(record),
        f"Week of {last.start:%-d %B}: a load of {last.load:.0f} (effort times minutes){change}.",
        f"Effort was told in {efforts} of {many(len(record.sessions), 'session')}.",
    ]
    shown = loads[-SHOWN:]
    drawn = [rates_chart.Bar(f"{w.start:%-d.%-m}", w.load, None, f"{w.load:.0f}") for w in shown]
    rows = [
        [
            f"{w.start:%-d %b %Y}",
            f"{w.load:.0f}",
            "" if w.change is None else f"{signed(100 * w.change)}\u00a0%",
            "every day alike" if w.monotony is None and w.load else f"{w.monotony or 0:.1f}",
            "" if w.strain is None else f"{w.strain:.0f}",
        ]
        for w in loads
    ]
    head = ["Week of", "Load", "Change", "Monotony", "Strain"]
    return Panel("load", "How much?", lines, rates_chart.bars(drawn, lines[0]), head, rows[::-1])


def strain_lines(record: Record) -> list[str]:
    """What strains a body, this week: done, and left of the club's own limits; of the kinds that
    the player did in the last four weeks.
    """
    monday = monday_of(record.today)
    lately = done_in(record.player, monday - timedelta(weeks=4), monday + timedelta(days=6))
    if not lately:
        return []
    done = {key: kinds for key, kinds in lately.items() if key[1] >= monday}
    limits = limits_for(record.player)
    counted = kept_of(limits, done, {})
    idle = {kind for kinds in lately.values() for kind in kinds} - {limit.kind for limit in counted}
    none = [Kept(kind, 0, 0, limits.get(kind)) for kind in sorted(idle)]
    return [f"This week, {_lower(limit.words)}" for limit in counted + none]


def _lower(words: str) -> str:
    return words[0].lower() + words[1:]


def how_long(record: Record) -> Panel | None:
    """Sessions for each rung so far, and the range to the top: by the club's record where that
    carries it, else by the player's own rungs so far.
    """
    ladder, stay = record.ladder, record.current
    if ladder is None or stay is None or stay.left is not None:
        return None
    climbed = stay_lengths(record)
    lengths = [length for _, length in climbed]
    rows = [[stay.rung.title, many(length, "session")] for stay, length in climbed]
    left = ladder.rung_count - stay.rung.position + 1
    lines = _due_lines(stay, left) or _known_lines(record, ladder)
    lines = lines or _own_lines(record, ladder, lengths, left)
    return Panel("long", "How long?", lines, "", ["Rung climbed", "It took"], rows)


def _due_lines(stay: Stay, left: int) -> list[str]:
    """Where the top rung is passed and waits for a coach, nothing has to be waited for."""
    if left > 1 or not Proposal.objects.of_stay(stay).waiting_to_finish().exists():
        return []
    return ["The rule is met on the top rung: that the ladder is finished waits in Review."]


def _known_lines(record: Record, ladder: Prescription) -> list[str]:
    learning = getattr(ladder, "learning", None)
    if learning is None or not learning.carries or learning.top_middle is None:
        return []
    low, high = (
        learning.top_low or 0,
        "more" if learning.top_high is None else f"{learning.top_high}",
    )
    pace = pace_of(record, ladder)
    lines = [
        f"As known on {learning.on:%-d %B}: {low} to {high} more full sessions to the top, most "
        f"likely about {learning.top_middle}; eight of ten such forecasts should hold.",
    ]
    if learning.next_middle is not None:
        until = "more" if learning.next_high is None else f"{learning.next_high}"
        lines.append(
            f"The next rung: {learning.next_low or 0} to {until}, about {learning.next_middle}."
        )
    if pace and learning.top_high is not None:
        early, late = (round(n / pace) for n in (low, learning.top_high))
        lines.append(f"With {pace:.1f} a week as in this time: {early} to {late} weeks to the top.")
    return [*lines, "It goes by what players here gained a session. Nobody is promised anything."]


def _own_lines(
    record: Record, ladder: Prescription, lengths: Sequence[int], left: int
) -> list[str]:
    pace = pace_of(record, ladder)
    forecast = forecast_of(lengths, left, pace)
    if forecast.sessions is None:
        return [f"Too early to say: {len(lengths)} of 3 rungs are climbed."]
    low, middle, high = (round(n) for n in forecast.sessions)
    lines = [f"At this pace {low} to {high} more sessions to the top, most likely about {middle}."]
    if forecast.weeks is not None:
        early, _, late = (round(n) for n in forecast.weeks)
        lines.append(f"With {pace:.1f} a week as in this time: {early} to {late} weeks.")
    return [
        *lines,
        "It takes the rungs ahead as the ones before; where they are harder it takes longer. "
        "Nobody is promised anything by this.",
    ]


def pace_of(record: Record, ladder: Prescription) -> float:
    """Days of work a week on one ladder, over the weeks that are over."""
    weeks_ = [w for w in completion_of(record, ladder) if w.start < monday_of(record.today)]
    return sum(w.done for w in weeks_) / len(weeks_) if weeks_ else 0.0


def stay_lengths(record: Record) -> list[tuple[Stay, int]]:
    """Each stay that ended upwards, with its full days until then; a check later is none of
    them.
    """
    rows = []
    for stay, after in pairwise(record.stays):
        days = [day for day in record.days.get(stay.pk, []) if day.verdict != "short"]
        until = [day for day in days if stay.left is None or day.on <= stay.left]
        if after.how in UPWARDS:
            rows.append((stay, max(1, len(until))))
    return rows


def completion_of(record: Record, ladder: Prescription) -> list[Completion]:
    """Days of work on one ladder by week."""
    own = {s.on for s in record.sessions if s.stay.prescription_id == ladder.pk}
    done = Counter(monday_of(on) for on in own)
    return [Completion(monday, done[monday], ladder.per_week, None) for monday in record.mondays]


def holds(record: Record) -> Panel | None:
    """Rungs passed, and whether their checks held."""
    if record.ladder is None:
        return None
    rows = Prescription.objects.filter(pk=record.ladder.pk).with_climb()
    checks = passed(rows)
    if not checks:
        return None
    table = [
        [
            check.stay.rung.title,
            f"{check.stay.left:%-d %b %Y}" if check.stay.left else "",
            _checked_words(check),
            f"{check.due:%-d %b %Y}" if check.due else "",
        ]
        for check in checks
    ]
    head = ["Rung", "Passed", "Checked", "Next check"]
    lines = held_lines(checks, record.today)
    return Panel("holds", "Does it hold?", lines, "", head, table)


def held_lines(checks: Sequence[Passed], today: date) -> list[str]:
    """What is open first; "holds" only of what was checked when its check was due."""
    failed = [check for check in checks if check.failed]
    due = [check for check in checks if check.is_due(today) and not check.failed]
    rest = [check for check in checks if not check.failed and check not in due]
    held = [check for check in rest if check.checked is not None]
    fresh = [check for check in rest if check.checked is None]
    told = [
        (failed, "Did not hold when it was checked: {}."),
        (due, "To be checked now: {}. Until then nobody knows whether it holds."),
        (held, "Held at its latest check: {}."),
        (fresh, "Passed, and not to be checked yet: {}."),
    ]
    return [words.format(_named(those)) for those, words in told if those]


def _named(checks: Sequence[Passed]) -> str:
    return ", ".join(check.stay.rung.title for check in checks)


def _checked_words(check: Passed) -> str:
    if check.checked is None:
        return "not yet"
    return f"{check.checked:%-d %b %Y}, {'did not hold' if check.failed else 'held'}"
