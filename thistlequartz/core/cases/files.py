"""Cases as files: JSON carries everything; CSV one case a row, with a column for each field.

In CSV the columns of a case stand first (`name`, `suite`, `why`, `as_of`, `event`, `entry_point`,
`layout`, `role`, `expected_save`, `expected_submit`, `expected_violated`, and `other_records` as
JSON), then `stored.key` for what a record held before, and the fields by key. Several rules or
choices are separated by semicolons. An outcome left blank, or `*` for the violated rules, is not
checked. CSV has no columns for proposals applied, states, computed and stored values, faults and
statuses: they are left out when writing, and not checked after reading.
"""

import csv
import io
import json
from collections.abc import Mapping, Sequence
from typing import Any

from pydantic import TypeAdapter, ValidationError

from thistlequartz.core.authoring import drawn_key
from thistlequartz.core.documents import shape_errors
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import nearest
from thistlequartz.core.ruleset import Case, CaseFile, OtherRecord
from thistlequartz.core.translation import tr
from thistlequartz.core.values import BrokenCsv, BrokenJson, guarded, read_csv, read_json

_ABOUT = ("key", "name", "suite", "why")
_CIRCUMSTANCES = ("as_of", "event", "entry_point", "layout", "role")
_EXPECTED = ("expected_save", "expected_submit", "expected_violated")
_EARLIER_HEADS = {"expected_broken": "expected_violated"}
"""Heads of files that were written in format 1."""
_OTHERS = "other_records"
_HEADS = (*_ABOUT, *_CIRCUMSTANCES, *_EXPECTED, _OTHERS)
_RECORDS = TypeAdapter(tuple[OtherRecord, ...])
_STORED = "stored."
_PARTING = ";"
_WHICHEVER = "*"
"""In the place of violated rules: which are violated is not looked at."""
_LONGEST_SHOWN = 60


class CaseFileError(ValueError):
    """Case file that cannot be used. Each problem says where, what is wrong and a remedy."""

    def __init__(self, problems: Sequence[tuple[str, str, str]]) -> None:
        self.problems = tuple(problems)
        where, message, remedy = self.problems[0]
        super().__init__(f"{where}: {message} {remedy}")


def cases_to_json(form: str, cases: Sequence[Case]) -> str:
    """The cases of the form with the key `form` as a CaseFile."""
    document = CaseFile(form=form, cases=tuple(cases))
    return json.dumps(document.model_dump(mode="json"), indent=1, ensure_ascii=False) + "\n"


def cases_from_json(text: str, form: CompiledForm) -> tuple[Case, ...]:
    """Read the cases of a CaseFile.

    Raises CaseTrouble for what cannot be read, and for cases of another form. Unknown fields are
    told when a case runs, or by `refuse_unknown_fields`.
    """
    try:
        document = CaseFile.model_validate(read_json(text))
    except BrokenJson as broken:
        at = (
            tr("row {line}, column {column}", line=broken.line, column=broken.column)
            if broken.line
            else broken.place
        )
        where = at or tr("the document")
        raise CaseFileError([(where, broken.message, tr("Correct the JSON there."))]) from None
    except ValidationError as error:
        raise CaseFileError(_shape_problems(error)) from None
    if document.form != form.form.key:
        said = tr(
            "These are cases of “{form}”, not of “{key}”.", form=document.form, key=form.form.key
        )
        raise CaseFileError([("form", said, tr("Choose the file of this form."))])
    return document.cases


def refuse_unknown_fields(cases: Sequence[Case], form: CompiledForm) -> None:
    """Raise CaseTrouble where a case fills in a field that the form does not have."""
    for place, case in enumerate(cases):
        _refuse_unknown(f"cases.{place}.values", case.values, form)


def _shape_problems(error: ValidationError) -> list[tuple[str, str, str]]:
    return [
        (
            ".".join(str(part) for part in one["loc"]) or tr("the document"),
            tr("{message}.", message=one["msg"].removeprefix("Value error, ")).replace("..", "."),
            tr("Correct it there."),
        )
        for one in shape_errors(error)[:20]
    ]


def _refuse_unknown(where: str, names: Mapping[str, object], form: CompiledForm) -> None:
    problems = []
    for name in names:
        if name not in form.entries:
            near = nearest(name, form.entries)
            remedy = (
                tr("Did you mean “{near}”?", near=near)
                if near
                else tr("Remove it, or add the field first.")
            )
            message = tr("The form has no field “{name}”.", name=name[:_LONGEST_SHOWN])
            problems.append((f"{where}.{name[:_LONGEST_SHOWN]}", message, remedy))
    if problems:
        raise CaseFileError(problems)


