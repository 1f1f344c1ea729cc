"""Tests and test days."""

from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_POST

from drill_ladder.apps.floor.models import Battery, Challenge, Protocol, Trial
from drill_ladder.apps.floor.test_days.forms import BatteryForm, ProtocolForm, TrialForm
from drill_ladder.apps.floor.test_days.gates import call_up, gates_of
from drill_ladder.apps.floor.test_days.results import (
    Record,
    Result,
    next_up,
    record_of_tests,
    result_of,
    score_words,
    word_about_hearing,
    word_to_the_family,
)
from drill_ladder.apps.floor.test_days.services import (
    SIDES,
    Conditions,
    Finished,
    TrialInput,
    add_trial,
    bring_trial_back,
    finish,
    new_battery,
    players_of,
    save_protocol,
    steps_of,
    take_trial_back,
)
from drill_ladder.apps.history.once import once
from drill_ladder.apps.people.access import coach_required, member_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.formats.reading import whole
from drill_ladder.ui.pages import Context, htmx_of, page_or_fragment

SHOWN = 20  # test days on the list


@member_required
def tests(request: HttpRequest, member: Membership) -> HttpResponse:
    """The club's tests, how noisy each is, and the test days of late."""
    protocols = list(Protocol.objects.of_club(member.club).in_force())
    record = record_of_tests(protocols)
    rows = [
        (protocol, record.noise[protocol.pk], _noise_words(protocol, record))
        for protocol in protocols
    ]
    days = Battery.objects.of_club(member.club).with_tests()[:SHOWN]
    running = Challenge.objects.of_club(member.club).running(member.club.today())
    context = {"rows": rows, "days": days, "challenges": running}
    return render(request, "floor/tests.html", context)


def _noise_words(protocol: Protocol, found: Record) -> str:
    noise = found.noise[protocol.pk]
    if noise.error is None:
        return (
            f"How noisy it is, nobody knows yet: {noise.missing} repeats are missing. Test some "
            "players again within a week."
        )
    return f"Typical error {score_words(protocol, noise.error)} ({noise.source})."


@coach_required
@once
def protocol_edit(request: HttpRequest, member: Membership, pk: int | None = None) -> HttpResponse:
    """A new test, or one that exists."""
    rows = Protocol.objects.of_club(member.club).in_force()
    row = get_object_or_404(rows, pk=pk) if pk else None
    first = {name: getattr(row, name) for name in ProtocolForm.base_fields} if row else {}
    form = ProtocolForm(request.POST or None, club=member.club, initial=first)
    if request.method == "POST" and form.is_valid():
        try:
            saved = save_protocol(member=member, protocol=row, values=form.cleaned_data)
        except Refused as error:
            form.add_error(None, str(error))
        else:
            if row is not None and saved.pk != row.pk:
                messages.success(
                    request, f"{saved} is version {saved.version}: its results begin anew."
                )
            else:
                messages.success(request, f"{saved} is kept.")
            return redirect("floor:tests")
    context = {"form": form, "protocol": row}
    return render(request, "floor/protocol.html", context, status=422 if form.errors else 200)


@coach_required
@once
def battery_new(request: HttpRequest, member: Membership) -> HttpResponse:
    """A new test day, which begins at once."""
    form = BatteryForm(request.POST or None, club=member.club)
    if request.method == "POST" and form.is_valid():
        data = form.cleaned_data
        said = {name: data[name] for name in ("weather", "surface", "shoes", "light")}
        try:
            row = new_battery(
                member=member,
                title=data["title"],
                on=member.club.today(),
                protocols=list(data["protocols"]),
                players=form.chosen(),
                squad=data["squad"],
                conditions=Conditions(**said),
                retest=data["retest"],
            )
        except Refused as error:
            form.add_error(None, str(error))
        else:
            return redirect("floor:battery", row.pk)
    status = 422 if form.errors else 200
    return render(request, "floor/battery_new.html", {"form": form}, status=status)


