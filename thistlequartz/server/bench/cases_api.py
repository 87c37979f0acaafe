"""The cases of a draft."""

from typing import Annotated, Literal

from django.http import HttpRequest, HttpResponse
from ninja import Router, Status
from pydantic import Field as Setting

from thistlequartz.core.authoring import drawn_key
from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.entries_in_words import entries_in_words
from thistlequartz.core.cases.files import (
    CaseFileError,
    cases_from_csv,
    cases_from_json,
    cases_to_csv,
    cases_to_json,
    refuse_unknown_fields,
)
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.ruleset import Case
from thistlequartz.core.translation import tr
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.freshness import proof_fingerprint, rules_fingerprint
from thistlequartz.server.forms.models import DraftCase, DraftForm
from thistlequartz.server.jobs.models import JobState
from thistlequartz.server.jobs.services import newest
from thistlequartz.server.jobs.shapes import job_view
from thistlequartz.server.people.rights import Right, person_with
from thistlequartz.server.problems import ProblemItem, Refusal

from . import case_keeping as keeping
from . import case_runs as suite
from . import proving
from .case_shapes import (
    Acceptance,
    CaseCounts,
    CaseFileGiven,
    CaseRule,
    CaseTable,
    CaseVersions,
    CaseView,
    ChangedCase,
    DraftedCaseView,
    MutationsView,
    NewCase,
    NewCases,
    ProofView,
    RecordsGiven,
)
from .requests import bench_request

router = Router()
MOST_DRAFTED = 400


def _view(row: DraftCase, fingerprint: str, form: CompiledForm) -> CaseView:
    case = Case.model_validate(row.document)
    layout = case.circumstances.layout
    known = row.state if row.rules_fingerprint == fingerprint and row.state else "not_run"
    found = row.found if known != "not_run" and row.found else {}
    return CaseView(
        key=row.key,
        revision=row.revision,
        case=case,
        entries=entries_in_words(form, case.values, CaseRecords(form, case.others)),
        layout=form.layouts.get(layout, layout) if layout else "",
        state=known,
        told=found.get("told", []),
        save=found.get("save"),
        submit=found.get("submit"),
        violated=found.get("violated", []),
        statuses=found.get("statuses", []),
        changed_by=row.changed_by.shown_name if row.changed_by else None,
    )


def _view_now(row: DraftCase, draft: DraftForm) -> CaseView:
    return _view(row, rules_fingerprint(draft), compiled_draft(draft))


def _counts(draft: DraftForm) -> CaseCounts:
    job = suite.bring_up_to_date(draft) or suite.under_way(draft)
    return CaseCounts(**suite.counts(draft), job=job_view(job) if job else None)


@router.get("/forms/{form_key}/cases", response={200: CaseTable})
def list_cases(request: HttpRequest, form_key: str) -> HttpResponse:
    """The cases of a draft by its rules, with what came of them."""
    person_with(request, Right.USE_BENCH)
    draft = get_draft(form_key)
    job = suite.bring_up_to_date(draft) or suite.under_way(draft)
    form = compiled_draft(draft)
    effects = {one.rule.key for one in form.rules if one.is_effect}
    severities = {one.rule.key: one.severities for one in form.rules}
    fingerprint = rules_fingerprint(draft)
    table = CaseTable(
        rules=[
            CaseRule(
                key=rule.key,
                name=rule.name,
                effect=rule.key in effects,
                save=severities[rule.key]["save"] if rule.key in severities else "none",
                submit=severities[rule.key]["submit"] if rule.key in severities else "none",
            )
            for rule in form.form.rules
        ],
        cases=[
            _view(row, fingerprint, form) for row in draft.case_rows.select_related("changed_by")
        ],
        job=job_view(job) if job else None,
    )
    return HttpResponse(table.model_dump_json(), content_type="application/json")