def cases_to_csv(cases: Sequence[Case]) -> str:
    """One case a row."""
    fields = list(dict.fromkeys(key for case in cases for key in case.values))
    stored = list(dict.fromkeys(key for case in cases for key in case.circumstances.stored))
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow([*_HEADS, *(f"{_STORED}{key}" for key in stored), *fields])
    for case in cases:
        said, expected = case.circumstances, case.expected
        row: list[object] = [getattr(case, name) for name in _ABOUT]
        row += [getattr(said, name) for name in _CIRCUMSTANCES]
        row += [expected.save, expected.submit, _whichever(expected.violated)]
        row += [_RECORDS.dump_json(case.others).decode() if case.others else ""]
        row += [_cell(said.stored.get(key)) for key in stored]
        row += [_cell(case.values.get(key)) for key in fields]
        writer.writerow(["" if one is None else guarded(str(one)) for one in row])
    return out.getvalue()


def _whichever(violated: Sequence[str] | None) -> str:
    return _WHICHEVER if violated is None else _PARTING.join(violated)


def _cell(value: object) -> str:
    match value:
        case None:
            return ""
        case bool():
            return "yes" if value else "no"
        case list():
            return _PARTING.join(str(one) for one in value)
        case _:
            return str(value)


def cases_from_csv(text: str, form: CompiledForm) -> tuple[Case, ...]:
    """The cases of a CSV file. Raises CaseTrouble with the row and the column of each problem."""
    several = {key for key, one in form.fields.items() if one.type.holds_several}
    cases: list[Case] = []
    problems: list[tuple[str, str, str]] = []
    try:
        heads, rows = read_csv(text)
        _refuse_heads([_EARLIER_HEADS.get(one, one) for one in heads], form)
        for line, given in rows:
            row = {_EARLIER_HEADS.get(head, head): cell for head, cell in given.items()}
            try:
                cases.append(_case_of(row, several, {one.key for one in cases}))
            except ValidationError as error:
                found = _shape_problems(error)
                problems += [
                    (tr("row {line}, {place}", line=line, place=place), said, fix)
                    for place, said, fix in found
                ]
            except BrokenJson as broken:
                where = tr(
                    "row {line}, {others}, {place}", line=line, others=_OTHERS, place=broken.place
                ).removesuffix(", ")
                problems.append((where, broken.message, tr("Correct the JSON there.")))
    except BrokenCsv as broken:
        raise CaseFileError([(broken.place, broken.message, broken.remedy)]) from None
    if problems:
        raise CaseFileError(problems)
    return tuple(cases)


def _refuse_heads(heads: Sequence[str], form: CompiledForm) -> None:
    missing = [one for one in ("name", "as_of") if one not in heads]
    if missing:
        said = tr("There is no column “{missing}”.", missing=missing[0])
        raise CaseFileError(
            [("row 1", said, tr("Case file has {heads}.", heads=", ".join(_HEADS)))]
        )
    own = [one.removeprefix(_STORED) for one in heads if one not in _HEADS]
    _refuse_unknown("row 1, column", dict.fromkeys(own), form)


def _case_of(row: Mapping[str, str], several: set[str], taken: set[str]) -> Case:
    def entries(prefix: str) -> dict[str, Any]:
        found: dict[str, Any] = {}
        for head, cell in row.items():
            key = head.removeprefix(prefix)
            mine = head not in _HEADS and head.startswith(prefix)
            if mine and (prefix or not head.startswith(_STORED)) and cell.strip():
                parts = [one.strip() for one in cell.split(_PARTING)]
                found[key] = parts if key in several else cell
        return found

    def said(name: str) -> str | None:
        return row.get(name, "").strip() or None

    name = said("name")
    key = said("key") or drawn_key(name or "", taken, "case")
    circumstances = {one: said(one) for one in _CIRCUMSTANCES if said(one)}
    violated = said("expected_violated") or ""
    return Case.model_validate(
        {
            "key": key,
            "name": name,
            "suite": said("suite") or "",
            "why": said("why") or "",
            "circumstances": {**circumstances, "stored": entries(_STORED)},
            "values": entries(""),
            "others": _RECORDS.validate_python(read_json(said(_OTHERS) or "[]")),
            "expected": {
                "save": said("expected_save"),
                "submit": said("expected_submit"),
                "violated": None
                if violated == _WHICHEVER
                else tuple(one.strip() for one in violated.split(_PARTING) if one.strip()),
            },
        }
    )
