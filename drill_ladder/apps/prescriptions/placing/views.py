"""Placing a player on the floor: which rung to try, with how many, until it is known."""

from datetime import date

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.urls import reverse

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.models import Ladder, Rung
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership, Player
from drill_ladder.apps.prescriptions.forms import ChosenForm
from drill_ladder.apps.prescriptions.models import Placement
from drill_ladder.apps.prescriptions.placing import placement as service
from drill_ladder.apps.prescriptions.placing.trial import from_trial, trial_of
from drill_ladder.formats.measures import score_words
from drill_ladder.formats.reading import cut, decimal, whole
from drill_ladder.ui.pages import Context


@coach_required
@once
def placement(request: HttpRequest, member: Membership, player: int, ladder: int) -> HttpResponse:
    """The next short set to try, what is known so far, and where to start."""
    who = get_object_or_404(Player.objects.of_club(member.club), pk=player)
    which = get_object_or_404(Ladder.objects.of_club(member.club).with_rungs(), pk=ladder)
    today: date = member.club.today()
    rungs = list(which.rungs.all())
    under_way = service.current(who, which, today)
    wrong = ""
    if request.method == "POST":
        try:
            answer = _act(request, member, under_way, rungs)
        except Refused as error:
            wrong = str(error)
        else:
            return answer or redirect("prescriptions:place", who.pk, which.pk)
    result = service.found(under_way, rungs)
    context = {
        "player": who,
        "ladder": which,
        "rungs": rungs,
        "placement": under_way,
        "found": result,
        "lanes": (result.upcoming.drill.lanes or [""]) if result.upcoming else [],
        "counts": range(service.A_LANE + 1),
        "each": service.A_LANE,
        "by_probing": service.by_probing(rungs),
        "trial": trial_of(service.counted(rungs)) if service.by_baseline(rungs) else None,
        "last": service.last_time(who, which),
        "chosen": ChosenForm(
            request.POST if wrong and "choose" in request.POST else None,
            ladder=which,
            initial=_first(result),
        ),
        "wrong": wrong,
        "stopped": who.stops.open().exists(),  # type: ignore[attr-defined]
    }
    return render(request, "prescriptions/place.html", context, status=422 if wrong else 200)


def _first(result: service.Found) -> Context:
    return {"rung": result.start.pk if result.start else None}


def _act(
    request: HttpRequest, member: Membership, under_way: Placement, rungs: list[Rung]
) -> HttpResponse | None:
    """What was sent: a guess, a set, the last one taken back, one trial, or the choice."""
    sent = request.POST
    if "guess" in sent:
        under_way.guess = next((r for r in rungs if str(r.pk) == sent["guess"]), None)
        under_way.save()
    elif "back" in sent:
        service.take_back(member=member, placement=under_way)
    elif "probe" in sent:
        _probe(request, member, under_way, rungs)
    elif "baseline" in sent:
        return _baseline(request, member, under_way, rungs)
    elif "choose" in sent:
        return _choose(request, member, under_way, rungs)
    return None


def _probe(
    request: HttpRequest, member: Membership, under_way: Placement, rungs: list[Rung]
) -> None:
    rung = next((r for r in rungs if str(r.pk) == request.POST["probe"]), None)
    if rung is None:
        raise Refused("That rung is not on this ladder any more. Nothing was kept.")
    lanes = rung.drill.lanes or [""]
    good = [whole(request.POST.get(f"good-{i}", ""), 0, service.MOST) for i in range(len(lanes))]
    if None in good:
        raise Refused("How many were good? Say it for every lane. What was tried before is kept.")
    number = whole(request.POST.get("number", ""))
    service.add_probe(
        member=member,
        placement=under_way,
        rung=rung,
        attempts=service.A_LANE * len(lanes),
        makes=sum(lane or 0 for lane in good),
        number=len(under_way.probes) if number is None else number,
    )


def _baseline(
    request: HttpRequest, member: Membership, under_way: Placement, rungs: list[Rung]
) -> HttpResponse:
    value = decimal(request.POST["baseline"], -1e12, 1e12)
    if value is None:
        raise Refused("A number, please: the result of one trial.")
    if not 0 < value < 1e6 or not service.by_baseline(rungs):
        raise Refused("That result cannot be. Nothing was kept.")
    counts = service.counted(rungs)
    rung, score = from_trial(counts, value), score_words(counts[0].drill.measure, value)
    reason = f"one trial as on rung {counts[0].position}: {score}"
    service.choose(member=member, placement=under_way, rung=rung, proposed=rung, reason=reason)
    return _on_to(request, under_way, rung)


def _choose(
    request: HttpRequest, member: Membership, under_way: Placement, rungs: list[Rung]
) -> HttpResponse:
    rung = next((r for r in rungs if str(r.pk) == request.POST.get("rung")), None)
    if rung is None:
        raise Refused("Choose the rung to start on.")
    proposed = service.found(under_way, rungs).start
    reason = cut(request.POST.get("reason", ""), 300)
    service.choose(member=member, placement=under_way, rung=rung, proposed=proposed, reason=reason)
    return _on_to(request, under_way, rung)


def _on_to(request: HttpRequest, under_way: Placement, rung: Rung) -> HttpResponse:
    messages.success(request, f"Starts on rung {rung.position}, “{rung.title}”.")
    address = reverse("prescriptions:start", args=[under_way.player_id, under_way.ladder_id])
    return redirect(f"{address}?rung={rung.pk}")
