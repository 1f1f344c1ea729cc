"""Calendars that a calendar program reads (icalendar, RFC 5545), and paper of one page each."""

from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import date, timedelta
from xml.etree import ElementTree

import pytest
from django.test import Client
from django.utils import timezone
from icalendar import Calendar

from drill_ladder.apps.card import feed as feeds
from drill_ladder.apps.card.feed import Feed, calendar
from drill_ladder.apps.card.paper import pages as sheets
from drill_ladder.apps.card.paper import sheet as session_sheets
from drill_ladder.apps.card.paper.pages import weeks_to_tell
from drill_ladder.apps.card.paper.sheet import sheet_of
from drill_ladder.apps.people.models import Player
from drill_ladder.apps.people.players.services import save_player
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.services import end_prescription
from drill_ladder.apps.weeks import services as weeks
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.apps.weeks.publishing import publish
from tests.db.test_weeks import AT, MONDAY, has_days, on
from tests.make import drill, ladder, put_on

BOTH = ("home", "club")
PLAN = {
    "units": "m",
    "markers": [{"id": "A", "x": 0, "y": 0}, {"id": "B", "x": 2, "y": 4}],
    "legs": [{"from": "A", "to": "B", "way": "run", "do": ""}],
    "zones": [],
    "paths": [],
    "margin": 1,
}


@pytest.fixture
def told(w):
    """A published week: home on Monday, club on Thursday."""
    has_days(w.player, (0, 20, "home"), (3, 60, "club"))
    put_on(w)
    weeks.solve(member=w.coach, player=w.player, monday=MONDAY)
    return publish(member=w.coach, player=w.player, monday=MONDAY, at=AT).week


def events(data):
    """What icalendar makes of it; anything that it objects to is an error."""
    found = Calendar.from_ical(data)
    assert found["version"] == "2.0"
    assert found.get("prodid")
    assert found.errors == []
    return found.walk("VEVENT")


def facts(event):
    return (event.decoded("dtstart"), event["status"], event["sequence"])


def test_a_feed_is_valid_and_names_stay_through_every_change(w, told):
    first = events(Client().get(w.calendar).content)
    assert [facts(e) for e in first] == [(on(0), "CONFIRMED", 1), (on(3), "CONFIRMED", 1)]
    assert all(e.decoded("dtend") - e.decoded("dtstart") == timedelta(days=1) for e in first)
    assert first[0]["summary"] == "Gate, 4 min, home"
    assert all(not e.walk("VALARM") for e in first)
    weeks.move(member=w.coach, block=told.blocks.first(), on=on(2))
    told.blocks.filter(on=on(3)).delete()
    publish(member=w.coach, player=w.player, monday=MONDAY, at=AT + timedelta(days=1))
    then = events(Client().get(w.calendar).content)
    assert [facts(e) for e in then] == [(on(2), "CONFIRMED", 2), (on(3), "CANCELLED", 2)]
    assert [e["uid"] for e in then] == [e["uid"] for e in first]
    assert len({e["uid"] for e in then}) == 2


def test_a_week_that_goes_and_comes_in_between_is_never_kept_empty(w, told, monkeypatch):
    """The list is read, and the week changes before its blocks are: what was read is what it says,
    under the state it has then; nothing empty is kept for a state that was not read.
    """
    first = Client().get(w.calendar).content
    monkeypatch.setattr(feeds, "TEXTS", feeds.Texts(2))
    weeks_of = weeks_to_tell(w.player)
    feed = Feed(w.club.pk, "x", BOTH, timezone.localdate(), set())
    monkeypatch.setattr(feeds, "_blocks", lambda weeks, pks: {})
    assert events(calendar(feed, weeks_of)) == []
    monkeypatch.undo()
    assert len(events(calendar(feed, weeks_of))) == 2
    assert len(events(first)) == 2


