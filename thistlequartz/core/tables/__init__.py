"""Records as tables: files of open formats read and written, and their columns as fields."""

from .cells import entered, sent
from .csv_table import ENCODINGS
from .file_kinds import KINDS, FileKind, FileKindName, kind_of
from .marks import FoundMarks, Marks, marks_of, with_marks
from .matching import BESIDE, REASON_FOR, REASONS, By, Column, columns_of
from .opening import open_table
from .table import (
    MAX_COLUMNS,
    MAX_ROWS,
    BrokenTable,
    Cell,
    FailedFormula,
    Table,
    TableRow,
    WrongEncoding,
)
from .writing import WrittenRow, written
from .xlsx_table import open_xlsx

__all__ = [
    "BESIDE",
    "ENCODINGS",
    "KINDS",
    "MAX_COLUMNS",
    "MAX_ROWS",
    "REASONS",
    "REASON_FOR",
    "BrokenTable",
    "By",
    "Cell",
    "Column",
    "FailedFormula",
    "FileKind",
    "FileKindName",
    "FoundMarks",
    "Marks",
    "Table",
    "TableRow",
    "WrittenRow",
    "WrongEncoding",
    "columns_of",
    "entered",
    "kind_of",
    "marks_of",
    "open_table",
    "open_xlsx",
    "sent",
    "with_marks",
    "written",
]
