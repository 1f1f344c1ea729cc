"""Who may see what: one table over ALL addresses."""

from datetime import date
from pathlib import Path

import pytest
from django.test import Client
from django.urls import get_resolver

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.floor.models import GroupSession
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.library.models import Drill, Routine
from drill_ladder.apps.people.models import Squad
from drill_ladder.apps.practice.corrections import take_away
from drill_ladder.apps.practice.models import Stop
from drill_ladder.apps.practice.stops import open_stop
from drill_ladder.apps.prescriptions.models import PlayerRoutine
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import settle
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from drill_ladder.web import addresses
from tests.doors import TABLE
from tests.make import current, log, put_on

D = date(2026, 3, 2)
POST_ONLY = {
    "people:link-renew",
    "prescriptions:end",
    "card:hurt",
    "card:skip",
    "practice:stop-open",
}
POST_ONLY |= {f"{app}:session-{what}" for app in ("card", "practice") for what in ("away", "back")}
POST_ONLY |= {
    "practice:word-read",
    "review:move",
    "review:decide",
    "review:undo",
    "library:plan-preview",
    "prescriptions:new-terms",
    "library:archive",
}
POST_ONLY |= {"library:marks", "weeks:weeks-act", "weeks:week-act", "weeks:block-act"}
POST_ONLY |= {
    "people:feed-renew",
    "prescriptions:focus",
    "prescriptions:back",
    "floor:station-change",
}
POST_ONLY |= {
    "prescriptions:at-club",
    "prescriptions:looked",
    "prescriptions:routine-end",
    "practice:both-real",
    "progress:reports",
    "card:pin",
    "people:card-pin",
    "library:rung-preview",
    "library:rung-preview-new",
}


def all_names(resolver=None, space=""):
    """Every named address of the project."""
    for pattern in (resolver or get_resolver()).url_patterns:
        if hasattr(pattern, "url_patterns"):
            inner = f"{space}{pattern.namespace}:" if pattern.namespace else space
            yield from all_names(pattern, inner)
        else:
            yield f"{space}{pattern.name}"


def test_every_address_is_in_the_table():
    assert set(all_names()) == set(TABLE)


