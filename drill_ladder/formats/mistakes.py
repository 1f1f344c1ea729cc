"""What is wrong with an input: one line per fault, with its JSON path and words that help."""

import re
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from typing import Any

_PLAIN = re.compile(r"[A-Za-z_][A-Za-z0-9_]*\Z")
# In these places pydantic's location names the chosen variant, which is no part of the document.
_VARIANT_AFTER = ("measure", "rule")
_VARIANT_LISTS = ("schools", "rules")

_WORDS = {
    "missing": "is required",
    "extra_forbidden": "is not a known key",
    "int_type": "is not a whole number",
    "int_from_float": "is not a whole number",
    "float_type": "is not a number",
    "finite_number": "is not a number in JSON's sense",
    "string_type": "is not text",
    "string_pattern_mismatch": "is not a date written YYYY-MM-DD",
    "bool_type": "is neither true nor false",
    "list_type": "is not a list",
    "dict_type": "is not an object",
    "greater_than_equal": "is under {ge:g}",
    "less_than_equal": "is over {le:.13g}",
    "greater_than": "must be above {gt:g}",
    "less_than": "must be under {lt:g}",
    "string_too_short": "is empty",
    "too_short": "has too few entries (at least {min_length})",
    "too_long": "has too many entries (at most {max_length})",
    "literal_error": "is not one of {expected}",
    "union_tag_invalid": "has the {discriminator} {tag!r}, which is not one of {expected_tags}",
    "union_tag_not_found": "needs {discriminator}",
    "none_required": "is not null",
}


@dataclass(frozen=True, slots=True, order=True)
class Mistake:
    """One fault: where, and what is wrong."""

    path: str
    message: str

    def __str__(self) -> str:
        return f"{self.path}: {self.message}"


class Mistakes(ValueError):
    """All faults of one input. `lines` may be shown to a person."""

    def __init__(self, faults: Iterable[Mistake]) -> None:
        self.faults = first_of_each_path(faults)
        super().__init__("\n".join(self.lines))

    @property
    def lines(self) -> list[str]:
        """One line per fault."""
        return [" ".join(str(fault).split()) for fault in self.faults]


def first_of_each_path(faults: Iterable[Mistake]) -> list[Mistake]:
    """One fault per place: the first named says enough."""
    seen: dict[str, Mistake] = {}
    for fault in faults:
        seen.setdefault(fault.path, fault)
    return list(seen.values())


def path_of(loc: Sequence[str | int]) -> str:
    """('sessions', 0, 'on') as $.sessions[0].on; odd keys as $["odd key"]."""
    parts = ["$"]
    for step in loc:
        if isinstance(step, int):
            parts.append(f"[{step}]")
        elif _PLAIN.match(step):
            parts.append(f".{step}")
        else:
            parts.append(f'["{step}"]')
    return "".join(parts)


def from_validation(errors: Iterable[Any]) -> list[Mistake]:
    """Mistakes from pydantic's list of errors, in our words."""
    return [Mistake(path_of(_without_variants(e["loc"])), _words(e)) for e in errors]


def _without_variants(loc: Sequence[str | int]) -> list[str | int]:
    kept: list[str | int] = []
    variant_next = False
    for step in loc:
        if variant_next:
            variant_next = False
            continue
        kept.append(step)
        in_list = isinstance(step, int) and len(kept) > 1 and kept[-2] in _VARIANT_LISTS
        variant_next = in_list or step in _VARIANT_AFTER
    return kept


def _words(error: Any) -> str:
    template = _WORDS.get(error["type"])
    if template is None:
        return str(error["msg"])
    return template.format(**error.get("ctx", {}))
