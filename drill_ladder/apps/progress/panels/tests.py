"""Each test's history, with how sure every change is."""

from collections.abc import Iterator
from datetime import date

from drill_ladder.apps.floor.models import Protocol
from drill_ladder.apps.floor.test_days import Record as TestRecord
from drill_ladder.apps.floor.test_days import change_words, record_of_tests, score_words
from drill_ladder.apps.progress.panels.panel import Panel
from drill_ladder.apps.progress.player import Record
from drill_ladder.charts import scores as scores_chart
from drill_ladder.core.statistics import Measured, real_change
from drill_ladder.formats.words import many


def tests_panel(record: Record) -> Panel | None:
    """All tests that the player did in this time, each against its own last one that compares."""
    protocols = list(Protocol.objects.done_by(record.player, record.since).with_drill())
    if not protocols:
        return None
    of_tests = record_of_tests(protocols)
    lines, rows = [], []
    drawn = ""
    for protocol in protocols:
        for side, results in _by_side(of_tests, protocol, record):
            name = f"{protocol.title}{f', {side}' if side else ''}"
            told = list(_told(of_tests, protocol, results))
            lines.append(f"{name}: {told[-1][1]}.")
            rows += [[name, f"{one.on:%-d %b %Y}", *_cells(protocol, one, t)] for one, t in told]
            drawn = drawn or _drawn(protocol, results, lines[-1])
    head = ["Test", "Day", "Result", "Measured", "Against the last one"]
    title = f"{many(len(protocols), 'test')} done: the latest of each."
    return Panel("tests", "Tests", [title, *lines], drawn, head, rows[::-1])


def _by_side(
    found: TestRecord, protocol: Protocol, record: Record
) -> Iterator[tuple[str, list[Measured]]]:
    own = [
        one for (who, _, _), one in found.measured[protocol.pk].items() if who == record.player.pk
    ]
    for side in sorted({one.side for one in own}):
        of_side = sorted((one for one in own if one.side == side), key=lambda one: one.on)
        shown = [one for one in of_side if record.since <= one.on <= record.today]
        if shown:
            yield side, shown


def _told(
    found: TestRecord, protocol: Protocol, results: list[Measured]
) -> Iterator[tuple[Measured, str]]:
    """Each result with what its change on the last one timed alike is worth."""
    noise, last = found.noise[protocol.pk], dict[str, Measured]()
    for result in results:
        before = last.get(result.timing)
        last[result.timing] = result
        if before is None:
            yield result, f"{score_words(protocol, result.score)}, the first one"
        elif noise.error is None:
            yield (
                result,
                f"{score_words(protocol, result.score)}; how noisy it is, nobody knows yet",
            )
        else:
            higher = protocol.measure.higher_is_better
            spread = found.spread[protocol.pk]
            change = real_change(noise.error, before.score, result.score, higher, spread, noise.df)
            words = change_words(protocol, change, before, result)
            yield result, f"{score_words(protocol, result.score)}, {words}"


def _cells(protocol: Protocol, one: Measured, told: str) -> list[str]:
    score = score_words(protocol, one.score)
    return [score, one.timing, told.removeprefix(score).lstrip(",; ")]


def _drawn(protocol: Protocol, results: list[Measured], title: str) -> str:
    """A picture where there is more than one of them."""
    days: set[date] = {result.on for result in results}
    if len(days) < 2:
        return ""
    usual = results[-1].timing
    points = [
        scores_chart.Point(
            result.on, result.score, result.timing != usual, score_words(protocol, result.score)
        )
        for result in results
    ]
    return scores_chart.scores(points, None, None, lambda v: score_words(protocol, v), title)