@router.get("/forms/{form_key}/case-counts", response={200: CaseCounts})
def show_case_counts(request: HttpRequest, form_key: str) -> CaseCounts:
    """How the cases stand; those that are out of date are run by themselves."""
    person_with(request, Right.USE_BENCH)
    return _counts(get_draft(form_key))


@router.post("/forms/{form_key}/cases", response={201: CaseView})
def keep_try(request: HttpRequest, form_key: str, body: NewCase) -> Status[CaseView]:
    """Keep a try as a case. It expects what happens now, or what is said."""
    person = person_with(request, Right.EDIT_DRAFT)
    one = bench_request(person, form_key, body.request)
    case = keeping.case_of(one, _key(body.name, one.draft), body.name, body.suite, body.why)
    if body.expected is not None:
        case = case.model_copy(update={"expected": body.expected})
    row = keeping.keep_case(person, form_key, case)
    return Status(201, _view_now(row, get_draft(form_key)))


def _key(name: str, draft: DraftForm) -> str:
    taken = set(draft.case_rows.values_list("key", flat=True))
    return drawn_key(name, taken, "case")


@router.post("/forms/{form_key}/drafted-cases", response={201: list[str]})
def keep_several(request: HttpRequest, form_key: str, body: NewCases) -> Status[list[str]]:
    """Keep cases that were drafted; their keys are drawn from their names."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    taken = set(draft.case_rows.values_list("key", flat=True))
    cases = []
    for case in body.cases:
        key = drawn_key(case.name, taken, "case")
        taken.add(key)
        cases.append(case.model_copy(update={"key": key}))
    return Status(201, [row.key for row in keeping.keep_cases(person, form_key, cases)])


@router.post("/forms/{form_key}/record-cases", response={201: list[str]})
def keep_records(request: HttpRequest, form_key: str, body: RecordsGiven) -> Status[list[str]]:
    """Keep stored records as cases: changes that change nothing, which expect what happens now."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    cases = keeping.cases_of_records(person, draft, body.numbers, body.suite)
    return Status(201, [row.key for row in keeping.keep_cases(person, form_key, cases)])


@router.put("/forms/{form_key}/cases/{case_key}", response={200: CaseView})
def change_case(request: HttpRequest, form_key: str, case_key: str, body: ChangedCase) -> CaseView:
    """Replace a case: its name, suite, reason, values or what it expects."""
    person = person_with(request, Right.EDIT_DRAFT)
    case = body.case.model_copy(update={"key": case_key})
    row = keeping.change_case(person, form_key, case, body.revision)
    return _view_now(row, get_draft(form_key))


@router.post("/forms/{form_key}/cases/{case_key}/accept", response={200: CaseView})
def accept_case(request: HttpRequest, form_key: str, case_key: str, body: Acceptance) -> CaseView:
    """Expect from now on what happens, with a reason."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    cases = suite.cases_of(draft, [case_key])
    if not cases:
        raise Refusal(404, "no-case", tr("There is no such case."), tr("Look at the list again."))
    (run,) = suite.ran(draft, cases)
    if run.state == "cannot_run":
        raise Refusal(
            409,
            "cannot-run",
            tr("This case cannot be run, so there is nothing to accept."),
            tr("Correct the case first, or remove it."),
        )
    row = keeping.accept(
        person, form_key, case_key, body.revision, run.observed.as_expected(), body.why
    )
    return _view_now(row, draft)


@router.post("/forms/{form_key}/case-removal", response={204: None})
def remove_cases(request: HttpRequest, form_key: str, body: CaseVersions) -> Status[None]:
    """Take cases out, all at once."""
    person = person_with(request, Right.EDIT_DRAFT)
    revisions = {one.key: one.revision for one in body.cases}
    keeping.remove_cases(person, form_key, revisions)
    return Status(204, None)


@router.post("/forms/{form_key}/case-runs", response={200: CaseCounts})
def run_cases(request: HttpRequest, form_key: str) -> CaseCounts:
    """Have all cases run."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    job = suite.run_all(draft, person)
    return CaseCounts(**suite.counts(draft), job=job_view(job))


