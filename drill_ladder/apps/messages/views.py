"""The outbox, the local mailbox, and the page by which somebody stops a club's mail."""

from csp.decorators import csp_replace
from django import forms
from django.conf import settings
from django.contrib import messages
from django.core.mail import get_connection
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.template.loader import render_to_string
from django.views.decorators.clickjacking import xframe_options_sameorigin
from django.views.decorators.csrf import csrf_exempt
from django.views.decorators.http import require_POST

from drill_ladder.apps.messages.local import Mailbox
from drill_ladder.apps.messages.models import (
    OPTIONAL,
    STOPS,
    Fate,
    LocalMail,
    MailAddress,
    Message,
)
from drill_ladder.apps.messages.occasions import mail_card
from drill_ladder.apps.messages.posting import (
    choose_mail,
    context_of,
    send_again,
    settings_of,
    stop_mail,
    take_back,
    text_of,
)
from drill_ladder.apps.people.access import coach_required, owner_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.guesses import wrong_secret
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.people.secrets import is_signed, parts_of
from drill_ladder.formats.reading import cut
from drill_ladder.ui.pages import page_of

# a mail has its styles inside, as mail programs want it; nothing in it runs or is fetched
AS_MAIL = {"default-src": ["'none'"], "style-src": ["'unsafe-inline'"], "sandbox": [""]}
AS_MAIL["frame-ancestors"] = ["'self'"]
SIZE = 40


class MailForm(forms.Form):
    """What goes out by itself."""

    kinds = forms.MultipleChoiceField(
        required=False,
        choices=[(kind.value, kind.label) for kind in OPTIONAL],
        widget=forms.CheckboxSelectMultiple,
    )
    look_first = forms.BooleanField(
        required=False, label="Hold what is not urgent until somebody has looked at it"
    )


@coach_required
def outbox(request: HttpRequest, member: Membership) -> HttpResponse:
    """Every message and what became of it. ?fate=, ?q= words."""
    chosen = settings_of(member.club)
    form = MailForm(
        request.POST or None, initial={"kinds": chosen.kinds, "look_first": chosen.look_first}
    )
    if request.method == "POST" and form.is_valid():
        choose_mail(member=member, **form.cleaned_data)
        messages.success(request, "Kept.")
        return redirect("outbox:outbox")
    fate, words = request.GET.get("fate", ""), cut(request.GET.get("q", ""), 80)
    rows = Message.objects.of_club(member.club).of_fate(fate if fate in Fate.values else "")
    context = {
        "page": page_of(request, rows.found(words).with_player(), SIZE),
        "fates": [(key, word, key == fate) for key, word in Fate.choices],
        "fate": fate,
        "words": words,
        "form": form,
        "is_local": is_local(),
    }
    return render(request, "outbox/outbox.html", context)


def is_local() -> bool:
    """Whether mail stays on this machine."""
    return isinstance(get_connection(), Mailbox) or not settings.EMAIL_HOST


@coach_required
def message(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One message: as it is read, and what became of it."""
    row = get_object_or_404(Message.objects.of_club(member.club).with_player(), pk=pk)
    return render(request, "outbox/message.html", {"row": row, "text": text_of(row)})


@xframe_options_sameorigin
@csp_replace(AS_MAIL)
@coach_required
def message_html(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The mail alone, as its receiver sees it."""
    row = get_object_or_404(Message.objects.of_club(member.club), pk=pk)
    return HttpResponse(render_to_string("outbox/mail.html", context_of(row)))


@require_POST
@coach_required
def message_act(request: HttpRequest, member: Membership, pk: int, act: str) -> HttpResponse:
    """Send what was held or failed, or take it back."""
    row = get_object_or_404(Message.objects.of_club(member.club), pk=pk)
    acts = {"send": send_again, "back": take_back}
    if act not in acts:
        raise Http404
    try:
        acts[act](member=member, message=row)
        messages.success(request, "It is on its way." if act == "send" else "It is taken back.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect("outbox:message", pk)


@require_POST
@coach_required
def card_link(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The card's link, by mail to the guardians."""
    player = get_object_or_404(Player.objects.of_club(member.club), pk=pk)
    try:
        rows = mail_card(member=member, player=player)
    except Refused as error:
        messages.error(request, str(error))
        return redirect("progress:family", pk)
    addresses = ", ".join(row.to_email for row in rows)
    held = any(row.fate == Fate.HELD for row in rows)
    messages.success(request, f"{'Held in the outbox' if held else 'On its way'}: {addresses}.")
    return redirect("progress:family", pk)


@owner_required
def mailbox(request: HttpRequest, member: Membership) -> HttpResponse:
    """What would have arrived, where no mail server is set."""
    rows = LocalMail.objects.shown_to(member.club)
    return render(request, "outbox/mailbox.html", {"page": page_of(request, rows, SIZE)})


@owner_required
def mailbox_mail(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """One of them."""
    row = get_object_or_404(LocalMail.objects.shown_to(member.club), pk=pk)
    return render(request, "outbox/mailbox_mail.html", {"row": row})


@xframe_options_sameorigin
@csp_replace(AS_MAIL)
@owner_required
def mailbox_html(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The HTML of one, alone."""
    row = get_object_or_404(LocalMail.objects.shown_to(member.club), pk=pk)
    return HttpResponse(row.html)


def address_by(token: str) -> MailAddress | None:
    """Whose mail a secret is about; None for a wrong one."""
    parts = parts_of(token)
    if parts is None or not is_signed(token, STOPS):
        return None
    return MailAddress.objects.numbered(parts[0]).first()


def stops(request: HttpRequest, token: str) -> HttpResponse:
    """What somebody gets, to be ticked off, without signing in."""
    address = address_by(token)
    if address is None:
        return wrong_secret(request)
    form = MailForm(request.POST or None)
    if request.method == "POST" and form.is_valid():
        wanted = form.cleaned_data["kinds"]
        stop_mail(address, [kind for kind in OPTIONAL if kind not in wanted])
        messages.success(request, "Kept.")
        return redirect("outbox:stops", token)
    wanted = [kind.value for kind in OPTIONAL if kind not in address.stopped]
    form = MailForm(initial={"kinds": wanted})
    context = {"address": address, "form": form, "none": not wanted, "token": token}
    return render(request, "outbox/stops.html", context)


stops.access = "link"  # type: ignore[attr-defined]


@csrf_exempt
@require_POST
def stop_now(request: HttpRequest, token: str) -> HttpResponse:
    """One click in a mail program (RFC 8058): none of what may be stopped comes any more."""
    address = address_by(token)
    if address is None:
        return wrong_secret(request)
    stop_mail(address, list(OPTIONAL))
    return redirect("outbox:stops", token)


stop_now.access = "link"  # type: ignore[attr-defined]
