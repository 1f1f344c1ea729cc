"""Back after a long time away: the rung below once, with its own drill, its own caution and its own
home version.
"""

from datetime import date

import pytest
from django.test import Client

from drill_ladder.apps.card.paper import pages as sheets
from drill_ladder.apps.card.today.blocks import home_blocks, home_way
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.prescriptions.minutes.demand import wanted
from tests.make import current, drill, log, put_on

DAY = date(2026, 3, 2)


@pytest.fixture
def back(w):
    """On rung 2, asked to do rung 1 once; rung 1 is another drill."""
    below = drill(w.club, "Below", people="feeder")
    w.ladder.rungs.filter(position=1).update(drill=below, title="The one below")
    put_on(w, rung=2)
    stay = current(w.player.prescriptions.get())
    stay.recheck = True
    stay.save()
    return stay


def caution(stay, value):
    rung = stay.rung.ladder.rungs.get(position=1)
    rung.drill.caution = value
    rung.drill.save()


def test_the_card_shows_what_is_done(w, back):
    [block] = home_blocks(w.player, DAY)
    assert (block.stored.title, block.stored.position) == ("The one below", 1)
    card = Client().get(f"/card/{w.token}/").content.decode()
    assert "The one below" in card
    assert "once, to come back" in card


def test_the_home_version_is_that_of_the_rung_below(w, back):
    assert home_way(back).lacking == ("feeder",)
    assert wanted(w.player)[0].home.lacking == ("feeder",)


def test_the_paper_asks_for_it_too(w, back, monkeypatch):
    told = {}
    monkeypatch.setattr(
        sheets, "pdf", lambda template, context, sizes=None: told.update(context) or b""
    )
    sheets.home_card(w.player, DAY, "x")
    assert [block.work.title for block in told["blocks"]] == ["The one below"]
    caution(back, "coached_only")
    sheets.home_card(w.player, DAY, "x")
    assert told["blocks"] == []


def test_a_coached_only_rung_below_comes_home_by_no_path(w, back):
    """By the card, by its address, by what is sent, by the plan."""
    caution(back, "coached_only")
    address = f"/card/{w.token}/{back.pk}/"
    assert home_blocks(w.player, DAY) == []
    assert Client().get(address).status_code == 404
    assert Client().post(address, {"hurts": "no"}).status_code == 404
    with pytest.raises(Refused, match="coached sessions only"):
        log(back.prescription, DAY, 8, 8, observer="self")
    assert "home" not in wanted(w.player)[0].wish.places
    # under a coach's eyes it is done, and then it goes on from where the player stood
    log(back.prescription, DAY, 8, 8)
    back.refresh_from_db()
    assert not back.recheck
    assert [block.stored.position for block in home_blocks(w.player, DAY)] == [2]


def test_an_adult_is_asked_for_where_the_rung_below_asks(w, back):
    caution(back, "home_with_adult")
    # without an adult on record it is not offered, whatever is ticked
    assert home_blocks(w.player, DAY) == []
    with pytest.raises(Refused, match="No adult is noted at this home"):
        log(back.prescription, DAY, 8, 8, observer="self", adult_present=True)
    w.player.home_adult = True
    w.player.save()
    assert (
        "An adult is here with me" in Client().get(f"/card/{w.token}/{back.pk}/").content.decode()
    )
    with pytest.raises(Refused, match="An adult has to be there"):
        log(back.prescription, DAY, 8, 8, observer="self")
