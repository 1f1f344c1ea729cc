"""The errors whose text may reach a screen."""

from typing import Any

ROLE_TOLD = "Assistants log results; prescribing and deciding is a coach's call."

OWNER_TOLD = "That is for the club's owner. Nothing was changed."


class Refused(Exception):
    """Something may not be done now; the text says why, what was kept and what to do."""


class Overtaken(Refused):
    """Somebody changed the row first; `current` is the row as it is now."""

    def __init__(self, told: str, current: Any) -> None:
        super().__init__(told)
        self.current = current
