"""Reading drafts: as documents of the core, and compiled for judging."""

from collections.abc import Callable, Iterable, Iterator
from dataclasses import dataclass
from datetime import date
from functools import cached_property, lru_cache
from typing import TypeVar
from zoneinfo import ZoneInfo

from django.http import Http404
from django.utils import timezone
from pydantic import TypeAdapter

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import (
    ChoiceList,
    ChoosingField,
    Form,
    Rule,
    RuleSet,
    rules_fingerprint,
)

from .models import DraftChoiceList, DraftForm
from .releases_in_force import release_in_force

COMPILED_DRAFTS_KEPT = 64
NAMES_KEPT = 512
_newest: dict[int, "Snapshot"] = {}
"""By draft, as it was compiled last."""
_Revisions = tuple[str, tuple[tuple[str, int, str], ...], tuple[tuple[str, str], ...]]


def get_draft(key: str) -> DraftForm:
    """The draft with `key`; raises Http404."""
    draft = DraftForm.objects.filter(key=key).first()
    if draft is None:
        raise Http404(key)
    return draft


_Told = TypeVar("_Told")


def of_each(drafts: Iterable[DraftForm], told: Callable[[DraftForm], _Told]) -> Iterator[_Told]:
    """What is told of each draft; one that somebody removes while it is looked at is left out."""
    for draft in drafts:
        try:
            found = told(draft)
        except Exception:
            if DraftForm.objects.filter(pk=draft.pk).exists():
                raise
            continue
        yield found


def form_document(draft: DraftForm) -> Form:
    """The whole draft as one document, as it is written."""
    return Form.model_validate(
        {
            **draft.rest,
            "key": draft.key,
            "name": draft.name,
            "purpose": draft.purpose,
            "fields": tuple(draft.field_rows.values_list("document", flat=True)),
            "rules": tuple(draft.rule_rows.values_list("document", flat=True)),
        }
    )


def ruleset_around(form: Form) -> RuleSet:
    """Return `form` with what it takes from elsewhere, as a RuleSet.

    Shared choices, and the forms it refers to or is derived from: released, else as drafted.
    """
    forms = {form.key: form}
    waiting = names_of_form(form)
    while waiting:
        key = waiting.pop()
        found = None if key in forms else _neighbour(key)
        if found is not None:
            forms[key] = found
            waiting |= names_of_form(found)
    wanted = {key for one in forms.values() for key in _lists_of(one)}
    rows = DraftChoiceList.objects.filter(key__in=wanted).order_by("key")
    lists = tuple(ChoiceList.model_validate(row.document) for row in rows)
    return RuleSet(choice_lists=lists, forms=tuple(forms.values()))


def names_of_form(form: Form) -> set[str]:
    """The other forms that a form refers to or is derived from, by key."""
    named = form.referred_forms()
    return named | ({form.derived_from} if form.derived_from else set())


def _lists_of(form: Form) -> set[str]:
    return {
        field.choice_list
        for field in form.fields
        if isinstance(field, ChoosingField) and field.choice_list
    }


def _neighbour(key: str) -> Form | None:
    draft = DraftForm.objects.filter(key=key).first()
    if draft is None:
        return None
    release = release_in_force(draft)
    if release is None:
        return form_document(draft)
    return RuleSet.model_validate(release.document).form(key)


@dataclass
class Snapshot:
    """A draft as it stood at one moment: its documents, and what they compile to."""

    ruleset: RuleSet
    form_key: str
    fingerprint: str
    """Hash of all that judging by it depends on; equal wherever the same is written again."""
    like: CompiledForm | None
    """An earlier writing, of which rules are taken over that have not changed."""

    @property
    def form(self) -> Form:
        """The document of the draft itself."""
        return self.ruleset.form(self.form_key)

    @property
    def today(self) -> date:
        """The day it is now, by the clock of the form."""
        return timezone.now().astimezone(ZoneInfo(self.form.zone)).date()

    @cached_property
    def compiled(self) -> CompiledForm:
        """The draft ready to judge."""
        compiled = compile_ruleset(self.ruleset, form=self.form_key, like=self.like)
        self.like = None
        return compiled


