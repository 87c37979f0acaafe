"""What is tried on the bench, and under which circumstances."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date
from functools import lru_cache
from typing import Annotated

from django.http import Http404
from django.utils import timezone
from pydantic import Field as Setting

from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.observing import noon_of
from thistlequartz.core.documents import Label
from thistlequartz.core.judging import (
    Circumstances,
    CompiledForm,
    Judgement,
    JudgeRequest,
    Lookup,
)
from thistlequartz.core.ruleset import Case, EntryPoint
from thistlequartz.core.sweep import RecordContext
from thistlequartz.core.translation import listed, tr
from thistlequartz.server.forms.drafts import compiled_draft, get_draft
from thistlequartz.server.forms.models import DraftCase, DraftForm
from thistlequartz.server.judging.services import refuse_unknown, waivers
from thistlequartz.server.judging.shapes import JudgeBody
from thistlequartz.server.judging.values import Values
from thistlequartz.server.people.models import Person, Role
from thistlequartz.server.people.rights import closed_forms
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.records.draft_lookup import DraftLookup
from thistlequartz.server.records.models import Record
from thistlequartz.server.releases.models import Release
from thistlequartz.server.releases.services import compiled_release

FORMS_WITHOUT_RULES_KEPT = 32


class BenchBody(JudgeBody):
    """A record on the bench: the values, and when, where and by whom they are sent in."""

    release: Annotated[int, Setting(ge=1)] | None = None
    """The release it is judged by; None: the draft."""
    entry_point: EntryPoint = "desk"
    layout: str | None = None
    role: Label = Role.CLERK.value
    as_of: date | None = None
    """The day that counts as today; None: the present moment."""
    stored: Values = Setting(default_factory=dict)
    """What the record held before, where it is changed; `number` may name a stored one instead."""
    off: Annotated[list[str], Setting(max_length=100)] = Setting(default_factory=list)
    """Rules that are switched off for this try."""
    case: str | None = None
    """A kept case whose other records count, in the place of those that are stored."""


@dataclass(frozen=True)
class BenchRequest:
    """A record on the bench, ready to be judged."""

    draft: DraftForm
    form: CompiledForm
    values: Mapping[str, object]
    lookup: Lookup
    request: JudgeRequest

    def judged(self) -> Judgement:
        """What comes of it, before any moment is looked at."""
        return self.form.judged(self.request)

    @property
    def around(self) -> RecordContext:
        """The record that stays as it is while one or two fields move."""
        one = self.request
        return RecordContext(self.form, self.values, one.circumstances, one.stored, self.lookup)


def bench_form(draft: DraftForm, release: int | None) -> CompiledForm:
    """The draft, or one of its releases, ready to judge. Raises Http404 for no such release."""
    if release is None:
        return compiled_draft(draft)
    found = Release.objects.filter(form=draft, number=release).first()
    if found is None:
        raise Http404(release)
    return compiled_release(found)


def bench_request(
    person: Person, form_key: str, body: BenchBody, *, strict: bool = True
) -> BenchRequest:
    """Return the request that `body` describes, as `person` may see it.

    Raises Http404, or, where `strict`, a Refusal for unknown fields.
    """
    draft = get_draft(form_key)
    form = without(bench_form(draft, body.release), tuple(sorted(body.off)))
    if strict:
        _refuse_unknown(form, body)
    stored, own = _before(draft, body)
    lookup: Lookup = DraftLookup(form_key, form, own, closed_forms(person))
    if body.case is not None:
        row = DraftCase.objects.filter(form=draft, key=body.case).first()
        if row is None:
            raise Http404(body.case)
        lookup = CaseRecords(form, Case.model_validate(row.document).others)
    now = timezone.now() if body.as_of is None else noon_of(body.as_of, form)
    request = JudgeRequest(
        body.values,
        Circumstances(
            form.today_at(now), now, body.event, body.entry_point, body.layout, body.role
        ),
        stored=stored,
        lookup=lookup,
        touched=frozenset(body.touched),
        waivers=waivers(body.reasons),
        applied=tuple(body.proposals_applied),
    )
    return BenchRequest(draft, form, body.values, lookup, request)


def _refuse_unknown(form: CompiledForm, body: BenchBody) -> None:
    refuse_unknown(
        form,
        body.values,
        fields={"touched": body.touched, "stored": body.stored},
        rules={
            "off": body.off,
            "reasons": body.reasons,
            "proposals_applied": body.proposals_applied,
        },
    )
    layouts = [one.key for one in form.form.layouts]
    if body.layout is not None and body.layout not in layouts:
        raise Refusal(
            422,
            "unknown-layout",
            tr("There is no such layout."),
            tr("Choose one of the form's own, or none."),
            [
                ProblemItem(
                    place="layout",
                    message=tr("The form has no layout “{layout}”.", layout=body.layout[:60]),
                    remedy=tr("Choose {layouts}.", layouts=listed(layouts, "or"))
                    if layouts
                    else tr("Choose none."),
                )
            ],
        )


def _before(draft: DraftForm, body: BenchBody) -> tuple[Mapping[str, object] | None, int | None]:
    """What the record held before, and its primary key where it is stored."""
    if body.event == "create":
        return None, None
    if body.number is None:
        return body.stored, None
    record = Record.objects.filter(form=draft, number=body.number).first()
    if record is None:
        raise Http404(body.number)
    return record.values, record.pk


@lru_cache(maxsize=FORMS_WITHOUT_RULES_KEPT)
def without(form: CompiledForm, rules: tuple[str, ...]) -> CompiledForm:
    """The form with some rules switched off."""
    if not rules:
        return form
    written = tuple(
        rule.model_copy(update={"enabled": False}) if rule.key in rules else rule
        for rule in form.form.rules
    )
    return form.rewritten(form.form.model_copy(update={"rules": written}))
