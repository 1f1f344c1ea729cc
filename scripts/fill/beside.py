"""What lies beside the work of a large club: taps of the hall, trials, mails, what was said, felt
and left out, hurts, corrections, reports, and who did what.
"""

import random
from datetime import date, datetime, time, timedelta
from uuid import UUID

from django.db import connection
from django.utils import timezone

from drill_ladder.apps.card.models import Report
from drill_ladder.apps.floor.models import Battery, Protocol, Trial
from drill_ladder.apps.floor.test_days.services import save_protocol
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.people.models import Agreement, Club, Membership, Player, PlayerNote
from drill_ladder.apps.practice.models import Felt, HurtReport, Skip, Stop
from drill_ladder.apps.prescriptions.models import Stay
from scripts.fill.work import AT_ONCE

TEST = {"title": "Ten balls", "trials": 3, "attempts": 10}
QUARTER, MONTH, WEEK = (timedelta(days=n) for n in (91, 30, 7))

# Rows for each attempt of a hall's set: half a million of them go in within the database. They
# are good ones first, five seconds apart.
TAPS = """
INSERT INTO floor_floortap
    (uid, club_id, player_id, stay_id, "on", at, act, lane, value, device, by_id, as_coach,
     after_stop)
SELECT gen_random_uuid(), e.club_id, p.player_id, e.stay_id, e."on",
       e."on" + time '17:00' + make_interval(secs => s."order" * 60 + n * 5), 'stroke', s.lane,
       jsonb_build_object('stroke', CASE WHEN n <= s.makes THEN 'g' ELSE 'm' END),
       'tablet', %(by)s, true, false
FROM practice_session e
JOIN practice_setrow s ON s.session_id = e.id
JOIN prescriptions_stay t ON t.id = e.stay_id
JOIN prescriptions_prescription p ON p.id = t.prescription_id
CROSS JOIN LATERAL generate_series(1, s.attempts) n
WHERE e.club_id = %(club)s AND e.hall
ORDER BY e."on", e.id, s."order", n
"""
HERE = """
INSERT INTO floor_floortap
    (uid, club_id, player_id, "on", at, act, lane, value, device, by_id, as_coach, after_stop)
SELECT gen_random_uuid(), club_id, player_id, "on", "on" + time '16:55', 'here', '',
       '{"word": "in"}', 'tablet', %(by)s, true, false
FROM (SELECT DISTINCT club_id, player_id, "on" FROM floor_floortap WHERE club_id = %(club)s) d
"""
MAILS = """
INSERT INTO outbox_message
    (club_id, player_id, kind, key, to_name, to_email, subject, lines, link, link_words, fate,
     tries, error, made_at, sent_at)
SELECT w.club_id, w.player_id, 'week', 'week-' || w.id, g.name, g.email, 'The new week',
       '["Three days."]', '', '', 'sent', 1, '', w.published_at, w.published_at
FROM weeks_week w JOIN people_guardian g ON g.player_id = w.player_id
WHERE w.club_id = %(club)s
"""
HISTORY = """
INSERT INTO history_event (club_id, actor_id, at, verb, subject, kind, row_id, details)
SELECT club_id, %(by)s, published_at, 'published a week', 'Week of ' || monday, 'weeks.week',
       id::text, '{}'::jsonb
FROM weeks_week WHERE club_id = %(club)s
UNION ALL
SELECT club_id, %(by)s, at, 'confirmed', 'A climb', 'review.decision', id::text, '{}'
FROM review_decision WHERE club_id = %(club)s
UNION ALL
SELECT e.club_id, %(by)s, e."on" + time '20:00', 'corrected', 'A session', 'practice.session',
       e.id::text, jsonb_build_object('before', jsonb_build_object('on', e."on", 'effort', 5))
FROM practice_session e WHERE e.club_id = %(club)s AND e.effort = 8
"""


