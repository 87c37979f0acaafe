"""A form proposed from the columns of a CSV file (RFC 4180): types, choices, ranges, blanks."""

import csv
import io
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date
from typing import Any

from pydantic import TypeAdapter

from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.formats import NAMED_FORMATS, with_article
from thistlequartz.core.language import Declaration
from thistlequartz.core.ruleset import (
    Field,
    FormatRule,
    MandatoryRule,
    RangeRule,
    Rule,
    UniqueRule,
)
from thistlequartz.core.translation import tr, tr_count
from thistlequartz.core.types import FieldType, read_value, show_value
from thistlequartz.core.values import Fault, Value, to_json
from thistlequartz.core.values.durations import DURATION_UNITS

from .keys import drawn_key

MAX_COLUMNS = 500
MAX_ROWS = 200_000
_DELIMITERS = ",;\t|"
_SAMPLES = 4
_MOST_CHOICES = 15
"""Different values that still look like a list of choices."""
_ROWS_A_CHOICE = 3
"""So often, on average, must each of them stand in the file."""
_ENOUGH_FOR_UNIQUE = 10
"""Filled rows from which on differing values look like meant to differ."""
_WAYS_OF_YES_AND_NO = 4
_MOST_DECIMALS = 20
_LONG = 100
"""Characters beyond which a text is a long one."""
_FORMATS = ("email", "url", "orcid", "doi", "isbn", "issn", "iban", "uuid")
_HARD = {"entry": "warn", "save": "warn", "submit": "block"}
_STOPPING = {"save": "block", "submit": "block"}
_MILD = {"entry": "note", "save": "note", "submit": "warn"}
_FIELD: TypeAdapter[Field] = TypeAdapter(Field)


class ProfileError(ValueError):
    """The file cannot be profiled; the message says why and how to correct it."""


@dataclass(frozen=True, slots=True)
class ProposedRule:
    """A rule that the values of a column suggest, and what suggests it."""

    rule: Rule
    because: str


@dataclass(frozen=True, slots=True)
class ColumnProfile:
    """One column: what stands in it, and the field and rules proposed for it."""

    heading: str
    filled: int
    blank: int
    different: int
    samples: tuple[str, ...]
    field: Field
    because: str
    rules: tuple[ProposedRule, ...]


@dataclass(frozen=True, slots=True)
class Profile:
    """What a file holds."""

    rows: int
    repeated_rows: int
    columns: tuple[ColumnProfile, ...]


def profile(text: str) -> Profile:
    """The profile of a CSV file with a line of headings. Raises ProfileError."""
    rows = _rows(text)
    headings, body = rows[0], rows[1:]
    keys: set[str] = set()
    rule_keys: set[str] = set()
    columns = []
    for place, heading in enumerate(headings):
        label = heading.strip() or tr("Column {place}", place=place + 1)
        key = drawn_key(label, keys, "field")
        keys.add(key)
        values = [row[place].strip() for row in body]
        columns.append(_column(label[:MAX_LABEL], key, values, rule_keys))
    repeated = len(body) - len(set(map(tuple, body)))
    return Profile(len(body), repeated, tuple(columns))


