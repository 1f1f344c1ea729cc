"""Something hurts: everything stops until a coach, who was told who cleared the player, ends it.

A report comes before everything else: it is read from whatever a form holds, cleaned and cut, never
refused.
"""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import date, datetime, timedelta
from uuid import UUID, uuid4, uuid5

from django.db import transaction
from django.db.models import prefetch_related_objects
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people import clock
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player, User
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.practice.models import HurtReport, Stop
from drill_ladder.apps.practice.signals import hurt_told, stop_ended
from drill_ladder.formats.reading import cut, moment, uuid

ONE_REPORT = timedelta(hours=1)
MOST = 300  # letters of one report; a longer one is cut, not refused
MOST_TOGETHER = 600  # letters of a stop; what does not fit stands in its reports
KEPT_FOR = timedelta(days=60)  # a device does not bring what is older
SPACE = UUID("2f3c6a1e-64d5-4a0f-9d8c-0b7f1c1e5a77")
UNNAMED = "Something hurts"
# what people write under "where?" when nothing hurts
NOTHING = {
    "",
    "-",
    "no",
    "none",
    "nope",
    "nothing",
    "nowhere",
    "not",
    "n/a",
    "na",
    "nil",
    "0",
    "fine",
    "all fine",
}


def words_of_hurt(sent: Mapping[str, str]) -> str | None:
    """What a form tells about a hurt, or None where it says that nothing hurts.

    Words under "where?" are a report even where "no" is ticked, or nothing: better one stop too
    many.
    """
    words, answer = cut(sent.get("hurt_where", ""), MOST), cut(sent.get("hurts", ""), 20).casefold()
    says_no = answer in ("", "no")
    if says_no and words.casefold().strip(" .!") in NOTHING:
        return None
    return words or UNNAMED


@dataclass(frozen=True, slots=True)
class Told:
    """A report as it came. id: as its device or page named it, None where none did; at: when it was
    told, by the server's clock.
    """

    words: str
    id: UUID | None
    at: datetime


def told_at(told: datetime | None, device_now: datetime | None, now: datetime) -> datetime:
    """When something was told, by the server's clock. told: by the device's clock; device_now: what
    that clock showed when it was sent. Never in the future, and never older than a device keeps.
    """
    if told is None:
        return now
    ago = now - told - clock.behind(device_now, now)
    return now - min(max(ago, timedelta()), KEPT_FOR)


def read_report(sent: Mapping[str, str], words: str) -> Told:
    """The report in what a form or a device sends."""
    told, device_now = moment(sent.get("told_at", "")), moment(sent.get("device_now", ""))
    return Told(words, uuid(sent.get("report", "")), told_at(told, device_now, timezone.now()))


@transaction.atomic
def open_stop(
    *,
    player: Player,
    what: str,
    on: date,
    actor: User | None,
    at: datetime | None = None,
    report: UUID | None = None,
) -> Stop:
    """Stop a player's drills, or add to the stop that is open. Anybody may; only a coach can end
    it.

    report: the id that the report was given where it was told. Sent again it is the report that is
    known already, and opens nothing, also after its stop has ended. Without one, the same words
    twice within an hour, while the stop is open, are one report: a double tap.
    """
    Player.objects.select_for_update().get(pk=player.pk)
    words, at = cut(what, MOST) or UNNAMED, at or timezone.now()
    # another player's report with this id is another report
    own = uuid5(SPACE, f"{player.pk} {report}") if report else uuid4()
    reports = HurtReport.objects.select_related("stop").filter(stop__player=player)
    report_row = reports.filter(pk=own).first() if report else None
    if report_row is not None:
        return report_row.stop
    stop = Stop.objects.open().filter(player=player).first()
    if stop is None:
        stop = Stop.objects.create(
            club_id=player.club_id, player=player, what=words, opened_on=on, opened_by=actor
        )
    elif report is None and stop.reports.filter(words=words, at__gte=at - ONE_REPORT).exists():
        return stop
    else:
        _add_words(stop, words, on)
    HurtReport.objects.create(
        pk=own, club_id=player.club_id, stop=stop, words=words, at=at, by=actor
    )
    record(club_id=player.club_id, actor=actor, verb="opened a stop", subject=player, what=words)
    hurt_told.send_robust(sender=Stop, stop=stop, words=words)  # a report fails for no mail
    return stop


