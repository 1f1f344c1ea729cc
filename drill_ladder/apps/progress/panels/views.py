"""Is it working? One player, any stretch of time."""

from datetime import date, timedelta
from urllib.parse import urlencode

from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, render
from django.urls import reverse

from drill_ladder.apps.history.looks import note_look
from drill_ladder.apps.people.access import member_required
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.progress.panels.all_players import panels_of_all
from drill_ladder.apps.progress.panels.ease import ease_panel
from drill_ladder.apps.progress.panels.feeding import feeding_panel
from drill_ladder.apps.progress.panels.one_player import panels_of
from drill_ladder.apps.progress.panels.panel import Panel, file_of
from drill_ladder.apps.progress.panels.tests import tests_panel
from drill_ladder.apps.progress.player import SPAN, Record, record_of
from drill_ladder.formats.reading import day, whole

SPANS = ((28, "four weeks"), (84, "twelve weeks"), (182, "half a year"), (1100, "three years"))


@member_required
def look_back(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """?ladder=ID of the ladder in question, ?since=DATE where the stretch begins."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    note_look(member.user, member.club_id, player)
    today = member.club.today()
    since, record = _asked(request, player, today)
    context = {
        "player": player,
        "record": record,
        "panels": _panels(record),
        "since": since,
        "files": reverse("progress:look-back", args=[player.pk]),
        "address": urlencode({"ladder": record.ladder.pk if record.ladder else "", "since": since}),
        "spans": _spans(today, since),
    }
    return render(request, "progress/look_back.html", context)


@member_required
def panel_file(
    request: HttpRequest, member: Membership, pk: int, key: str, kind: str
) -> HttpResponse:
    """One panel's picture as svg, or its numbers as csv or xlsx."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    _, record = _asked(request, player, member.club.today())
    return file_of(_panels(record), key, kind, f"{key}-{player.pk}-{record.today}")


def _asked(request: HttpRequest, player: Player, today: date) -> tuple[date, Record]:
    since = day(request.GET.get("since", ""), today - timedelta(days=1100), today) or today - SPAN
    return since, record_of(player, today, since, whole(request.GET.get("ladder", "")))


def _panels(record: Record) -> list[Panel]:
    rest = [
        one
        for one in (ease_panel(record), feeding_panel(record), tests_panel(record))
        if one is not None
    ]
    return panels_of(record) + panels_of_all(record) + rest


def _spans(today: date, since: date) -> list[tuple[date, str, bool]]:
    spans = [(today - timedelta(days=n), words) for n, words in SPANS]
    return [(on, words, on == since) for on, words in spans]
