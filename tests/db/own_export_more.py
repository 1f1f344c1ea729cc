"""More pages of the demo against its own export: the table of results by csv, and the archive's
rows where no table tells it (what a player said, tests); the sums are made here or by numpy.
"""

import io
import json
import re
from collections import Counter, defaultdict
from datetime import date, timedelta
from itertools import groupby, pairwise
from uuid import uuid4
from zipfile import ZipFile

import numpy as np
from scipy import stats
from statsmodels.stats.proportion import proportion_confint

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.sessions.services import SessionInput, SetInput, record_session
from drill_ladder.apps.progress.panels.ease import ease_panel
from drill_ladder.apps.progress.panels.tests import tests_panel
from drill_ladder.apps.progress.player.record import SPAN, record_of
from drill_ladder.apps.records.archive.writing import archive_of
from drill_ladder.core.coaching import Answers
from drill_ladder.formats.words import percent
from tests.db.own_export import TODAY, of_stay, sessions

RECENT = 4


def tired_is_the_first_and_last_third_of_the_strokes(told):
    """The strokes of the last four sessions that have some, lanes laid side by side."""
    compared = 0
    for panels, rows, ladder, stay in told.values():
        if "tired" not in panels or not panels["tired"].rows:
            continue
        early, late = [], []
        for session in sessions(of_stay(rows, ladder, stay))[-RECENT:]:
            marks = in_order(session)
            third = len(marks) // 3
            early += marks[:third]
            late += marks[len(marks) - third :]
        said = [share for _, share in panels["tired"].rows]
        assert said == [percent(np.mean(early)), percent(np.mean(late))]
        compared += 1
    assert compared >= 5


def in_order(session):
    """Attempts of a session, each at its place between the first and the last of its lane."""
    lanes = defaultdict(str)
    for row in session:
        lanes[row["lane"]] += row["strokes"].translate(str.maketrans("", "", "vrzy"))
    placed = [
        ((place + 0.5) / len(strokes), stroke == "g" or "A" <= stroke <= "J")
        for strokes in lanes.values()
        for place, stroke in enumerate(strokes)
    ]
    return [good for _, good in sorted(placed, key=lambda one: one[0])]


def climbs(rows, ladder):
    """(Rung, days on it while it was the place to stand) of each stay left upwards, in order."""
    mine = [row for row in rows if row["ladder"] == ladder and not row["recheck"]]
    begun = {}
    for row in mine:
        begun.setdefault(row["stay"], (row["on"], int(row["rung"])))
    stays = sorted(begun.items(), key=lambda one: one[1])
    found = []
    for (number, (_, rung)), (_, (until, higher)) in pairwise(stays):
        days = {row["on"] for row in mine if row["stay"] == number and not row["tired"]}
        if higher > rung:
            found.append((rung, sorted(on for on in days if on <= until), until, number))
    return found


def how_long_is_the_days_of_each_stay_and_a_bootstrap_of_them(told, rungs):
    """Days a rung took, and where nothing is known of the club the bootstrap of these (Efron; two
    levels) by another seed, whose shares at the three numbers are within 3 % of theirs.
    """
    compared, drawn = 0, 0
    for panels, rows, ladder, stay in told.values():
        if "long" not in panels or not panels["long"].rows:
            continue
        lengths = [len(days) for _, days, *_ in climbs(rows, ladder)]
        said = [int(length.split()[0]) for _, length in panels["long"].rows]
        assert said == lengths
        compared += len(said)
        first = panels["long"].lines[0]
        if first.startswith("At this pace"):
            low, high, middle = map(int, re.findall(r"\d+", first))
            left = rungs[ladder] - stay.rung.position + 1
            totals = drawn_again(lengths, left)
            for sessions_, share in ((low, 0.1), (middle, 0.5), (high, 0.9)):
                below, upto = (totals < sessions_).mean(), (totals <= sessions_).mean()
                assert below - 0.03 <= share <= upto + 0.03
            drawn += 1
    assert compared >= 8
    assert drawn >= 1


def drawn_again(lengths, left):
    """Sums of as many draws as rungs are left, each from a sample drawn anew; 4000 of them."""
    chance = np.random.default_rng(1)
    again = (chance.choice(lengths, len(lengths)) for _ in range(4000))
    return np.array([chance.choice(sample, left).sum() for sample in again])


