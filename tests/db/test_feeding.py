"""What a player feeds to others is told on their own page, with the next lesson in feeding."""

from datetime import timedelta

import pytest

from drill_ladder.apps.people.models import Player
from drill_ladder.apps.practice.models import SetRow
from drill_ladder.apps.progress.panels.feeding import feeding_panel
from drill_ladder.apps.progress.player.record import SPAN, record_of
from tests.make import drill, ladder, log, put_on, text


@pytest.fixture
def feeder(w, today):
    return Player.objects.create(club=w.club, name="Bea Stone", joined_on=today)


def fed(w, title, on, attempts, voids, by):
    of = ladder(
        w.club,
        drill(w.club, title, lanes=[], people="feeder"),
        title,
        target={"makes": 8, "of": 10},
    )
    session = log(put_on(w, ladder=of, on=on - timedelta(days=1)), on, 5, lanes=[""])
    SetRow.objects.filter(session=session).update(attempts=attempts, voids=voids, feeder=by)


def panel(player, today):
    return feeding_panel(record_of(player, today, today - SPAN, None))


def test_it_names_where_to_begin(w, coach, feeder, today):
    fed(w, "Lobs", today, 6, 6, "Bea Stone")
    fed(w, "Rolls", today - timedelta(days=2), 38, 2, "Bea Stone")
    fed(w, "Others", today, 5, 9, "Somebody else")
    fed(w, "Long ago", today - timedelta(days=200), 5, 95, "Bea Stone")
    told = panel(feeder, today)
    assert told.lines == [
        "52 feeds to others, 85\u00a0% of them good.",
        "Next lesson in feeding: Lobs. Nearer, slower, and the same one again, until "
        "90\u00a0% are good.",
    ]
    assert [row[:2] for row in told.rows] == [["Lobs", "50\u00a0%"], ["Rolls", "95\u00a0%"]]
    page = text(coach.get(f"/players/{feeder.pk}/progress/"))
    assert "What they feed" in page
    assert "Ida Marlow" not in page.partition("What they feed")[2]  # nobody else is named


def test_few_feeds_teach_nothing_yet_and_good_ones_go_on(w, feeder, today):
    fed(w, "Lobs", today, 5, 4, "Bea Stone")
    assert panel(feeder, today).lines[1].startswith("From 10 feeds of one drill on")
    SetRow.objects.filter(feeder="Bea Stone").update(attempts=19, voids=1)
    assert panel(feeder, today).lines[1] == (
        "Feeds that others can learn from: faster or further away next."
    )


def test_who_fed_nobody_has_no_such_panel(w, feeder, today):
    fed(w, "Lobs", today, 5, 4, "")
    assert panel(feeder, today) is None
    assert panel(w.player, today) is None