def test_calendars_asked_for_at_once_by_many_are_all_whole(w, told, monkeypatch):
    """A small store of texts that is filled and emptied by eight threads."""
    monkeypatch.setattr(feeds, "TEXTS", texts := feeds.Texts(3))
    week = feeds.Told(told.pk, told.revision, told.published_at)

    def ask(n):
        asked = feeds._Asked(week, BOTH, f"{n % 7}", alarms=False)
        found = texts.get(asked)
        if found is None:
            texts.put(asked, found := str(n % 7).encode())
        return found == str(n % 7).encode()

    with ThreadPoolExecutor(8) as pool:
        assert all(pool.map(ask, range(4000)))
    assert len(texts._texts) == 3


def test_alarms_only_for_who_asks(w, told):
    asked = events(Client().get(f"{w.calendar}?alarm=1").content)
    assert [len(e.walk("VALARM")) for e in asked] == [1, 1]
    assert asked[0].walk("VALARM")[0].decoded("trigger") == timedelta(hours=15)


def test_a_coachs_own_feed_shows_the_club_with_names(w, told):
    Week.objects.update(
        monday=timezone.localdate() - timedelta(days=timezone.localdate().weekday())
    )
    found = events(Client().get(f"/feed/{w.coach.feed_token}/sessions.ics").content)
    assert [e["summary"] for e in found] == ["Ida Marlow: Gate, 4 min, club"]
    # an assistant has none
    assert Client().get(f"/feed/{w.assistant.feed_token}/sessions.ics").status_code == 404


def test_a_renewed_feed_closes_the_old_one(w, told):
    old = w.coach.feed_token
    client = Client()
    client.force_login(w.coach.user)
    client.post("/feed/new/")
    w.coach.refresh_from_db()
    assert Client().get(f"/feed/{old}/sessions.ics").status_code == 404
    assert Client().get(f"/feed/{w.coach.feed_token}/sessions.ics").status_code == 200


def test_a_stop_cancels_what_is_still_to_come(w, told):
    data = calendar(Feed(w.club.pk, "x", BOTH, on(1), {w.player.pk}), weeks_to_tell(w.player))
    assert [e["status"] for e in events(data)] == ["CONFIRMED", "CANCELLED"]


def test_what_is_planned_after_a_ladder_has_ended_is_cancelled(w, told):
    p = w.player.prescriptions.get()
    end_prescription(member=w.coach, prescription=p, on=on(1))
    data = calendar(Feed(w.club.pk, "x", BOTH, on(2), set()), weeks_to_tell(w.player))
    assert [e["status"] for e in events(data)] == ["CONFIRMED", "CANCELLED"]


def test_text_with_signs_of_the_format_survives(w, told):
    odd = replace(told.published[0], ladder="Gate; left, right\\ and: more \n lines")
    told.published = (odd, *told.published[1:])
    told.save()
    found = events(calendar(Feed(w.club.pk, "x", BOTH, on(0), set()), weeks_to_tell(w.player)))
    assert found[0]["summary"].startswith("Gate; left, right\\ and: more")


class Looked:
    """What the sheets hand to their templates."""

    def __init__(self, monkeypatch):
        self.context = {}

        def look(template, context, sizes=None):
            self.context = context
            return b""

        monkeypatch.setattr(sheets, "pdf", look)


def test_the_home_card_on_paper(w, told, monkeypatch):
    seen = Looked(monkeypatch)
    sheets.home_card(w.player, MONDAY, "http://127.0.0.1/card/x/")
    block = seen.context["blocks"][0]
    assert (block.times, block.work.target) == (["Mon"], "8 of 10, both left and right")
    assert [row.name for row in block.rows] == ["left", "right"]
    assert [row.boxes for row in block.rows] == [10, 10]
    assert "<svg" in seen.context["qr"]
    assert block.plan == ""
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    sheets.home_card(w.player, MONDAY, "x")
    assert (seen.context["blocks"], seen.context["rests"]) == ([], True)