@pytest.fixture
def paths(w):
    """Every address with real arguments of one club."""
    p = put_on(w, rung=2)
    session = log(p, D, 8, 8)
    log(p, D.replace(day=3), 8, 8)
    proposal = Proposal.objects.awaiting_review().get()
    decision = settle(member=w.coach, proposal=proposal, action="hold", on=D)
    log(p, D.replace(day=4), 8, 8)
    away = take_away(session=log(p, D.replace(day=5), 3, 3), actor=None, today=D.replace(day=6))
    stop = open_stop(player=w.player, what="knee", on=D, actor=None)
    week = Week.objects.create(club=w.club, player=w.player, monday=D)
    same = {"club": w.club, "week": week, "prescription": p, "on": D}
    block = PlannedBlock.objects.create(order=1, minutes=10, place="club", **same)
    made = {"file": b"%PDF", "file_name": "sheet.pdf", "state": "done"}
    job = Job.objects.create(club=w.club, by=w.coach.user, name="weeks.solve", label="x", **made)
    group = GroupSession.objects.create(
        club=w.club,
        title="x",
        on=D,
        players=["a", "b"],
        stations=[{"name": "s", "capacity": 1, "roles": ["w"], "s_per_rep": 4}],
        slot_s=60,
        slots=2,
    )
    squad = Squad.objects.create(club=w.club, name="Under 12")
    Drill.objects.filter(pk=w.drill.pk).update(
        plan={"units": "m", "markers": [{"id": "A", "x": 0, "y": 0}], "legs": []}
    )
    routine = Routine.objects.create(club=w.club, title="All of it")
    routine.parts.create(club=w.club, ladder=w.ladder, position=1)
    given = PlayerRoutine.objects.create(
        club=w.club, player=w.player, routine=routine, started_on=D
    )
    report = Report.objects.create(
        club=w.club, player=w.player, since=D, on=D, published_at="2026-03-02T10:00:00Z"
    )
    who, stay, card = w.player.pk, current(p).pk, f"/card/{w.token}/"
    return {
        "account_login": "/accounts/login/",
        "account_logout": "/accounts/logout/",
        "account_inactive": "/accounts/inactive/",
        "progress:desk": "/",
        "progress:players": "/players/",
        "progress:player": f"/players/{who}/",
        "progress:coverage": f"/players/{who}/coverage/",
        "progress:squad": f"/squads/{squad.pk}/progress/",
        "progress:report": f"/players/{who}/report/",
        "progress:reports": "/reports/",
        "progress:report-print": f"/reports/{report.pk}/report.pdf",
        "card:climb": f"{card}climb/",
        "card:report": f"{card}report/{report.pk}/",
        "card:report-print": f"{card}report/{report.pk}/report.pdf",
        "progress:mirror": "/mirror/",
        "progress:health": f"/ladders/{w.ladder.pk}/steps/",
        "progress:replay": f"/ladders/{w.ladder.pk}/replay/1/",
        "progress:panel-file": f"/players/{who}/progress/kept.csv",
        "progress:look-back": f"/players/{who}/progress/",
        "exchange:roster-in": "/roster/in/",
        "exchange:roster-out": "/roster.csv",
        "people:feed-renew": "/feed/new/",
        "people:player-new": "/players/new/",
        "people:player-edit": f"/players/{who}/edit/",
        "people:link-renew": f"/players/{who}/link/card/",
        "library:ladders": "/ladders/",
        "library:ladder": f"/ladders/{w.ladder.pk}/",
        "library:rule-preview": f"/ladders/{w.ladder.pk}/rule/",
        "library:marks": "/ladders/marks/",
        "library:odds": f"/ladders/{w.ladder.pk}/odds/1/",
        "library:drills": "/drills/",
        "library:archive": f"/library/drills/{w.drill.pk}/aside/",
        "library:export": "/library.json",
        "library:import": "/library/in/",
        "library:ladder-draft": "/ladders/draft/",
        "library:ladder-new": "/ladders/new/",
        "card:typed-in": "/sheet/typed/",
        "card:pin": f"{card}pin/",
        "people:card-pin": f"/players/{who}/pin/",
        "practice:both-real": f"/sessions/{session.pk}/both/",
        "exchange:results-out": "/results.csv",
        "exchange:results-in": "/results/in/",
        "library:routines": "/routines/",
        "library:routine-new": "/routines/new/",
        "library:routine-edit": f"/routines/{routine.pk}/edit/",
        "prescriptions:routine": f"/routines/{routine.pk}/",
        "prescriptions:routine-give": f"/routines/{routine.pk}/give/",
        "prescriptions:routine-end": f"/player-routines/{given.pk}/end/",
        "practice:routine-log": f"/log/routine/{given.pk}/",
        "card:routine": f"{card}routine/{given.pk}/",
        "card:routine-done": f"{card}routine/{given.pk}/2026-03-02/",
        "library:ladder-edit": f"/ladders/{w.ladder.pk}/edit/",
        "library:rung-preview": f"/ladders/{w.ladder.pk}/look/0/",
        "library:rung-preview-new": "/ladders/look/0/",
        "library:drill-new": "/drills/new/",
        "library:drill-edit": f"/drills/{w.drill.pk}/edit/",
        "library:drill-run": f"/drills/{w.drill.pk}/run/",
        "library:plan-edit": f"/drills/{w.drill.pk}/plan/",
        "library:rung-plan": f"/rungs/{w.rungs[0].pk}/plan/",
        "library:plan-file": f"/drills/{w.drill.pk}/plan.svg",
        "library:plan-preview": "/plans/look/",
        "library:plan-shape": "/plans/shape/star/",
        "library:drill": f"/drills/{w.drill.pk}/",
        "prescriptions:back": f"/stays/{stay}/back/",
        "prescriptions:place": f"/players/{who}/place/{w.ladder.pk}/",
        "prescriptions:focus": f"/players/{who}/focus/",
        "prescriptions:squad-start": f"/ladders/{w.ladder.pk}/squads/{squad.pk}/",
        "weeks:weeks": "/weeks/",
        "weeks:weeks-act": "/weeks/solve/",
        "weeks:week": f"/players/{who}/week/",
        "weeks:week-act": f"/players/{who}/week/solve/",
        "weeks:block-act": f"/blocks/{block.pk}/lock/",
        "card:calendar": w.calendar,
        "card:old-calendar": f"{card}calendar.ics",
        "card:print": f"{card}week.pdf",
        "card:coach-feed": f"/feed/{w.coach.feed_token}/sessions.ics",
        "floor:stations": "/stations/",
        "floor:station": f"/stations/{group.pk}/",
        "floor:station-change": f"/stations/{group.pk}/players/",
        "card:card-sheet": f"/players/{who}/card.pdf",
        "card:sheet": "/sheet.pdf",
        "card:card-qr": f"/players/{who}/card.svg",
        "progress:job": f"/jobs/{job.pk}/",
        "progress:job-file": f"/jobs/{job.pk}/file/",
        "progress:trail": f"/players/{who}/trail/",
        "library:trail": f"/ladders/{w.ladder.pk}/trail/",
        "card:sheet-of-all": "/sheet/",
        "prescriptions:standing": f"/ladders/{w.ladder.pk}/players/",
        "prescriptions:choose": f"/players/{who}/prescribe/",
        "prescriptions:start": f"/players/{who}/prescribe/{w.ladder.pk}/",
        "prescriptions:new-terms": f"/stays/{stay}/new-terms/",
        "prescriptions:change": f"/prescriptions/{p.pk}/change/",
        "prescriptions:looked": f"/prescriptions/{p.pk}/looked/",
        "prescriptions:at-club": f"/prescriptions/{p.pk}/at-the-club/",
        "prescriptions:end": f"/prescriptions/{p.pk}/end/",
        "card:card": card,
        "card:worker": "/card/sw.js",
        "card:manifest": f"{card}card.webmanifest",
        "card:hurt": f"{card}hurt/",
        "card:done": f"{card}done/{session.pk}/",
        "card:session": f"{card}session/{session.pk}/",
        "card:session-away": f"{card}session/{session.pk}/away/",
        "card:session-back": f"{card}back/{away.pk}/",
        "card:block": f"{card}{stay}/",
        "card:skip": f"{card}{stay}/skip/",
        "practice:log": f"/log/{stay}/",
        "practice:session": f"/sessions/{session.pk}/",
        "practice:session-away": f"/sessions/{session.pk}/away/",
        "practice:session-back": f"/sessions/back/{away.pk}/",
        "practice:sessions": f"/players/{who}/sessions/",
        "practice:word-read": f"/sessions/{session.pk}/read/",
        "review:move": f"/standing/{stay}/move/",
        "practice:stop-open": f"/players/{who}/stop/",
        "practice:stop-new": "/stops/new/",
        "practice:stop-end": f"/stops/{stop.pk}/end/",
        "review:queue": "/review/",
        "review:decide": f"/review/{Proposal.objects.last().pk}/decide/",
        "review:undo": f"/review/undo/{decision.pk}/",
    }


