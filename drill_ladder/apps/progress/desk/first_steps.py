"""The first hour of a club: what is there already, what comes next. Each step has something real
at its end, and can be left and taken up.
"""

from dataclasses import dataclass

from django.db.models import Exists, OuterRef
from django.urls import reverse

from drill_ladder.apps.library.models import Rung
from drill_ladder.apps.people.models import Club, Player
from drill_ladder.apps.practice.models import Session
from drill_ladder.apps.prescriptions.models import Prescription


@dataclass(frozen=True, slots=True)
class Step:
    """A step: whether it is done; where it is done, and its other way ("" for none)."""

    title: str
    text: str
    done: bool
    action: str
    href: str
    other: str = ""
    other_href: str = ""


def first_steps(club: Club) -> list[Step]:
    """All of them, until the first session is stored; then none. One question, two on the way."""
    same_club = {"club": OuterRef("pk")}
    rows = Club.objects.filter(pk=club.pk).values_list(
        Exists(Player.objects.filter(**same_club, archived_on=None)),
        Exists(Rung.objects.filter(ladder__club=OuterRef("pk"), ladder__archived_on=None)),
        Exists(Prescription.objects.filter(**same_club)),
        Exists(Session.objects.filter(**same_club)),
    )
    players, ladders, prescribed, begun = rows.get()
    if begun:
        return []
    newest = Player.objects.of_club(club).order_by("-pk").first() if players else None
    who = newest.name if newest else "your first player"
    card = reverse("progress:family", args=[newest.pk]) if newest else ""
    choose = reverse("prescriptions:choose", args=[newest.pk]) if newest else ""
    return [
        Step(
            "Add your players",
            "A name is enough to begin. A list comes in as a table.",
            players,
            "Add a player",
            reverse("people:player-new"),
            "Import a list",
            reverse("exchange:roster-in"),
        ),
        Step(
            "Choose a ladder",
            "Take a starter ladder and change it, or build your own.",
            ladders,
            "Starter ladders",
            reverse("library:shelf"),
            "New ladder",
            reverse("library:ladder-new"),
        ),
        Step(
            f"Prescribe it to {who}",
            "Where they start, how often, at home or at the club.",
            prescribed,
            "Prescribe" if choose and ladders else "",
            choose,
        ),
        Step(
            f"Open the card of {who} on a phone",
            "A code to scan. The first session that comes back ends this list.",
            False,
            "The card" if prescribed and card else "",
            f"{card}#card" if card else "",
        ),
    ]
