"""A report in plain sentences from the record: what was worked on, what changed for real, what
comes next, how to help. Nothing that embarrasses, no diagnosis.
"""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date, datetime
from hashlib import sha256
from json import dumps

from django.db import transaction

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.card.signals import report_published, reports_published
from drill_ladder.apps.history.services import record as note
from drill_ladder.apps.history.services import record_each
from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.practice.models import JudgedDay
from drill_ladder.apps.prescriptions.models import Prescription, Status, Stay
from drill_ladder.apps.progress.panels import row_lines, signed, weeks_over
from drill_ladder.apps.progress.player import Record, about_all, records_of, trend_over
from drill_ladder.core.coaching import personal_bests
from drill_ladder.core.judging import Measure
from drill_ladder.formats.documents import SECTIONS, Section
from drill_ladder.formats.measures import change_words, score_words
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.words import many

MOST_LADDERS = 4
PUBLISHED = "published a report"
Titles = Mapping[tuple[int, int], str]  # of rungs, by ladder and position
HELP = "How to help: count along, feed the ball when you are asked to, and stop with a good one."


Sections = tuple[Section, ...]


def sections_of(player: Player, today: date, since: date) -> Sections:
    """All of it, ladder by ladder."""
    return sections_of_each([player], today, since)[player.pk]


def sections_of_each(players: Sequence[Player], today: date, since: date) -> dict[int, Sections]:
    """Player -> all of it: a handful of questions, however many they are."""
    whole = records_of(players, today, since)
    asked = [(one, ladder) for one in whole.values() for ladder in _first_ladders(one)]
    about: dict[int, list[Record]] = {player.pk: [] for player in players}
    for record in about_all(asked):
        about[record.player.pk].append(record)
    here = [stay for records in about.values() for stay in _here(records)]
    titles = Rung.objects.titles_of({stay.rung.ladder_id for stay in here})
    return {pk: _sections(records, titles) for pk, records in about.items()}


def _first_ladders(record: Record) -> list[Prescription]:
    going = [p for p in record.ladders if p.status != Status.ENDED]
    return sorted(going, key=lambda p: (p.started_on, p.pk))[:MOST_LADDERS]


def _sections(records: list[Record], titles: Titles) -> Sections:
    parts = [
        Section("What went well", tuple(_good(records))),
        Section("What we worked on", tuple(_worked_on(records))),
        Section("What has changed", tuple(_changed(records))),
        Section("What comes next", tuple(_upcoming(records, titles))),
        Section("At home", tuple(_at_home(records))),
    ]
    return tuple(section for section in parts if section.lines)


def _good(records: list[Record]) -> Iterator[str]:
    """Personal bests, weeks in a row, how much was done."""
    if not records:
        return
    record = records[0]
    days = len({session.on for session in record.sessions})
    if days:
        yield f"{many(days, 'day')} of practice, {many(len(record.sessions), 'session')}."
    yield from row_lines(weeks_over(record))
    for one in records:
        yield from _bests(one)


def _bests(record: Record) -> Iterator[str]:
    stay = record.current
    if stay is None:
        return
    measure = stay.terms.rung.measure
    scored = [(d.on, d.score or 0.0) for d in record.compares(stay)]
    bests = personal_bests(scored, measure.higher_is_better)
    if len(bests) > 1:
        on, score = bests[-1]
        yield f"Best so far at “{stay.rung.title}”: {score_words(measure, score)}, on {on:%-d %B}."


def _days(record: Record, stay: Stay) -> list[JudgedDay]:
    return record.days.get(stay.pk, [])


def _worked_on(records: list[Record]) -> Iterator[str]:
    for record in records:
        if record.ladder is None or not record.of_ladder:
            continue
        stays = [s for s in record.stays if s.left is None or s.left >= record.since]
        first, last = stays[0].rung, stays[-1].rung
        title, times = record.ladder.ladder.title, many(len(record.of_ladder), "session")
        if last.position > first.position:
            climb = f"from rung {first.position} up to rung {last.position}, “{last.title}”"
            yield f"{title}: {times}, {climb}."
        else:
            yield f"{title}: {times} on rung {last.position}, “{last.title}”."


def _changed(records: list[Record]) -> Iterator[str]:
    """Only what is real; what is too early to say is said to be so."""
    for record in records:
        stay = record.current
        if stay is None or not _days(record, stay):
            continue
        rung = stay.terms.rung
        trend = trend_over(record.compares(stay), rung)
        yield _change(stay.rung.title, rung.measure, trend.verdict, trend.slope_per_week)


