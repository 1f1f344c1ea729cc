"""The starter library as a shelf: each ladder with what it is, taken one by one."""

import json
from dataclasses import dataclass
from typing import Any

from django import forms
from django.contrib import messages
from django.http import Http404, HttpRequest, HttpResponse
from django.shortcuts import redirect, render

from drill_ladder.apps.history.once import once
from drill_ladder.apps.library.files.exchange import import_library
from drill_ladder.apps.library.models import Caution, Ladder
from drill_ladder.apps.library.plans import drawn
from drill_ladder.apps.library.starter import starter_document
from drill_ladder.apps.people.access import coach_required
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership
from drill_ladder.core.judging import Rule
from drill_ladder.formats.library_file import read_library
from drill_ladder.formats.library_values import FileDrill, FileLadder, Library
from drill_ladder.formats.words import rule_sentence
from drill_ladder.ui.fields import Line


@dataclass(frozen=True, slots=True)
class OnShelf:
    """A ladder of the starter library. picture: its first drill's floor plan, "" for none; there:
    whether the club has a ladder of that name.
    """

    number: int
    ladder: FileLadder
    drill: FileDrill
    rule: Rule
    picture: str
    there: bool

    @property
    def said(self) -> str:
        """The rule in a sentence."""
        return rule_sentence(self.rule)

    @property
    def caution(self) -> str:
        """Where it may be done."""
        return Caution(self.drill.caution).label


def shelf_of(club: Club) -> list[OnShelf]:
    """Everything there is, in its order."""
    library = _library(starter_document())
    drills = {drill.title: drill for drill in library.drills}
    titles = [ladder.title for ladder in library.ladders]
    there = set(Ladder.objects.of_club(club).titled(titles).values_list("title", flat=True))
    return [
        _on_shelf(number, ladder, drills[ladder.rungs[0].drill], ladder.title in there)
        for number, ladder in enumerate(library.ladders, 1)
    ]


def _on_shelf(number: int, ladder: FileLadder, drill: FileDrill, there: bool) -> OnShelf:
    title = f"Floor plan of {drill.title}"
    picture = drawn(drill.plan, title=title).svg if drill.plan else ""
    return OnShelf(number, ladder, drill, ladder.rule, picture, there)


def _library(document: dict[str, Any]) -> Library:
    return read_library(json.dumps(document).encode())


def alone(number: int, skill: str = "") -> Library:
    """One ladder of the shelf with its drills. skill: as the club calls it, "" for as it stands.
    Raises Http404.
    """
    document = starter_document()
    if not 1 <= number <= len(document["ladders"]):
        raise Http404
    ladder = document["ladders"][number - 1]
    needed = {rung["drill"] for rung in ladder["rungs"]}
    drills = [drill for drill in document["drills"] if drill["title"] in needed]
    if skill:
        ladder = ladder | {"skill": skill}
        drills = [drill | {"skill": skill} for drill in drills]
    return _library(document | {"drills": drills, "ladders": [ladder]})


class TakeForm(forms.Form):
    """What the club calls the skill, in its own sport."""

    skill = Line(label="Skill, as your sport calls it", max_length=60, required=False)


@coach_required
@once
def shelf(request: HttpRequest, member: Membership) -> HttpResponse:
    """Starter ladders with pictures; POST {number, skill} takes one."""
    if request.method == "POST":
        form = TakeForm(request.POST)
        number = request.POST.get("number", "")
        if form.is_valid() and number.isdecimal() and len(number) < 4:
            return _taken(request, member, alone(int(number), form.cleaned_data["skill"]))
        messages.error(request, "Which ladder? Nothing was taken.")
        return redirect("library:shelf")
    return render(request, "library/shelf.html", {"shelf": shelf_of(member.club)})


def _taken(request: HttpRequest, member: Membership, library: Library) -> HttpResponse:
    try:
        import_library(member=member, library=library, agreed=[])
    except Refused as error:
        messages.error(request, str(error))
        return redirect("library:shelf")
    title = library.ladders[0].title
    messages.success(request, f"{title} is yours now: change its words, rungs and rule.")
    row = Ladder.objects.of_club(member.club).titled([title]).get()
    return redirect("library:ladder", row.pk)
