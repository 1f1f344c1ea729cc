"""What tests say: each result against the player's own past, with the noise of the test itself in
mind (docs/methods.md, 9).
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from datetime import date
from statistics import stdev

from drill_ladder.apps.floor.models import Battery, Protocol, Timing, Trial
from drill_ladder.apps.floor.test_days.services import tested
from drill_ladder.core.statistics import (
    FEWEST_PAIRS,
    Change,
    Measured,
    real_change,
    repeat_pairs,
    score_of,
    typical_error,
)
from drill_ladder.formats.sentences import plain
from drill_ladder.formats.words import many

FEWEST_PLAYERS = 5  # before their spread says what is worth having
CONDITIONS = ("weather", "surface", "shoes", "light")
Key = tuple[int, int, str]  # protocol, player, side


@dataclass(frozen=True, slots=True)
class Noise:
    """The typical error of a test (None: not known yet), where it comes from, how many pairs of
    repeats are missing for the club's own; df: of the pairs, None where it was entered.
    """

    error: float | None
    source: str
    missing: int
    df: int | None = None


@dataclass(frozen=True, slots=True)
class Result:
    """One player's test on one day and side. before: the last one that compares; change: against
    it; differs: conditions that were not alike; told: everything in a sentence.
    """

    protocol: Protocol
    trials: list[Trial]
    score: float | None
    whole: bool
    before: tuple[date, float] | None = None
    change: Change | None = None
    differs: tuple[str, ...] = ()
    told: str = ""


def score_words(protocol: Protocol, score: float) -> str:
    """With its unit."""
    measure = protocol.measure
    if measure.counts_makes:
        return f"{plain(round(score, 1))} of {protocol.attempts or 10}"
    number = f"{score:.2f}" if measure.is_timed else plain(round(score, 2))
    return f"{number}{tested(protocol).unit}"


def noise_of(protocol: Protocol, measured: Iterable[Measured]) -> Noise:
    """Entered with its source, else from the club's own repeats."""
    pairs = repeat_pairs(measured)
    missing = max(0, FEWEST_PAIRS - len(pairs))
    if protocol.error is not None:
        return Noise(protocol.error, protocol.error_source or "as entered", missing)
    if missing:
        return Noise(None, "", missing)
    source = f"{len(pairs)} repeats of this club"
    return Noise(typical_error(pairs), source, 0, len(pairs) - 1)


def measured_of(
    protocol: Protocol, trials: Iterable[Trial]
) -> dict[tuple[int, str, date], Measured]:
    """(player, side, day) -> what the trials of a test came to; hand and gate on one day are two
    only where an offset makes them one.
    """
    higher = protocol.measure.higher_is_better
    by: dict[tuple[int, str, date, str], list[float]] = defaultdict(list)
    for trial in trials:
        value, timing = _as_hand(protocol, trial)
        by[trial.player_id, trial.side, trial.battery.on, timing].append(value)
    measured: dict[tuple[int, str, date], Measured] = {}
    for (player, side, on, timing), values in by.items():
        score = score_of(values[: protocol.trials], protocol.score_by, higher)
        # where both were used on a day, the gate's is the one
        day = measured.get((player, side, on))
        if score is not None and (day is None or timing == Timing.GATE):
            measured[player, side, on] = Measured(player, on, score, timing, side)
    return measured


def _as_hand(protocol: Protocol, trial: Trial) -> tuple[float, str]:
    """A gate's time on the hand's scale, where the club has entered the offset."""
    if trial.timing == Timing.GATE and protocol.offset_s is not None:
        return trial.value + protocol.offset_s, Timing.HAND
    return trial.value, trial.timing if protocol.measure.is_timed else ""


@dataclass(frozen=True, slots=True)
class Record:
    """Everything that was ever measured by some tests, each by its id: trials; measured: what they
    came to; noise: how noisy it is; spread: SD between players, None for too few.
    """

    trials: dict[int, list[Trial]]
    measured: dict[int, dict[tuple[int, str, date], Measured]]
    noise: dict[int, Noise]
    spread: dict[int, float | None]


def record_of_tests(protocols: Sequence[Protocol]) -> Record:
    """By one question."""
    trials: dict[int, list[Trial]] = defaultdict(list)
    for trial in Trial.objects.of_protocols(protocols).that_count():
        trials[trial.protocol_id].append(trial)
    measured = {protocol.pk: measured_of(protocol, trials[protocol.pk]) for protocol in protocols}
    noise = {
        protocol.pk: noise_of(protocol, measured[protocol.pk].values()) for protocol in protocols
    }
    spread = {protocol.pk: _spread(measured[protocol.pk].values()) for protocol in protocols}
    return Record(dict(trials), measured, noise, spread)


def result_of(
    found: Record, protocol: Protocol, player: int, side: str, battery: Battery
) -> Result:
    """One test of one player on a day, against the last one before it that compares."""
    trials = [
        t
        for t in found.trials.get(protocol.pk, [])
        if (t.player_id, t.side, t.battery_id) == (player, side, battery.pk)
    ]
    now = found.measured[protocol.pk].get((player, side, battery.on)) if trials else None
    if now is None:
        return Result(protocol, trials, None, False)
    whole = len(trials) >= protocol.trials
    earlier = [
        one
        for (who, where, on), one in found.measured[protocol.pk].items()
        if (who, where) == (player, side) and on < battery.on and one.timing == now.timing
    ]
    if not earlier:
        other = any(
            who == player and where == side and on < battery.on
            for who, where, on in found.measured[protocol.pk]
        )
        words = "timed another way before: no comparison" if other else "the first one"
        return Result(protocol, trials, now.score, whole, told=words)
    last = max(earlier, key=lambda one: one.on)
    return _compared(found, protocol, battery, trials, now, last)


