"""The club and its people."""

from datetime import date
from zoneinfo import ZoneInfo, available_timezones

from django.core.exceptions import ValidationError
from django.db import models
from django.db.models import Q
from django.utils import timezone

from drill_ladder.apps.people.querysets import (
    MembershipQuerySet,
    PlayerQuerySet,
    SecretLinkQuerySet,
    SquadQuerySet,
)
from drill_ladder.apps.people.secrets import make_token
from drill_ladder.apps.people.user_models import Density as Density
from drill_ladder.apps.people.user_models import User as User
from drill_ladder.apps.personal import Personal
from drill_ladder.apps.stored import stored
from drill_ladder.formats.documents import KIT_SIZES

# how long a pace and a shoe may be, in centimetres; the constraints below say the same in metres
PACE_CM, SHOE_CM = (10, 200), (10, 50)
SPACE_M = (0.5, 200)  # a side of the space at a home


class LengthUnit(models.TextChoices):
    """In which a club measures its plans."""

    METRE = "m", "metres"
    FOOT = "ft", "feet"
    YARD = "yd", "yards"


class Club(models.Model):
    """Everything belongs to one club. time_zone: by its days everything is dated; night_on: the
    last day whose night's work is done; unit: in which its plans are measured first; day_spread: by
    how much a player's days differ here, 0..0.5, and day_spread_df: how many days are behind that
    (0: caution alone); practice: everybody in it is invented, and it writes to nobody; trusts_ear:
    what a phone counts by ear is as good as seen by a device; ear_asks: a guardian has to agree
    before a phone listens.
    """

    personal = Personal(free=("name",), plain=("time_zone",))

    name = models.CharField(max_length=120)
    time_zone = models.CharField(max_length=60, default="Europe/London")
    night_on = models.DateField(null=True, blank=True)
    practice = models.BooleanField(default=False)
    unit = models.CharField(max_length=8, choices=LengthUnit, default=LengthUnit.METRE)
    trusts_ear = models.BooleanField(default=False)
    ear_asks = models.BooleanField(default=False)
    day_spread = models.FloatField(default=0.05)
    day_spread_df = models.PositiveIntegerField(default=0)

    # the squads that whoever asks may see (sight.py); None: all of them
    seen: frozenset[int] | None = None

    class Meta:
        constraints = [
            models.CheckConstraint(condition=Q(unit__in=LengthUnit.values), name="club_unit_known")
        ]

    def clean(self) -> None:
        """A zone that is known."""
        if self.time_zone not in available_timezones():
            raise ValidationError(
                {"time_zone": "This time zone is not known: write it as Europe/London."}
            )

    def __str__(self) -> str:
        return self.name

    @property
    def zone(self) -> ZoneInfo:
        """Its time zone."""
        return ZoneInfo(self.time_zone)

    def today(self) -> date:
        """The day there. Everywhere else the day is an argument, or comes from here."""
        return timezone.localdate(timezone=self.zone)


class Role(models.TextChoices):
    """What a member may do: an assistant logs, a coach decides, an owner also looks after
    people.
    """

    ASSISTANT = "assistant", "Assistant"
    COACH = "coach", "Coach"
    OWNER = "owner", "Owner"


class Membership(models.Model):
    """A user's role in a club. every_squad: whether an assistant sees all of them, or those of
    their duties alone. feed_version, feed_closed: of the secret of a coach's own calendar;
    marks: by which they look at rules, in percent and sessions, empty for the usual ones.
    """

    personal = Personal(plain=("marks",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="memberships")
    user = models.ForeignKey(User, on_delete=models.CASCADE, related_name="memberships")
    role = models.CharField(max_length=12, choices=Role)
    every_squad = models.BooleanField(default=True)
    feed_version = models.PositiveIntegerField(default=1)
    feed_closed = models.BooleanField(default=False)
    marks = models.JSONField(default=dict, blank=True)

    objects = MembershipQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["club", "user"], name="one_membership_a_club"),
            models.CheckConstraint(condition=Q(role__in=Role.values), name="membership_role_known"),
        ]

    def __str__(self) -> str:
        return f"{self.user} ({self.get_role_display()})"

    @property
    def decides(self) -> bool:
        """Whether this member may prescribe and decide."""
        return self.role in (Role.COACH, Role.OWNER)

    @property
    def feed_token(self) -> str:
        """The secret of the member's calendar. It changes with their password, so that an old one
        closes it too.
        """
        return make_token(FEED, self.pk, self.feed_version, self.user.get_session_auth_hash())


