"""Taking the library out and bringing one in."""

import json
from collections import Counter
from typing import Any

from django.contrib import messages
from django.http import HttpRequest, HttpResponse
from django.shortcuts import get_object_or_404, redirect, render
from django.utils.text import slugify

from drill_ladder.apps.library.files.exchange import (
    Change,
    import_library,
    library_document,
    preview,
)
from drill_ladder.apps.library.models import Drill, Ladder, Routine
from drill_ladder.apps.library.starter import starter_document
from drill_ladder.apps.library.words import WORDS
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Membership
from drill_ladder.formats.library_file import LARGEST, read_library
from drill_ladder.formats.mistakes import Mistakes
from drill_ladder.formats.reading import whole
from drill_ladder.ui.pages import Context, attachment


@coach_required
def export_file(request: HttpRequest, member: Membership) -> HttpResponse:
    """The whole library, with ?ladder=ID one ladder with its drills, or with ?drill=ID one
    drill.
    """
    ladders = Ladder.objects.of_club(member.club).for_file()
    drills = Drill.objects.of_club(member.club).for_file()
    routines = Routine.objects.of_club(member.club).with_parts()
    name = "library"
    if "routine" in request.GET:
        routine = _asked(routines, request.GET["routine"])
        routines = routines.only_row(routine.pk)
        ladders = ladders.parts_of(routine.pk)
        drills = drills.used_on_any(ladders)
        name = slugify(routine.title) or "routine"
    elif "ladder" in request.GET:
        ladder = _asked(ladders, request.GET["ladder"])
        ladders, drills = ladders.only_row(ladder.pk), drills.used_on(ladder)
        routines = routines.none()
        name = slugify(ladder.title) or "ladder"
    elif "drill" in request.GET:
        drill = _asked(drills, request.GET["drill"])
        ladders, drills = ladders.none(), drills.only_row(drill.pk)
        routines = routines.none()
        name = slugify(drill.title) or "drill"
    text = json.dumps(library_document(drills, ladders, routines), indent=1, ensure_ascii=False)
    return attachment(text, "application/json; charset=utf-8", f"{name}.json")


def _asked(rows: Any, pk: str) -> Any:
    return get_object_or_404(rows, pk=whole(pk))


def _given(request: HttpRequest) -> bytes:
    """The file that was sent, the starter library that was asked for, or what was pasted."""
    upload = request.FILES.get("file")
    if upload:
        return bytes(upload.read(LARGEST + 1))
    if request.POST.get("starter"):
        return json.dumps(starter_document(), ensure_ascii=False).encode()
    return request.POST.get("text", "").encode()


@coach_required
def import_file(request: HttpRequest, member: Membership) -> HttpResponse:
    """First what a file would do, then, on a second word, all of it or nothing."""
    changes: list[Change] | None = None
    faults: list[str] = []
    context: Context = {"text": "", "words": WORDS}
    if request.method == "POST":
        data, agreed = _given(request), request.POST.getlist("agreed")
        context |= {"text": data.decode(errors="replace"), "agreed": agreed}
        try:
            library = read_library(data)
            changes = preview(member.club, library)
            context |= {"counts": Counter(change.what for change in changes)}
            if request.POST.get("sure") == "yes":
                changes = import_library(member=member, library=library, agreed=agreed)
                done = sum(change.what != "same" for change in changes)
                messages.success(
                    request, f"{done} imported, {len(changes) - done} were the same already."
                )
                return redirect("library:ladders")
        except Mistakes as error:
            faults = error.lines
        except Refused as error:
            faults = [str(error)]
    lowered = [change for change in changes or [] if change.lowered]
    context |= {"faults": faults, "changes": changes, "lowered": lowered}
    return render(request, "library/import.html", context, status=422 if faults else 200)
