"""Changing what is prescribed, and saying that one has looked at it."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect
from django.urls import reverse
from django.views.decorators.http import require_POST

from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.apps.prescriptions.changes.differences import (
    change_prescription,
    look_again,
    seen,
    settle_home,
)
from drill_ladder.apps.prescriptions.forms import ChangeForm, change_values
from drill_ladder.apps.prescriptions.minutes import REVIEW, minutes
from drill_ladder.apps.prescriptions.models import Prescription, Stay
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.pages import htmx_of, page_or_fragment


@coach_required
def change(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """How often, where, how urgent, what is different for this player: changed while it runs."""
    prescription = _active(member, pk)
    stay = get_object_or_404(Stay.objects.of(prescription))
    today = member.club.today()
    first = change_values(prescription, stay.rung) | {"seen": seen(prescription)}
    form = ChangeForm(
        request.POST or None, initial=first, prescription=prescription, at=stay.rung, today=today
    )
    htmx = htmx_of(request)
    if (
        request.method == "POST"
        and form.is_valid()
        and not htmx
        and _changed(request, member, prescription, form)
    ):
        return redirect("progress:player", prescription.player_id)
    context = {
        "prescription": prescription,
        "player": prescription.player,
        "rung": stay.rung,
        "form": form,
        "rule": rule_sentence(prescription.ladder.rule),
        "minutes": minutes(form, prescription, stay.rung),
    }
    wrong = bool(form.errors) and not htmx
    page = "prescriptions/change.html"
    return page_or_fragment(
        request, page, "prescriptions/_minutes.html", context, 422 if wrong else 200
    )


def _changed(
    request: HttpRequest, member: Membership, prescription: Prescription, form: ChangeForm
) -> bool:
    data = form.cleaned_data
    values = {"per_week": data["per_week"], "place": data["place"], **form.more()}
    change = {"values": values, "was": data["seen"], "on": member.club.today()}
    try:
        anew = change_prescription(member=member, prescription=prescription, **change)
    except Refused as error:
        form.add_error(None, str(error))
        return False
    terms = (
        f" {prescription.player} goes on by the new terms; what was done stays as it was judged."
        if anew
        else ""
    )
    said = (
        f"{prescription.ladder} is changed for {prescription.player}.{terms} A planned week "
        "follows when it is planned again."
    )
    messages.success(request, said)
    return True


@require_POST
@coach_required
def looked(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Looked at: again in six weeks."""
    prescription = _active(member, pk)
    on = member.club.today() + REVIEW
    look_again(member=member, prescription=prescription, on=on)
    messages.success(request, f"{prescription.ladder} is on your desk again in six weeks.")
    return redirect("progress:player", prescription.player_id)


@require_POST
@coach_required
def at_club(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """What may not be done at home any more is done at the club."""
    prescription = _active(member, pk)
    try:
        settle_home(member=member, prescription=prescription)
    except Refused as error:
        messages.error(request, str(error))
    else:
        messages.success(
            request,
            f"{prescription.ladder} is for {prescription.player} at the club now. "
            "Plan their week anew.",
        )
    return redirect(
        "progress:desk"
        if "desk" in request.POST
        else reverse("progress:player", args=[prescription.player_id])
    )


def _active(member: Membership, pk: int) -> Prescription:
    rows = Prescription.objects.active().of_club(member.club).with_names()
    prescription: Prescription = get_object_or_404(rows, pk=pk)
    return prescription
