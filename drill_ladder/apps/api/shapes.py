"""What goes through the open door, as OpenAPI describes it."""

from datetime import date, datetime
from typing import Annotated, Literal
from uuid import UUID

from ninja import Schema
from pydantic import ConfigDict, Field

Whole = Annotated[int, Field(ge=0, le=100_000)]
Share = Annotated[float, Field(ge=0, le=1)]
Clock = Annotated[int, Field(ge=0, le=10**10)]  # ms: a gate that was switched on four months ago
Seconds = Annotated[float, Field(ge=0, le=100_000)]


class Problem(Schema):
    """What is wrong, in a sentence."""

    detail: str


class PlayerOut(Schema):
    """A player. name: only for tokens that may see names."""

    id: int
    initials: str
    squad: str
    name: str | None = None


class RungOut(Schema):
    """A rung of a ladder."""

    position: int
    title: str
    dose: str
    target: str


class LadderOut(Schema):
    """A ladder from the bottom up, with its rule as a sentence."""

    id: int
    title: str
    rule: str
    rungs: list[RungOut]


class StandingOut(Schema):
    """Where a player stands. stay: what a session is written to."""

    stay: int
    player: int
    ladder: int
    position: int
    since: date


class SetIn(Schema):
    """One set: what its measure counts, and nothing that nobody counted."""

    model_config = ConfigDict(extra="forbid")

    lane: Annotated[str, Field(max_length=60)] = ""
    attempts: Whole | None = None
    makes: Whole | None = None
    points: Seconds | None = None
    seconds: Seconds | None = None
    count: Seconds | None = None
    best_run: Whole | None = None
    ticks: Whole | None = None
    share: Share | None = None


class SessionIn(Schema):
    """A session. id: given by the sender; the same id sent again stores nothing twice."""

    model_config = ConfigDict(extra="forbid")

    id: UUID
    stay: Annotated[int, Field(ge=1, le=2**53)]
    on: date
    sets: Annotated[list[SetIn], Field(min_length=1, max_length=200)]
    effort: Annotated[int, Field(ge=0, le=10)] | None = None
    at_ease: Annotated[int, Field(ge=1, le=5)] | None = None
    observer: Literal["self", "helper", "ear", "device"] = "device"


class SessionOut(Schema):
    """What became of a session."""

    id: UUID
    new: bool


class BeatIn(Schema):
    """A beam broken, or clear again, at a moment of the gate's own clock."""

    model_config = ConfigDict(extra="forbid")

    beam: Literal["start", "finish"]
    broken: bool
    at_ms: Clock


class MessageIn(Schema):
    """What a gate sends. message: an id of its own, the same when it is sent again; boot: an id
    made when the gate was switched on, because its clock begins anew then; sent_ms: its clock now.
    """

    model_config = ConfigDict(extra="forbid")

    message: UUID
    boot: UUID
    sent_ms: Clock
    beats: Annotated[list[BeatIn], Field(max_length=500)]


class MessageOut(Schema):
    """What became of a message: new or known; runs since the gate was switched on, how many became
    trials by this message, which became none and why; beams that stay broken.
    """

    new: bool
    runs: int
    given: int
    lost: dict[str, str]
    stuck: list[str]
    heard_at: datetime