@member_required
def battery(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """A test day: who is called up, one trial after the other, and at once what each says. ?test=ID
    which test; ?player=ID who is called up instead.
    """
    row = get_object_or_404(Battery.objects.of_club(member.club).with_tests(), pk=pk)
    protocol = _asked(request, row)
    players = players_of(row, member.club)
    form = None
    if request.method == "POST":
        form = TrialForm(request.POST, battery=row, protocol=protocol, players=players)
        if form.is_valid() and _stored(form, row, protocol, players, member):
            if not htmx_of(request):
                return redirect(f"{request.path}?test={protocol.pk}")
            form = None
    context = _context(request, row, protocol, players, form)
    status = 422 if form is not None and form.errors else 200
    if request.GET.get("part") == "results":
        return render(request, "floor/_battery_results.html", context)
    return page_or_fragment(request, "floor/battery.html", "floor/_battery.html", context, status)


def _asked(request: HttpRequest, row: Battery) -> Protocol:
    wanted = whole(request.POST.get("test") or request.GET.get("test", ""))
    protocols = list(row.protocols.all())
    return next((protocol for protocol in protocols if protocol.pk == wanted), protocols[0])


def _stored(
    form: TrialForm, row: Battery, protocol: Protocol, players: list[Player], member: Membership
) -> bool:
    data = form.cleaned_data
    trial = TrialInput(
        uid=data["uid"],
        player=next(p for p in players if p.pk == data["player"]),
        protocol=protocol,
        value=data["value"],
        at=timezone.now(),
        side=data.get("side", ""),
        timing=data.get("timing") or "hand",
        sure=data.get("sure", False),
    )
    try:
        add_trial(battery=row, trial=trial, by=member.user)
    except Refused as error:
        form.add_error(None, str(error))
        return False
    return True


def _context(
    request: HttpRequest,
    row: Battery,
    protocol: Protocol,
    players: list[Player],
    form: TrialForm | None,
) -> Context:
    record = record_of_tests(list(row.protocols.all()))
    trials = record.trials.get(protocol.pk, [])
    called, resting = next_up(row, protocol, trials, timezone.now().timestamp())
    called = whole(request.GET.get("player", "")) or called
    lines = [
        _line(record, protocol, player, row) | {"rests": resting.get(player.pk)}
        for player in players
    ]
    chosen = next((p for p in players if p.pk == called), None)
    if form is None:
        start = {"player": called}
        form = TrialForm(battery=row, protocol=protocol, players=players, initial=start)
    away = Trial.objects.taken_back_on(row, protocol)
    rest = set(Player.objects.resting().among(players).values_list("pk", flat=True))
    return {
        "over": row.is_over(row.club.today()),
        "away": away,
        "stopped": rest,
        "battery": row,
        "protocol": protocol,
        "protocols": row.protocols.all(),
        "steps": steps_of(protocol),
        "noise": _noise_words(protocol, record),
        "called": chosen,
        "resting": resting,
        "lines": lines,
        "form": form,
        "kind": protocol.measure.kind,
        "gates": gates_of(row, timezone.now()) if protocol.measure.is_timed else [],
        "seen": {player.pk for player in players},
    }


def _line(found: Record, protocol: Protocol, player: Player, row: Battery) -> dict[str, Any]:
    """A player's row: trials by side, what they came to, against their own past, and a word."""
    results: list[tuple[str, Result]] = []
    for side in SIDES[protocol.sides]:
        result = result_of(found, protocol, player.pk, side, row)
        if result.trials or protocol.sides != "own":
            results.append((side, result))
    others = [
        result_of(found, one, player.pk, side, row)
        for one in row.protocols.all()
        for side in SIDES[one.sides]
    ]
    scores = {side: one.score for side, one in results if one.score is not None}
    word = word_to_the_family(others, row) or word_about_hearing(
        protocol, found.noise[protocol.pk], scores
    )
    shown = [
        (side, result, score_words(protocol, result.score) if result.score is not None else "")
        for side, result in results
    ]
    return {"player": player, "results": shown, "word": word}


@require_POST
@member_required
def call(request: HttpRequest, member: Membership, pk: int, device: int) -> HttpResponse:
    """Call somebody up to a gate: the next runs there are theirs."""
    row = get_object_or_404(Battery.objects.of_club(member.club).with_tests(), pk=pk)
    gate = get_object_or_404(member.club.tokens, pk=device)
    protocol = _asked(request, row)
    chosen = whole(request.POST.get("player"))
    player = next((one for one in players_of(row, member.club) if one.pk == chosen), None)
    back = f"{reverse('floor:battery', args=[pk])}?test={protocol.pk}"
    if player is None:
        messages.error(request, "Nobody was chosen, so nobody was called up.")
        return redirect(back)
    side = request.POST.get("side", "")
    try:
        call_up(
            member=member,
            device=gate,
            battery=row,
            protocol=protocol,
            player=player,
            side=side if side in SIDES[protocol.sides] else "",
            at=timezone.now(),
        )
        messages.success(request, f"{player} is called up to {gate}.")
    except Refused as error:
        messages.error(request, str(error))
    return redirect(f"{back}&player={player.pk}")


@require_POST
@member_required
def trial_back(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """Take a trial back: it stands in the record, and counts no more; once more, and it counts
    again. On a finished day it is asked about first.
    """
    trial = get_object_or_404(Trial.objects.of_club(member.club), pk=pk)
    address = f"{reverse('floor:battery', args=[trial.battery_id])}?test={trial.protocol_id}"
    turn = bring_trial_back if trial.taken_back else take_trial_back
    try:
        turn(member=member, trial=trial, sure=request.POST.get("sure") == "yes")
    except Finished:
        context = {"trial": trial, "address": address}
        return render(request, "floor/trial_sure.html", context)
    except Refused as error:
        messages.error(request, str(error))
    return redirect(address)


@require_POST
@member_required
def battery_finish(request: HttpRequest, member: Membership, pk: int) -> HttpResponse:
    """The test day is over."""
    row = get_object_or_404(Battery.objects.of_club(member.club), pk=pk)
    finish(member=member, battery=row)
    messages.success(request, f"{row} is finished.")
    return redirect("floor:battery", row.pk)
