"""`./ladder core VERB < in.json > out.json`: the core alone, without Django or a database.

Exit 0 and JSON on standard output; bad input gives exit 2, one line per fault on standard error and
nothing else. With --lines one document a line, one answer a line.
"""

import json
import os
import sys
from typing import Any

from pydantic_core import SchemaValidator, ValidationError

from drill_ladder.core.errors import CoreError
from drill_ladder.formats.mistakes import Mistake, Mistakes, from_validation
from drill_ladder.formats.node import Node
from drill_ladder.formats.strict_json import read_json
from drill_ladder.formats.verbs import MODULES, Verb, load_verb

USAGE = (
    "usage: ladder core VERB [--lines] < in.json | ladder core schema VERB\n"
    f"verbs: {', '.join(MODULES)}"
)


def read_input(verb: Verb, data: bytes) -> dict[str, Any]:
    """The validated document of a verb. Raises Mistakes with everything that is wrong."""
    doc, faults = read_json(data)
    validated: Any = None
    try:
        validated = SchemaValidator(verb.INPUT).validate_python(doc)
    except ValidationError as error:
        faults += from_validation(error.errors(include_url=False, include_input=False))
    verb.check(Node(doc, faults))
    if faults:
        raise Mistakes(faults)
    return validated


def answer(name: str, data: bytes) -> dict[str, Any]:
    """The answer of a verb to a JSON document. Raises Mistakes."""
    verb = load_verb(name)
    document = read_input(verb, data)
    try:
        return verb.run(document)
    except CoreError as error:
        raise Mistakes([Mistake("$", str(error))]) from error


def schema(name: str) -> dict[str, Any]:
    """The JSON Schema of a verb's input."""
    from pydantic.json_schema import GenerateJsonSchema

    found = GenerateJsonSchema().generate(load_verb(name).INPUT, mode="validation")
    return {"$schema": GenerateJsonSchema.schema_dialect, "title": f"ladder core {name}", **found}


def main(arguments: list[str]) -> int:
    """Run one command; the exit code."""
    if len(arguments) == 2 and arguments[0] == "schema" and arguments[1] in MODULES:
        print(json.dumps(schema(arguments[1]), indent=2, sort_keys=True))
        return 0
    lines = len(arguments) == 2 and arguments[1] == "--lines"
    if not (len(arguments) == 1 or lines) or arguments[0] not in MODULES:
        print(USAGE, file=sys.stderr)
        return 2
    if lines:
        return _line_by_line(arguments[0])
    out = _keep_standard_output()
    try:
        text = json.dumps(
            answer(arguments[0], sys.stdin.buffer.read()), allow_nan=False, ensure_ascii=False
        )
    except Mistakes as faults:
        print("\n".join(faults.lines), file=sys.stderr)
        return 2
    with os.fdopen(out, "w", encoding="utf-8") as stream:
        stream.write(text + "\n")
    return 0


def _line_by_line(name: str) -> int:
    """One document a line in, one answer a line out; what is wrong with one stops no other."""
    out, bad = _keep_standard_output(), False
    with os.fdopen(out, "w", encoding="utf-8") as stream:
        for line in sys.stdin.buffer:
            if not line.strip():
                continue
            try:
                told = answer(name, line)
            except Mistakes as faults:
                told, bad = {"faults": faults.lines}, True
            stream.write(json.dumps(told, allow_nan=False, ensure_ascii=False) + "\n")
            stream.flush()
    return 2 if bad else 0


def _keep_standard_output() -> int:
    """Turn file descriptor 1 away (a solver may write to it) and return the real standard
    output.
    """
    sys.stdout.flush()
    real = os.dup(1)
    os.dup2(2, 1)
    return real


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
