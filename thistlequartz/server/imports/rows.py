"""A row of a file as it would be entered at the desk, and why it is refused."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from typing import Any

from thistlequartz.core.engines.environment import again
from thistlequartz.core.judging import CompiledForm, Verdict, Waiver
from thistlequartz.core.language import Declaration
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.tables import FileKindName, TableRow, entered, sent, with_marks
from thistlequartz.core.translation import tr
from thistlequartz.core.values import Fault, ReadingSettings

from .plan import REASON, ImportPlan

AGAIN = again("")
"""How the names of second entries end."""


@dataclass(frozen=True, slots=True)
class RowFault:
    """Why a row is refused, at one of its columns; `head` is blank where it is about all of it."""

    head: str
    text: str


@dataclass(frozen=True, slots=True)
class RowEntry:
    """What a row says, as it would be entered."""

    values: Mapping[str, Any]
    faults: Mapping[str, RowFault] = field(default_factory=dict)
    """By entry: a cell that cannot be read. It stops a row only where the field is asked."""
    reasons: Mapping[str, Waiver] = field(default_factory=dict)


def field_of(entry: str) -> str:
    """The field of an entry: `email` of `email.again`."""
    return entry.removesuffix(AGAIN)


def entry_labels(form: CompiledForm) -> dict[str, str]:
    """Return the labels of the fields that can be entered, by key; not of derived ones."""
    derived = {key for one in form.rules if one.part == "deriving" for key in one.rule.targets}
    found = {
        key: one.label
        for key, one in form.fields.items()
        if not one.condition and key not in derived
    }
    twice = (key for key in form.entries if key.endswith(AGAIN))
    return {
        **found,
        **{key: f"{found.get(field_of(key), key)}, once more" for key in twice},
    }


class RowReader:
    """Reads rows by a plan."""

    def __init__(self, form: CompiledForm, kind: FileKindName, plan: ImportPlan) -> None:
        self._absent_is_unsaid = kind == "jsonl"
        self._canonical = kind == "jsonl" and not plan.as_typed
        self._entries: list[tuple[str, str, Declaration, ReadingSettings]] = []
        self._reasons: list[tuple[str, str]] = []
        self.heads: dict[str, str] = {}
        """By entry: the head of its column."""
        for head, target in plan.columns.items():
            if target.startswith(REASON):
                self._reasons.append((head, target.removeprefix(REASON)))
                continue
            declared = form.fields[field_of(target)]
            settings = with_marks(declared.settings, plan.marks)
            self._entries.append((head, target, declared, settings))
            self.heads[target] = head

    def read(self, row: TableRow) -> RowEntry:
        """What a row says; a cell that cannot be read is entered as it stands."""
        values: dict[str, Any] = {}
        faults: dict[str, RowFault] = {}
        for head, target, declared, settings in self._entries:
            if self._absent_is_unsaid and head not in row.cells:
                continue  # not supplied, so that it starts as it does
            cell = row.cells.get(head)
            read = sent(cell, declared) if self._canonical else entered(cell, declared, settings)
            if isinstance(read, Fault):
                faults[target] = RowFault(head, read.message)
                read = str(cell)
            values[target] = read
        reasons = {
            rule: Waiver(str(cell))
            for head, rule in self._reasons
            if (cell := row.cells.get(head)) is not None and str(cell).strip()
        }
        return RowEntry(values, faults, reasons)


def why_refused(
    form: CompiledForm,
    verdicts: Mapping[Moment, Verdict],
    heads: Mapping[str, str],
    faults: tuple[RowFault, ...],
) -> list[RowFault]:
    """Everything that stops a row, each thing once, at the column it is about."""
    faulty = {one.head for one in faults}
    said: dict[RowFault, None] = dict.fromkeys(faults)

    def say(key: str, text: str) -> None:
        head = heads.get(key) or form.fields[field_of(key)].label
        if head not in faulty:
            said[RowFault(head, text)] = None

    names = {one.key: one.name for one in form.form.rules}
    for verdict in verdicts.values():
        for one in verdict.obstacles():
            if not one.field:
                said[RowFault("", one.text)] = None
            elif one.result and one.lacks_reason:
                column = f"“Reason: {names[one.result.rule]}”"
                say(
                    one.field,
                    tr("{text} Give a reason in a column {column}.", text=one.text, column=column),
                )
            else:
                say(one.field, one.text)
    return list(said)
