"""A small vocabulary for the shape of inputs, on pydantic's own validation engine.

The shapes are pydantic-core schemas: one description gives both the strict reader and the published
JSON Schema. Building them needs no model classes, which keeps the start of `./ladder core decide`
near that of a bare `import pydantic` (docs/decisions/002).
"""

from datetime import date
from typing import Any

from pydantic_core import PydanticCustomError, core_schema

Shape = Any
WHOLE_MAX = 10**9
NUMBER_MAX = 1e12


def whole(low: int = 0, high: int = WHOLE_MAX) -> Shape:
    """A whole number."""
    return core_schema.int_schema(strict=True, ge=low, le=high)


def number(low: float | None = 0, high: float = NUMBER_MAX, above: float | None = None) -> Shape:
    """A finite number; by default not negative."""
    lowest = -NUMBER_MAX if low is None else low
    least = None if above is not None else lowest
    return core_schema.float_schema(strict=True, allow_inf_nan=False, ge=least, gt=above, le=high)


def rate() -> Shape:
    """A number from 0 to 1."""
    return number(0, 1)


def chance() -> Shape:
    """A number above 0 and below 1."""
    return core_schema.float_schema(strict=True, allow_inf_nan=False, gt=0, lt=1)


def text(min_length: int = 0, most: int | None = None) -> Shape:
    """Text; with min_length 1, not empty."""
    return core_schema.str_schema(strict=True, min_length=min_length or None, max_length=most)


def name(most: int | None = None) -> Shape:
    """Text that is not empty."""
    return text(1, most)


def yes_no() -> Shape:
    """true or false."""
    return core_schema.bool_schema(strict=True)


def one_of(*values: str) -> Shape:
    """One of a few words."""
    return core_schema.literal_schema(list(values))


def _real_day(value: str) -> date:
    try:
        return date.fromisoformat(value)
    except ValueError:
        raise PydanticCustomError("day", "is not a day of the calendar") from None


def day() -> Shape:
    """A calendar day, exactly YYYY-MM-DD; read as a date."""
    return core_schema.no_info_after_validator_function(
        _real_day, core_schema.str_schema(strict=True, pattern=r"^[0-9]{4}-[0-9]{2}-[0-9]{2}$")
    )


def pair(item: Shape) -> Shape:
    """A list of exactly two."""
    return listed(item, 2, 2)


def listed(item: Shape, least: int = 0, most: int | None = None) -> Shape:
    """A list."""
    return core_schema.list_schema(item, strict=True, min_length=least or None, max_length=most)


def counts() -> Shape:
    """An object of name -> whole number."""
    return core_schema.dict_schema(name(), whole(), strict=True)


def texts() -> Shape:
    """An object of name -> text."""
    return core_schema.dict_schema(name(), text(), strict=True)


def by_name(shape: Shape) -> Shape:
    """An object of name -> something."""
    return core_schema.dict_schema(name(), shape, strict=True)


def by_id(shape: Shape) -> Shape:
    """An object of a row's id -> something: the ids are keys, and so written as text."""
    return core_schema.dict_schema(core_schema.str_schema(pattern=r"^[1-9]\d{0,18}$"), shape)


def anything() -> Shape:
    """Whatever was written: numbers by name, which grow with the product."""
    return core_schema.any_schema()


def or_null(shape: Shape) -> Shape:
    """The shape, or null."""
    return core_schema.nullable_schema(shape)


def optional(shape: Shape, default: Any) -> Shape:
    """A key that may be left out."""
    return {
        "type": "default",
        "schema": shape,
        "default": default,
        "copy_default": isinstance(default, list | dict),
    }


def maybe(shape: Shape) -> Shape:
    """A key that may be left out or null."""
    return optional(or_null(shape), None)


def record(**fields: Shape) -> Shape:
    """A closed object: unknown keys are refused, keys without a default are required."""
    return core_schema.typed_dict_schema(
        {
            key.rstrip("_"): core_schema.typed_dict_field(
                shape, required=shape["type"] != "default"
            )
            for key, shape in fields.items()
        },
        extra_behavior="forbid",
    )


def variants(discriminator: str, **choices: Shape) -> Shape:
    """One of several closed objects, told apart by one key."""
    return core_schema.tagged_union_schema(choices, discriminator=discriminator)


def kept(shape: Shape) -> Shape:
    """A value read as (what was given, what it means), for answers that name what was asked."""
    return core_schema.no_info_wrap_validator_function(
        lambda given, read: (given, read(given)), shape
    )


def either(what: str, *shapes: Shape) -> Shape:
    """Any of several shapes, with one plain message when none fits."""
    return core_schema.union_schema(
        list(shapes),
        mode="left_to_right",
        custom_error_type="either",
        custom_error_message=f"is not {what}",
    )
