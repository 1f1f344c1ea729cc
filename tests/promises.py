"""Each promise that a screen makes, held against simulated players of whom the truth is known:
what is promised, and what was found. `./ladder bench --truth` writes the table of them into
docs/methods.md; tests/core/test_truth.py asks them with other seeds.
"""

from collections.abc import Callable
from copy import deepcopy

import numpy as np
from scipy.special import expit

from drill_ladder.core.judging import InARow, Probe, Rule
from drill_ladder.core.looking_back import (
    FormNow,
    known,
    outlook,
    simulate_season,
    told_in_fives,
)
from drill_ladder.core.odds import Question, find_rules, place_finely
from tests.promised import ABOUT, AT_LEAST, AT_MOST, Found, slack_of
from tests.promises_of_signs import changes, sides, stops, trends
from tests.simulated import (
    POINTED,
    RUNGS,
    TIMED,
    Kind,
    Pointed,
    Simulated,
    Timed,
    climber_of,
)

AHEAD = "three rungs on"
OF_A_CLUB = 3
SHARED = 1.4  # by so much less such cases tell than as many on their own, a fifth of luck shared


def too_soon(runs: int, seed: int, spread: float) -> Found:
    """The finder's rules, on players who are not ready, on days that differ as it was told."""
    chance = np.random.default_rng([seed, 1])
    question = Question(0.6, 0.85, 0.1, 0.5, 6, 60, day_spread=spread)
    rules = find_rules(question, [Rule(InARow(2))])
    found = next(one for one in rules if one.n is not None)
    n, k = found.n, found.k
    a, b = 0.6 * (1 - spread) / spread, 0.4 * (1 - spread) / spread
    moved = 0
    for _ in range(runs):
        row = 0
        for _ in range(6):
            row = row + 1 if chance.binomial(n, chance.beta(a, b)) >= k else 0
            if row == 2:
                moved += 1
                break
    words = f"The finder: moved up too soon, days that differ by {spread:.2f}"
    return Found(words, "rule finder, odds", AT_MOST, 0.1, moved / runs, runs, slack_of(0.1, runs))


def next_session(runs: int, seed: int) -> list[Found]:
    """Odds of the next session by the club's record, in thirds of what was said."""
    said: list[tuple[float, bool]] = []
    for number in range(runs):
        club = Simulated(Kind(), seed * 1000 + number).play(24)
        model, spread, kind = club.model(), club.spread, club.kind
        for player in club.players:
            if player.rung > RUNGS - 1:
                continue
            mean, sd = known(model, [player.name], RUNGS).form(player.rung - 1, player.before)
            p = FormNow(mean, sd, spread).passes(kind.attempts, [kind.mark])
            club.session(player)
            said.append((p, club.rows[-1].makes >= kind.mark))
    lines = []
    for low, high in ((0.0, 1 / 3), (1 / 3, 2 / 3), (2 / 3, 1.01)):
        inside = [(p, hit) for p, hit in said if low <= p < high]
        if len(inside) >= 20:
            mean = float(np.mean([p for p, _ in inside]))
            hits = float(np.mean([hit for _, hit in inside]))
            words = f"The next session passes: said {low:.0%} to {min(1, high):.0%}"
            slack = slack_of(mean, len(inside))
            lines.append(
                Found(words, "review, card, player", ABOUT, mean, hits, len(inside), slack)
            )
    return lines


def bands(
    runs: int,
    seed: int,
    kind: Kind = Kind(),
    words: str = "",
    club_of: type[Simulated] = Simulated,
) -> list[Found]:
    """Sessions to the next rung and to three rungs further; who is called stuck. Few players of a
    club, who climb the same steps: what is not known of those is luck that they share.
    """
    next_in = top_in = of = stuck = climbed = 0
    for number in range(runs):
        club = club_of(kind, seed * 1000 + number).play(24)
        model, spread, storeys = club.model(), club.spread, club.storeys()
        able = [player for player in club.players if player.rung <= RUNGS - 4]
        for player in able[:OF_A_CLUB]:
            what, me = known(model, [player.name], RUNGS), climber_of(player, kind.attempts)
            asked = (what, storeys, me)
            near = outlook(*asked, player.rung, 6, spread, runs=400)
            far = outlook(*asked, player.rung + 2, 6, spread, runs=400)
            assert near is not None
            assert far is not None
            twin, later = deepcopy(player), deepcopy(player)
            took = club.until(twin, player.rung + 1)
            next_in += _inside(near.low, near.high, took)
            top_in += _inside(far.low, far.high, club.until(later, player.rung + 3))
            of += 1
            if near.chance < 0.25:
                stuck, climbed = stuck + 1, climbed + (took <= 6)
    where, slack = "player, progress, prescription", slack_of(0.8, round(of / SHARED))
    near_words, far_words = (f"80 % band {far}{words}" for far in ("to the next rung", AHEAD))
    found = [
        Found(near_words, where, AT_LEAST, 0.8, next_in / of, of, slack),
        Found(far_words, where, AT_LEAST, 0.8, top_in / of, of, slack),
    ]
    if stuck:
        told = f"Stuck: those who climb within six sessions all the same{words}"
        slack, share = slack_of(0.25, stuck), climbed / stuck
        found.append(Found(told, "review, squad", AT_MOST, 0.25, share, stuck, slack))
    return found


