"""The roster in and out."""

from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import redirect, render

from drill_ladder.apps.exchange.roster import COLUMNS, Preview, preview, roster_csv
from drill_ladder.apps.exchange.roster_import import import_roster
from drill_ladder.apps.exchange.tables_in import kept, table_of
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.formats.tables import BadTable
from drill_ladder.ui.pages import CSV, Context, attachment


@coach_required
def roster_out(request: HttpRequest, member: Membership) -> HttpResponse:
    """Everybody as CSV."""
    return attachment("\ufeff" + roster_csv(member.club), CSV, "roster.csv")


@coach_required
def roster_in(request: HttpRequest, member: Membership) -> HttpResponse:
    """First what a file would do, row by row; then, on a second word, all of it or nothing."""
    rows: Preview | None = None
    wrong, text = "", ""
    if request.method == "POST":
        try:
            table = table_of(request)
            rows = preview(member.club, table, member.club.today())
            if request.POST.get("sure") == "yes" and not rows.problems:
                rows = import_roster(member=member, table=table, today=member.club.today())
                messages.success(request, _said(rows))
                return redirect("progress:players")
            text = kept(table)
        except (BadTable, Refused) as error:
            rows, wrong, text = None, str(error), request.POST.get("text", "")
    context: Context = {"columns": COLUMNS, "wrong": wrong, "found": rows, "text": text}
    bad = wrong or (rows and rows.problems)
    return render(request, "exchange/roster.html", context, status=422 if bad else 200)


def _said(rows: Any) -> str:
    new, changed, same = (rows.count(what) for what in ("new", "changed", "same"))
    return f"{new} new, {changed} changed, {same} were the same already."
