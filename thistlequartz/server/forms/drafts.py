"""Reading drafts: as documents of the core, and compiled for judging."""

import hashlib
from functools import lru_cache

from django.db.models import Max
from django.http import Http404
from django.utils import timezone
from pydantic import TypeAdapter

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import ChoiceList, Form, Rule, RuleSet

from .in_force import in_force_at, release_in_force
from .models import DraftChoiceList, DraftForm

COMPILED_DRAFTS_KEPT = 64
_newest: dict[int, CompiledForm] = {}
"""By draft, as it was compiled last."""


def get_draft(key: str) -> DraftForm:
    """The draft with `key`; raises Http404."""
    draft = DraftForm.objects.filter(key=key).first()
    if draft is None:
        raise Http404(key)
    return draft


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
    """`form` with what it takes from elsewhere: shared choices, and the forms that it refers to or
    is derived from, as they are released, or as they are drafted where they are not.
    """
    forms = {form.key: form}
    waiting = _named_by(form)
    while waiting:
        key = waiting.pop()
        found = None if key in forms else _neighbour(key)
        if found is not None:
            forms[key] = found
            waiting |= _named_by(found)
    wanted = {
        field.choice_list
        for one in forms.values()
        for field in one.fields
        if field.type in ("choice", "choices") and field.choice_list
    }
    rows = DraftChoiceList.objects.filter(key__in=wanted).order_by("key")
    lists = tuple(ChoiceList.model_validate(row.document) for row in rows)
    return RuleSet(choice_lists=lists, forms=tuple(forms.values()))


def _named_by(form: Form) -> set[str]:
    named = {field.form for field in form.fields if field.type == "reference"}
    return named | ({form.derived_from} if form.derived_from else set())


def _neighbour(key: str) -> Form | None:
    draft = DraftForm.objects.filter(key=key).first()
    if draft is None:
        return None
    release = release_in_force(draft)
    if release is None:
        return form_document(draft)
    return RuleSet.model_validate(release.document).form(key)


def compile_form(form: Form, like: CompiledForm | None = None) -> CompiledForm:
    """A form as it is written, ready to judge; what has not changed is taken from `like`."""
    return compile_ruleset(ruleset_around(form), form=form.key, like=like)


def compiled_draft(draft: DraftForm) -> CompiledForm:
    """The draft ready to judge; kept in memory until any draft, list or release changes."""
    return _compiled(draft.pk, rules_stamp(draft))


def compiled_with(draft: DraftForm, rule: Rule) -> CompiledForm:
    """The draft with `rule` in the place of the one with its key, or at its end."""
    return _compiled_with(draft.pk, rules_stamp(draft), rule.model_dump_json())


def rules_stamp(draft: DraftForm) -> str:
    """What changes whenever anything may judge records of the draft in another way: it, or what it
    can take from elsewhere.
    """
    in_force = Max("releases__number", filter=in_force_at(timezone.now(), "releases__"))
    others = DraftForm.objects.order_by("pk").annotate(in_force=in_force)
    around = list(others.values_list("pk", "edition", "in_force"))
    return hashlib.sha256(repr((draft.pk, draft.edition, around)).encode()).hexdigest()[:32]


@lru_cache(maxsize=COMPILED_DRAFTS_KEPT)
def _compiled(pk: int, stamp: str) -> CompiledForm:
    form = form_document(DraftForm.objects.get(pk=pk))
    _newest[pk] = compile_form(form, like=_newest.get(pk))
    return _newest[pk]


@lru_cache(maxsize=COMPILED_DRAFTS_KEPT)
def _compiled_with(pk: int, stamp: str, rule_json: str) -> CompiledForm:
    rule = TypeAdapter(Rule).validate_json(rule_json)
    form = form_document(DraftForm.objects.get(pk=pk))
    there = any(one.key == rule.key for one in form.rules)
    rules = tuple(rule if one.key == rule.key else one for one in form.rules)
    whole = form.model_copy(update={"rules": rules if there else (*rules, rule)})
    return compile_form(whole, like=_compiled(pk, stamp))
