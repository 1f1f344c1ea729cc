"""The device and the server fold one list of taps into one piece of work: generated lists, each in
an order of its own.
"""

import json
import random
import subprocess
from collections import Counter
from datetime import UTC, datetime, timedelta

import pytest

from drill_ladder.core.hall import COUNTS_AS, attempts_in, ends_of, fold, fold_row, is_whole
from drill_ladder.core.judging import (
    Dose,
    Earned,
    Makes,
    Rung,
    Streak,
    Target,
    Time,
    ToN,
    UntilLost,
)
from drill_ladder.formats.taps import read_tap, to_tap

SEED, LISTS = 24, 400
BEGIN = datetime(2026, 11, 28, 17, tzinfo=UTC)
LANES = ["left", "right", "ahead"]
MEASURES = {
    "makes": Makes(),
    "streak": Streak(cap=3),
    "to_n": ToN(n=3),
    "until_lost": UntilLost(lost=2, cap=3),
    "earned": Earned(n=3, cap=8),
    "time": Time(),
}


VALUES = {
    "stroke": lambda chance: {"stroke": chance.choice("gggmmv01rAB")},
    "result": lambda chance: {
        "numbers": {"seconds": round(chance.uniform(8, 10), 2)},
        "faults": None,
    },
    "look": lambda chance: (
        {"seen": [chance.randrange(4) for _ in range(chance.randrange(5))]}
        if chance.random() < 0.8
        else {"numbers": {"form": 0.5}}
    ),
    "read": lambda chance: {"word": chance.choice(list(COUNTS_AS))},
    "feeder": lambda chance: {"word": chance.choice(["Ada", "Ben", ""])},
    "tempo": lambda chance: {"numbers": {"share": chance.choice([0.5, 0.75, 1.0])}},
    "feed": lambda chance: {"word": chance.choice(["rolled", "tossed", "hit"])},
}


def a_value(chance, act, ids):
    """What an act needs."""
    if act == "undo":
        return {"of": chance.choice(ids) if ids else "none"}
    return VALUES.get(act, lambda chance: {"on": chance.random() < 0.5})(chance)


def a_list(chance, number):
    """A work and its taps."""
    kind = chance.choice(list(MEASURES))
    lanes = LANES[: chance.choice([0, 0, 2, 3])]
    trial = "result" if kind == "time" else "stroke"
    told = ["read", "feeder", "tempo", "feed", "easier", "tired"]
    acts = [trial] * 12 + ["undo", "look", *told, "enough"]
    taps = []
    for n in range(chance.randrange(40)):
        act = chance.choice(acts)
        taps.append(
            {
                "id": f"{number:04}{n:04}-0000-4000-8000-000000000000",
                "at": (BEGIN + timedelta(seconds=chance.randrange(60))).isoformat(),
                "player": 1,
                "stay": 1,
                "act": act,
                "lane": chance.choice(lanes or [""]),
                "value": a_value(chance, act, [one["id"] for one in taps]),
                "n": n + 1,
            }
        )
    work = {
        "kind": kind,
        "lanes": lanes,
        "said": lanes,
        "sets": chance.choice([1, 2, 3]),
        "reps": 4 if kind == "makes" else None,
        "rest": 0,
        "cap": getattr(MEASURES[kind], "cap", None),
        "n": 3,
        "lost": 2,
        "earn": 2,
        "stop_drop": chance.choice([None, 0.05]) if kind == "time" else None,
        "eased": chance.random() < 0.3,
        "feed": chance.choice(["", "rolled"]),
    }
    chance.shuffle(taps)
    return work, taps


def on_the_server(work, taps):
    """What it comes to in Python."""
    dose = Dose(sets=work["sets"], reps=work["reps"], stop_drop=work["stop_drop"])
    lanes = tuple(work["lanes"])
    measure = MEASURES[work["kind"]]
    target = Target(makes=3, of=4, each_lane=bool(lanes))
    if work["kind"] != "makes":
        target = Target(value=3, each_lane=bool(lanes))
    rung = Rung("r", measure, dose, target, lanes=lanes)
    keys = ("id", "act", "at", "lane", "value")
    read = [
        to_tap(*(tap[k] for k in keys[:2]), datetime.fromisoformat(tap["at"]), tap["lane"],
               tap["value"], tap["n"])
        for tap in taps
    ]  # fmt: skip
    found = fold(read, ends_of(rung), work["eased"], work["feed"])
    sets = [
        [
            *(s.lane, s.strokes, s.eased, s.feeder, s.tempo, s.feed),
            None if s.seen is None else list(s.seen),
        ]
        for s in found.sets
    ]
    return {
        "sets": sets,
        "more": found.more,
        "closed": found.closed,
        "tired": found.tired,
        "reads": dict(found.reads),
        "form": found.form,
        "whole": is_whole(found, rung),
    }


@pytest.fixture(scope="module")
def lists():
    chance = random.Random(SEED)
    return [a_list(chance, number) for number in range(LISTS)]


def test_four_hundred_generated_lists_are_folded_alike(lists):
    sent = json.dumps(lists)
    ran = subprocess.run(
        ["node", "tests/js/fold.mjs"], input=sent, capture_output=True, text=True, check=True
    )
    for (work, taps), found in zip(lists, json.loads(ran.stdout), strict=True):
        assert found == on_the_server(work, taps), (work, taps)


def test_what_is_generated_is_what_a_device_may_send(lists):
    sent = [{k: v for k, v in tap.items() if k != "n"} for _, taps in lists for tap in taps]
    told = {read_tap(tap) for tap in sent if isinstance(read_tap(tap), str)}
    assert told <= {"This entry cannot be read: its id or its moment is none."}


# --- the card keeps a set as a row of strokes with signs: the same taps, written short


NAMES = ["late", "wide", "no look"]


def a_row(chance):
    """A row as a device keeps it: a capital or a digit names one of the faults there are."""
    return "".join(chance.choice("ggggmmvr012ABCzy") for _ in range(chance.randrange(30)))


def test_four_hundred_rows_of_the_card_come_to_the_same_on_the_device():
    chance = random.Random(SEED)
    rows = [(a_row(chance), NAMES, chance.random() < 0.3) for _ in range(LISTS)]
    ran = subprocess.run(
        ["node", "tests/js/rows.mjs"],
        input=json.dumps(rows),
        capture_output=True,
        text=True,
        check=True,
    )
    for (row, names, eased), found in zip(rows, json.loads(ran.stdout), strict=True):
        attempts, good, faults, easier = found
        parts = fold_row(row, eased)
        assert attempts == sum(part.attempts for part in parts) == attempts_in(row), row
        assert good == sum(part.makes for part in parts), row
        named = sum((Counter(part.named(names)) for part in parts), Counter())
        assert dict(part.split(":") for part in faults.split(";") if part) == {
            name: str(times) for name, times in named.items()
        }, row
        signs = [letter for letter in row if letter in "zy"]
        assert easier == (signs[-1] == "z" if signs else eased), row


def test_a_row_and_the_same_taps_are_one_work():
    """What the card writes short the hall would have tapped letter by letter."""
    parts = fold_row("gg0zgmyAv", eased=False)
    assert [(part.eased, part.strokes) for part in parts] == [(False, "gg0Av"), (True, "gm")]
    assert [(part.attempts, part.makes) for part in parts] == [(4, 3), (2, 1)]
    assert [part.named(NAMES) for part in parts] == [{"late": 2}, {}]
    assert fold_row("", eased=True) == []
