"""The core for pipelines and terminals.

`thistlequartz judge RULESET RECORDS --moment save` judges records; `thistlequartz cases RULESET
CASES --junit REPORT` runs cases, so that a pipeline can hold a release to them; `thistlequartz
findings RULESET` tells what is wrong with the rules themselves, as text, JSON or SARIF.
"""

import argparse
import json
import os
import re
import sys
from collections.abc import Iterator
from datetime import UTC, date, datetime
from pathlib import Path
from typing import Any, get_args
from urllib.parse import quote

from pydantic import TypeAdapter, ValidationError
from pydantic_core import ErrorDetails

from thistlequartz.core.documents import shape_errors
from thistlequartz.core.judging import (
    Circumstances,
    CompiledForm,
    KnownRecords,
    Verdict,
    all_problems,
    compile_ruleset,
)
from thistlequartz.core.language import nearest
from thistlequartz.core.ruleset import Case, EntryPoint, RuleSet
from thistlequartz.core.translation import tr, tr_count
from thistlequartz.core.values import BrokenCsv, BrokenJson, read_csv, read_json, to_json

from .core.cases.files import CaseFileError, cases_from_csv, cases_from_json
from .core.cases.junit_report import junit_report
from .core.cases.observing import noon_of
from .core.cases.running import Runner
from .core.findings import TITLES, Finding, Findings, grouped, told_together
from .core.findings.sarif import LineOf, sarif_log
from .workers.findings import FindingsProcess, FindingsTask

_FINDINGS: TypeAdapter[Findings] = TypeAdapter(Findings)
ALL_PASS, SOME_FAIL, UNUSABLE = 0, 1, 2
"""Exit codes."""
MOST_TOLD = 50
"""Problems of one document."""
_STATE_WORDS = {"passes": tr("passes"), "fails": tr("fails"), "cannot_run": tr("cannot be run")}


class UnusableInputError(ValueError):
    """A file that cannot be used; the message names the file, the row and the column."""


def main(arguments: list[str] | None = None) -> int:
    """Run one command. Gives the exit code: 0 all pass or agree, 1 some do not, 2 unusable."""
    options = _options(arguments)
    try:
        if options.command == "findings":
            return _findings(options)
        run = {"judge": _judge, "cases": _cases}[options.command]
        return run(options, _compiled(options.ruleset, options.form))
    except UnusableInputError as trouble:
        print(trouble, file=sys.stderr)
        return UNUSABLE


def _judge(options: argparse.Namespace, compiled: CompiledForm) -> int:
    records = list(_records(options.records))
    before = _stored_before(options, compiled, len(records))
    now = _now(compiled, options.today)
    known = KnownRecords(
        compiled,
        [values for _, values in records],
        Circumstances(
            compiled.today_at(now), now, options.event, options.entry_point, None, options.role
        ),
        before,
    )
    blocked = 0
    for position, (place, values) in enumerate(records):
        _refuse_unknown(compiled, options.records, place, values)
        verdict = compiled.judge(
            values,
            moment=options.moment,
            event=options.event,
            entry_point=options.entry_point,
            role=options.role,
            stored=before[position] if before else None,
            today=compiled.today_at(now),
            now=now,
            lookup=known.seen_by(position),
        )
        blocked += not verdict.may_pass
        print(_as_json(place, verdict) if options.json else _as_text(place, verdict))
    return SOME_FAIL if blocked else ALL_PASS


def _cases(options: argparse.Namespace, compiled: CompiledForm) -> int:
    cases = _kept_cases(options.cases, compiled)
    _refuse_unwritable(options.junit)
    runs = list(Runner(compiled).run_all(cases))
    for case, run in zip(cases, runs, strict=True):
        print(f"{_STATE_WORDS[run.state]}: {case.name}")
        for told in run.differences:
            print(f"    {told}")
    passing = sum(run.state == "passes" for run in runs)
    print(
        tr_count(
            "{passing} of {count} case passes.",
            "{passing} of {count} cases pass.",
            len(runs),
            passing=passing,
        )
    )
    if options.junit is not None:
        _write(options.junit, junit_report(compiled.form, cases, runs))
    return ALL_PASS if passing == len(runs) else SOME_FAIL