def _rows(text: str) -> list[list[str]]:
    text = text.removeprefix("\ufeff")
    if not text.strip():
        raise ProfileError(
            tr("The file is empty: choose one with a line of headings and some rows.")
        )
    if "\0" in text or any("\ud800" <= character <= "\udfff" for character in text):
        raise ProfileError(tr("This is no text file: save the table as CSV and choose that."))
    first = text.split("\n", 1)[0]
    delimiter = max(_DELIMITERS, key=first.count)
    try:
        reader = csv.reader(io.StringIO(text, newline=""), delimiter=delimiter, strict=True)
        rows = [row for row in reader if any(cell.strip() for cell in row)]
    except csv.Error as error:
        said = tr("Line {line} cannot be read ({error}).", line=reader.line_num, error=error)
        raise ProfileError(
            tr("{problem} Close its quotation marks, and try again.", problem=said)
        ) from None
    if len(rows) < 2:
        raise ProfileError(
            tr("There are headings only: choose a file with at least one row of data.")
        )
    if len(rows[0]) > MAX_COLUMNS:
        raise ProfileError(
            tr("The file has over {max_columns} columns: leave some out.", max_columns=MAX_COLUMNS)
        )
    if len(rows) > MAX_ROWS + 1:
        raise ProfileError(
            tr("The file has over {max_rows:,} rows: a part of them is enough.", max_rows=MAX_ROWS)
        )
    for number, row in enumerate(rows[1:], 2):
        if len(row) != len(rows[0]):
            said = tr_count(
                "Row {number} has {count} cell, and the number of headings is {headings}.",
                "Row {number} has {count} cells, and the number of headings is {headings}.",
                len(row),
                number=number,
                headings=len(rows[0]),
            )
            raise ProfileError(
                tr(
                    "{problem} Correct that row, or quote cells that hold a “{delimiter}”.",
                    problem=said,
                    delimiter=delimiter,
                )
            )
    return rows


def _column(label: str, key: str, values: Sequence[str], rule_keys: set[str]) -> ColumnProfile:
    filled = [value for value in values if value]
    counts = Counter(filled)
    field, because = _field(label, key, counts)
    column = _Column(label, field, filled, counts, len(values), rule_keys)
    return ColumnProfile(
        heading=label,
        filled=len(filled),
        blank=len(values) - len(filled),
        different=len(counts),
        samples=tuple(value for value, _ in counts.most_common(_SAMPLES)),
        field=field,
        because=because,
        rules=tuple(column.rules()),
    )


def _field(label: str, key: str, counts: Counter[str]) -> tuple[Field, str]:
    """The field that holds every value, the narrowest that does."""
    base = {"key": key, "label": label}
    if not counts:
        return _FIELD.validate_python({**base, "type": "text"}), tr("The column is blank.")
    for settings, said in _candidates(counts):
        field = _FIELD.validate_python({**base, **settings})
        if all(_reads(value, field) for value in counts):
            return field, said
    total = sum(counts.values())
    few = len(counts) <= _MOST_CHOICES and total >= _ROWS_A_CHOICE * len(counts)
    if few and all(len(value) <= 80 for value in counts):
        choices: list[dict[str, str]] = []
        for value in sorted(counts):
            taken = [choice["code"] for choice in choices]
            choices.append({"code": drawn_key(value, taken, "choice"), "label": value})
        said = tr_count(
            "{count} different value in {total:,} rows.",
            "{count} different values in {total:,} rows.",
            len(counts),
            total=total,
        )
        return _FIELD.validate_python({**base, "type": "choice", "choices": choices}), said
    longest = max(map(len, counts))
    long = longest > _LONG or any("\n" in value for value in counts)
    said = tr("Texts of up to {longest} characters.", longest=longest)
    return _FIELD.validate_python({**base, "type": "text", "long": long}), said


def _candidates(counts: Counter[str]) -> list[tuple[dict[str, Any], str]]:
    """Types with their settings, narrowest first, each with what is said of it."""
    marks = (None, "point", "comma")
    orders = (None, "day_first", "month_first", "year_first")
    found: list[tuple[dict[str, Any], str]] = []
    if len(counts) <= _WAYS_OF_YES_AND_NO:
        found.append(({"type": "yes_no"}, tr("Every value is yes or no.")))
    if not any(value.isdigit() and value.startswith("0") and value != "0" for value in counts):
        said = tr("Every value is a whole number.")
        found += [({"type": "whole_number", "decimal_mark": mark}, said) for mark in marks]
        scale = max(len(value.replace(",", ".").rpartition(".")[2]) for value in counts)
        settings = {"type": "decimal", "scale": min(scale, _MOST_DECIMALS)}
        said = tr("Every value is a number.")
        found += [({**settings, "decimal_mark": mark}, said) for mark in marks]
    found += [({"type": "date", "date_order": one}, tr("Every value is a date.")) for one in orders]
    found.append(({"type": "time"}, tr("Every value is a time of day.")))
    said = tr("Every value is a date with a time.")
    found += [({"type": "date_time", "date_order": one}, said) for one in orders]
    said = tr("Every value is a duration.")
    return [*found, *(({"type": "duration", "finest": one}, said) for one in DURATION_UNITS)]