def lie_beside(
    coach: Membership, people: list[Player], began: date, today: date, draw: random.Random
) -> None:
    """All of it. The work, its weeks and what was decided are there already."""
    club, given = coach.club, {"club": coach.club_id, "by": coach.user_id}
    with connection.cursor() as cursor:
        for statement in (TAPS, HERE, MAILS, HISTORY):
            cursor.execute(statement, given)
    _trials(coach, people, began, today, draw)
    _words(coach, people, began, today, draw)
    _left_out(club, people, draw)
    _hurts(coach, people, began)
    _reports(coach, people, today)
    days = range((today - began).days // WEEK.days)
    Job.objects.bulk_create(
        Job(club=club, by=coach.user, name="weeks.solve", label="Weeks", state="done") for _ in days
    )


def _moment(on: date) -> datetime:
    return timezone.make_aware(datetime.combine(on, time(18)))


def _every(step: timedelta, began: date, today: date) -> list[date]:
    return [began + n * step for n in range(1, (today - began) // step)]


def _trials(
    coach: Membership, people: list[Player], began: date, today: date, draw: random.Random
) -> None:
    """Two tests a quarter, three trials each; a few are taken back."""
    drills = coach.club.drills.order_by("pk")[:2]
    tests = [
        save_protocol(member=coach, protocol=None, values=TEST | {"drill": one}) for one in drills
    ]
    for on in _every(QUARTER, began, today):
        day = Battery.objects.create(
            club=coach.club, title="Tests", on=on, players=[p.pk for p in people]
        )
        day.protocols.set(tests)
        Trial.objects.bulk_create(
            (_trial(day, test, p, on, draw) for test in tests for p in people for _ in range(3)),
            AT_ONCE,
        )


def _trial(day: Battery, test: Protocol, player: Player, on: date, draw: random.Random) -> Trial:
    return Trial(
        uid=UUID(int=draw.getrandbits(128), version=4),
        club_id=day.club_id,
        battery=day,
        protocol=test,
        player=player,
        value=draw.randint(3, 10),
        at=_moment(on),
        taken_back=draw.random() < 0.05,
    )


def _words(
    coach: Membership, people: list[Player], began: date, today: date, draw: random.Random
) -> None:
    """A word a month to each, and how at ease they said they were each week."""
    same = {"club": coach.club, "by": coach.user}
    PlayerNote.objects.bulk_create(
        (
            PlayerNote(player=p, on=on, text="Look up first", shared=True, **same)
            for p in people
            for on in _every(MONTH, began, today)
        ),
        AT_ONCE,
    )
    Felt.objects.bulk_create(
        (
            Felt(club=coach.club, player=p, on=on, level=draw.randint(2, 5))
            for p in people
            for on in _every(WEEK, began, today)
        ),
        AT_ONCE,
    )
    Agreement.objects.bulk_create(
        Agreement(
            club=coach.club, player=p, what="home", by="Family", given_on=began, noted_by=coach.user
        )
        for p in people
    )


def _left_out(club: Club, people: list[Player], draw: random.Random) -> None:
    stays = Stay.objects.of_club(club).filter(prescription__player__in=people)
    Skip.objects.bulk_create(
        (
            Skip(club=club, stay=stay, on=stay.arrived + timedelta(days=n), why=draw.choice(WHYS))
            for stay in stays.only("pk", "arrived")
            for n in (3, 17)
        ),
        AT_ONCE,
    )


WHYS = ("hard", "time", "away")


def _hurts(coach: Membership, people: list[Player], began: date) -> None:
    """Everybody once, and all is well again."""
    on = began + MONTH
    stops = Stop.objects.bulk_create(
        Stop(
            club=coach.club,
            player=p,
            what="knee",
            opened_on=on,
            ended_on=on + WEEK,
            ended_by=coach.user,
            cleared_by="Family",
        )
        for p in people
    )
    HurtReport.objects.bulk_create(
        HurtReport(club=coach.club, stop=one, words="knee", at=_moment(on)) for one in stops
    )


def _reports(coach: Membership, people: list[Player], today: date) -> None:
    Report.objects.bulk_create(
        Report(
            club=coach.club,
            player=p,
            since=today - QUARTER,
            on=today - WEEK,
            published_at=_moment(today - WEEK),
            by=coach.user,
            sections=(),
        )
        for p in people
    )
