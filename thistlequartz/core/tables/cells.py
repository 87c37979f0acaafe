"""What stands in a cell, as it would be entered in its field."""

from typing import TYPE_CHECKING

from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_canonical, read_value
from thistlequartz.core.values import Fault, ReadingSettings, Stored, to_entry

from .table import Cell, FailedFormula

if TYPE_CHECKING:  # a process that reads a file loads this package alone
    from thistlequartz.core.language import Declaration


def entered(cell: Cell, declared: "Declaration", settings: ReadingSettings) -> Stored | Fault:
    """Return a cell as it is entered in a field; None is blank.

    Read by `settings`, which may be the file's, and written so that the field reads the same.
    """
    if cell is None:
        return None
    if isinstance(cell, FailedFormula):
        return Fault(
            tr(
                "The formula of this cell failed ({cell}): correct it, or write the value.",
                cell=cell,
            )
        )
    if isinstance(cell, str) and settings == declared.settings:
        return cell  # the field reads it as it stands
    given = declared.type.from_cell(cell)
    read = read_value(given, declared.type, settings)
    return read if isinstance(read, Fault) else to_entry(read, declared.settings)


def sent(value: object, declared: "Declaration") -> Stored | Fault:
    """What another system sends in canonical form, as it is entered in a field."""
    read = read_canonical(value, declared.type, declared.settings)
    return read if isinstance(read, Fault) else to_entry(read, declared.settings)
