"""The open door: read and write for a club's own tools, and for timing gates."""

import json
from dataclasses import replace
from datetime import date
from typing import Any, Literal
from uuid import uuid5

from django.http import HttpRequest, HttpResponse
from django.utils import timezone
from ninja import NinjaAPI, Query
from ninja.errors import HttpError, ValidationError

from drill_ladder.apps.api.door import Token, token_in
from drill_ladder.apps.api.rows import (
    SENT,
    cursor_of,
    initials,
    lines_of,
    sessions_after,
    work_of_day_for,
)
from drill_ladder.apps.api.shapes import (
    LadderOut,
    MessageIn,
    MessageOut,
    PlayerOut,
    Problem,
    RungOut,
    SessionIn,
    SessionOut,
    StandingOut,
)
from drill_ladder.apps.floor.test_days import hear
from drill_ladder.apps.library.models import Ladder
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Player, Scope
from drill_ladder.apps.practice.sessions import SessionInput, SetInput, record_session
from drill_ladder.apps.practice.work import fields_for
from drill_ladder.apps.prescriptions.models import Stay
from drill_ladder.core.judging import Rung
from drill_ladder.core.work import Place
from drill_ladder.formats.rung_words import dose_words, target_words
from drill_ladder.formats.tables import write_csv
from drill_ladder.formats.words import rule_sentence
from drill_ladder.formats.work_words import ToldWork, told_work

WRONG = {401: Problem, 403: Problem, 422: Problem, 429: Problem}

api = NinjaAPI(
    title="Drill Ladder: the open door",
    version="1.0.0",
    description="For a club’s own tools, and for timing gates. Every use stands in the history.",
    urls_namespace="door",
    docs_url=None,
    openapi_url="/openapi.json",
)


@api.exception_handler(ValidationError)
def _wrong(request: HttpRequest, error: ValidationError) -> HttpResponse:
    """Every fault in one sentence."""
    parts = []
    for one in error.errors:
        place = ".".join(str(step) for step in one["loc"] if step not in ("body", "sent"))
        parts.append(f"{place or 'the body'}: {one['msg']}")
    return api.create_response(request, {"detail": "; ".join(parts)[:2000]}, status=422)


@api.get(
    "/players", auth=Token(Scope.PLAYERS), response={200: list[PlayerOut], **WRONG}, tags=["Read"]
)
def players(request: HttpRequest) -> Any:
    """The club's players: numbers and initials; names where the token may see them."""
    token = token_in(request)
    rows = Player.objects.of_club(token.club).with_squad().by_name()
    named = token.opens(Scope.NAMES)
    return [
        PlayerOut(
            id=row.pk,
            initials=initials(row),
            squad=row.squad.name if row.squad else "",
            name=row.name if named else None,
        )
        for row in rows
    ]


@api.get(
    "/ladders", auth=Token(Scope.LADDERS), response={200: list[LadderOut], **WRONG}, tags=["Read"]
)
def ladders(request: HttpRequest) -> Any:
    """The club's ladders that are in use, rung by rung."""
    rows = Ladder.objects.of_club(token_in(request).club).in_use().with_rungs()
    return [
        LadderOut(
            id=row.pk,
            title=row.title,
            rule=rule_sentence(row.rule),
            rungs=[
                RungOut(
                    position=rung.position,
                    title=rung.title,
                    dose=dose_words(rung.core),
                    target=target_words(rung.core),
                )
                for rung in row.rungs.all()
            ],
        )
        for row in rows
    ]


@api.get(
    "/standings",
    auth=Token(Scope.STANDINGS),
    response={200: list[StandingOut], **WRONG},
    tags=["Read"],
)
def standings(request: HttpRequest) -> Any:
    """On which rung of which ladder everybody stands."""
    rows = Stay.objects.of_club(token_in(request).club).current().with_all()
    return [
        StandingOut(
            stay=row.pk,
            player=row.prescription.player_id,
            ladder=row.prescription.ladder_id,
            position=row.rung.position,
            since=row.arrived,
        )
        for row in rows
    ]


@api.get(
    "/work",
    auth=Token(Scope.STANDINGS),
    response={200: list[ToldWork], 404: Problem, **WRONG},
    tags=["Read"],
)
def work(
    request: HttpRequest,
    player: int = Query(..., ge=1, le=2**53),
    on: date | None = None,
    place: Literal["club", "home"] = "club",
) -> Any:
    """What a player does on a day at each rung they stand on, as card and hall show it: how much,
    how, what with, what to watch, how it is counted. Nothing while a stop is open.
    """
    token = token_in(request)
    who = Player.objects.of_club(token.club).only_row(player).first()
    if who is None:
        raise HttpError(404, "There is no such player here: ask /players for those there are.")
    day = on or token.club.today()
    told = [told_work(one) for one in work_of_day_for(who, day, Place(place))]
    if token.opens(Scope.NAMES):
        return told
    return [replace(one, name=initials(who)) for one in told]