def _compared(
    found: Record,
    protocol: Protocol,
    battery: Battery,
    trials: list[Trial],
    now: Measured,
    last: Measured,
) -> Result:
    noise, higher = found.noise[protocol.pk], protocol.measure.higher_is_better
    before = (last.on, last.score)
    differs = _differs(found, protocol, battery, now, last)
    whole = len(trials) >= protocol.trials
    if noise.error is None:
        words = (
            f"{score_words(protocol, last.score)} on {last.on:%-d %B}; how noisy the test is, "
            f"nobody knows yet ({many(noise.missing, 'repeat')} missing)"
        )
        return Result(protocol, trials, now.score, whole, before, None, differs, words)
    spread = found.spread[protocol.pk]
    change = real_change(noise.error, last.score, now.score, higher, spread, noise.df)
    words = change_words(protocol, change, last, now)
    return Result(protocol, trials, now.score, whole, before, change, differs, words)


def _spread(measured: Iterable[Measured]) -> float | None:
    """SD between players, of their latest results; None for too few."""
    latest: dict[tuple[int, str], Measured] = {}
    for one in measured:
        last = latest.get((one.player, one.side))
        if last is None or last.on < one.on:
            latest[one.player, one.side] = one
    scores = [one.score for one in latest.values()]
    return stdev(scores) if len(scores) >= FEWEST_PLAYERS else None


def change_words(protocol: Protocol, change: Change, last: Measured, now: Measured) -> str:
    """Real, likely or within noise, and by how much against what."""
    gap = abs(now.score - last.score)
    since = f"since {last.on:%-d %B}"
    amount = score_words(protocol, gap)
    if change.direction == "same":
        return f"the same {since}"
    real = score_words(protocol, change.mdc95)
    if change.verdict == "within noise":
        return f"{amount} {change.direction} {since}: within the noise of the test"
    words = {"real": "a real change", "likely": "likely real"}[change.verdict]
    worth = ""
    if change.smallest_worthwhile is not None and gap < change.smallest_worthwhile:
        worth = ", smaller than what is worth having"
    return f"{amount} {change.direction} {since}: {words} (sure from {real}){worth}"


def _differs(
    found: Record, protocol: Protocol, battery: Battery, now: Measured, last: Measured
) -> tuple[str, ...]:
    """Conditions that were said on both days and were not alike."""
    trials = found.trials[protocol.pk]
    days = {t.battery for t in trials if t.player_id == now.player and t.battery.on == last.on}
    lines = []
    for name in CONDITIONS:
        then = {getattr(day, name) for day in days} - {""}
        today = getattr(battery, name)
        if today and then and today not in then:
            lines.append(f"{name}: {', '.join(sorted(then))} then, {today} now")
    return tuple(lines)


NO_DIAGNOSIS = "This is not a diagnosis."


def word_to_the_family(results: Sequence[Result], battery: Battery) -> str:
    """One word about eyes, where results fell for real in dim light and others of the same day did
    not; empty otherwise.
    """
    worse = [result for result in results if _is_worse(result)]
    steady = [result for result in results if result.change is not None and not _is_worse(result)]
    dim = battery.light == "dim" and any("light" in line for one in worse for line in one.differs)
    if worse and steady and dim:
        return (
            "Worse for real in dim light, and not elsewhere: worth one word to the family about an "
            f"eye test. {NO_DIAGNOSIS}"
        )
    return ""


def _is_worse(one: Result) -> bool:
    return one.change is not None and (one.change.verdict, one.change.direction) == (
        "real",
        "worse",
    )


def word_about_hearing(protocol: Protocol, noise: Noise, scores: dict[str, float]) -> str:
    """Where a called test differs for real between the sides."""
    if not protocol.called or noise.error is None or len(scores) != 2:
        return ""
    (one, a), (other, b) = scores.items()
    higher = protocol.measure.higher_is_better
    change = real_change(noise.error, a, b, higher, df=noise.df)
    if change.verdict != "real":
        return ""
    worse = other if change.direction == "worse" else one
    return (
        f"Calls to the {worse} are answered worse for real: worth one word to the family about a "
        f"hearing test. {NO_DIAGNOSIS}"
    )


def next_up(
    battery: Battery, protocol: Protocol, trials: Iterable[Trial], now_s: float
) -> tuple[int | None, dict[int, int]]:
    """(Who is called up next: the fewest trials first, in the order of the day, rested; player ->
    seconds of rest that are left). now_s: since the epoch.
    """
    done: dict[int, int] = dict.fromkeys(battery.players, 0)
    rest: dict[int, int] = {}
    for trial in trials:
        if trial.player_id not in done or trial.battery_id != battery.pk:
            continue
        done[trial.player_id] += 1
        left = trial.at.timestamp() + protocol.rest_s - now_s
        rest[trial.player_id] = max(0, round(left))
    sides = 2 if protocol.sides == "both" else 1
    open_ = [pk for pk in battery.players if done[pk] < protocol.trials * sides]
    order = {pk: place for place, pk in enumerate(battery.players)}
    ready = [pk for pk in open_ if not rest.get(pk)]
    ready.sort(key=lambda pk: (done[pk], order[pk]))
    return next(iter(ready), None), {pk: left for pk, left in rest.items() if left and pk in open_}