def _findings(options: argparse.Namespace) -> int:
    path = options.ruleset
    ruleset = _ruleset(path)
    keys = [options.form] if options.form else [one.key for one in ruleset.forms]
    compiled = {key: _form_of(path, ruleset, key) for key in keys}
    _refuse_unwritable(options.sarif)
    finder, found = FindingsProcess(), {}
    try:
        for key, form in compiled.items():
            today = options.today or form.today_at(datetime.now(UTC))
            found[key] = told_together(finder.find(FindingsTask(ruleset, key, today)))
    finally:
        finder.end()
    if options.json:
        told = {key: _FINDINGS.dump_python(one, mode="json") for key, one in found.items()}
        print(json.dumps(told, ensure_ascii=False))
    else:
        for key, one in found.items():
            _tell_findings(compiled[key].form.name, one)
    if options.sarif is not None:
        log = sarif_log(
            {key: one.found for key, one in found.items()},
            quote(path.as_posix()),
            _lines_of(_text_of(path)),
            {key: one.failures for key, one in found.items()},
        )
        _write(options.sarif, json.dumps(log, ensure_ascii=False, indent=1))
    if any(one.failures for one in found.values()):
        return UNUSABLE
    failing = ("wrong",) if options.fail_on == "wrong" else ("wrong", "doubtful")
    grave = any(one.gravity in failing for some in found.values() for one in some.found)
    return SOME_FAIL if grave else ALL_PASS


def _tell_findings(name: str, findings: Findings) -> None:
    for group in grouped(findings.found):
        one = group.finding
        print(f"{one.gravity} ({one.code}): {one.says} {one.how}")
        for other in group.beneath:
            print(f"  of the same cause ({other.code}): {other.says}")
    for code, why in findings.failures.items():
        print(
            tr(
                "{code} failed: the search for {titles} did not end: {why}",
                code=code,
                titles=TITLES[code],
                why=why,
            ),
            file=sys.stderr,
        )
    for open_ in findings.undecided:
        print(
            tr(
                "not decided ({code}): {rules}: {why}.",
                code=open_.code,
                rules=", ".join(open_.rules),
                why=open_.why,
            )
        )
    print(
        tr(
            "{name}: {count} found, {absent} proved absent, {undecided} not decided.",
            name=name,
            count=len(findings.found),
            absent=sum(findings.absent.values()),
            undecided=len(findings.undecided),
        )
    )


def _lines_of(text: str) -> LineOf:
    """Where rules and fields begin in a RuleSet, by the line of their keys."""

    def line_of(form: str, finding: Finding) -> int:
        start = _key_at(text, form, 0)
        about = (*finding.rules, *finding.fields)
        return text.count("\n", 0, _key_at(text, about[0], start) if about else start) + 1

    return line_of


def _key_at(text: str, key: str, start: int) -> int:
    found = re.compile(rf'"key"\s*:\s*"{re.escape(key)}"').search(text, start)
    return found.start() if found else start


def _refuse_unwritable(report: Path | None) -> None:
    """Before the work of which it tells, and without touching it."""
    if report is None:
        return
    if report.is_dir() or not os.access(report if report.exists() else report.parent, os.W_OK):
        raise UnusableInputError(
            tr(
                "{report} cannot be written. Name a file in a folder that is there and that you "
                "may write to.",
                report=report,
            )
        )


def _write(path: Path, text: str) -> None:
    try:
        path.write_text(text, encoding="utf-8")
    except OSError as error:
        raise UnusableInputError(f"{path}: {error.strerror}.") from None


def _kept_cases(path: Path, compiled: CompiledForm) -> tuple[Case, ...]:
    readers = {".json": cases_from_json, ".csv": cases_from_csv}
    reader = readers.get(path.suffix.lower())
    if reader is None:
        raise UnusableInputError(
            tr("{path}: “{suffix}” is not known. Use .json or .csv.", path=path, suffix=path.suffix)
        )
    try:
        return reader(_text_of(path), compiled)
    except CaseFileError as trouble:
        told = (
            tr(
                "{path}, {where}: {problem} {remedy}",
                path=path,
                where=where,
                problem=said,
                remedy=remedy,
            )
            for where, said, remedy in trouble.problems
        )
        raise UnusableInputError("\n".join(told)) from None