@router.get("/forms/{form_key}/drafted-cases", response={200: list[DraftedCaseView]})
def draft_cases(
    request: HttpRequest,
    form_key: str,
    technique: Literal["both", "boundary", "blank", "choice", "pairs", "parts"],
    values: Annotated[int, Setting(ge=2, le=3)] = 2,
) -> list[DraftedCaseView]:
    """Cases that a technique asks for and that are not kept yet; nothing is stored."""
    person_with(request, Right.USE_BENCH)
    draft = get_draft(form_key)
    found = proving.drafted(draft, technique, 3 if values == 3 else 2)
    return [
        DraftedCaseView.model_validate(proving.drafted_as_json(one)) for one in found[:MOST_DRAFTED]
    ]


@router.get("/forms/{form_key}/case-file", response={200: str})
def export_cases(
    request: HttpRequest, form_key: str, format: Literal["json", "csv"] = "json"
) -> HttpResponse:
    """The cases as a file."""
    person_with(request, Right.USE_BENCH)
    cases = suite.cases_of(get_draft(form_key))
    kinds = {"json": "application/json", "csv": "text/csv; charset=utf-8"}
    text = cases_to_json(form_key, cases) if format == "json" else cases_to_csv(cases)
    answer = HttpResponse(text, content_type=kinds[format])
    answer["Content-Disposition"] = f'attachment; filename="{form_key}-cases.{format}"'
    return answer


@router.post("/forms/{form_key}/case-file", response={201: list[str]})
def import_cases(request: HttpRequest, form_key: str, body: CaseFileGiven) -> Status[list[str]]:
    """Keep the cases of a file, all or none; those with a key that is there get another."""
    person = person_with(request, Right.EDIT_DRAFT)
    form = compiled_draft(get_draft(form_key))
    read = cases_from_csv if body.name.lower().endswith(".csv") else cases_from_json
    try:
        cases = read(body.text, form)
        refuse_unknown_fields(cases, form)
    except CaseFileError as trouble:
        raise Refusal(
            422,
            "case-file-unusable",
            tr("This file cannot be taken in as it is."),
            tr("Correct the places named below and choose it again; nothing was kept."),
            [
                ProblemItem(place=place, message=said, remedy=remedy)
                for place, said, remedy in trouble.problems
            ],
        ) from None
    if not cases:
        raise Refusal(
            422, "no-cases", tr("There is no case in this file."), tr("Choose another file.")
        )
    return Status(201, [row.key for row in keeping.keep_cases(person, form_key, list(cases))])


@router.get("/forms/{form_key}/proof", response={200: ProofView})
def show_proof(request: HttpRequest, form_key: str) -> HttpResponse:
    """What the cases prove of each rule, and of the form."""
    person_with(request, Right.USE_BENCH)
    proof = ProofView.model_validate(proving.proof_of(get_draft(form_key)))
    return HttpResponse(proof.model_dump_json(), content_type="application/json")


@router.get("/forms/{form_key}/slips", response={200: MutationsView})
def show_slips(request: HttpRequest, form_key: str) -> MutationsView:
    """The slips that were looked for last."""
    person_with(request, Right.USE_BENCH)
    return _slips(get_draft(form_key))


@router.post("/forms/{form_key}/slips", response={200: MutationsView})
def look_for_slips(request: HttpRequest, form_key: str) -> MutationsView:
    """Have small mistakes made in a copy of the rules, and see which the cases notice."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    proving.look_for_slips(draft, person)
    return _slips(draft)


def _slips(draft: DraftForm) -> MutationsView:
    done = newest(proving.SLIPS, draft, JobState.DONE)
    last = newest(proving.SLIPS, draft)
    job = last if last and (done is None or last.pk > done.pk) else None
    return MutationsView(
        slips=done.result["slips"] if done and done.result else [],
        looked=done is not None,
        up_to_date=done is not None and done.fingerprint == proof_fingerprint(draft),
        job=job_view(job) if job else None,
    )