def holds_is_what_was_done_on_a_rung_after_it_was_left(told, targets):
    """A check is a day on a rung after it was left; where good ones are counted it held if they
    reached the target over all or in each lane. Due 2, 4 and then 8 weeks after the one before, as
    long as none failed.
    """
    compared = 0
    for panels, rows, ladder, _ in told.values():
        if "holds" not in panels:
            continue
        latest = {rung: (days, until, number) for rung, days, until, number in climbs(rows, ladder)}
        titles = [title for title, *_ in targets[ladder]]
        for title, _, checked, due in panels["holds"].rows:
            _, until, number = latest[titles.index(title) + 1]
            after = [row for row in rows if row["stay"] == number and row["on"] > until]
            days = [list(day) for _, day in groupby(after, key=lambda row: row["on"])]
            _, rate, each_lane = targets[ladder][titles.index(title)]
            assert checked.split(",")[0] == (told_day(days[-1][0]["on"]) if days else "not yet")
            if rate is not None and days:
                kept = [reached(day, rate, each_lane) for day in days]
                assert checked.endswith("did not hold") != kept[-1]
                weeks = (2, 4, 8)[min(len(days), 2)]
                next_ = date.fromisoformat(days[-1][0]["on"]) + timedelta(weeks=weeks)
                assert due == (told_day(f"{next_}") if all(kept) else "")
            compared += 1
    assert compared >= 10


def told_day(text):
    return f"{date.fromisoformat(text):%-d %b %Y}"


def reached(day, rate, each_lane):
    parts = [[row for row in day if row["lane"] == lane] for lane in {row["lane"] for row in day}]
    for part in parts if each_lane else [day]:
        makes, attempts = (sum(int(row[name]) for row in part) for name in ("makes", "attempts"))
        if makes / attempts < rate - 1e-9:
            return False
    return True


def targets_of(library):
    """Ladder -> (rung's title, rate asked or None, in each lane?) from the bottom."""
    found = {}
    for ladder in library["ladders"]:
        found[ladder["title"]] = [
            (
                rung["title"],
                rung["target"]["makes"] and rung["target"]["makes"] / rung["target"]["of"],
                rung["target"]["each_lane"],
            )
            for rung in ladder["rungs"]
        ]
    return found


def ease_and_tests_are_the_rows_of_the_archive(club, files):
    """How at ease players said they were, and the results of tests, by the archive's own rows."""
    names = [row["name"] for row in files["people.player"]]
    said = defaultdict(list)
    for row in files["practice.felt"]:
        if row["on"] >= f"{TODAY - SPAN}":
            said[names[row["player_id"] - 1]].append((row["on"], row["level"]))
    tests = [row["title"] for row in files["floor.protocol"]]
    held_on = [row["on"] for row in files["floor.battery"]]
    results = Counter()
    for row in files["floor.trial"]:
        on = held_on[row["battery_id"] - 1]
        if f"{TODAY - SPAN}" <= on <= f"{TODAY}" and not row["taken_back"]:
            results[names[row["player_id"] - 1], tests[row["protocol_id"] - 1], on] += 1
    eased, tested = 0, 0
    for player in Player.objects.of_club(club):
        record = record_of(player, TODAY, TODAY - SPAN, None)
        panel = ease_panel(record)
        rows = [(told_day(on), f"{level} of 5") for on, level in sorted(said[player.name])]
        assert (panel is None) == (not rows)
        if panel:
            assert [(day, level) for day, level, _ in panel.rows] == rows[::-1]
            eased += 1
        panel = tests_panel(record)
        mine = {(test, told_day(on)) for who, test, on in results if who == player.name}
        shown = {
            (row[0].split(",")[0] if row[0] not in tests else row[0], row[1])
            for row in (panel.rows if panel else [])
        }
        assert shown == mine
        tested += len(mine)
    assert eased >= 2
    assert tested >= 4


