"""The findings of a draft."""

from collections.abc import Iterable

from django.http import HttpRequest
from ninja import Router, Status

from thistlequartz.core.findings import TITLES, Finding, FindingGroup, grouped
from thistlequartz.core.judging import CompiledForm
from thistlequartz.server.bench.making import in_the_making
from thistlequartz.server.bench.rule_shapes import RuleDraftBody
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.rule_changes import names_of
from thistlequartz.server.jobs.shapes import job_view
from thistlequartz.server.people.rights import Right, may, person_with

from . import services
from .rule_findings import found_of
from .shapes import (
    AboutField,
    AboutRule,
    DismissalBody,
    DismissalView,
    FindingCount,
    FindingsView,
    FindingUndecided,
    FindingView,
    FindingWitness,
    FormFindings,
    FormState,
    RuleFindings,
    RuleFindingsEntry,
)
from .state import state_fingerprint

router = Router()
LONGEST_NAME = 120


@router.get("/finding-counts", response={200: list[FormFindings]})
def count_findings(request: HttpRequest) -> list[FormFindings]:
    """How many findings there are of each form that somebody may try."""
    person = person_with(request, Right.USE_BENCH)
    keys = DraftForm.objects.values_list("key", flat=True)
    tried = [key for key in keys if may(person, Right.USE_BENCH, key)]
    return [
        FormFindings(form=key, wrong=wrong, doubtful=doubtful, current=current)
        for key, wrong, doubtful, current in services.counts_of_all(tried)
    ]


@router.get("/forms/{form_key}/state", response={200: FormState})
def show_state(request: HttpRequest, form_key: str) -> FormState:
    """Return a fingerprint that changes whenever the form may show something else.

    Polled by every open page of the form.
    """
    person_with(request, Right.READ)
    return FormState(fingerprint=state_fingerprint(get_draft(form_key)))


@router.get("/forms/{form_key}/findings", response={200: FindingsView})
def show_findings(request: HttpRequest, form_key: str) -> FindingsView:
    """Return what is wrong or doubtful about the rules of the draft.

    Where that is not known of it as it is, a search begins.
    """
    person_with(request, Right.USE_BENCH)
    draft = get_draft(form_key)
    services.bring_up_to_date(draft, None)
    return _view(draft)


@router.post("/forms/{form_key}/findings", response={202: FindingsView})
def look_for_findings(request: HttpRequest, form_key: str) -> Status[FindingsView]:
    """Have findings looked for, unless they are known of the draft as it is."""
    person = person_with(request, Right.USE_BENCH)
    draft = get_draft(form_key)
    services.bring_up_to_date(draft, person)
    return Status(202, _view(draft))


@router.post("/forms/{form_key}/rule-findings", response={200: RuleFindings})
def find_of_rule(request: HttpRequest, form_key: str, body: RuleDraftBody) -> RuleFindings:
    """Return the findings of a rule in progress. Poll while it is searched; nothing is stored."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    found, working = found_of(person, draft, in_the_making(draft, body))
    told = [RuleFindingsEntry(code=one.code, gravity=one.gravity, says=one.says) for one in found]
    return RuleFindings(found=told, working=working)


@router.put("/forms/{form_key}/findings/{fingerprint}/aside", response={200: FindingsView})
def set_finding_aside(
    request: HttpRequest, form_key: str, fingerprint: str, body: DismissalBody
) -> FindingsView:
    """Say that a finding is as it should be."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.dismiss(person, form_key, fingerprint, body.reason)
    return _view(get_draft(form_key))


@router.delete("/forms/{form_key}/findings/{fingerprint}/aside", response={200: FindingsView})
def take_finding_up(request: HttpRequest, form_key: str, fingerprint: str) -> FindingsView:
    """Look at a finding again that was dismissed."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.take_up(person, form_key, fingerprint)
    return _view(get_draft(form_key))


@router.post("/forms/{form_key}/findings/{fingerprint}/fix", response={204: None})
def fix_finding(request: HttpRequest, form_key: str, fingerprint: str) -> Status[None]:
    """Make the change that a finding proposes; it can be undone."""
    person = person_with(request, Right.EDIT_DRAFT)
    services.fix(person, form_key, fingerprint)
    return Status(204, None)


def _view(draft: DraftForm) -> FindingsView:
    known = services.known_of(draft)
    job = job_view(known.job) if known.job else None
    if known.findings is None:
        return FindingsView(
            looked=False, stale=False, found=[], absent=[], undecided=[], failed=[], job=job
        )
    form = compiled_draft(draft)
    asides = services.asides_of(draft, known.findings)
    names = names_of(form)

    def rules(keys: Iterable[str]) -> list[AboutRule]:
        return [AboutRule(key=key, name=names[key]) for key in keys if key in names]

    def fields(keys: Iterable[str]) -> list[AboutField]:
        labels = form.fields
        return [AboutField(key=key, label=labels[key].label) for key in keys if key in labels]

    def one(group: FindingGroup) -> FindingView:
        found = group.finding
        aside = asides.get(found.fingerprint)
        return FindingView(
            fingerprint=found.fingerprint,
            code=found.code,
            title=TITLES[found.code],
            gravity=found.gravity,
            says=found.says,
            how=found.how,
            rules=rules(found.rules),
            fields=fields(found.fields),
            proof=rules(key for key in found.proof if key not in found.rules),
            witness=_witness(form, found),
            fix=found.fix.words if found.fix else None,
            aside=DismissalView(reason=aside.reason, by=aside.who, at=aside.at) if aside else None,
            beneath=[other.says for other in group.beneath],
        )

    return FindingsView(
        looked=True,
        stale=known.stale,
        found=[one(group) for group in grouped(known.findings.found)],
        absent=[
            FindingCount(code=code, title=TITLES[code], times=times)
            for code, times in sorted(known.findings.absent.items())
            if times
        ],
        undecided=[
            FindingUndecided(
                code=open_.code,
                title=TITLES[open_.code],
                rules=rules(open_.rules),
                fields=fields(open_.fields),
                why=open_.why,
            )
            for open_ in known.findings.undecided
        ],
        failed=[TITLES[code] for code in known.findings.failures],
        job=job,
    )


def _witness(form: CompiledForm, found: Finding) -> FindingWitness | None:
    if found.witness is None:
        return None
    case = services.case_of(form, found.witness, found.says[:LONGEST_NAME], found.says)
    words = services.words_of(form, found.witness)
    labels = form.fields
    entries = [
        f"{labels[key].label}: {shown}" for key, shown in words.items() if key in labels and shown
    ]
    return FindingWitness(case=case, entries=entries)