class Squad(models.Model):
    """A group of players that trains together."""

    personal = Personal(free=("name",))

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="squads")
    name = models.CharField(max_length=80)

    objects = SquadQuerySet.as_manager()

    class Meta:
        ordering = ["name"]
        constraints = [
            models.UniqueConstraint(fields=["club", "name"], name="squad_name_once_a_club")
        ]

    def __str__(self) -> str:
        return self.name


class Side(models.TextChoices):
    """The dominant side, from one record; drawings and lanes are mirrored from it."""

    RIGHT = "right", "Right"
    LEFT = "left", "Left"
    BOTH = "both", "Both"


class Player(models.Model):
    """A player. birth_month is the first day of the month: the day itself is nobody's business
    here.

    stride_m and shoe_m: the own pace and shoe in metres, for floor plans without a tape. height_on:
    when the height was measured; kit_cm: lengths of own tools. seen_on: the last day that a coach
    or a device saw; card_pin: the hash of the PIN that the card asks for, empty for none.
    guest_on: the day on which they came as a guest of an hour; None: of the club.
    """

    personal = Personal(
        "pk",
        # the name is put last: what becomes of it holds the receipt's number (records/erase.py)
        blank={
            **dict.fromkeys(
                ("birth_month", "squad", "stride_m", "shoe_m", "height_cm", "height_on")
            ),
            **dict.fromkeys(("home_space", "home_surface", "home_tools", "card_pin"), ""),
            **dict.fromkeys(("home_light", "home_wall", "home_feeder", "home_adult"), False),
            **dict.fromkeys(("home_width", "home_depth")),
            "kit_cm": {},
        },
        free=("home_space", "home_surface", "home_tools"),
        plain=("name",),
        secret=("card_pin",),
        most=1,
    )

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="players")
    squad = models.ForeignKey(
        Squad, null=True, blank=True, on_delete=models.PROTECT, related_name="players"
    )
    name = models.CharField(max_length=120)
    birth_month = models.DateField(null=True, blank=True)
    dominant_side = models.CharField(max_length=5, choices=Side, default=Side.RIGHT)
    stride_m = models.FloatField(null=True, blank=True)
    shoe_m = models.FloatField(null=True, blank=True)
    height_cm = models.FloatField(null=True, blank=True)
    height_on = models.DateField(null=True, blank=True)
    kit_cm = stored(KIT_SIZES, default=dict, blank=True)
    home_space = models.CharField(max_length=120, blank=True)
    home_width = models.FloatField(null=True, blank=True)
    home_depth = models.FloatField(null=True, blank=True)
    home_surface = models.CharField(max_length=40, blank=True)
    home_light = models.BooleanField(default=False)
    home_wall = models.BooleanField(default=False)
    home_feeder = models.BooleanField(default=False)
    home_adult = models.BooleanField(default=False)
    home_tools = models.CharField(max_length=200, blank=True)
    joined_on = models.DateField()
    guest_on = models.DateField(null=True, blank=True, editable=False)
    archived_on = models.DateField(null=True, blank=True, editable=False)
    erased_on = models.DateField(null=True, blank=True, editable=False)
    seen_on = models.DateField(null=True, blank=True, editable=False)
    card_pin = models.CharField(max_length=128, blank=True, editable=False)
    skill_names: list[str]  # filled by with_skill_names()
    asked_now: bool  # filled by idle_or_not_seen_since()
    note_rows: list[str]  # filled by with_latest_notes()
    # filled by for_the_hall()
    rests: bool
    felt_on: date | None
    felt_level: int | None
    revision = models.PositiveIntegerField(default=1)

    objects = PlayerQuerySet.as_manager()

    class Meta:
        ordering = ["name"]
        constraints = [
            models.CheckConstraint(
                condition=Q(dominant_side__in=Side.values), name="player_side_known"
            ),
            models.CheckConstraint(
                condition=Q(birth_month__isnull=True) | Q(birth_month__day=1),
                name="birth_month_is_a_month",
            ),
            models.CheckConstraint(
                condition=Q(home_width__isnull=True) | Q(home_width__gt=0, home_depth__gt=0),
                name="home_space_has_sides",
            ),
            models.CheckConstraint(
                condition=Q(stride_m__isnull=True) | Q(stride_m__gte=0.1, stride_m__lte=2),
                name="stride_in_metres",
            ),
            models.CheckConstraint(
                condition=Q(shoe_m__isnull=True) | Q(shoe_m__gte=0.1, shoe_m__lte=0.5),
                name="shoe_in_metres",
            ),
            models.CheckConstraint(
                condition=Q(height_cm__isnull=True) | Q(height_cm__gte=50, height_cm__lte=250),
                name="height_in_centimetres",
            ),
            models.CheckConstraint(
                condition=Q(erased_on=None) | Q(archived_on__isnull=False),
                name="erased_is_put_aside",
            ),
        ]

    def __str__(self) -> str:
        return self.name

    @property
    def is_resting(self) -> bool:
        """Whether a stop is open."""
        return Player.objects.resting().filter(pk=self.pk).exists()

    @property
    def is_left_handed(self) -> bool:
        """Whether drills are mirrored."""
        return self.dominant_side == Side.LEFT

    def age_on(self, day: date) -> int | None:
        """Full years; None where the month of birth is not noted."""
        born = self.birth_month
        return None if born is None else day.year - born.year - (day.month < born.month)