def _options(arguments: list[str] | None) -> argparse.Namespace:
    parser = argparse.ArgumentParser(prog="thistlequartz")
    commands = parser.add_subparsers(dest="command", required=True)
    judge = commands.add_parser("judge", help=tr("the verdict for each record of a file"))
    judge.add_argument("ruleset", type=Path, help=tr("a RuleSet as JSON"))
    judge.add_argument("records", type=Path, help=tr("records as .json, .jsonl or .csv"))
    judge.add_argument("--moment", choices=("save", "submit"), required=True)
    judge.add_argument("--form", help=tr("the form's key, where the RuleSet has several"))
    judge.add_argument(
        "--event",
        choices=("create", "update"),
        default="create",
        help=tr("whether the records are new or changed; changed ones come with --stored"),
    )
    judge.add_argument(
        "--stored",
        type=Path,
        help=tr("what the records held before, one for each, in the same order (canonical values)"),
    )
    judge.add_argument(
        "--entry-point",
        choices=get_args(EntryPoint),
        default="service",
        help=tr("the way they come in, for rules that count at some only (otherwise service)"),
    )
    judge.add_argument(
        "--role", help=tr("of whoever sends them, for rules that count for some only")
    )
    judge.add_argument("--today", type=date.fromisoformat, help=tr("judge as of noon on this day"))
    judge.add_argument("--json", action="store_true", help=tr("one JSON object a line"))
    cases = commands.add_parser("cases", help=tr("run the cases of a form"))
    cases.add_argument("ruleset", type=Path, help=tr("a RuleSet as JSON"))
    cases.add_argument("cases", type=Path, help=tr("cases as .json or .csv"))
    cases.add_argument("--form", help=tr("the form's key, where the RuleSet has several"))
    cases.add_argument("--junit", type=Path, help=tr("where to write a JUnit XML report"))
    findings = commands.add_parser("findings", help=tr("what is wrong with the rules themselves"))
    findings.add_argument("ruleset", type=Path, help=tr("a RuleSet as JSON"))
    findings.add_argument("--form", help=tr("the form's key; without it every form is looked at"))
    findings.add_argument("--today", type=date.fromisoformat, help=tr("as of this day"))
    findings.add_argument("--json", action="store_true", help=tr("one JSON object"))
    findings.add_argument("--sarif", type=Path, help=tr("where to write a SARIF 2.1.0 log"))
    findings.add_argument(
        "--fail-on",
        choices=("wrong", "doubtful"),
        default="wrong",
        help=tr("from which gravity on the exit code is 1 (otherwise wrong)"),
    )
    return parser.parse_args(arguments)


def _now(compiled: CompiledForm, today: date | None) -> datetime:
    """This moment, or noon of `today` where the form is at home."""
    if today is None:
        return datetime.now(UTC)
    return noon_of(today, compiled)


def _text_of(path: Path) -> str:
    try:
        return path.read_text(encoding="utf-8-sig")
    except OSError as error:
        raise UnusableInputError(
            tr("{path}: {reason}. Check the name.", path=path, reason=error.strerror)
        ) from None
    except UnicodeDecodeError as error:
        raise UnusableInputError(
            tr(
                "{path}: byte {start} is not UTF-8. Save the file as UTF-8.",
                path=path,
                start=error.start + 1,
            )
        ) from None


def _json_of(path: Path, text: str, row: int | None = None) -> Any:
    try:
        return read_json(text)
    except BrokenJson as broken:
        where = tr(", {place}", place=broken.place) if broken.place else ""
        if row or broken.line:
            column = tr(", column {column}", column=broken.column) if broken.column else where
            where = tr(", row {row}{column}", row=row or broken.line, column=column)
        raise UnusableInputError(
            tr(
                "{path}{where}: {message} Correct the JSON there.",
                path=path,
                where=where,
                message=broken.message,
            )
        ) from None


def _ruleset(path: Path) -> RuleSet:
    try:
        return RuleSet.model_validate(_json_of(path, _text_of(path)))
    except ValidationError as error:
        told = dict.fromkeys(_shape_problem(path, one) for one in shape_errors(error)[:MOST_TOLD])
        raise UnusableInputError("\n".join(told)) from None


def _compiled(path: Path, form: str | None) -> CompiledForm:
    ruleset = _ruleset(path)
    keys = [one.key for one in ruleset.forms]
    if form is None and len(keys) > 1:
        raise UnusableInputError(
            tr("{path}: say which form with --form: {keys}.", path=path, keys=", ".join(keys))
        )
    return _form_of(path, ruleset, form or keys[0])


def _form_of(path: Path, ruleset: RuleSet, form: str) -> CompiledForm:
    keys = [one.key for one in ruleset.forms]
    if form not in keys:
        raise UnusableInputError(
            tr(
                "{path}: there is no form “{form}”; here: {keys}.",
                path=path,
                form=form,
                keys=", ".join(keys),
            )
        )
    compiled = compile_ruleset(ruleset, form=form)
    problems = [
        tr(
            "{path}, {place}: {message} {remedy}",
            path=path,
            place=one.place,
            message=one.message,
            remedy=one.remedy,
        )
        for one in all_problems(compiled)
    ]
    if problems:
        raise UnusableInputError("\n".join(problems))
    return compiled


def _shape_problem(path: Path, error: ErrorDetails) -> str:
    place = ".".join(str(part) for part in error["loc"]) or tr("the document")
    if error["type"] == "extra_forbidden":
        return tr(
            "{path}, {place}: Nothing of this name is known here. Remove it.",
            path=path,
            place=place,
        )
    said = error["msg"].removeprefix("Value error, ").rstrip(".")
    return tr("{path}, {place}: {problem}.", path=path, place=place, problem=said)