def _add_words(stop: Stop, words: str, on: date) -> None:
    """What one stop says, of bounded length; a report of an earlier day moves its begin there."""
    stop.opened_on = min(stop.opened_on, on)
    together = f"{stop.what}; {words}"
    if len(together) <= MOST_TOGETHER and not stop.reports.filter(words=words).exists():
        stop.what = together
    stop.save(update_fields=["what", "opened_on"])


def _store(told: Told, player: Player, actor: User | None) -> str:
    on = told.at.astimezone(player.club.zone).date()
    open_stop(player=player, what=told.words, on=on, actor=actor, at=told.at, report=told.id)
    return told.words


def hear(sent: Mapping[str, str], player: Player, actor: User | None) -> str | None:
    """Read and store a report of hurt before anything else is done with a form; what was told, or
    None.

    It is committed when this returns, whatever becomes of the rest.
    """
    words = words_of_hurt(sent)
    return None if words is None else _store(read_report(sent, words), player, actor)


def hear_button(
    sent: Mapping[str, str], player: Player, actor: User | None, unnamed: str = UNNAMED
) -> str:
    """Store the report of a button, which says that something hurts even without a word; what was
    told.
    """
    words = cut(sent.get("what") or sent.get("hurt_where", ""), MOST) or unnamed
    return _store(read_report(sent, words), player, actor)


def heard_late(sent: Mapping[str, str], player: Player) -> str | None:
    """A report that comes by a link which is closed: from a form, or from the button that says
    nothing else.
    """
    stop = hear(sent, player, None)
    return hear_button(sent, player, None) if stop is None and "what" in sent else stop


def open_stop_of(player: Player) -> Stop | None:
    """The player's open stop, if there is one."""
    stop: Stop | None = (
        Stop.objects.open().filter(player=player).prefetch_related("reports__by").first()
    )
    return stop


def open_among(stops: Sequence[Stop]) -> Stop | None:
    """The open one of a player's stops, with its reports."""
    open_ones = [stop for stop in stops if stop.ended_on is None]
    prefetch_related_objects(open_ones, "reports__by")
    return open_ones[0] if open_ones else None


def reports_seen(stop: Stop) -> int:
    """How many reports a stop has: whoever ends it has to have seen them all."""
    return stop.reports.count()


@transaction.atomic
def end_stop(
    *, member: Membership, stop: Stop, cleared_by: str, on: date, reports: int | None = None
) -> Stop:
    """End a stop, noting who cleared the player; once, by one coach. Raises Refused.

    reports: how many the coach has seen; one more that came meanwhile keeps the stop open.
    """
    refuse_unless_coach(member, "Only a coach can end a stop.")
    Player.objects.select_for_update().get(pk=stop.player_id)
    current = (
        Stop.objects.select_for_update(of=("self",)).select_related("ended_by").get(pk=stop.pk)
    )
    if current.ended_on is not None:
        by = f" by {current.ended_by}" if current.ended_by else ""
        raise Refused(
            f"This stop was ended already{by}: cleared by {current.cleared_by}. Nothing was "
            "changed."
        )
    if reports is not None and reports != reports_seen(current):
        raise Refused(
            f"More was reported while you read: “{current.what}”. The stop is still open: please "
            "look again."
        )
    who = cut(cleared_by, 200)
    if not who:
        raise Refused("Please note who cleared the player. The stop is still open.")
    current.ended_on, current.ended_by, current.cleared_by = (
        max(on, current.opened_on),
        member.user,
        who,
    )
    current.save(update_fields=["ended_on", "ended_by", "cleared_by"])
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="ended a stop",
        subject=current.player,
        by=who,
    )
    stop_ended.send_robust(sender=Stop, stop=current)
    return current
