"""Who belongs to a club: invited, moved to another role, ended, handed over."""

from collections.abc import Iterable, Sequence
from datetime import timedelta

from django.db import transaction
from django.utils import timezone

from drill_ladder.apps.history.services import record
from drill_ladder.apps.people.errors import Refused
from drill_ladder.apps.people.models import (
    AccessToken,
    Club,
    Invitation,
    Membership,
    OldSecret,
    Role,
    Squad,
    SquadDuty,
    User,
)
from drill_ladder.apps.people.players import lock_club, refuse_unless_owner
from drill_ladder.apps.people.secrets import is_signed, parts_of
from drill_ladder.apps.people.team_models import INVITATION

INVITED_FOR = timedelta(days=7)
LAST_OWNER = "A club keeps at least one owner. Make somebody else an owner first."
NO_SQUAD = "Choose at least one squad, or all of them: an assistant sees nobody else."


@transaction.atomic
def invite(
    *, member: Membership, email: str, name: str, role: str, squads: Sequence[int] | None
) -> Invitation:
    """An invitation by mail address, for seven days; one that waited for the same address opens
    nothing any more. squads: of an assistant; None: all of them. Raises Refused.
    """
    refuse_unless_owner(member)
    lock_club(member.club_id)
    email = email.strip().lower()
    if Membership.objects.of_club(member.club).filter(user__email=email).exists():
        raise Refused(f"{email} is a member already.")
    _refuse_no_squad(role, squads)
    now = timezone.now()
    Invitation.objects.of_club(member.club).unanswered().filter(email=email).update(revoked_at=now)
    row = Invitation.objects.create(
        club=member.club,
        email=email,
        name=name.strip(),
        role=role,
        every_squad=squads is None,
        squads=list(squads or []),
        made_by=member.user,
        expires_at=now + INVITED_FOR,
    )
    record(club_id=member.club_id, actor=member.user, verb="invited", subject=row, role=role)
    return row


def invitation_by(token: str) -> Invitation | None:
    """The invitation that a secret opens now; None for a wrong, used, revoked or late one."""
    parts = parts_of(token)
    if parts is None:
        return None
    row = Invitation.objects.open_at(timezone.now()).filter(pk=parts[0]).first()
    if row is None or not is_signed(token, INVITATION, row.email):
        return None
    return row


@transaction.atomic
def take_up(*, invitation: Invitation, user: User) -> Membership:
    """Somebody becomes a member by their invitation, once. Raises Refused."""
    row = Invitation.objects.select_for_update().get(pk=invitation.pk)
    if row.used_at or row.revoked_at or row.expires_at <= timezone.now():
        raise Refused("This invitation was used, or taken back. Ask for a new one.")
    if user.email.lower() != row.email:
        raise Refused(f"This invitation is for {row.email}. Sign in with that address.")
    made, _ = Membership.objects.get_or_create(
        club_id=row.club_id,
        user=user,
        defaults={"role": row.role, "every_squad": row.every_squad},
    )
    _set_duties(made, row.squads)
    row.used_at = timezone.now()
    row.save(update_fields=["used_at"])
    record(club_id=row.club_id, actor=user, verb="joined the club", subject=made, role=row.role)
    return made


@transaction.atomic
def join(*, invitation: Invitation, name: str, password: str) -> User:
    """A new account for whoever was invited, and their membership. Raises Refused."""
    if User.objects.filter(email=invitation.email).exists():
        raise Refused("There is an account for this address. Sign in with it first.")
    user = User.objects.create_user(invitation.email, password, name.strip())
    take_up(invitation=invitation, user=user)
    return user


@transaction.atomic
def take_back(*, member: Membership, invitation: Invitation) -> None:
    """It lets nobody in any more. Raises Refused."""
    refuse_unless_owner(member)
    if invitation.used_at is None and invitation.revoked_at is None:
        invitation.revoked_at = timezone.now()
        invitation.save(update_fields=["revoked_at"])
        record(
            club_id=member.club_id,
            actor=member.user,
            verb="took an invitation back",
            subject=invitation,
        )


@transaction.atomic
def change_member(
    *, member: Membership, of: Membership, role: str, squads: Sequence[int] | None
) -> None:
    """Another role, or other squads. squads: ids; None: all of them. Raises Refused."""
    refuse_unless_owner(member)
    lock_club(member.club_id)
    if of.role == Role.OWNER and role != Role.OWNER:
        _refuse_last_owner(of)
    _refuse_no_squad(role, squads)
    before = of.role
    of.role, of.every_squad = role, squads is None
    of.save(update_fields=["role", "every_squad"])
    _set_duties(of, squads or [])
    record(
        club_id=member.club_id,
        actor=member.user,
        verb="changed a member",
        subject=of,
        before=before,
        role=role,
    )


