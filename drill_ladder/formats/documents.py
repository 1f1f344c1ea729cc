"""Reading parts of the open format (a measure, a rule, a rung) outside the command line."""

from functools import lru_cache
from typing import Any

from pydantic_core import SchemaValidator, ValidationError

from drill_ladder.core.errors import CoreError
from drill_ladder.core.floor import Plan
from drill_ladder.core.judging import Measure, Rule, Rung
from drill_ladder.formats.drill_shapes import VERSIONS
from drill_ladder.formats.faults import Fault, first_of_each_path, from_validation
from drill_ladder.formats.file_limits import check_plan_limits
from drill_ladder.formats.ladder_checks import check_rule, check_rung
from drill_ladder.formats.ladder_shapes import MEASURE, RULE, RUNG, to_measure, to_rule, to_rung
from drill_ladder.formats.node import Node
from drill_ladder.formats.plan_shapes import PLAN, check_plan, to_plan

_PARTS = {"measure": MEASURE, "rule": RULE, "rung": RUNG, "plan": PLAN, "versions": VERSIONS}
_CHECKS = {"rule": check_rule, "rung": check_rung, "plan": check_plan}


@lru_cache(maxsize=8)
def _reader(part: str) -> SchemaValidator:
    return SchemaValidator(_PARTS[part])


def read_part(part: str, document: Any) -> tuple[Any, list[Fault]]:
    """A validated part (None when its shape is wrong) and all its faults."""
    faults: list[Fault] = []
    validated = None
    try:
        validated = _reader(part).validate_python(document)
    except ValidationError as error:
        faults += from_validation(error.errors(include_url=False, include_input=False))
    if part in _CHECKS:
        _CHECKS[part](Node(document, faults))
    return validated, first_of_each_path(faults)


def part_faults(part: str, document: Any) -> list[str]:
    """What is wrong with a part, one line each."""
    return [str(fault) for fault in read_part(part, document)[1]]


def plan_faults(document: Any) -> list[str]:
    """What is wrong with a floor plan that is to be stored, one line each: also what is too much to be drawn."""
    faults = read_part("plan", document)[1]
    node = Node(document, [])
    check_plan_limits(node)
    return [str(fault) for fault in first_of_each_path([*faults, *node.faults])]


def _read(part: str, document: Any) -> Any:
    validated, faults = read_part(part, document)
    if faults:
        raise CoreError("; ".join(str(f) for f in faults))
    return validated


def measure_from(document: Any) -> Measure:
    """A measure. Raises CoreError."""
    return to_measure(_read("measure", document))


def rule_from(document: Any) -> Rule:
    """A rule. Raises CoreError."""
    return to_rule(_read("rule", document))


def rung_from(document: Any) -> Rung:
    """A rung. Raises CoreError."""
    return to_rung(_read("rung", document))


def plan_from(document: Any) -> tuple[Plan, dict[str, Any]]:
    """A floor plan in metres, and its document with every default in place. Raises CoreError."""
    validated = _read("plan", document)
    return to_plan(validated), validated
