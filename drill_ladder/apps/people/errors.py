"""The errors whose text may reach a screen."""


class Refused(Exception):
    """Something may not be done now; the text says why, what was kept and what to do."""