@transaction.atomic
def end_member(
    *,
    member: Membership,
    of: Membership,
    to: Membership | None,
    tokens_to: Membership | None = None,
) -> list[Squad]:
    """Somebody leaves: they see nothing of the club from now on, and their squads are handed over
    to another member, in one step. (Those squads.) What they did stays in the record under their
    name. The tokens that they made end, unless another owner takes them over. Raises Refused.
    """
    if member.pk != of.pk:
        refuse_unless_owner(member)
    lock_club(member.club_id)
    if of.role == Role.OWNER:
        _refuse_last_owner(of)
    squads = [duty.squad for duty in of.duties.select_related("squad")]
    if squads and to is None:
        raise Refused("Say who takes their squads over. Nothing was changed.")
    if to is not None:
        if to.club_id != of.club_id or to.pk == of.pk:
            raise Refused("Choose another member of this club. Nothing was changed.")
        SquadDuty.objects.bulk_create(
            [SquadDuty(club=of.club, member=to, squad=squad) for squad in squads],
            ignore_conflicts=True,
        )
    _end_tokens(of, tokens_to, member.user)
    record(
        club_id=of.club_id,
        actor=member.user,
        verb="ended a membership",
        subject=of,
        squads=[squad.name for squad in squads],
        to=str(to.user) if to else "",
    )
    OldSecret.objects.filter(member=of).delete()
    of.delete()
    return squads


def _end_tokens(of: Membership, to: Membership | None, actor: User) -> None:
    """A token acts in its maker's name: nobody's acts on after they have gone."""
    if to is not None and (to.club_id != of.club_id or to.pk == of.pk or to.role != Role.OWNER):
        raise Refused("Another owner of this club takes tokens over. Nothing was changed.")
    for token in AccessToken.objects.open_of(of):
        if to is not None:
            token.made_by = to.user
        else:
            token.revoked_at = timezone.now()
        token.save(update_fields=["made_by", "revoked_at"])
        verb = "took a token over" if to else "revoked a token"
        record(club_id=of.club_id, actor=actor, verb=verb, subject=token)


def _set_duties(of: Membership, squads: Iterable[int]) -> None:
    squads_of_club = Squad.objects.filter(club=of.club_id, pk__in=list(squads))
    of.duties.exclude(squad__in=squads_of_club).delete()
    SquadDuty.objects.bulk_create(
        [SquadDuty(club_id=of.club_id, member=of, squad=squad) for squad in squads_of_club],
        ignore_conflicts=True,
    )


def _refuse_no_squad(role: str, squads: Sequence[int] | None) -> None:
    if role == Role.ASSISTANT and squads is not None and not squads:
        raise Refused(NO_SQUAD)


def _refuse_last_owner(of: Membership) -> None:
    others = Membership.objects.filter(club=of.club_id, role=Role.OWNER).exclude(pk=of.pk)
    if not others.filter(user__is_active=True).exists():
        raise Refused(LAST_OWNER)


@transaction.atomic
def save_club(
    *,
    member: Membership,
    name: str,
    time_zone: str,
    unit: str,
    ear_asks: bool = False,
    trusts_ear: bool = False,
) -> Club:
    """What the club is called, whose days count, how its plans are measured, and how it holds with
    counting by ear. Raises Refused, ValidationError.
    """
    refuse_unless_owner(member)
    club = Club.objects.select_for_update(no_key=True).get(pk=member.club_id)
    club.name, club.time_zone, club.unit = name.strip(), time_zone, unit
    club.ear_asks, club.trusts_ear = ear_asks, trusts_ear
    club.full_clean()
    club.save(update_fields=["name", "time_zone", "unit", "ear_asks", "trusts_ear"])
    record(club_id=club.pk, actor=member.user, verb="changed the club", subject=club)
    return club


@transaction.atomic
def save_squad(*, member: Membership, squad: Squad | None, name: str) -> Squad:
    """A squad, new or with another name. Raises Refused."""
    refuse_unless_owner(member)
    lock_club(member.club_id)
    same = Squad.objects.of_club(member.club).filter(name__iexact=name.strip())
    if same.exclude(pk=squad.pk if squad else 0).exists():
        raise Refused(f"There is a squad {name.strip()} already. Nothing was changed.")
    row = squad or Squad(club=member.club)
    row.name = name.strip()
    row.full_clean()
    row.save()
    verb = "renamed a squad" if squad else "added a squad"
    record(club_id=member.club_id, actor=member.user, verb=verb, subject=row)
    return row


@transaction.atomic
def drop_squad(*, member: Membership, squad: Squad) -> None:
    """A squad without players goes. Raises Refused where there are some."""
    refuse_unless_owner(member)
    lock_club(member.club_id)
    count = squad.players.count()
    if count:
        raise Refused(f"{squad} has {count} players. Move them to another squad first.")
    record(club_id=member.club_id, actor=member.user, verb="removed a squad", subject=squad)
    squad.delete()
