"""What a decision found, so that it can be taken back."""

from dataclasses import asdict, dataclass

from drill_ladder.formats.reading import Kept
from drill_ladder.formats.shapes import maybe, optional, record, whole, yes_no


@dataclass(frozen=True, slots=True)
class Before:
    """The stay as it was, the new stay that the decision made (by its id), and whether it finished
    the ladder.
    """

    eased: bool = False
    recheck: bool = False
    new_stay: int | None = None
    finished: bool = False


_SHAPE = record(
    eased=optional(yes_no(), False),
    recheck=optional(yes_no(), False),
    new_stay=maybe(whole()),
    finished=optional(yes_no(), False),
)
BEFORE: Kept[Before] = Kept(_SHAPE, lambda doc: Before(**doc), asdict)
