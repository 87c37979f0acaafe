"""The bench: a draft or a release tried with values; verdicts and what lies behind them."""

from collections.abc import Collection, Iterator
from dataclasses import asdict
from typing import Annotated, Literal

from django.http import Http404, HttpRequest
from django.utils import timezone
from ninja import Router
from pydantic import BaseModel, ConfigDict
from pydantic import Field as Setting

from thistlequartz.core.cases.verdict_changes import JudgedRequest, VerdictChange, changes_between
from thistlequartz.core.judging import CompiledForm, CompiledRule, Explanation
from thistlequartz.core.ruleset import rule_sentence, usual_role
from thistlequartz.core.sweep import sweep_field, sweep_map
from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType
from thistlequartz.server.forms.drafts import compiled_with, get_draft
from thistlequartz.server.forms.views import sheet_view
from thistlequartz.server.impact.rule_preview import impact_of
from thistlequartz.server.judging.services import judge_all, request_of, shown_judgement
from thistlequartz.server.judging.shapes import VerdictsView
from thistlequartz.server.people.models import Role
from thistlequartz.server.people.rights import Right, closed_forms, person_with
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.draft_lookup import DraftLookup

from .corrections import CorrectionsView, ways_of
from .making import in_the_making
from .requests import BenchBody, BenchRequest, bench_form, bench_request
from .rule_shapes import RuleBenchBody, RuleBenchResult, RuleDraftBody, RuleImpactPreviewView
from .rule_sightings import note_seen
from .views import (
    BenchForm,
    BenchRelease,
    BenchRule,
    MapView,
    SweepView,
    map_view,
    sweep_view,
)

router = Router()


class _Asked(BaseModel):
    model_config = ConfigDict(extra="forbid")
    request: BenchBody


class TraceBody(_Asked):
    """Which rule is to be explained."""

    rule: str


class BandBody(_Asked):
    """Along which field a band is to be drawn."""

    field: str


class MapBody(_Asked):
    """Of which two fields a map is to be drawn."""

    across: str
    up: str


class CorrectionsBody(_Asked):
    """For which moment ways through are wanted."""

    moment: Literal["save", "submit"]


class BenchPairBody(BaseModel):
    """Two tries, to be held against each other."""

    model_config = ConfigDict(extra="forbid")
    before: BenchBody
    after: BenchBody


def _tried(request: HttpRequest, form_key: str, body: BenchBody) -> BenchRequest:
    return bench_request(person_with(request, Right.USE_BENCH), form_key, body)


@router.get("/forms/{form_key}/bench", response={200: BenchForm})
def show_bench(
    request: HttpRequest,
    form_key: str,
    release: Annotated[int | None, Setting(ge=1)] = None,
) -> BenchForm:
    """The draft, or one of its releases, as it is laid out on the bench."""
    person_with(request, Right.USE_BENCH)
    draft = get_draft(form_key)
    form = bench_form(draft, release)
    compiled = {one.rule.key: one for one in form.rules}
    ordered = [key for key, one in form.fields.items() if one.type.is_ordered]
    named = {role for rule in form.form.rules for role in rule.scope.roles}
    return BenchForm(
        key=draft.key,
        name=form.form.name,
        fields=list(form.form.fields),
        sheet=sheet_view(form, timezone.now(), Role.CLERK),
        layouts=list(form.form.layouts),
        rules=[
            BenchRule(
                key=rule.key,
                name=rule.name,
                effect=found.is_effect if (found := compiled.get(rule.key)) else False,
                enabled=rule.enabled,
                targets=list(rule.targets),
                reads=list(found.reads) if found else list(rule.targets),
                sentence=rule_sentence(found.lowered, form.vocabulary, form.layouts)
                if found
                else [],
            )
            for rule in form.form.rules
        ],
        roles=list(dict.fromkeys((*Role.values, *sorted(named)))),
        releases=[BenchRelease(number=one.number, note=one.note) for one in draft.releases.all()],
        ordered=ordered,
        mapped=[key for key, one in form.fields.items() if _is_mapped(one.type)],
        held=list(_held_together(form, ordered)),
    )


def _held_together(form: CompiledForm, ordered: Collection[str]) -> Iterator[list[str]]:
    """The ordered fields that a check of values reads together."""
    for one in form.rules:
        kind = one.check_kind
        if kind is None or kind.judges_blanks or kind.other_records:
            continue
        for check in one.checks:
            keys = [key for key in check.reads if key in ordered]
            if len(keys) > 1:
                yield keys


@router.post("/forms/{form_key}/bench", response={200: VerdictsView})
def try_draft(request: HttpRequest, form_key: str, body: BenchBody) -> VerdictsView:
    """What happens to these values: while typing, saving and submitting."""
    person = person_with(request, Right.USE_BENCH)
    one = bench_request(person, form_key, body)
    judgement = shown_judgement(one.judged(), one.form, person.style)
    if body.release is None and not body.off:
        note_seen(one.draft, judgement)
    return judgement