def _reads(value: str, field: Field) -> bool:
    read = read_value(value, field.value_type("UTC"), field.reading_settings())
    return read is not None and not isinstance(read, Fault)


@dataclass(frozen=True, slots=True)
class _Column:
    label: str
    field: Field
    filled: Sequence[str]
    counts: Counter[str]
    rows: int
    rule_keys: set[str]

    def rules(self) -> list[ProposedRule]:
        if not self.filled:
            return []
        found = [self._mandatory(), self._range(), self._format(), self._unique()]
        return [one for one in found if one]

    @property
    def _type(self) -> FieldType:
        return self.field.value_type("UTC")

    def _is_identifying(self) -> bool:
        """Whether people tell records apart by such values: texts and whole numbers."""
        domain = self._type.domain(date.min)
        number = domain is not None and domain.marked == "numbers" and domain.counted
        return self._type.is_free_text or number

    def _rule(self, document: type[Rule], name: str, because: str, **settings: Any) -> ProposedRule:
        name = name[:MAX_LABEL]
        key = drawn_key(name, self.rule_keys, "rule")
        self.rule_keys.add(key)
        rule = document(key=key, name=name, targets=[self.field.key], **settings)
        return ProposedRule(rule, because)

    def _mandatory(self) -> ProposedRule | None:
        if len(self.filled) < self.rows:
            return None
        because = tr("It is filled in all {rows:,} rows.", rows=self.rows)
        severity = {"entry": "none", "save": "warn", "submit": "block"}
        return self._rule(
            MandatoryRule, tr("{label} is required", label=self.label), because, severity=severity
        )

    def _range(self) -> ProposedRule | None:
        if not self._type.is_ordered:
            return None
        declared = Declaration(
            self.label, self.field.value_type("UTC"), self.field.reading_settings()
        )
        values: list[Value] = []
        for text in self.counts:
            value = read_value(text, declared.type, declared.settings)
            assert value is not None
            assert not isinstance(value, Fault)
            values.append(value)
        low, high = min(values), max(values)
        if low == high:
            return None
        shown = [show_value(one, declared.type) for one in (low, high)]
        because = tr(
            "The values go from {lowest} to {highest}. Widen the bounds to what can be.",
            lowest=shown[0],
            highest=shown[1],
        )
        return self._rule(
            RangeRule,
            tr("{label} within what was seen", label=self.label),
            because,
            lower={"value": to_json(low)},
            upper={"value": to_json(high)},
            severity=_MILD,
        )

    def _format(self) -> ProposedRule | None:
        if not self._type.is_free_text:
            return None
        for key in _FORMATS:
            named = NAMED_FORMATS[key]
            if all(named.why_not(value, None) is None for value in self.counts):
                because = tr("Every value is {format}.", format=with_article(named.label))
                name = tr(
                    "{label} is written as {format}",
                    label=self.label,
                    format=with_article(named.label),
                )
                return self._rule(FormatRule, name, because, format=key, severity=_HARD)
        return None

    def _unique(self) -> ProposedRule | None:
        distinct = len(self.counts) == len(self.filled) >= _ENOUGH_FOR_UNIQUE
        if not distinct or not self._is_identifying():
            return None
        because = tr("No value stands twice among {count:,}.", count=len(self.filled))
        name = tr("{label} stands once only", label=self.label)
        return self._rule(UniqueRule, name, because, severity=_STOPPING)
