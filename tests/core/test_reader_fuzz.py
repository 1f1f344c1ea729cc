"""The readers under seeded damage: an hour of coverage-guided fuzzing of the same doors (180,000
documents, nothing found) is kept as this short walk, the same every time. `FUZZ_SEED` and
`FUZZ_CASES` walk elsewhere and longer.
"""

import json
import os
from collections.abc import Callable, Iterator
from copy import deepcopy
from functools import partial
from random import Random
from typing import Any

import pytest

from drill_ladder.formats.cli import answer
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.mistakes import Mistakes
from drill_ladder.formats.tables import BadTable, read_table
from drill_ladder.formats.verbs import MODULES
from tests.core.test_never_a_traceback import FULL, places

SEED, CASES = int(os.environ.get("FUZZ_SEED", 1)), int(os.environ.get("FUZZ_CASES", 60))
EDGES: list[Any] = [
    *(0, 1, -1, 2, 0.5, 1e-12, 1e12, 10**9, 1e300, 1e-300, 0.999999999999, 24, 2**63, 10**400),
    *(None, True, "", [], {}, "a", "x" * 500, "2026-02-30", "9999-12-31", "\u0000", "é\u2028"),
]
LIBRARY = {
    "format": "drill-ladder/1",
    "drills": [
        {
            "title": "Pass",
            "measure": {"kind": "makes"},
            "lanes": ["left", "right"],
            "faults": ["wide"],
            "caution": "home_alone",
            "treatments": [{"fault": "wide", "cue": "Low"}],
            "kit": [{"tool": "stick", "low": 0.5, "high": 0.6}],
            "versions": [{"name": "wall", "wall": True, "instead": {"net": "string"}}],
            "plan": {
                "units": "m",
                "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 1, "y": 2}],
                "legs": [{"from": "A", "to": "B"}],
                "paths": [{"from": "B", "to": "A", "kind": "feed"}],
                "walls": [{"points": [[0, 3], [1, 3]]}],
                "zones": [{"id": "z", "points": [[0, 1], [1, 1], [1, 2]]}],
            },
        }
    ],
    "ladders": [
        {
            "title": "Gate",
            "rule": {"school": "in_a_row", "passes": 2},
            "rungs": [
                {
                    "drill": "Pass",
                    "title": "Near",
                    "dose": {"sets": 1, "reps": 10},
                    "reps_high": 15,
                    "target": {"makes": 8, "of": 10, "each_lane": True},
                }
            ],
        }
    ],
}


def damage(document: Any, rng: Random) -> Any:
    """One to three places changed, taken out or doubled."""
    changed = deepcopy(document)
    for _ in range(rng.randint(1, 3)):
        ways = [way for way in places(changed) if way]
        if not ways:
            break
        *way, last = rng.choice(ways)
        at = changed
        for step in way:
            at = at[step]
        match rng.randint(0, 5):
            case 0 if isinstance(at, dict):
                del at[last]
            case 1 if isinstance(at, list):
                at.append(deepcopy(at[last]))
            case 2 if isinstance(at, dict):
                at[rng.choice(["x", "", "kind", "of"])] = rng.choice(EDGES)
            case _:
                at[last] = rng.choice(EDGES)
    return changed


def damaged(document: Any, door: str) -> Iterator[bytes]:
    """So many documents for one door, the same every time."""
    rng = Random(f"{SEED} {door}")
    for _ in range(CASES):
        yield json.dumps(damage(document, rng)).encode()


def told(act: Callable[[], object]) -> list[str]:
    """The lines of what was wrong, "no line" for silence; nothing where all was well."""
    try:
        act()
    except Mistakes as faults:
        return faults.lines or ["no line"]
    except BadTable as error:
        return [f"$: {error}"]
    return []


def placed(lines: list[str]) -> bool:
    """Whether each of them names its place."""
    return all(one.startswith("$") and ": " in one and "\n" not in one for one in lines)


@pytest.mark.parametrize("verb", MODULES)
def test_a_verb_answers_or_says_what_is_wrong(verb):
    for sent in damaged(FULL[verb], verb):
        said = told(partial(lambda sent: json.dumps(answer(verb, sent), allow_nan=False), sent))
        assert placed(said), sent


def test_a_library_is_read_or_says_what_is_wrong():
    read_library(json.dumps(LIBRARY).encode())
    for sent in damaged(LIBRARY, "library"):
        assert placed(told(partial(read_library, sent))), sent


def test_a_table_is_read_or_says_what_is_wrong():
    rng = Random(f"{SEED} table")
    whole = b"name;side\r\nIda;left\r\n"
    for _ in range(CASES * 5):
        sent = bytearray(whole)
        for _ in range(rng.randint(1, 6)):
            sent.insert(rng.randint(0, len(sent)), rng.choice(b';"\r\n\x00\xff\xef\xbb\xbf,\tPK'))
        assert placed(told(partial(read_table, bytes(sent), "x.csv"))), sent