@router.post("/forms/{form_key}/bench/changes", response={200: list[VerdictChange]})
def compare_tries(request: HttpRequest, form_key: str, body: BenchPairBody) -> list[VerdictChange]:
    """What is different in the second of two tries, in words."""
    person = person_with(request, Right.USE_BENCH)
    # Another release may not have a field that is filled in by now: then it does not count there.
    before = bench_request(person, form_key, body.before, strict=False)
    after = bench_request(person, form_key, body.after, strict=False)
    return list(changes_between(_as_judged(before, body.before), _as_judged(after, body.after)))


def _as_judged(one: BenchRequest, body: BenchBody) -> JudgedRequest:
    by = tr("the draft") if body.release is None else tr("release {release}", release=body.release)
    before = "" if body.number is None else tr("record {number}", number=body.number)
    return JudgedRequest(one.form, one.judged(), one.request.circumstances, by, before)


@router.post("/forms/{form_key}/bench/trace", response={200: Explanation})
def trace_rule(request: HttpRequest, form_key: str, body: TraceBody) -> Explanation:
    """How a rule comes to what it says, part by part, with the values."""
    one = _tried(request, form_key, body.request)
    judged = one.judged()
    if body.rule not in judged.findings:
        raise Http404(body.rule)
    return judged.explain(body.rule)


@router.post("/forms/{form_key}/bench/band", response={200: SweepView})
def draw_band(request: HttpRequest, form_key: str, body: BandBody) -> SweepView:
    """Where saving and submitting pass, warn or are blocked along one field."""
    one = _tried(request, form_key, body.request)
    _known(one, body.field)
    return sweep_view(sweep_field(one.around, body.field, closely=True), one)


@router.post("/forms/{form_key}/bench/map", response={200: MapView})
def draw_map(request: HttpRequest, form_key: str, body: MapBody) -> MapView:
    """The same for two fields against each other."""
    one = _tried(request, form_key, body.request)
    _known(one, body.across)
    _known(one, body.up)
    if body.across == body.up:
        at = ProblemItem(
            place="up",
            message=tr("This is the field across, too."),
            remedy=tr("Choose another one."),
        )
        raise Refusal(
            422, "one-field", tr("A map takes two fields."), tr("Choose another one."), [at]
        )
    return map_view(sweep_map(one.around, body.across, body.up), one)


def _known(one: BenchRequest, key: str) -> None:
    if key not in one.form.fields or not _is_mapped(one.form.fields[key].type):
        raise Http404(key)


@router.post("/forms/{form_key}/bench/ways", response={200: CorrectionsView})
def find_ways(request: HttpRequest, form_key: str, body: CorrectionsBody) -> CorrectionsView:
    """Return the fewest and smallest changes that let the record through, or what prevents any."""
    return ways_of(_tried(request, form_key, body.request), body.moment)


@router.post("/forms/{form_key}/bench/rule", response={200: RuleBenchResult})
def try_rule(request: HttpRequest, form_key: str, body: RuleBenchBody) -> RuleBenchResult:
    """What the draft would say with a rule as it is being written. Stores nothing."""
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    written = in_the_making(draft, body)
    key = written.key
    compiled = compiled_with(draft, written)
    lookup = DraftLookup(form_key, compiled, hidden=closed_forms(person))
    asked = request_of(compiled, body, usual_role(compiled.form), lookup)
    own = next((one for one in compiled.rules if one.rule.key == key), None)
    return RuleBenchResult(
        rule=key,
        fields=_with_sources(compiled, own) if own else [],
        judgement=judge_all(compiled, asked, person.style),
    )


@router.post("/forms/{form_key}/bench/impact", response={200: RuleImpactPreviewView})
def preview_rule_impact(
    request: HttpRequest, form_key: str, body: RuleDraftBody
) -> RuleImpactPreviewView:
    """Return the impact of a rule in progress on stored records.

    Of a sample at first; exact once a background job has worked it out. Poll until then.
    """
    person = person_with(request, Right.EDIT_DRAFT)
    draft = get_draft(form_key)
    rule = in_the_making(draft, body)
    if rule.key in compiled_with(draft, rule).problems:
        none = {"save": 0, "submit": 0}
        return RuleImpactPreviewView(
            records=draft.records.count(), looked_at=0, exact=False, unfinished=True, newly=0,
            stops=none, warns=none, frees=none, working=False,
        )  # fmt: skip
    impact = impact_of(person, draft, rule)
    return RuleImpactPreviewView(**asdict(impact), exact=impact.looked_at >= impact.records)


def _with_sources(form: CompiledForm, own: CompiledRule) -> list[str]:
    """The fields a rule reads, and those from which they are computed, in the order of the form."""
    wanted, waiting = set(own.reads), list(own.reads)
    deriving = [one for one in form.rules if one.part == "deriving" and one.rule.enabled]
    while waiting:
        key = waiting.pop()
        sources = {read for one in deriving if key in one.rule.targets for read in one.reads}
        waiting.extend(sources - wanted)
        wanted |= sources
    return [key for key in form.fields if key in wanted]


def _is_mapped(type_: ValueType) -> bool:
    """Whether its values make an axis of a map."""
    return type_.is_ordered or type_.answers() is not None