def status(user, path, name):
    client = Client()
    if user is not None:
        client.force_login(user)
    response = client.post(path) if name in POST_ONLY else client.get(path)
    return response.status_code, response.headers.get("Location", "")


# the addresses that show nothing of a club in particular
GENERAL = {
    "practice:stop-new",
    "people:feed-renew",
    "floor:stations",
    "exchange:roster-in",
    "exchange:roster-out",
    "weeks:weeks",
    "weeks:weeks-act",
    "card:sheet",
    "card:sheet-of-all",
    "library:rung-preview-new",
    "library:export",
    "library:import",
    "progress:desk",
    "progress:players",
    "people:player-new",
    "review:queue",
}
GENERAL |= {
    "library:marks",
    "library:drill-new",
    "library:ladder-draft",
    "library:ladder-new",
    "library:ladders",
    "library:routines",
    "card:typed-in",
    "progress:mirror",
    "exchange:results-out",
    "exchange:results-in",
    "library:routine-new",
    "library:drills",
    "library:plan-preview",
    "library:plan-shape",
}


def test_the_door(w, other, paths):
    assert set(paths) == set(TABLE)
    for name in TABLE:
        path, access = paths[name], TABLE[name]
        nobody = status(None, path, name)
        if name == "practice:stop-open":
            assert nobody[0] == 403, name  # told that the report did not arrive, not led away
        elif access in ("member", "coach"):
            assert nobody[0] == 302, name
            assert nobody[1].startswith("/accounts/login/"), name
        if access in ("member", "coach"):
            stranger = status(other.coach.user, path, name)[0]
            assert stranger in ((200, 204, 302) if name in GENERAL else (404,)), name
        if access == "coach":
            assert status(w.assistant.user, path, name)[0] == 403, name
        if access == "member":
            assert status(w.assistant.user, path, name)[0] in (200, 302), name
        if access == "moved":
            assert nobody[0] == 404, name  # only what was given out leads on: test_secrets
        if access == "link":
            assert nobody[0] in (200, 302), name
            secrets = (w.token, w.coach.feed_token, w.calendar.split("/")[2])
            strange = next(path.replace(secret, "x" * 43) for secret in secrets if secret in path)
            assert status(None, strange, name)[0] == 404, name


