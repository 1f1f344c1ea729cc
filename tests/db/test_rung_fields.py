"""The builder's row reads and shows every field of the table; nothing is lost on the way."""

from dataclasses import replace

import pytest

from drill_ladder.apps.library.ladders.rung_form import Drills, RungForm
from drill_ladder.apps.library.ladders.rung_typed import names, opened
from drill_ladder.apps.practice.work.building import work_of
from drill_ladder.core.judging import InARow, Intent, Rule, Time
from drill_ladder.formats.rung_fields import FIELDS
from drill_ladder.formats.work_words import work_document
from tests.core.test_rung_fields import GIVEN, begin, with_value
from tests.make import current, drill, put_on

ROW = {"title": "Far", "changes": "", "axis": "", "also": "", "ease_note": "", "call_mode": ""}


def typed(w, rung):
    """The row of a rung, as the builder opens it and sends it back."""
    timed = isinstance(rung.measure, Time)
    used = drill(w.club, "Slalom", measure={"kind": "time"}) if timed else w.drill
    values = {key: value for key, value in opened(rung).items() if value not in (None, False)}
    return RungForm(
        {**ROW, **values, "drill": used.pk}, drills=Drills(w.club), base=Rule(InARow(1))
    )


@pytest.mark.parametrize("field", FIELDS, ids=lambda field: field.path)
def test_a_field_is_opened_typed_and_read(w, field):
    rung = with_value(begin(field), field.path, GIVEN[field.path])
    if field.path == "minutes":
        rung = with_value(rung, "dose.reps", None)
    if field.path == "target.of":
        rung = with_value(rung, "target.makes", 8)
    form = typed(w, rung)
    assert form.is_valid(), form.errors
    assert field.of(form.core()) == GIVEN[field.path]


@pytest.mark.parametrize("field", FIELDS, ids=lambda field: field.path)
def test_a_field_is_on_the_page_of_the_builder(w, coach, field):
    page = coach.get(f"/ladders/{w.ladder.pk}/edit/").content.decode()
    for name in names(field):
        assert f'name="rung-0-{name}"' in page


def test_a_tempo_that_no_choice_names_is_kept(w):
    """A file may bring 60 % of full speed; the row that opens must not lose it."""
    form = typed(w, replace(begin(FIELDS[0]), tempo=0.6))
    assert form.is_valid(), form.errors
    assert form.core().tempo == 0.6
    assert "60 %" in str(form["tempo"])


def test_what_a_field_says_is_said_in_every_place(w, coach, today):
    """For speed, at half speed: on the card, in the run, the log, the hall and the ladder."""
    rung = w.ladder.rungs.get(position=1)
    rung.intent, rung.tempo = Intent.SPEED, 0.5
    rung.save()
    p = put_on(w)
    stay = current(p)
    card = f"/card/{w.token}/"
    places = [
        card + f"{stay.pk}/",
        card + f"{stay.pk}/run/",
        f"/log/{stay.pk}/",
        f"/players/{w.player.pk}/",
        f"/ladders/{w.ladder.pk}/",
    ]
    for place in places:
        answer = coach.get(place)
        assert answer.status_code == 200, place
        assert "for speed, at half speed" in answer.content.decode(), place
    # what the hall, the papers and every device read
    assert "for speed, at half speed" in work_document(work_of(stay, today))["dose"]
