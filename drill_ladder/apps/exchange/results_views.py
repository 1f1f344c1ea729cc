"""Results in and out."""

from typing import Any

from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render

from drill_ladder.apps.exchange.columns import COLUMNS, DICTIONARY, dictionary_rows
from drill_ladder.apps.exchange.results import Preview, preview, rows_out
from drill_ladder.apps.exchange.results_import import import_results
from drill_ladder.apps.exchange.tables_in import kept, table_of
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.formats.reading import whole
from drill_ladder.formats.tables import BadTable
from drill_ladder.ui.pages import TABLES, Context, table_file

MOST_ROWS, SHOWN = 5000, 300


@coach_required
def results_out(request: HttpRequest, member: Membership, kind: str) -> HttpResponse:
    """Everything that was recorded, or of ?player=ID or ?squad=ID, as csv or xlsx."""
    if kind not in TABLES:
        raise Http404
    name, player = "results", None
    if "player" in request.GET:
        asked = whole(request.GET["player"])
        player = get_object_or_404(Player.objects.of_club(member.club), pk=asked).pk
        name = f"results-{player}"
    squad = whole(request.GET.get("squad", ""))
    rows = Session.objects.for_table(member.club, player, squad)
    lines = list(rows_out(rows))
    return table_file(COLUMNS, lines, kind, name)


@coach_required
def results_columns(request: HttpRequest, member: Membership) -> HttpResponse:
    """What each column of the table is, as a table of its own."""
    return table_file(DICTIONARY, list(dictionary_rows()), "csv", "results-columns")


@coach_required
def results_in(request: HttpRequest, member: Membership) -> HttpResponse:
    """First what a file would do, session by session; then, on a second word, all of it or
    nothing.
    """
    shown: Preview | None = None
    wrong, text = "", ""
    if request.method == "POST":
        try:
            table = table_of(request, MOST_ROWS)
            shown = preview(member.club, table, member.club.today())
            if request.POST.get("sure") == "yes" and not shown.problems:
                shown = import_results(member=member, table=table, today=member.club.today())
                messages.success(request, _said(shown))
                return redirect("progress:players")
            text = kept(table)
        except (BadTable, Refused) as error:
            shown, wrong, text = None, str(error), request.POST.get("text", "")
    context: Context = {"columns": COLUMNS, "wrong": wrong, "found": shown, "text": text}
    context |= {"shown": shown.sessions[:SHOWN] if shown else [], "most": SHOWN}
    bad = wrong or (shown and shown.problems)
    return render(request, "exchange/results.html", context, status=422 if bad else 200)


def _said(found: Any) -> str:
    new, same = found.count("new"), found.count("same")
    return f"{new} session{'' if new == 1 else 's'} imported, {same} were there already."
