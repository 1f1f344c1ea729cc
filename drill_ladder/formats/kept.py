"""How a value stands in a JSON column or a file: read once into a frozen value, written by one
writer.

One `Kept` a kind of document: it reads (with every check), reads what was checked when it was
stored, names all faults, and writes. Forms, files, the database and the command line share the
shapes and checks behind it.
"""

from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, Generic, TypeVar

from pydantic_core import SchemaValidator, ValidationError

from drill_ladder.core.errors import CoreError
from drill_ladder.formats.mistakes import Mistake, first_of_each_path, from_validation
from drill_ladder.formats.node import Node
from drill_ladder.formats.shapes import Shape

T = TypeVar("T")


@dataclass
class Kept(Generic[T]):
    """A kind of document. check: what its shape alone cannot tell; limits: what is too much to be
    stored.
    """

    shape: Shape
    to_value: Callable[[Any], T]
    write: Callable[[T], Any]
    check: Callable[[Node], None] | None = None
    limits: Callable[[Node], None] | None = None
    _reader: SchemaValidator | None = field(default=None, init=False, repr=False)

    @property
    def reader(self) -> SchemaValidator:
        """Made when it is first asked for: the command line asks for few."""
        if self._reader is None:
            self._reader = SchemaValidator(self.shape)
        return self._reader

    def read(self, document: Any) -> T:
        """The value, after every check. Raises CoreError with all faults."""
        validated, faults = self._validated(document)
        if faults:
            raise CoreError("; ".join(map(str, faults)))
        return self.to_value(validated)

    def read_stored(self, document: Any) -> T:
        """The value of a document that was checked when it was stored. Raises CoreError for a wrong
        shape.
        """
        try:
            return self.to_value(self.reader.validate_python(document))
        except ValidationError as error:
            faults = from_validation(error.errors(include_url=False, include_input=False))
            raise CoreError("; ".join(map(str, faults))) from None

    def faults(self, document: Any, stored: bool = False) -> list[str]:
        """Everything that is wrong with a document, one line each; stored: also what is too much to
        be kept.
        """
        found = self._validated(document)[1]
        if stored and self.limits is not None:
            node = Node(document, [])
            self.limits(node)
            found = first_of_each_path([*found, *node.faults])
        return [str(fault) for fault in found]

    def faults_of(self, value: T) -> list[str]:
        """Everything that is wrong with a value that was made elsewhere."""
        return self.faults(self.write(value))

    def _validated(self, document: Any) -> tuple[Any, list[Mistake]]:
        faults: list[Mistake] = []
        validated = None
        try:
            validated = self.reader.validate_python(document)
        except ValidationError as error:
            faults += from_validation(error.errors(include_url=False, include_input=False))
        if self.check is not None:
            self.check(Node(document, faults))
        return validated, first_of_each_path(faults)