def test_a_coach_comes_in_everywhere(w, paths):
    for name, path in paths.items():
        if TABLE[name] in ("member", "coach") and name not in POST_ONLY:
            assert status(w.coach.user, path, name)[0] == 200, name


def test_a_link_opens_one_player_only(w, other, paths):
    for name in ("card:done", "card:block"):
        assert status(None, paths[name].replace(w.token, other.token), name)[0] == 404


def test_a_renewed_link_closes_the_old_one(w, paths):
    client = Client()
    client.force_login(w.coach.user)
    old = paths["card:card"]
    client.post(paths["people:link-renew"])
    assert Client().get(old).status_code == 404
    assert Client().get(f"/card/{w.token}/").status_code == 200


def test_an_account_without_a_club_sees_nothing(w, paths):
    w.assistant.delete()
    for name in ("progress:desk", "progress:player", "review:queue"):
        assert status(w.assistant.user, paths[name], name)[0] == 404


def test_refusals_say_why(w, paths):
    client = Client()
    client.force_login(w.assistant.user)
    assert "coach&#x27;s call" in client.get(paths["review:queue"]).content.decode()
    assert Stop.objects.open().count() == 1


def test_pages_are_private_and_strict(w, paths):
    client = Client()
    client.force_login(w.coach.user)
    for path in (paths["progress:player"], paths["card:card"]):
        headers = client.get(path).headers
        assert headers["Cache-Control"] == "private, no-store"
        assert "script-src 'self'" in headers["Content-Security-Policy"]
        assert "unsafe" not in headers["Content-Security-Policy"]
    assert client.get(paths["card:card"]).headers["Referrer-Policy"] == "same-origin"


def test_too_many_wrong_passwords_are_slowed_down(w):
    client = Client()
    given = {"login": w.coach.user.email, "password": "wrong one"}
    answers = [client.post("/accounts/login/", given) for _ in range(6)]
    assert "Too many" in answers[-1].content.decode() or answers[-1].status_code == 429
    right = {**given, "password": "a long password"}
    assert client.post("/accounts/login/", right).status_code != 302


def test_the_table_of_addresses_is_current():
    published = Path(__file__).resolve().parents[2] / "docs" / "addresses.md"
    assert published.read_text() == addresses.table(), "run: scripts/addresses"
