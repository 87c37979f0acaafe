"""Values: the tools by which types read, show, order and write them."""

from .fault import Fault, quoted
from .instants import ZoneOffset, at_clock, in_zone, moved
from .numbers import ARITHMETIC
from .ordering import LONGEST_ORDER_KEY, is_cut, order_key
from .reading_settings import (
    PLAIN,
    DateOrder,
    DecimalMark,
    LetterCase,
    ReadingSettings,
    folded,
    normalised,
)
from .showing import (
    USUAL,
    DateStyle,
    NumberStyle,
    WritingStyle,
    show_length,
    to_entry,
    to_json,
)
from .strict_csv import CSV_MARK, BrokenCsv, csv_line, guarded, read_csv, read_csv_rows
from .strict_json import BrokenJson, read_json
from .temporal import (
    Months,
    read_date,
    read_date_time,
    read_duration,
    read_time,
    write_date_time,
    write_duration,
    write_time,
)
from .value import Reading, Stored, Value

__all__ = [
    "ARITHMETIC",
    "CSV_MARK",
    "LONGEST_ORDER_KEY",
    "PLAIN",
    "USUAL",
    "BrokenCsv",
    "BrokenJson",
    "DateOrder",
    "DateStyle",
    "DecimalMark",
    "Fault",
    "LetterCase",
    "Months",
    "NumberStyle",
    "Reading",
    "ReadingSettings",
    "Stored",
    "Value",
    "WritingStyle",
    "ZoneOffset",
    "at_clock",
    "csv_line",
    "folded",
    "guarded",
    "in_zone",
    "is_cut",
    "moved",
    "normalised",
    "order_key",
    "quoted",
    "read_csv",
    "read_csv_rows",
    "read_date",
    "read_date_time",
    "read_duration",
    "read_json",
    "read_time",
    "show_length",
    "to_entry",
    "to_json",
    "write_date_time",
    "write_duration",
    "write_time",
]
