"""Fields and rows that several forms share."""

from typing import Any

from django import forms

from drill_ladder.formats.reading import cut


def listed(text: Any) -> list[str]:
    """Short texts with commas between: those that say something, in order."""
    return [word.strip() for word in str(text or "").split(",") if word.strip()]


class Cut(forms.CharField):
    """Words that are cleaned and cut to fit, never refused."""

    def __init__(self, *, most: int, **kwargs: Any) -> None:
        super().__init__(**kwargs)
        self.most = most
        self.widget.attrs["maxlength"] = most

    def to_python(self, value: Any) -> str:
        """One clean line."""
        return cut(value or "", self.most)


class _Listed(forms.CharField):
    """A list in one text."""

    joint = ", "

    def prepare_value(self, value: Any) -> Any:
        """Back to one text."""
        return self.joint.join(value) if isinstance(value, list) else value

    def has_changed(self, initial: Any, data: Any) -> bool:
        """Compared as lists."""
        return bool((initial or []) != self.to_python(data))

    def run_validators(self, value: Any) -> None:
        """Nothing more: an empty list is fine."""


class Words(_Listed):
    """Short texts with commas between, kept as a list, each once."""

    def to_python(self, value: Any) -> Any:
        """The texts that say something."""
        return value if isinstance(value, list) else list(dict.fromkeys(listed(value)))


class Lines(_Listed):
    """A list, one entry a line."""

    widget = forms.Textarea(attrs={"rows": 4})
    joint = "\n"

    def to_python(self, value: Any) -> Any:
        """The lines that say something."""
        return [line.strip() for line in str(value or "").splitlines() if line.strip()]


class Row(forms.Form):
    """Fields whose labels stand elsewhere, in the head of a table or in a sentence: for screen readers each says its
    own.
    """

    def __init__(self, *args: Any, **kwargs: Any) -> None:
        super().__init__(*args, **kwargs)
        for field in self.fields.values():
            field.widget.attrs["aria-label"] = field.label
