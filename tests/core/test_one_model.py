"""The club's learning model and what is asked of it, on simulated players whose truth is known."""

import numpy as np
import pytest
from scipy import integrate, stats
from scipy.special import expit

from drill_ladder.core.judging import InARow, Rule
from drill_ladder.core.looking_back import (
    Climber,
    DayOf,
    FormNow,
    Storey,
    club_model,
    known,
    outlook,
)
from drill_ladder.core.odds import MakesSession


def squad(seed, players=25, days=24, n=20):
    """True gain 0.08 (sd 0.02), steps 0.6 (sd 0.2), day noise sd 0.5 on the log-odds."""
    chance = np.random.default_rng(seed)
    steps, rows = chance.normal(0.6, 0.2, 40), []
    for player in range(players):
        level, gain = chance.normal(0.8, 0.6), chance.normal(0.08, 0.02)
        rung, row = 1, 0
        for day in range(days):
            log_odds = level + gain * day - steps[: rung - 1].sum() + chance.normal(0, 0.5)
            makes = int(chance.binomial(n, expit(log_odds)))
            rows.append(DayOf(f"p{player}", rung, day, n, makes))
            row = row + 1 if makes >= 0.8 * n else 0
            if row == 2:
                rung, row = rung + 1, 0
    return rows, steps


def test_the_gain_is_found_and_its_interval_holds():
    """Ten squads: mean error within 0.012, held in eight at least."""
    found = [club_model(squad(seed)[0]) for seed in range(10)]
    errors = [model.gain.value - 0.08 for model in found]
    assert abs(np.mean(errors)) < 0.012
    assert sum(model.gain.low <= 0.08 <= model.gain.high for model in found) >= 8


def test_steps_are_told_for_every_rung_and_too_little_is_nothing():
    rows, steps = squad(3)
    model = club_model(rows)
    inside = [
        one.low <= true <= one.high for one, true in zip(model.steps[:6], steps, strict=False)
    ]
    assert sum(inside) >= 4
    assert club_model(rows[:9]) is None
    assert club_model([day for day in rows if day.player == "p1"]) is None


def test_form_from_the_club_is_the_integral_over_what_is_not_known():
    """Against scipy.integrate over the log-odds, and scipy's betabinom for the day."""
    form, r = FormNow(0.6, 0.5, 0.08), 0.08

    def one(z):
        p = expit(0.6 + 0.5 * z)
        a, b = p * (1 - r) / r, (1 - p) * (1 - r) / r
        return stats.norm.pdf(z) * stats.betabinom.sf(6, 10, a, b)

    assert form.passes(10, [7]) == pytest.approx(integrate.quad(one, -8, 8)[0], abs=1e-5)
    both = form.passes(10, [7, 7])
    assert form.passes(10, [7]) ** 2 < both < form.passes(10, [7])  # one day for both lanes
    assert form.passes(10, [7, 9]) < both


def test_who_is_new_and_a_rung_nobody_stood_on_are_drawn_from_the_club():
    rows, _ = squad(4)
    model = club_model(rows)
    rungs = len(model.steps) + 3
    found = known(model, ["p1", "new"], rungs)
    draws = found.drawn(4000, seed=3)
    assert draws.level.std(axis=1)[1] > draws.level.std(axis=1)[0]
    assert draws.steps.shape == (rungs, 4000)
    assert draws.steps[-1].mean() == pytest.approx(model.mean[2], abs=0.05)
    alone = known(model, ["p1"], rungs)
    mean, sd = alone.form(2, 24)
    now = alone.drawn(20_000).now(0, 2, 24)
    assert now.mean() == pytest.approx(mean, abs=0.03)
    assert now.std() == pytest.approx(sd, rel=0.05)


def test_the_outlook_is_what_then_happens():
    """Players whose next six days are simulated anew from their truth."""
    rule = Rule(InARow(2))
    rows, _ = squad(8)
    model = club_model(rows)
    rungs = len(model.steps) + 1
    asked = known(model, ["p1"], rungs)
    easy = [Storey("", MakesSession(20, 10), rule)]
    hard = [Storey("", MakesSession(20, 20), rule)] * rungs
    strong = outlook(asked, easy, Climber(0, 24), 1, 6, 0.05)
    weak = outlook(asked, hard, Climber(rungs - 1, 24), rungs, 6, 0.05)
    assert strong.chance > 0.95
    assert strong.median == 2
    assert weak.chance < 0.2