def _change(title: str, measure: Measure, verdict: str, slope: float | None) -> str:
    if verdict == "improving" and slope is not None:
        times, _, unit = change_words(measure)
        amount = f"about {signed(times * slope)} {unit} a week"
        return f"“{title}” has got better for real: {amount}."
    if verdict == "worsening":
        return f"“{title}” is harder at the moment; we look at it together."
    if verdict == "flat":
        return f"“{title}” is steady: no change that is more than chance."
    return f"“{title}”: too early to say."


def _here(records: list[Record]) -> list[Stay]:
    current = [record.current for record in records]
    return [stay for stay in current if stay is not None and stay.left is None]


def _upcoming(records: list[Record], titles: Titles) -> Iterator[str]:
    for stay in _here(records):
        rung = stay.terms.rung
        after = titles.get((stay.rung.ladder_id, stay.rung.position + 1))
        then = f" Then “{after}”." if after else " That is the top of this ladder."
        yield f"“{stay.rung.title}”: the target is {target_words(rung)}.{then}"


def _at_home(records: list[Record]) -> Iterator[str]:
    for record in records:
        stay = record.current
        home = record.ladder is not None and record.ladder.place != "coached"
        if stay is None or stay.left is not None or not home:
            continue
        cue = next(iter(stay.rung.drill.cues), "")
        think = f" Think of: {cue}." if cue else ""
        yield f"{stay.rung.title}: {dose_words(stay.terms.rung)}.{think}"
    if records:
        yield HELP


def drafted(*, member: Membership, player: Player, on: date, since: date) -> Report:
    """That day's report as the record has it now, stored by nobody; the coach's own words stay. A
    published one is as it was. Raises Refused.
    """
    return _drafted(member, [player], on, since)[0]


def _drafted(member: Membership, players: Sequence[Player], on: date, since: date) -> list[Report]:
    refuse_unless_coach(member)
    if any(player.club_id != member.club_id for player in players):
        raise Refused("That player is not of this club.")
    written = {row.player_id: row for row in Report.objects.of_players(players).filter(on=on)}
    open_ = [p for p in players if p.pk not in written or written[p.pk].published_at is None]
    said = sections_of_each(open_, on, since)
    for player in open_:
        new = Report(club=member.club, player=player, on=on, greeting=_greeting(player))
        report = written.setdefault(player.pk, new)
        report.since, report.by = since, member.user
        report.sections = said[player.pk]
    return [written[player.pk] for player in players]


def draft_report(*, member: Membership, player: Player, on: date, since: date) -> Report:
    """That day's report, stored. Raises Refused."""
    return draft_reports(member=member, players=[player], on=on, since=since)[0]


@transaction.atomic
def draft_reports(
    *, member: Membership, players: Sequence[Player], on: date, since: date
) -> list[Report]:
    """That day's reports of many, stored together. Raises Refused."""
    reports = _drafted(member, players, on, since)
    drafts = [report for report in reports if report.published_at is None]
    again = [report for report in drafts if report.pk is not None]
    Report.objects.bulk_create([report for report in drafts if report.pk is None])
    Report.objects.bulk_update(again, ["since", "by", "sections", "greeting", "remark"])
    return reports


def seal(report: Report) -> str:
    """What stands for all that was written from the record: another one, another text."""
    said = [str(report.since), str(report.on), SECTIONS.write(report.sections)]
    return sha256(dumps(said).encode()).hexdigest()[:32]


def since_then(before: Iterable[str], report: Report) -> list[str]:
    """The sentences of a report that were not in what somebody read."""
    read = set(before)
    return [line for section in report.sections for line in section.lines if line not in read]


def _greeting(player: Player) -> str:
    return f"This is how it has been going for {player.name.split()[0]}."


@transaction.atomic
def publish_report(*, member: Membership, report: Report, at: datetime) -> None:
    """The player and their family see it from now on. Raises Refused."""
    refuse_unless_coach(member)
    report.published_at = at
    report.save(update_fields=["published_at"])
    note(club_id=member.club_id, actor=member.user, verb=PUBLISHED, subject=report)
    report_published.send(sender=Report, report=report)


@transaction.atomic
def publish_reports(
    *, member: Membership, players: Sequence[Player], on: date, at: datetime
) -> set[int]:
    """Today's drafts of many are told as they stand, to the word, and mailed together; whoever has
    one that is told, by their ids. Raises Refused.
    """
    refuse_unless_coach(member)
    rows = Report.objects.of_players(players).filter(on=on).select_for_update(of=("self",))
    reports = list(rows)
    drafts = [report for report in reports if report.published_at is None]
    Report.objects.filter(pk__in=[report.pk for report in drafts]).update(published_at=at)
    record_each(actor=member.user, entries=[(PUBLISHED, report, {}) for report in drafts])
    if drafts:
        reports_published.send(sender=Report, reports=drafts)
    return {report.player_id for report in reports}