def compile_form(form: Form, like: CompiledForm | None = None) -> CompiledForm:
    """A form as it is written, ready to judge; what has not changed is taken from `like`."""
    return compile_ruleset(ruleset_around(form), form=form.key, like=like)


def snapshot(draft: DraftForm) -> Snapshot:
    """The draft as it stands now; kept in memory until something it names changes."""
    return _snapshot(draft.pk, _revisions(draft))


def compiled_draft(draft: DraftForm) -> CompiledForm:
    """The draft ready to judge."""
    return snapshot(draft).compiled


def compiled_with(draft: DraftForm, rule: Rule) -> CompiledForm:
    """The draft with `rule` in the place of the one with its key, or at its end."""
    return _compiled_with(draft.pk, _revisions(draft), rule.model_dump_json())


def _revisions(draft: DraftForm) -> _Revisions:
    """Which edits, releases and lists a snapshot is made of: the draft's own, and of what it names.

    What the named forms name in turn is theirs, so it counts as well.
    """
    stored = DraftForm.objects.filter(pk=draft.pk).values_list("fingerprint", flat=True).first()
    # An instance may be older than what is stored, or ahead of it within a change.
    around: dict[str, tuple[str, int, str]] = {draft.key: (draft.key, 0, stored or "")}
    forms, lists = _names_of_draft(draft.pk, draft.fingerprint)
    waiting, wanted = set(forms), set(lists)
    while waiting:
        key = waiting.pop()
        if key in around:
            continue
        other = DraftForm.objects.filter(key=key).only("pk", "key", "fingerprint").first()
        if other is None:
            around[key] = (key, 0, "")
            continue
        release = release_in_force(other)
        if release is None:
            around[key] = (key, 0, other.fingerprint)
            forms, lists = _names_of_draft(other.pk, other.fingerprint)
        else:
            around[key] = (key, release.pk, "")
            forms, lists = _names_of_release(release.pk, key)
        waiting |= forms
        wanted |= lists
    rows = DraftChoiceList.objects.filter(key__in=wanted).order_by("key") if wanted else ()
    documents = tuple((row.key, repr(row.document)) for row in rows)
    return draft.fingerprint, tuple(sorted(around.values())), documents


@lru_cache(maxsize=NAMES_KEPT)
def _names_of_draft(pk: int, fingerprint: str) -> tuple[frozenset[str], frozenset[str]]:
    return _names_in(form_document(DraftForm.objects.get(pk=pk)))


@lru_cache(maxsize=NAMES_KEPT)
def _names_of_release(pk: int, key: str) -> tuple[frozenset[str], frozenset[str]]:
    documents = DraftForm.objects.filter(releases=pk).values_list("releases__document", flat=True)
    return _names_in(RuleSet.model_validate(documents.get()).form(key))


def _names_in(form: Form) -> tuple[frozenset[str], frozenset[str]]:
    """The forms and the shared lists that a form names."""
    return frozenset(names_of_form(form)), frozenset(_lists_of(form))


@lru_cache(maxsize=COMPILED_DRAFTS_KEPT)
def _snapshot(pk: int, revisions: _Revisions) -> Snapshot:
    form = form_document(DraftForm.objects.get(pk=pk))
    ruleset = ruleset_around(form)
    fingerprint = rules_fingerprint(ruleset, form.key)
    former = _newest.get(pk)
    compiled: CompiledForm | None = former.__dict__.get("compiled") if former else None
    made = Snapshot(ruleset, form.key, fingerprint, compiled or (former.like if former else None))
    if former is not None and former.fingerprint == fingerprint and compiled is not None:
        made.compiled = compiled
    _newest[pk] = made
    return made


@lru_cache(maxsize=COMPILED_DRAFTS_KEPT)
def _compiled_with(pk: int, revisions: _Revisions, rule_json: str) -> CompiledForm:
    rule = TypeAdapter(Rule).validate_json(rule_json)
    whole = _snapshot(pk, revisions)
    form = whole.form
    there = any(one.key == rule.key for one in form.rules)
    rules = tuple(rule if one.key == rule.key else one for one in form.rules)
    changed = form.model_copy(update={"rules": rules if there else (*rules, rule)})
    return compile_form(changed, like=whole.compiled)
