"""An hour in a hall with stops in it: what was tapped before one counts, what comes after it is
refused and kept as that; nothing is lost, nothing doubled.

A short run here; the long one is `./ladder bench --faults` (FAULT_ROUNDS, FAULT_SEED).
"""

import os
import random
from dataclasses import replace
from time import monotonic, sleep

from drill_ladder.apps.floor.models import FloorTap
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.stops.services import end_stop, open_stop
from drill_ladder.apps.prescriptions.models import Stay
from tests.browser.driver import wait_until
from tests.browser.test_stores import (
    ALL_FULL,
    NO_DATABASE,
    device_that,
    good,
    hall,  # noqa: F401  (a fixture)
    tapped,
)

ROUNDS = max(4, int(os.environ.get("FAULT_ROUNDS", "4")) // 4)
SEED = int(os.environ.get("FAULT_SEED", "13"))
DEVICES = ("", NO_DATABASE, ALL_FULL)


def counts():
    """How many strokes count, and how many were tapped after a stop."""
    rows = FloorTap.objects.filter(act="stroke")
    return rows.filter(after_stop=False).count(), rows.filter(after_stop=True).count()


def told(expected):
    """Wait until so many are there."""
    end = monotonic() + 15
    while counts() != expected and monotonic() < end:
        sleep(0.1)
    return counts()


def long_hour():
    """More strokes are wanted than all rounds have: the pads stay."""
    stay = Stay.objects.get()
    rung = replace(stay.terms.rung, dose=replace(stay.terms.rung.dose, sets=20 * ROUNDS))
    stay.terms = replace(stay.terms, rung=rung)
    stay.save(update_fields=["terms"])


def test_stops_during_an_hour(club, browser, network, hall, today):  # noqa: F811
    chance = random.Random(SEED)
    before = after = 0
    long_hour()
    for number in range(ROUNDS):
        with device_that(browser, DEVICES[number % len(DEVICES)]):
            hall(back=number > 0)
            online, offline, late = (chance.randint(1, 3) for _ in range(3))
            good(browser, online)
            before += online
            assert tapped(before, after_stop=False) == before
            network.cut = chance.random() < 0.7
            if not network.cut:  # it learns of the stop by itself, and its pads are gone
                offline = late = 0
            good(browser, offline)
            sleep(0.05)
            open_stop(player=club.player, what="knee", on=today, actor=None)
            sleep(0.05)
            good(browser, late)
            network.cut = False
            browser.execute_script("window.dispatchEvent(new Event('online'))")
            before, after = before + offline, after + late
            assert told((before, after)) == (before, after), f"round {number}, seed {SEED}"
            wait_until(browser, "document.querySelector('.hall-tile.halted')")
            wait_until(browser, "document.documentElement.dataset.sent === 'yes'")
        stop = Stop.objects.get(ended_on=None)
        end_stop(member=club.coach, stop=stop, cleared_by="Ruth", on=today)
    uids = list(FloorTap.objects.filter(act="stroke").values_list("uid", flat=True))
    assert len(uids) == len(set(uids)) == before + after
    print(f"{ROUNDS} stops, seed {SEED}: {before} before, {after} after, 0 lost, 0 doubled")