def _stored_before(
    options: argparse.Namespace, compiled: CompiledForm, count: int
) -> list[dict[str, object]]:
    """What each record held before; empty for new records."""
    if (options.event == "update") != (options.stored is not None):
        raise UnusableInputError(
            tr(
                "Changed records need what they held before: give --event update and --stored "
                "together."
            )
        )
    if options.stored is None:
        return []
    before = list(_records(options.stored))
    if len(before) != count:
        raise UnusableInputError(
            tr(
                "{stored}: the number of its records is {count}, where {judged} are judged. Give "
                "one for each, in the same order.",
                stored=options.stored,
                count=len(before),
                judged=count,
            )
        )
    for place, values in before:
        _refuse_unknown(compiled, options.stored, place, values)
    return [values for _, values in before]


def _records(path: Path) -> Iterator[tuple[int, dict[str, object]]]:
    """Each record with its row, counted from 1 as an editor shows it."""
    text = _text_of(path)
    match path.suffix.lower():
        case ".csv":
            yield from _csv_records(path, text)
        case ".jsonl":
            for row, line in enumerate(text.splitlines(), 1):
                if line.strip():
                    yield row, _object(path, row, _json_of(path, line, row))
        case ".json":
            records = _json_of(path, text)
            listed = records if isinstance(records, list) else [records]
            for number, record in enumerate(listed, 1):
                yield number, _object(path, number, record)
        case other:
            raise UnusableInputError(
                tr(
                    "{path}: “{other}” is not known. Use .json, .jsonl or .csv.",
                    path=path,
                    other=other,
                )
            )


def _csv_records(path: Path, text: str) -> Iterator[tuple[int, dict[str, object]]]:
    try:
        _, rows = read_csv(text)
        for line, row in rows:
            yield line, dict(row)
    except BrokenCsv as broken:
        raise UnusableInputError(f"{path}, {broken}") from None


def _object(path: Path, row: int, record: Any) -> dict[str, object]:
    if not isinstance(record, dict):
        raise UnusableInputError(
            tr("{path}, row {row}: a record is an object of names and values.", path=path, row=row)
        )
    return record


def _refuse_unknown(
    compiled: CompiledForm, path: Path, row: int, values: dict[str, object]
) -> None:
    for key in values:
        if key not in compiled.entries:
            near = nearest(key, compiled.entries)
            remedy = tr("Did you mean “{near}”?", near=near) if near else tr("Remove it.")
            raise UnusableInputError(
                tr(
                    "{path}, row {row}, column “{key}”: the form has no such field. {remedy}",
                    path=path,
                    row=row,
                    key=key,
                    remedy=remedy,
                )
            )


def _told(verdict: Verdict) -> list[tuple[str, str | None, tuple[str, ...], str]]:
    """What stands against a record: severity, the rule (none for a value that cannot be read), the
    fields it is about, and the message.
    """
    faults = [
        ("block", None, (key,), state.fault) for key, state in verdict.fields.items() if state.fault
    ]
    return faults + [
        (result.severity, result.rule, message.fields, message.text)
        for result in verdict.violated
        for message in result.messages
    ]


def _as_text(row: int, verdict: Verdict) -> str:
    lines = [f"{row}: {verdict.outcome}"]
    lines += [
        f"    {severity}  {', '.join(about)}: {text}" for severity, _, about, text in _told(verdict)
    ]
    return "\n".join(lines)


def _as_json(row: int, verdict: Verdict) -> str:
    """One object a line; its names are documented in docs/rules.md."""
    body = {
        "row": row,
        "outcome": verdict.outcome,
        "may_pass": verdict.may_pass,
        "on_hold": verdict.on_hold,
        "held_by": list(verdict.held_by),
        "told": [
            {"severity": severity, "rule": rule, "fields": list(about), "message": text}
            for severity, rule, about, text in _told(verdict)
        ],
        "rules": {
            result.rule: {
                "status": result.status,
                "severity": result.severity,
                "reason": result.reason,
            }
            for result in verdict.results
        },
        "fields": {
            key: {
                "relevant": state.relevant,
                "read_only": state.read_only,
                "waiting": state.waiting,
                "fault": state.fault,
            }
            for key, state in verdict.fields.items()
        },
        "ignored": dict(verdict.ignored),
        "proposals": [
            {
                "rule": one.rule,
                "title": one.title,
                "state": one.state,
                "values": {key: to_json(value) for key, value in one.values.items()},
            }
            for one in verdict.proposals
        ],
        "stores": {key: to_json(value) for key, value in (verdict.stores or {}).items()},
    }
    return json.dumps(body, ensure_ascii=False)
