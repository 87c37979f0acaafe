"""What has been released of a draft, and whether the draft says something else by now."""

from datetime import datetime
from functools import lru_cache
from typing import Any, Protocol

from thistlequartz.core.ruleset import RuleSet
from thistlequartz.server.people.models import Person

from .drafts import form_document
from .models import DraftForm

COMPARISONS_KEPT = 256
DOCUMENTS_KEPT = 64


class Released(Protocol):
    """A release, as far as its draft must know it."""

    pk: int
    number: int
    note: str
    document: dict[str, Any]
    released_by: Person | None
    released_at: datetime
    in_force_from: datetime
    withdrawn_at: datetime | None
    withdrawn_by: Person | None
    withdrawn_why: str
    known: list[Any]


def differs_from(draft: DraftForm, release: Released | None) -> bool:
    """Whether the draft says something else than its newest release."""
    return release is None or _differs(draft.pk, draft.fingerprint, release.pk)


@lru_cache(maxsize=COMPARISONS_KEPT)
def _differs(draft: int, fingerprint: str, release: int) -> bool:
    form = form_document(DraftForm.objects.get(pk=draft))
    return form != release_document(release).form(form.key)


@lru_cache(maxsize=DOCUMENTS_KEPT)
def release_document(pk: int) -> RuleSet:
    """The RuleSet of a release, by its primary key."""
    documents = DraftForm.objects.filter(releases=pk).values_list("releases__document", flat=True)
    return RuleSet.model_validate(documents.get())
