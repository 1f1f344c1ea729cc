"""Placing on fine ladders against the published method's own package: single tries of a curve that
both know (the cumulative normal), the same tries told to both.
"""

import numpy as np
import pytest
import questplus
from scipy.stats import norm

from drill_ladder.core.judging import Probe
from drill_ladder.core.odds.placing import LEVELS, _most_told, _posterior

RUNGS, STEP = 12, 0.4
SHARES = norm.cdf(LEVELS[None, :] - STEP * np.arange(RUNGS)[:, None])


@pytest.mark.parametrize(("level", "seed"), [(0.5, 1), (2.0, 2), (3.5, 3)])
def test_the_same_rung_is_asked_and_as_much_is_known(level, seed):
    """Watson (2017), QUEST+: A general multidimensional Bayesian adaptive psychometric method."""
    theirs = questplus.QuestPlus(
        stim_domain={"intensity": -STEP * np.arange(RUNGS)},
        param_domain={"mean": -LEVELS, "sd": [1.0], "lower_asymptote": [0.0], "lapse_rate": [0.0]},
        outcome_domain={"response": ["Yes", "No"]},
        func="norm_cdf",
        stim_scale="linear",
        stim_selection_method="min_entropy",
    )
    chance, probes = np.random.default_rng(seed), []
    for _ in range(12):
        known = _posterior(probes, SHARES)
        rung = _most_told(known, SHARES, 1)
        asked = round(-theirs.next_stim["intensity"] / STEP)
        assert asked == rung
        good = bool(chance.random() < norm.cdf(level - STEP * rung))
        probes.append(Probe(rung, 1, int(good)))
        answer = {"response": "Yes" if good else "No"}
        theirs.update(stim=theirs.next_stim, outcome=answer)
        assert theirs.marginal_posterior["mean"] == pytest.approx(
            _posterior(probes, SHARES), abs=1e-6
        )
    ours = float(LEVELS @ _posterior(probes, SHARES))
    assert -theirs.param_estimate["mean"] == pytest.approx(ours, abs=1e-6)
