"""Questions about people."""

from collections.abc import Iterable
from datetime import date
from typing import TYPE_CHECKING, Self

from django.apps import apps
from django.contrib.postgres.expressions import ArraySubquery
from django.db import models
from django.db.models import Case, Count, Exists, F, OuterRef, Q, Subquery, When
from django.db.models.functions import JSONObject

from drill_ladder.apps.people.secrets import is_signed, parts_of

if TYPE_CHECKING:
    from drill_ladder.apps.people.models import Agreement, Club, Membership, Player


MOST_NOTES = 6


class ClubQuerySet(models.QuerySet):
    """Rows that carry a club. to_squad: how one leads to the squad whose members may see it; "" for
    what everybody in the club may see. hides_aside: whether what belongs to a player who was put
    aside is left out.
    """

    to_squad = ""
    hides_aside = False

    def of_club(self, club: "Club") -> Self:
        """Only this club's, and of its players only those whom whoever asks may see."""
        rows = self.filter(club=club)
        if self.hides_aside:
            rows = rows.filter(**{f"{self.to_squad.removesuffix('squad')}archived_on": None})
        if club.seen is None or not self.to_squad:
            return rows
        return rows.filter(**{f"{self.to_squad}__in": club.seen})

    def only_row(self, pk: int) -> Self:
        """That one alone."""
        return self.filter(pk=pk)


class MembershipQuerySet(ClubQuerySet):
    """Members."""

    def of_user(self, user: int) -> Self:
        """Somebody's places in clubs, the first club first."""
        return self.filter(user=user).select_related("club", "user").order_by("pk")

    def in_club(self, club: int | None) -> Self:
        """Those in the club of that id."""
        return self.filter(club=club)

    def but(self, one: models.Model) -> Self:
        """All but one."""
        return self.exclude(pk=one.pk)

    def as_team(self) -> Self:
        """With their names and squads at hand, owners first."""
        rank = Case(When(role="owner", then=0), When(role="coach", then=1), default=2)
        rows = self.select_related("user").prefetch_related("duties__squad")
        return rows.order_by(rank, "user__name", "pk")

    def owners(self) -> Self:
        """Those who look after people."""
        return self.filter(role="owner")


class SquadQuerySet(ClubQuerySet):
    """Squads."""

    to_squad = "pk"

    def with_counts(self) -> Self:
        """With how many players they have."""
        return self.annotate(
            count=Count("players", filter=Q(players__archived_on=None), distinct=True)
        ).order_by("name")

    def climbing(self, ladder: models.Model) -> Self:
        """Those with a player who is on a ladder now."""
        on = Q(players__prescriptions__ladder=ladder, players__prescriptions__status="active")
        return self.filter(on).distinct().order_by("name")

    def with_players(self) -> Self:
        """With their players at hand."""
        return self.prefetch_related("players")


