"""The errors whose text may reach a screen."""

ROLE_TOLD = "Assistants log results; prescribing and deciding is a coach's call."


class Refused(Exception):
    """Something may not be done now; the text says why, what was kept and what to do."""
