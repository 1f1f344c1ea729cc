"""A practice club of invented players: begun by one touch, gone by one, nothing else with it."""

from django.db import transaction

from drill_ladder.apps.floor.models import Protocol
from drill_ladder.apps.history.models import Event
from drill_ladder.apps.jobs.models import Job
from drill_ladder.apps.jobs.services import start
from drill_ladder.apps.library.models import Drill, Ladder, Routine, Skill
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import Club, Membership, Player, Squad
from drill_ladder.apps.people.players import refuse_unless_coach
from drill_ladder.apps.prescriptions.models import Prescription
from drill_ladder.apps.records.erase import lock_history, unlock_history
from drill_ladder.apps.review.models import Proposal

TASK = "practice club"  # done where the invented players are known
# rows that others may not be deleted under, in an order in which nothing is in the way
FIRST = (Proposal, Prescription, Player, Protocol, Routine, Ladder, Drill, Squad, Skill)


def begin_practice(member: Membership) -> Job:
    """Make it for whoever asks, who is its owner. Raises Refused for somebody who has one, or who
    decides nothing where they are.
    """
    refuse_unless_coach(member)
    if Membership.objects.of_user(member.user_id).filter(club__practice=True).exists():
        raise Refused("You have a practice club already: go there from your account.")
    label = "Your practice club"
    return start(member=member, name=TASK, label=label, arguments={"user": member.user_id})


@transaction.atomic
def end_practice(member: Membership) -> None:
    """Everything in it is gone. Raises Refused for a club of real people, and for anybody
    but its owner.
    """
    club = Club.objects.select_for_update().get(pk=member.club_id)
    if club.practice and member.role != "owner":
        raise Refused("Only its owner ends a practice club.")
    erase_practice(club)


@transaction.atomic
def erase_practice(club: Club) -> None:
    """A practice club and every row in it."""
    if not club.practice:
        raise Refused("This is no practice club: nothing was deleted.")
    unlock_history()
    for model in FIRST:
        model._default_manager.filter(club=club).delete()
    Event.objects.filter(club_id=club.pk).delete()
    club.delete()
    lock_history()