class PlayerQuerySet(ClubQuerySet):
    """Players."""

    to_squad = "squad"
    hides_aside = True

    def aside_of(self, club: "Club") -> Self:
        """Those that were put aside and can be brought back."""
        rows = self.filter(club=club, archived_on__isnull=False, erased_on=None)
        return rows.order_by("-archived_on", "name")

    def known_to(self, club: "Club") -> Self:
        """Those that are there and those that were put aside; nobody who was erased."""
        return self.filter(club=club, erased_on=None)

    def of_squad(self, squad: int | None) -> Self:
        """Those of a squad."""
        return self.filter(squad=squad)

    def without_age(self) -> Self:
        """Whose month of birth is not noted."""
        return self.filter(birth_month=None)

    def by_name(self) -> Self:
        """In the order of their names."""
        return self.order_by("name", "pk")

    def with_squad(self) -> Self:
        """With their squad at hand."""
        return self.select_related("squad")

    def named_like(self, part: str) -> Self:
        """Those whose name holds these letters; everybody without any."""
        return self.filter(name__icontains=part) if part else self

    def with_skill_names(self) -> Self:
        """With the names of their club's skills: `skill_names`, a list."""
        skills = apps.get_model("library", "Skill").objects.filter(club=OuterRef("club"))
        return self.annotate(skill_names=ArraySubquery(skills.order_by("name").values("name")))

    def with_latest_notes(self) -> Self:
        """With the latest notes of each: `note_rows`, a list of text, on and by."""
        notes = apps.get_model("people", "PlayerNote").objects.filter(player=OuterRef("pk"))
        note = JSONObject(text="text", on="on", by="by__name")
        rows = notes.order_by("-on", "-id").values(told=note)[:MOST_NOTES]
        return self.annotate(note_rows=ArraySubquery(rows))

    def among(self, players: "Iterable[Player]") -> Self:
        """Some of them."""
        return self.filter(pk__in=[player.pk for player in players])

    def with_days(self) -> Self:
        """With the days on which they have time."""
        return self.prefetch_related("days")

    def on_ladders(self, squad: int | None = None) -> Self:
        """Those who are on a ladder now, of everybody or of one squad."""
        active = self.filter(prescriptions__status="active").distinct()
        return active if squad is None else active.filter(squad_id=squad)

    def idle_or_not_seen_since(self, day: date) -> Self:
        """Those of whom nothing is asked now, and those whom no coach and no device has seen from a
        day on, by name; asked_now tells which they are.
        """
        asked = apps.get_model("prescriptions", "Prescription").objects.filter(status="active")
        rows = self.annotate(asked_now=Exists(asked.filter(player=OuterRef("pk"))))
        unseen = Q(seen_on__isnull=True) | Q(seen_on__lt=day)
        return rows.filter(Q(asked_now=False) | unseen).by_name()

    def for_weeks(self) -> Self:
        """By squad and name, with squad and days at hand."""
        return self.with_days().with_squad().order_by("squad__name", "name")

    def not_seen_since(self, day: date) -> Self:
        """Those whom no coach and no device has seen from a day on, the longest first."""
        rows = self.filter(Q(seen_on__isnull=True) | Q(seen_on__lt=day))
        return rows.order_by(F("seen_on").asc(nulls_first=True), "name")

    def guests(self) -> Self:
        """Guests of an hour."""
        return self.filter(guest_on__isnull=False)

    def named(self, name: str) -> Self:
        """Those of that name, letter by letter but for capitals."""
        return self.filter(name__iexact=name)

    def not_here_since(self, day: date) -> Self:
        """Guests who came first before a day, and whom nobody has seen from it on."""
        return self.filter(guest_on__lt=day).not_seen_since(day)

    def resting(self) -> Self:
        """Those with an open stop."""
        return self.filter(stops__isnull=False, stops__ended_on__isnull=True).distinct()

    def for_the_hall(self) -> Self:
        """By name, with their squads; `rests`: whether a stop is open; `felt_on` and `felt_level`:
        when they told last how at ease they are, 1 to 5, None where they never did.
        """
        stops = apps.get_model("practice", "Stop")._default_manager
        felt = apps.get_model("practice", "Felt")._default_manager
        open_stops = stops.filter(player=OuterRef("pk"), ended_on__isnull=True)
        last = felt.filter(player=OuterRef("pk")).order_by("-on", "-pk")
        rows = self.with_squad().by_name().annotate(rests=Exists(open_stops))
        return rows.annotate(
            felt_on=Subquery(last.values("on")[:1]), felt_level=Subquery(last.values("level")[:1])
        )


class PlayerNoteQuerySet(ClubQuerySet):
    """Notes about players."""

    to_squad = "player__squad"

    def for_family(self, player: "Player") -> Self:
        """What a coach marked for the family, the latest first."""
        return self.filter(player=player, shared=True)[:MOST_NOTES]


class SecretLinkQuerySet(ClubQuerySet):
    """Secret links."""

    def of_secret(self, token: str, opens: str) -> Self:
        """The link that a secret was made for, open or not, of this or an earlier version; none for
        a wrong secret.
        """
        parts = parts_of(token)
        if parts is None or not is_signed(token, opens):
            return self.none()
        links = self.filter(pk=parts[0], opens=opens, player__erased_on=None)
        return links.select_related("player__club")

    def opened_by(self, token: str, opens: str) -> Self:
        """The open link whose present secret this is."""
        parts = parts_of(token)
        version = parts[1] if parts else 0
        return self.of_secret(token, opens).filter(
            version=version, closed_at__isnull=True, player__archived_on=None
        )


class TokenQuerySet(ClubQuerySet):
    """Tokens."""

    def open_of(self, member: "Membership") -> "TokenQuerySet":
        """Those that a member made in the club and that still open something."""
        return self.filter(club=member.club_id, made_by=member.user_id, revoked_at=None)

    def of_secret(self, digest: str) -> "TokenQuerySet":
        """The one of a secret, where it is open and its maker is a member still."""
        rows = self.filter(digest=digest, revoked_at=None, made_by__is_active=True)
        rows = rows.filter(made_by__memberships__club=F("club"))
        return rows.select_related("club", "made_by")


class AgreementQuerySet(ClubQuerySet):
    """Agreements."""

    to_squad = "player__squad"

    def in_force(self) -> "AgreementQuerySet":
        """Those that nobody took back."""
        return self.filter(withdrawn_on=None)

    def about(self, player: models.Model) -> "AgreementQuerySet":
        """A player's, with who noted them at hand."""
        return self.filter(player=player).select_related("noted_by")

    def with_player(self) -> "AgreementQuerySet":
        """With whom they are about at hand."""
        return self.select_related("player")

    def to(self, what: str) -> "AgreementQuerySet":
        """Those to one thing."""
        return self.filter(what=what)

    def taken_back(self, players: "Iterable[Player]", what: str) -> "dict[int, Agreement]":
        """Player id -> the agreement that was taken back and not given again, of those for whom
        that happened.
        """
        rows = self.to(what).filter(player__in=players)
        newest: dict[int, Agreement] = {}
        # those in force come first
        for row in rows.order_by(F("withdrawn_on").desc(nulls_first=True), "-id"):
            newest.setdefault(row.player_id, row)
        return {pk: row for pk, row in newest.items() if row.withdrawn_on is not None}