def test_the_card_has_the_floor_plan_where_there_is_room(w, told, monkeypatch):
    """Mirrored for a left-hander, with a style of its own; given up before anything is printed
    smaller.
    """
    seen = Looked(monkeypatch)
    w.drill.plan = PLAN
    w.drill.save()
    drawings = []
    for side in ("right", "left"):
        Player.objects.update(dominant_side=side)
        w.player.refresh_from_db()
        sheets.home_card(w.player, MONDAY, "x")
        drawings.append(seen.context["blocks"][0].plan)
    assert "<style>" in drawings[0]
    assert drawings[0] != drawings[1]
    tried, real = [], sheets.render_to_string
    monkeypatch.setattr(
        sheets,
        "render_to_string",
        lambda name, given: tried.append(given["size"]) or real(name, given),
    )
    last = []
    for many in (1, 6):
        context = seen.context | {"blocks": seen.context["blocks"] * many}
        assert len(sheets.document("card/print_card.html", context, sheets.CARD_SIZES).pages) == 1
        last.append(tried[-1])
    assert last == ["drawn", ""]


def test_a_floor_plan_goes_out_as_a_drawing_that_stands_alone(w):
    client = Client()
    client.force_login(w.assistant.user)
    path = f"/drills/{w.drill.pk}/plan.svg"
    assert client.get(path).status_code == 404
    w.drill.plan = PLAN
    w.drill.save()
    answer = client.get(path)
    assert answer.headers["Content-Disposition"] == 'attachment; filename="push-pass.svg"'
    root = ElementTree.fromstring(answer.content)
    assert root.find("{http://www.w3.org/2000/svg}style").text.strip()
    assert not answer.content.count(b"http://") - 1  # nothing but the name of the format


def test_coached_only_never_stands_on_the_home_card(w, told, monkeypatch):
    seen = Looked(monkeypatch)
    w.drill.caution = "coached_only"
    w.drill.save()
    sheets.home_card(w.player, MONDAY, "x")
    assert seen.context["blocks"] == []


def test_the_session_sheet_leaves_out_who_rests(w, told):
    sheet = sheet_of(w.club, on(3), None)
    assert [str(row.player) for row in sheet.rows] == ["Ida Marlow"]
    open_stop(player=w.player, what="knee", on=MONDAY, actor=None)
    sheet = sheet_of(w.club, on(3), None)
    assert (sheet.rows, sheet.off) == ([], ["Ida Marlow"])


def test_both_are_one_page_even_when_there_is_much(w, told, monkeypatch):
    """Twenty-five blocks on one day with four lanes each: as small as it has to be, and on one
    page.
    """
    lanes = [f"lane {n}" for n in range(4)]
    wide = ladder(w.club, drill(w.club, "Wide", lanes=lanes), "Wide", rungs=1)
    for n in range(24):
        player = Player(name=f"Player {n:02}", joined_on=date(2026, 1, 1))
        save_player(member=w.coach, player=player)
        p = put_on(w, player=player, ladder=wide)
        week = Week.objects.create(club=w.club, player=player, monday=MONDAY)
        same = {"club": w.club, "week": week, "prescription": p, "on": on(3)}
        PlannedBlock.objects.create(order=1, minutes=8, place="club", **same)
    client = Client()
    client.force_login(w.coach.user)
    laid_out = []
    real = sheets.document
    for module in (sheets, session_sheets):
        monkeypatch.setattr(
            module, "document", lambda *given: laid_out.append(real(*given)) or laid_out[-1]
        )
    sheet = client.get(f"/sheet.pdf?of={on(3)}")
    assert sheet.headers["Content-Type"] == "application/pdf"
    assert sheet.content.startswith(b"%PDF-1.7")
    assert Client().get(f"/card/{w.token}/week.pdf?of={MONDAY}").content.startswith(b"%PDF-1.7")
    assert [len(one.pages) for one in laid_out] == [1, 1]


def test_the_card_as_a_qr_code_to_scan(w, told, other):
    client = Client()
    client.force_login(w.coach.user)
    shown = client.get(f"/players/{w.player.pk}/card.svg")
    assert shown.headers["Content-Type"].startswith("image/svg+xml")
    assert shown.content.startswith(b"<svg")
    assert f"/players/{w.player.pk}/card.svg" in client.get(f"/players/{w.player.pk}/family/").text
    client.force_login(other.coach.user)
    assert client.get(f"/players/{w.player.pk}/card.svg").status_code == 404
