"""Whatever comes in: an answer in JSON, or faults with their places. Never anything else."""

import json
from copy import deepcopy

import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from drill_ladder.formats.cli import answer
from drill_ladder.formats.mistakes import Mistakes
from drill_ladder.formats.verbs import MODULES
from tests.core.small import SMALL
from tests.core.test_cli import DOC

edges = st.sampled_from(
    [0, 1, -1, 2, 0.5, 1.0, 1e-12, 1e12, 10**9, 10**10, -1e12, 1e300, 0.95, 3, 7, 24]
)
numbers = st.one_of(edges, st.integers(-5, 40), st.floats(allow_nan=False))
scalars = st.one_of(st.none(), st.booleans(), numbers, st.text(max_size=3))
keys = st.text(max_size=4)
values = st.recursive(
    scalars,
    lambda inner: st.one_of(st.lists(inner, max_size=3), st.dictionaries(keys, inner, max_size=3)),
    max_leaves=6,
)
LANES = {"lanes": 2, "floor": 0.4, "each_lane": True, "p": [[0.5, 0.6], 0.7], "seed": 1, "runs": 50}
FULL = {
    **SMALL,
    "decide": DOC,
    "odds": {**SMALL["odds"], **LANES},
    "place": {
        **SMALL["place"],
        "guess": "b",
        "zone": [0.5, 0.8],
        "probes": [{"rung": "b", "attempts": 5, "makes": 4}],
    },
    "change": {
        "pairs": [[1, 2], [2, 1], [3, 3], [4, 5], [1, 1], [0, 2]],
        "before": 1,
        "after": 2,
        "better": "higher",
    },
    "layout": {
        **SMALL["layout"],
        "units": "pace",
        "unit_m": 0.7,
        "zones": [{"id": "z", "points": [[0, 1]]}],
        "margin": 1,
        "space": {"width": 3, "depth": 4},
    },
}


def places(value, way=()):
    yield way
    if isinstance(value, dict):
        for key, inner in value.items():
            yield from places(inner, (*way, key))
    elif isinstance(value, list):
        for i, inner in enumerate(value):
            yield from places(inner, (*way, i))


@st.composite
def damaged(draw, verb):
    """A good document with one or two places changed to anything."""
    doc = deepcopy(FULL[verb])
    for _ in range(draw(st.integers(1, 2))):
        *way, last = draw(st.sampled_from([p for p in places(doc) if p]))
        at = doc
        for step in way:
            at = at[step]
        at[last] = draw(values)
    return doc


@pytest.mark.parametrize("verb", MODULES)
@settings(max_examples=120, deadline=None, suppress_health_check=[HealthCheck.too_slow])
@given(data=st.data())
def test_damaged_documents(verb, data):
    doc = data.draw(damaged(verb))
    lines = []
    try:
        json.dumps(answer(verb, json.dumps(doc).encode()), allow_nan=False)
    except Mistakes as faults:
        lines = faults.lines or ["no line at all"]
    assert all(line.startswith("$") and ": " in line and "\n" not in line for line in lines)


@pytest.mark.parametrize("verb", MODULES)
@settings(max_examples=40, deadline=None)
@given(data=st.binary(max_size=40))
def test_any_bytes(verb, data):
    with pytest.raises(Mistakes):
        answer(verb, data)