def fives(runs: int, seed: int) -> list[Found]:
    """Of counts told in fives no forecast is made: they are known by their look."""
    told = counted = 0
    for number in range(runs):
        for rounded in (1, 5):
            club = Simulated(Kind(rounded=rounded, mark=15), seed * 1000 + number).play(12)
            seen = told_in_fives([(day.attempts, day.makes) for day in club.rows])
            told, counted = told + (seen and rounded == 5), counted + (seen and rounded == 1)
    where = "forecasts, odds"
    return [
        Found("Counts told in fives are known as that", where, AT_LEAST, 0.95, told / runs, runs),
        Found(
            "Counts that are counted are taken for told", where, AT_MOST, 0.05, counted / runs, runs
        ),
    ]


def placing(runs: int, seed: int) -> list[Found]:
    """Twenty rungs 0.3 apart, at most six sets of five: where a player is put to start."""
    chance = np.random.default_rng([seed, 45])
    near = 0
    for _ in range(runs):
        rates = expit(chance.uniform(0, 5) - 0.3 * np.arange(20))
        true = max((i for i in range(20) if rates[i] >= 0.5), default=0)
        probes: list[Probe] = []
        found = place_finely(20, probes, 0.3, (0.5, 0.8))
        while found.next is not None:
            made = int(chance.binomial(5, rates[found.next]))
            probes.append(Probe(found.next, 5, made))
            found = place_finely(20, probes, 0.3, (0.5, 0.8))
        near += abs((found.start or 0) - true) <= 1
    words = "Placement on a fine ladder: within a rung of where it should be"
    return [Found(words, "placement", AT_LEAST, 0.6, near / runs, runs, slack_of(0.6, runs))]


def _inside(low: int | None, high: int | None, took: int) -> bool:
    return (low or 0) <= took and (high is None or took <= high)


def season(runs: int, seed: int) -> list[Found]:
    """A squad's climbs in twelve weeks, and where each player stands then."""
    hit = inside = of = 0
    for number in range(runs):
        club = Simulated(Kind(), seed * 1000 + number).play(24)
        model, spread, storeys = club.model(), club.spread, club.storeys()
        names = [player.name for player in club.players]
        climbers = [climber_of(player, club.kind.attempts) for player in club.players]
        draws = known(model, names, RUNGS).drawn(300, seed)
        reached = simulate_season(storeys, climbers, draws, 24, seed, spread)
        at_end = (reached <= 24).sum(axis=2) - 1
        before = [player.rung - 1 for player in club.players]
        club.play(24)
        after = [min(player.rung - 1, RUNGS) for player in club.players]
        climbs = at_end.sum(axis=0) - sum(before)
        low, high = np.quantile(climbs, (0.1, 0.9), method="inverted_cdf")
        hit += low <= sum(after) - sum(before) <= high
        for row, place in enumerate(after):
            low, high = np.quantile(at_end[row], (0.1, 0.9), method="inverted_cdf")
            inside += low <= place <= high
            of += 1
    return [
        Found(
            "Season: a squad's climbs within their 80 % band",
            "season forecast",
            AT_LEAST,
            0.8,
            hit / runs,
            runs,
            slack_of(0.8, runs),
        ),
        Found(
            "Season: players within their own 80 % band",
            "season forecast",
            AT_LEAST,
            0.8,
            inside / of,
            of,
            slack_of(0.8, of),
        ),
    ]


def gains(runs: int, seed: int) -> list[Found]:
    """What a session brings: its 95 % interval."""
    held = 0
    for number in range(runs):
        gain = Simulated(Kind(), seed * 1000 + number).play(24).model().gain
        held += gain.low <= 0.08 <= gain.high
    return [
        Found(
            "The gain a session lies in its 95 % interval",
            "season forecast",
            AT_LEAST,
            0.95,
            held / runs,
            runs,
            slack_of(0.95, runs),
        )
    ]


def all_of(runs: int, seed: int, told: Callable[[str], None] = lambda _: None) -> list[Found]:
    """The whole table; runs: simulated cases of the cheap ones, the dear ones take fewer."""
    few = max(4, runs // 20)
    clubs = 2 * few
    hard, words = Kind(streak=0.4, missed=0.2, gain=(0.08, 0.05)), ", days in streaks and missed"
    asked: list[tuple[str, Callable[[], list[Found]]]] = [
        ("finder", lambda: [too_soon(runs, seed, r) for r in (0.03, 0.06, 0.1)]),
        ("next session", lambda: next_session(few, seed)),
        ("bands", lambda: bands(clubs, seed)),
        ("bands of times", lambda: bands(clubs, seed, TIMED, ", timed", Timed)),
        ("bands of points", lambda: bands(clubs, seed, POINTED, ", points", Pointed)),
        ("streaks, missed days, unlike gains", lambda: bands(clubs, seed, hard, words)),
        ("fives", lambda: fives(few, seed)),
        ("season", lambda: season(few, seed)),
        ("placing", lambda: placing(min(300, runs), seed)),
        ("gain", lambda: gains(few, seed)),
        ("sides", lambda: sides(runs, seed)),
        ("trends", lambda: trends(runs, seed)),
        ("changes", lambda: changes(4 * runs, seed)),
        ("stops", lambda: stops(2 * runs, seed)),
    ]
    lines = []
    for name, ask in asked:
        told(name)
        lines += ask()
    return lines