@api.get("/results", auth=Token(Scope.RESULTS), response=WRONG, tags=["Read"])
def results(
    request: HttpRequest,
    after: str = Query("", max_length=200),
    as_: str = Query("jsonl", alias="format", pattern="^(jsonl|csv)$"),
) -> Any:
    """One line a set, at most 500 sessions, in the order in which they were stored. The header
    X-Next says where to go on; it is missing where there is nothing more yet.
    """
    token = token_in(request)
    sessions = sessions_after(token.club, after, timezone.now())
    if sessions is None:
        raise HttpError(422, "after: this is no cursor that was given out here.")
    lines = list(lines_of(sessions, token.opens(Scope.NAMES)))
    answer = _jsonl(lines) if as_ == "jsonl" else _csv(lines)
    if sessions:
        answer["X-Next"] = cursor_of(sessions[-1])
    return answer


def _jsonl(lines: list[dict[str, Any]]) -> HttpResponse:
    text = "".join(json.dumps(line, ensure_ascii=False) + "\n" for line in lines)
    return HttpResponse(text, content_type="application/jsonl; charset=utf-8")


def _csv(lines: list[dict[str, Any]]) -> HttpResponse:
    head = ["session", "player_id", *SENT]
    text = write_csv(head, [[line[name] for name in head] for line in lines])
    return HttpResponse(text, content_type="text/csv; charset=utf-8")


@api.post(
    "/sessions",
    auth=Token(Scope.SESSIONS),
    response={200: SessionOut, 404: Problem, **WRONG},
    tags=["Write"],
)
def session_in(request: HttpRequest, sent: SessionIn) -> Any:
    """Store a session that a tool measured; sent again, it is stored once."""
    token = token_in(request)
    stay = Stay.objects.of_club(token.club).with_all().to_log().only_row(sent.stay).first()
    if stay is None:
        raise HttpError(404, "Nobody stands there: ask /standings for the stays there are.")
    if sent.on < stay.arrived:
        raise HttpError(422, f"on: the player came to this rung on {stay.arrived}.")
    wrong = _misfit(sent, stay.terms.rung)
    if wrong:
        raise HttpError(422, wrong)
    sets = [
        SetInput(one_id, one.lane, _values(one))
        for one_id, one in zip(_ids(sent), sent.sets, strict=True)
    ]
    entry = SessionInput(
        sent.id, sent.on, sent.observer, sets, effort=sent.effort, at_ease=sent.at_ease
    )
    try:
        stored, new = record_session(
            stay=stay, entry=entry, today=token.club.today(), actor=token.made_by
        )
    except Refused as error:
        raise HttpError(422, str(error)) from error
    return SessionOut(id=stored.pk, new=new)


def _ids(sent: SessionIn) -> list[Any]:
    return [uuid5(sent.id, str(number)) for number in range(len(sent.sets))]


def _values(one: Any) -> dict[str, Any]:
    """What was measured; nobody counted faults, so they are unknown."""
    values = one.model_dump(exclude_none=True, exclude={"lane"})
    return values | {"faults": None}


def _misfit(sent: SessionIn, rung: Rung) -> str:
    """What does not fit the rung, in a sentence; empty where all fits."""
    wanted = {name for name, _ in fields_for(rung)}
    for number, one in enumerate(sent.sets):
        counted = set(one.model_dump(exclude_none=True)) - {"lane"}
        if counted != wanted:
            return (
                f"sets.{number}: this rung is scored by {', '.join(sorted(wanted))}, and nothing "
                "else."
            )
        if (one.makes or 0) > (one.attempts or 0) and "makes" in wanted:
            return f"sets.{number}: more good ones than attempts."
        if one.lane not in (rung.lanes or ("",)):
            return f"sets.{number}: the lanes are {', '.join(rung.lanes) or 'none'}."
    return ""


@api.post(
    "/gate/messages",
    auth=Token(Scope.GATE),
    response={200: MessageOut, **WRONG},
    tags=["Gate"],
)
def gate_message(request: HttpRequest, sent: MessageIn) -> Any:
    """What a timing gate saw. Send each message until it is answered: it is kept once, and every
    run becomes one trial of whoever was called up when it was run.
    """
    now = timezone.now()
    beats = [(beat.beam, beat.broken, beat.at_ms) for beat in sent.beats]
    new, heard = hear(
        device=token_in(request),
        message=sent.message,
        boot=sent.boot,
        sent_ms=sent.sent_ms,
        beats=beats,
        came_at=now,
    )
    return MessageOut(
        new=new,
        runs=len(heard.seen.runs),
        given=heard.given,
        lost={str(uid): why for uid, why in heard.lost.items()},
        stuck=[beam.value for beam in heard.seen.stuck],
        heard_at=now,
    )
