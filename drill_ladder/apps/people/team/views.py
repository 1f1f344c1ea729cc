"""Who belongs to the club: invite, change, end."""

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.history.once import once
from drill_ladder.apps.people.access import coach_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import AccessToken, Invitation, Membership, Role, Squad
from drill_ladder.apps.people.signals import invited
from drill_ladder.apps.people.team.forms import InviteForm, RoleForm
from drill_ladder.apps.people.team.services import change_member, end_member, invite, take_back
from drill_ladder.formats.reading import whole
from drill_ladder.ui.pages import public_address


@coach_required
@once
def team(request: HttpRequest, member: Membership) -> HttpResponse:
    """The members and who is invited; the owner invites."""
    is_owner = member.role == Role.OWNER
    form = InviteForm(request.POST or None if is_owner else None, club=member.club)
    if is_owner and request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        try:
            row = invite(
                member=member,
                email=data["email"],
                name=data["name"],
                role=data["role"],
                squads=form.chosen,
            )
        except Refused as error:
            form.add_error(None, str(error))
        else:
            invited.send(sender=Invitation, invitation=row, request=request)
            messages.success(request, f"{row} is invited. The link below works for seven days.")
            return redirect("people:team")
    now = timezone.now()
    names = {squad.pk: squad.name for squad in Squad.objects.of_club(member.club)}
    waiting = []
    for row in Invitation.objects.of_club(member.club).unanswered():
        link = public_address(request, f"/join/{row.token}/")
        waiting.append((row, row.given_words(names), link, row.expires_at > now))
    context = {
        "rows": Membership.objects.of_club(member.club).as_team(),
        "waiting": waiting if is_owner else [],
        "form": form,
        "is_owner": is_owner,
    }
    return render(request, "people/team.html", context, status=422 if form.errors else 200)


@owner_required
@once
def member_edit(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One member: role and squads, or the end."""
    of = get_object_or_404(Membership.objects.of_club(member.club).as_team(), pk=pk)
    form = RoleForm(request.POST or None, club=member.club, of=of)
    if request.method == "POST" and form.is_valid():
        try:
            change_member(member=member, of=of, role=form.cleaned_data["role"], squads=form.chosen)
        except Refused as error:
            form.add_error(None, str(error))
        else:
            messages.success(request, f"{of.user} is {of.get_role_display().lower()} now.")
            return redirect("people:team")
    return _member_page(request, member, of, form)


@require_POST
@owner_required
def member_end(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A member leaves; their squads go to somebody else."""
    rows = Membership.objects.of_club(member.club).as_team()
    of = get_object_or_404(rows, pk=pk)
    to = rows.only_row(whole(request.POST.get("to", "")) or 0).first()
    who = str(of.user)
    try:
        taker = rows.only_row(whole(request.POST.get("tokens_to", "")) or 0).first()
        squads = end_member(member=member, of=of, to=to, tokens_to=taker)
    except Refused as error:
        form = RoleForm(None, club=member.club, of=of)
        return _member_page(request, member, of, form, str(error))
    handed_on = (
        f" {to.user} looks after {', '.join(map(str, squads))} now." if squads and to else ""
    )
    messages.success(request, f"{who} is no member any more.{handed_on}")
    return redirect("people:team" if of.user_id != member.user_id else "people:account")


def _member_page(
    request: HttpRequest, member: Membership, of: Membership, form: RoleForm, wrong: str = ""
) -> HttpResponse:
    others = Membership.objects.of_club(member.club).as_team().but(of)
    context = {
        "of": of,
        "form": form,
        "others": others,
        "owners": [other for other in others if other.role == Role.OWNER],
        "tokens": AccessToken.objects.open_of(of),
        "wrong": wrong,
    }
    status = 422 if form.errors or wrong else 200
    return render(request, "people/member.html", context, status=status)


@require_POST
@owner_required
def invitation_back(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """An invitation lets nobody in any more."""
    row = get_object_or_404(Invitation.objects.of_club(member.club), pk=pk)
    take_back(member=member, invitation=row)
    messages.success(request, f"The invitation of {row} is taken back.")
    return redirect("people:team")
