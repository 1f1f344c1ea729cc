"""Who looks after which squad, and what the families of the demo agreed to."""

from datetime import date

from drill_ladder.apps.people.agreements import agree
from drill_ladder.apps.people.models import AgreedTo, Club, Membership, Player, Squad, SquadDuty

# a member's first name -> how the names of their squads begin
SQUADS = {"Ruth": "Hockey", "Jonas": "Badminton", "Mila": "Badminton"}
# every third family has agreed to reports by mail, every fourth to a weekly reminder
REPORTS, REMINDERS = 3, 4


def make_duties(club: Club) -> None:
    """Each coach has their squads."""
    for member in Membership.objects.of_club(club).as_team():
        begins = SQUADS.get(member.user.name.split()[0], "")
        mine = list(Squad.objects.filter(club=club, name__startswith=begins)) if begins else []
        SquadDuty.objects.bulk_create(
            [SquadDuty(club=club, member=member, squad=squad) for squad in mine]
        )


def make_agreements(coach: Membership, on: date) -> None:
    """To work at home all, to the rest some."""
    for number, player in enumerate(Player.objects.of_club(coach.club).by_name()):
        given = [AgreedTo.HOME]
        given += [AgreedTo.REPORTS] if number % REPORTS == 0 else []
        given += [AgreedTo.REMINDER] if number % REMINDERS == 0 else []
        family = f"{player.name.split()[-1]} family"
        for what in given:
            agree(member=coach, player=player, what=what, by=family, on=on)
