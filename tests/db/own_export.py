"""The pages of the demo agree with a stranger's computation from its own export alone: the table of
results as it goes out, read by Python's csv, summed here or fitted by statsmodels.
"""

import csv
import io
import re
from collections import Counter, defaultdict
from datetime import date, timedelta

import numpy as np
import pytest
import statsmodels.api as sm
from django.test import Client
from scipy.special import expit

from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.progress.panels.all_players import panels_of_all
from drill_ladder.apps.progress.panels.one_player import panels_of
from drill_ladder.apps.progress.player.record import SPAN, record_of

TODAY = date(2026, 11, 24)
SLOPE = re.compile(r": ([+\u2212]?[\d.]+) points of a hundred a week")


def told_of(club):
    """Player -> (their panels by key, their rows of the export on the ladder in question)."""
    coach = Client()
    coach.force_login(Membership.objects.filter(club=club, role="owner").first().user)
    answer = coach.get("/results.csv")
    assert answer.status_code == 200
    content = b"".join(answer.streaming_content) if answer.streaming else answer.content
    rows = list(csv.DictReader(io.StringIO(content.decode("utf-8-sig"))))
    found = {}
    for player in Player.objects.of_club(club):
        record = record_of(player, TODAY, TODAY - SPAN, None)
        if record.current is None:
            continue
        panels = {one.key: one for one in panels_of(record) + panels_of_all(record)}
        first = f"{TODAY - SPAN}"
        own = [row for row in rows if row["player"] == player.name and row["on"] >= first]
        found[player.name] = (panels, own, str(record.ladder.ladder.title), record.current)
    return found


def of_stay(rows, ladder, stay):
    """The rows of where a player stands now: as asked, with what a day was judged by."""
    mine = [row for row in rows if row["ladder"] == ladder and not row["recheck"]]
    here = [row for row in mine if row["rung"] == str(stay.rung.position)]
    last = max((int(row["stay"]) for row in here), default=0)
    return [row for row in here if int(row["stay"]) == last and not row["extra"]]


def which_side_is_the_sum_of_the_rows(told):
    compared = 0
    for panels, rows, ladder, stay in told.values():
        if "side" not in panels:
            continue
        sums = defaultdict(lambda: [0, 0])
        for row in of_stay(rows, ladder, stay):
            if row["lane"] and row["attempts"] and not row["tired"]:
                sums[row["lane"]][0] += int(row["makes"] or 0)
                sums[row["lane"]][1] += int(row["attempts"])
        for name, good, *_ in panels["side"].rows:
            makes, attempts = sums[name.lower()] if name.lower() in sums else sums[name]
            assert good == f"{makes} of {attempts}"
            compared += 1
    assert compared >= 4


def sessions(rows):
    """The rows session by session: a set of a lane that comes again begins another one."""
    found, seen = [], set()
    for row in rows:
        key = (row["on"], row["lane"], row["set"])
        if not found or row["on"] != found[-1][-1]["on"] or key in seen:
            found.append([])
            seen = set()
        seen.add(key)
        found[-1].append(row)
    return found


def why_missed_is_the_count_of_the_named_faults(told):
    compared = 0
    for panels, rows, ladder, stay in told.values():
        if "missed" not in panels:
            continue
        counted = Counter()
        for row in [row for one in sessions(of_stay(rows, ladder, stay))[-4:] for row in one]:
            for part in row["faults"].split(";"):
                name, _, times = part.strip().rpartition(":")
                counted[name] += int(times) if name else 0
        for fault, times, _ in panels["missed"].rows:
            assert counted[fault] == int(times)
            compared += 1
    assert compared >= 3


def better_is_the_slope_of_a_glm_over_the_rows(told):
    """statsmodels, binomial family, Pearson's dispersion: the slope of the fitted share at the
    middle day, in points a week.
    """
    compared = 0
    for panels, rows, ladder, stay in told.values():
        said = re.search(
            r": ([+\u2212]?[\d.]+) points of a hundred a week", panels["better"].lines[0]
        )
        if not said or not stay.terms.rung.counts_makes:
            continue
        mine = [row for row in rows if row["ladder"] == ladder and not row["recheck"]]
        mine = [r for r in mine if r["rung"] == str(stay.rung.position) and not r["eased"]]
        mine = [r for r in mine if not r["extra"] and not r["tired"] and r["attempts"]]
        usual = Counter(row["way"] for row in mine).most_common(1)[0][0]
        days = defaultdict(lambda: [0, 0])
        for row in mine:
            if row["way"] == usual:
                days[row["on"]][0] += int(row["makes"])
                days[row["on"]][1] += int(row["attempts"])
        on = np.array([date.fromisoformat(day).toordinal() for day in sorted(days)], dtype=float)
        table = np.array([[days[d][0], days[d][1] - days[d][0]] for d in sorted(days)])
        centred = sm.add_constant(on - on.mean())
        fit = sm.GLM(table, centred, family=sm.families.Binomial()).fit(scale="X2")
        middle = expit(fit.params[0])
        slope = 700 * fit.params[1] * middle * (1 - middle)
        assert float(said[1].replace("\u2212", "-")) == pytest.approx(slope, abs=0.06)
        compared += 1
    assert compared >= 2


def load_is_effort_times_minutes(told):
    compared = 0
    for panels, rows, *_ in told.values():
        if "load" not in panels or not panels["load"].rows:
            continue
        weeks, seen = Counter(), set()
        for row in rows:
            session = (row["on"], row["stay"], row["order"] == "1", row["effort"])
            if row["effort"] and row["order"] == "1" and session not in seen:
                seen.add(session)
                day = date.fromisoformat(row["on"])
                monday = day - timedelta(days=day.weekday())
                weeks[monday] += float(row["effort"]) * float(row["minutes"])
        for week, load_, *_ in panels["load"].rows[:4]:
            monday = next(m for m in weeks if f"{m:%-d %b %Y}" == week)
            assert float(load_) == pytest.approx(weeks[monday], abs=1.0)
            compared += 1
    assert compared >= 4


def kept_is_the_days_of_the_rows(told):
    """A ladder's day counts once, tired work not at all."""
    compared = 0
    for panels, rows, *_ in told.values():
        if "kept" not in panels:
            continue
        days = {(row["ladder"], row["on"]) for row in rows if not row["tired"]}
        weeks = Counter()
        for _, on in days:
            day = date.fromisoformat(on)
            weeks[day - timedelta(days=day.weekday())] += 1
        whole = [monday for monday in weeks if monday >= TODAY - SPAN]
        said = {week: int(done) for week, done, _ in panels["kept"].rows}
        for monday in whole:
            assert said[f"{monday:%-d %b %Y}"] == weeks[monday]
            compared += 1
    assert compared >= 8


def agrees_with_its_export(club):
    """Every panel that a stranger can compute."""
    told = told_of(club)
    which_side_is_the_sum_of_the_rows(told)
    why_missed_is_the_count_of_the_named_faults(told)
    better_is_the_slope_of_a_glm_over_the_rows(told)
    kept_is_the_days_of_the_rows(told)
    load_is_effort_times_minutes(told)
