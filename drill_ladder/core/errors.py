"""The one family of errors that the core raises."""


class CoreError(ValueError):
    """Input that the computation cannot take; the text may be shown to a person."""
