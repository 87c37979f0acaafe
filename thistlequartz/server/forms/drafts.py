"""Reading drafts: as documents of the core, and compiled for judging."""

from functools import lru_cache

from django.http import Http404

from thistlequartz.core.evaluation import CompiledForm
from thistlequartz.core.ruleset import Form

from .models import DraftForm

COMPILED_DRAFTS_KEPT = 64


def get_draft(key: str) -> DraftForm:
    """The draft with `key`; raises Http404."""
    draft = DraftForm.objects.filter(key=key).first()
    if draft is None:
        raise Http404(key)
    return draft


def form_document(draft: DraftForm) -> Form:
    """The whole draft as one document."""
    return Form.model_validate(
        {
            "key": draft.key,
            "name": draft.name,
            "purpose": draft.purpose,
            "fields": tuple(draft.field_rows.values_list("document", flat=True)),
            "rules": tuple(draft.rule_rows.values_list("document", flat=True)),
        }
    )


def compiled_draft(draft: DraftForm) -> CompiledForm:
    """The draft ready to judge; kept in memory by its revision."""
    return _compiled(draft.pk, draft.revision)


@lru_cache(maxsize=COMPILED_DRAFTS_KEPT)
def _compiled(pk: int, revision: int) -> CompiledForm:
    return CompiledForm(form_document(DraftForm.objects.get(pk=pk)))
