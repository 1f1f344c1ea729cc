"""Every address of the project, with real arguments of one club."""

from datetime import date
from uuid import uuid4

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.floor.challenges.services import open_challenge
from drill_ladder.apps.floor.models import GroupSession, Trial
from drill_ladder.apps.floor.test_days.services import new_battery, save_protocol
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.library.models import Drill, Routine, StrainLimit, ToolLimit
from drill_ladder.apps.messages.models import LocalMail, Message
from drill_ladder.apps.messages.posting import address_of
from drill_ladder.apps.people.agreements.services import agree
from drill_ladder.apps.people.models import AccessToken, Squad
from drill_ladder.apps.people.team.services import invite
from drill_ladder.apps.practice.sessions.corrections import take_away
from drill_ladder.apps.practice.stops.services import open_stop
from drill_ladder.apps.prescriptions.models import PlayerRoutine
from drill_ladder.apps.review.models import Proposal
from drill_ladder.apps.review.services import settle
from drill_ladder.apps.weeks.models import PlannedBlock, Week
from tests.make import current, log, owner_of, put_on

D = date(2026, 3, 2)
TEST = {"title": "Ten balls", "trials": 2, "attempts": 10}


def paths_of(w):
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
        players=[w.player.pk, w.player.pk],
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
    protocol = save_protocol(member=w.coach, protocol=None, values=TEST | {"drill": w.drill})
    battery = new_battery(member=w.coach, title="T", on=D, protocols=[protocol], players=[w.player])
    trial = Trial.objects.create(
        uid=uuid4(),
        club=w.club,
        battery=battery,
        protocol=protocol,
        player=w.player,
        value=8,
        at="2026-03-02T10:00:00Z",
    )
    challenge = open_challenge(member=w.coach, protocol=protocol, title="C", begins=D, ends=D)
    token = AccessToken.objects.create(
        club=w.club,
        name="Gate",
        start="dl_x",
        digest=w.token,
        scopes=["gate"],
        made_by=w.coach.user,
    )
    invitation = invite(
        member=owner_of(w.club), email="new@example.org", name="New", role="coach", squads=None
    )
    agreement = agree(member=w.coach, player=w.player, what="home", by="A", on=D)
    letter = Message.objects.create(
        club=w.club, kind="card", key="x", to_email="g@example.org", subject="S", player=w.player
    )
    kept = LocalMail.objects.create(club=w.club, to="g", sender="c", subject="S", text="T")
    mine = address_of(w.club, "g@example.org")
    tool_limit = ToolLimit.objects.create(
        club=w.club, tool="stick", most_cm=91, under=12, body="Union", of=D
    )
    limit = StrainLimit.objects.create(
        club=w.club, strain="throws", per_week=50, body="The Union", of=D
    )
    who, stay, card = w.player.pk, current(p).pk, f"/card/{w.token}/"
    return {
        "health": "/health/",
        "ready": "/ready/",
        "metrics": "/metrics/",
        "account_login": "/accounts/login/",
        "account_logout": "/accounts/logout/",
        "account_inactive": "/accounts/inactive/",
        "account_reset_password": "/accounts/password/new/",
        "account_reset_password_done": "/accounts/password/new/sent/",
        "account_reset_password_from_key": "/accounts/password/new/1-none/",
        "account_reset_password_from_key_done": "/accounts/password/new/done/",
        "account_reauthenticate": "/accounts/again/",
        "account_change_password": "/accounts/password/",
        "mfa_index": "/accounts/two-steps/",
        "mfa_authenticate": "/accounts/two-steps/code/",
        "mfa_reauthenticate": "/accounts/two-steps/again/",
        "mfa_activate_totp": "/accounts/two-steps/on/",
        "mfa_deactivate_totp": "/accounts/two-steps/off/",
        "mfa_view_recovery_codes": "/accounts/two-steps/spare/",
        "mfa_generate_recovery_codes": "/accounts/two-steps/spare/new/",
        "mfa_download_recovery_codes": "/accounts/two-steps/spare/file/",
        "usersessions_list": "/accounts/sessions/",
        "people:account": "/account/",
        "people:choose-club": "/account/club/",
        "people:agreements": f"/players/{who}/agreements/",
        "people:agreement-withdraw": f"/agreements/{agreement.pk}/withdraw/",
        "outbox:outbox": "/club/outbox/",
        "outbox:message": f"/club/outbox/{letter.pk}/",
        "outbox:message-html": f"/club/outbox/{letter.pk}/mail.html",
        "outbox:message-act": f"/club/outbox/{letter.pk}/back/",
        "outbox:mailbox": "/club/mailbox/",
        "outbox:mailbox-mail": f"/club/mailbox/{kept.pk}/",
        "outbox:mailbox-html": f"/club/mailbox/{kept.pk}/mail.html",
        "outbox:card-link": f"/players/{who}/mail-card/",
        "outbox:stops": f"/mail/{mine.token}/",
        "outbox:stop-now": f"/mail/{mine.token}/now/",
        "records:history": "/club/history/",
        "records:history-out": "/club/history.csv",
        "records:archive": "/club/archive/",
        "records:practice": "/practice/",
        "records:practice-end": "/practice/end/",
        "records:records": "/club/records/",
        "records:player": f"/players/{who}/records/",
        "records:family": f"/players/{who}/records/all.zip",
        "records:aside": f"/players/{who}/records/aside/",
        "records:erase": f"/players/{who}/records/erase/",
        "people:club": "/club/",
        "people:squad-save": "/club/squads/",
        "people:squad-drop": f"/club/squads/{squad.pk}/away/",
        "people:team": "/club/people/",
        "people:member-edit": f"/club/people/{w.assistant.pk}/",
        "people:member-end": f"/club/people/{w.assistant.pk}/end/",
        "people:invitation-back": f"/club/invitations/{invitation.pk}/back/",
        "people:join": f"/join/{invitation.token}/",
        "people:found": "/found/",
        "progress:desk": "/",
        "progress:players": "/players/",
        "progress:player": f"/players/{who}/",
        "progress:family": f"/players/{who}/family/",
        "progress:decisions": f"/players/{who}/decisions/",
        "progress:coverage": f"/players/{who}/coverage/",
        "progress:cover-first": f"/players/{who}/coverage/first/",
        "progress:cover-gap": f"/players/{who}/coverage/gap/",
        "progress:squad": f"/squads/{squad.pk}/progress/",
        "library:limits": "/limits/",
        "library:limit-drop": f"/limits/{limit.pk}/away/",
        "library:tool-limit": "/limits/tools/",
        "library:tool-limit-drop": f"/limits/tools/{tool_limit.pk}/away/",
        "progress:term": f"/squads/{squad.pk}/term/",
        "progress:term-file": f"/squads/{squad.pk}/term/through.csv",
        "progress:report": f"/players/{who}/report/",
        "progress:reports": "/reports/",
        "progress:report-print": f"/reports/{report.pk}/report.pdf",
        "card:climb": f"{card}climb/",
        "card:report": f"{card}report/{report.pk}/",
        "card:report-print": f"{card}report/{report.pk}/report.pdf",
        "progress:own-decisions": "/own-decisions/",
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
        "card:routine-run": f"{card}routine/{given.pk}/run/",
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
        "floor:worker": "/floor/sw.js",
        "floor:hall": "/floor/",
        "floor:taps": "/floor/taps/",
        "floor:feed": "/floor/feed/",
        "floor:goal": "/floor/goal/",
        "progress:find": "/find/",
        "help:page": "/help/?of=progress:desk",
        "help:words": "/help/words/",
        "help:methods": "/help/methods/",
        "help:why": f"/stays/{stay}/why/",
        "library:shelf": "/library/starter/",
        "progress:insights": "/insights/",
        "exchange:results-columns": "/results/columns.csv",
        "floor:guest": "/floor/guests/",
        "floor:guest-stays": f"/floor/guests/{w.player.pk}/stays/",
        "floor:group-begin": "/stations/begin/",
        "floor:turns": "/floor/turns/",
        "floor:tests": "/tests/",
        "floor:test-new": "/tests/new/",
        "floor:test-edit": f"/tests/{protocol.pk}/",
        "floor:battery-new": "/test-days/new/",
        "floor:battery": f"/test-days/{battery.pk}/",
        "floor:battery-finish": f"/test-days/{battery.pk}/finish/",
        "floor:challenge-new": "/challenges/new/",
        "floor:challenge": f"/challenges/{challenge.pk}/",
        "floor:gate-call": f"/test-days/{battery.pk}/gate/{token.pk}/",
        "api:tokens": "/open-door/",
        "api:revoke": f"/open-door/{token.pk}/revoke/",
        "api:about": "/open-door/about/",
        "door:openapi-json": "/api/v1/openapi.json",
        "door:api-root": "/api/v1/",
        "door:players": "/api/v1/players",
        "door:ladders": "/api/v1/ladders",
        "door:standings": "/api/v1/standings",
        "door:work": f"/api/v1/work?player={who}",
        "door:results": "/api/v1/results",
        "door:session_in": "/api/v1/sessions",
        "door:gate_message": "/api/v1/gate/messages",
        "floor:trial-back": f"/test-days/trials/{trial.pk}/back/",
        "card:manifest": f"{card}card.webmanifest",
        "card:hurt": f"{card}hurt/",
        "card:done": f"{card}done/{session.pk}/",
        "card:session": f"{card}session/{session.pk}/",
        "card:session-away": f"{card}session/{session.pk}/away/",
        "card:session-back": f"{card}back/{away.pk}/",
        "card:block": f"{card}{stay}/",
        "card:run": f"{card}{stay}/run/",
        "card:skip": f"{card}{stay}/skip/",
        "review:after": "/hall/after/",
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
        "review:lately": "/review/lately/",
        "review:decide": f"/review/{Proposal.objects.last().pk}/decide/",
        "review:undo": f"/review/undo/{decision.pk}/",
    }