LOGGED = (  # good ones, strokes, tempo, bad feeds, feeder, faults, how calls were answered
    (7, "gggggmmm0gg", 0.75, 2, "Ben", {"late": 1}, Answers(5, 2, 1, 4, 6, 8, 5)),
    (9, "ggggggggmg", 1.0, 0, "Ann", {}, Answers(6, 1, 0, 5, 7, 8, 6)),
    (6, "gggmmm0ggm", 1.0, 1, "Ben", {"late": 3}, Answers(4, 3, 2, 3, 4, 7, 4)),
)


def log_feeds_calls_and_tempos(stay, on):
    """Sets as the instruments send them, on the stay of one player."""
    for makes, strokes, tempo, voids, feeder, faults, reads in LOGGED:
        values = {"attempts": 10, "makes": makes, "strokes": strokes[:10], "tempo": tempo}
        more = {"voids": voids, "feeder": feeder, "faults": faults, "reads": reads}
        lane = stay.terms.rung.lanes[0] if stay.terms.rung.lanes else ""
        sets = [SetInput(uuid4(), lane, values | more)]
        entry = SessionInput(uuid4(), on, "coach", sets)
        record_session(stay=stay, entry=entry, today=on, actor=None, judged=False)


def tempo_feeds_and_reads_are_the_columns_of_the_table(told, name):
    """Shares by tempo; of each feeder statsmodels' interval after Wilson; d' by the normal's
    quantiles, half a try added to each cell (Hautus 1995).
    """
    panels, rows, ladder, stay = told[name]
    rows = of_stay(rows, ladder, stay)
    paced = [row for row in rows if row["tempo"]]
    for tempo, attempts, good, faulty in panels["tempo"].rows:
        mine = [row for row in paced if percent(float(row["tempo"])) == tempo]
        of, makes = (sum(int(row[key]) for row in mine) for key in ("attempts", "makes"))
        named = [row["faults"].rpartition(":")[2] for row in mine if row["faults"] != "none"]
        assert (attempts, good, faulty) == (
            f"{of}", percent(makes / of), percent(sum(map(int, named)) / of)
        )  # fmt: skip
    fed = defaultdict(lambda: [0, 0])
    for row in [row for row in rows if row["feeder"]]:
        fed[row["feeder"]][0] += int(row["attempts"])
        fed[row["feeder"]][1] += int(row["attempts"]) + int(row["voids"] or 0)
    for feeder, share, between in panels["feeds"].rows:
        good, of = fed[feeder]
        ends = proportion_confint(good, of, method="wilson")
        assert (share, between) == (percent(good / of), " to ".join(map(percent, ends)))
    told_calls = Counter()
    for row in [row for row in rows if row["reads"]]:
        for part in row["reads"].split(";"):
            told_calls[part.split(":")[0]] += int(part.split(":")[1])
    c = told_calls
    asked, left = c["hits"] + c["misses"], c["false_alarms"] + c["correct_leaves"]
    hit, alarm = (c["hits"] + 0.5) / (asked + 1), (c["false_alarms"] + 0.5) / (left + 1)
    apart = stats.norm.ppf(hit) - stats.norm.ppf(alarm)
    said = " ".join(panels["reads"].lines)
    assert f"{c['hits']} of {asked} calls" in said
    assert f"{c['correct_leaves']} of {left}" in said
    assert f"d\u2032 {apart:.1f}" in said
    assert f"{c['right']} of {c['choices']} situations" in said
    assert len(panels["tempo"].rows) == len(panels["feeds"].rows) == 2
    assert asked


def read_archive(club):
    """(Table -> its rows, the library) of the archive."""
    with ZipFile(io.BytesIO(archive_of(club))) as zipped:
        files = {}
        for name in zipped.namelist():
            if name.startswith("data/"):
                lines = zipped.read(name).decode().splitlines()
                files[name[5:].removesuffix(".jsonl")] = [json.loads(line) for line in lines]
        return files, json.loads(zipped.read("library.json"))


def agrees_further(club, told):
    """The panels that were not compared yet."""
    files, library = read_archive(club)
    targets = targets_of(library)
    tired_is_the_first_and_last_third_of_the_strokes(told)
    rungs = {ladder: len(asked) for ladder, asked in targets.items()}
    how_long_is_the_days_of_each_stay_and_a_bootstrap_of_them(told, rungs)
    holds_is_what_was_done_on_a_rung_after_it_was_left(told, targets)
    ease_and_tests_are_the_rows_of_the_archive(club, files)