class Guardian(models.Model):
    """Whom to tell about a player. consent_on: the day they agreed that the club keeps the player's
    data here.
    """

    personal = Personal("player", gone=True, plain=("name", "email", "phone"), most=60)

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="guardians")
    name = models.CharField(max_length=120)
    email = models.EmailField(blank=True)
    phone = models.CharField(max_length=40, blank=True)
    consent_on = models.DateField(null=True, blank=True)

    class Meta:
        ordering = ["id"]

    def __str__(self) -> str:
        return self.name


class Opens(models.TextChoices):
    """What a secret link opens: the card to work from, or the calendar, which only shows."""

    CARD = "card", "Home card"
    CALENDAR = "calendar", "Calendar"


FEED = "feed"  # the third kind, of a member's own calendar


class SecretLink(models.Model):
    """Opens a player's card, or their calendar, without an account. Its secret is never stored: see
    secrets.py.

    version: a new one closes every address given out before; closed_at: no address is open at all.
    """

    personal = Personal("player", gone=True, most=2_000)

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    player = models.ForeignKey(Player, on_delete=models.CASCADE, related_name="links")
    opens = models.CharField(max_length=8, choices=Opens, default=Opens.CARD)
    version = models.PositiveIntegerField(default=1)
    created_at = models.DateTimeField(auto_now_add=True)
    closed_at = models.DateTimeField(null=True, blank=True)

    objects = SecretLinkQuerySet.as_manager()

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["player", "opens"], name="one_link_a_player_and_kind"),
            models.CheckConstraint(condition=Q(opens__in=Opens.values), name="link_kind_known"),
        ]

    def __str__(self) -> str:
        return f"link of {self.player}"

    @property
    def token(self) -> str:
        """The secret in the address."""
        return make_token(self.opens, self.pk, self.version)


class OldSecret(models.Model):
    """A random secret that an earlier version gave out: only its fingerprint is kept.

    It opens its place once, and leads to the present address; after that, or once revoked (spent),
    it opens nothing.
    """

    personal = Personal("player", gone=True, plain=("opens",), secret=("fingerprint",), most=2_000)

    club = models.ForeignKey(Club, on_delete=models.CASCADE, related_name="+")
    fingerprint = models.CharField(max_length=64)
    opens = models.CharField(max_length=8)
    player = models.ForeignKey(
        Player, null=True, blank=True, on_delete=models.CASCADE, related_name="+"
    )
    member = models.ForeignKey(
        Membership, null=True, blank=True, on_delete=models.CASCADE, related_name="+"
    )
    spent = models.BooleanField(default=False)

    class Meta:
        constraints = [
            models.UniqueConstraint(fields=["fingerprint", "opens"], name="one_old_secret_a_kind")
        ]

    def __str__(self) -> str:
        return f"old link of {self.player or self.member}"


# models of this app in modules of their own
from drill_ladder.apps.people.agreement_models import AgreedTo as AgreedTo  # noqa: E402
from drill_ladder.apps.people.agreement_models import Agreement as Agreement  # noqa: E402
from drill_ladder.apps.people.day_models import PLACES as PLACES  # noqa: E402
from drill_ladder.apps.people.day_models import PlayerDay as PlayerDay  # noqa: E402
from drill_ladder.apps.people.day_models import PlayerNote as PlayerNote  # noqa: E402
from drill_ladder.apps.people.team_models import FoundingCode as FoundingCode  # noqa: E402
from drill_ladder.apps.people.team_models import Invitation as Invitation  # noqa: E402
from drill_ladder.apps.people.team_models import SquadDuty as SquadDuty  # noqa: E402
from drill_ladder.apps.people.token_models import AccessToken as AccessToken  # noqa: E402
from drill_ladder.apps.people.token_models import Scope as Scope  # noqa: E402
