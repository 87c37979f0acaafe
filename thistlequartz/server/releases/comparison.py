"""What is different between two releases of a form, or a release and the draft."""

from collections.abc import Iterable

from django.http import Http404

from thistlequartz.core.ruleset import Form, RuleSet, rules_fingerprint
from thistlequartz.core.versions.part_differences import PartDifference, revision
from thistlequartz.server.forms import freshness
from thistlequartz.server.forms.drafts import form_document, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released_documents import release_document


def release_of(draft: DraftForm, number: int) -> int:
    """The primary key of a release; raises Http404."""
    pk: int | None = draft.releases.filter(number=number).values_list("pk", flat=True).first()
    if pk is None:
        raise Http404(number)
    return pk


def changes_between(
    draft: DraftForm, before: int | None, after: int | None
) -> tuple[PartDifference, ...]:
    """What the second of two releases changed; without a number the draft is meant."""
    return revision(_ruleset(draft, before), _ruleset(draft, after), draft.key)


def told(changes: Iterable[PartDifference]) -> list[PartDifference]:
    """Those worth telling: where something new came to stand is no change of its own."""
    return [one for one in changes if one.act != "in another order" or one.details]


def _ruleset(draft: DraftForm, number: int | None) -> RuleSet:
    if number is None:
        return ruleset_around(form_document(draft))
    return release_document(release_of(draft, number))


def fingerprint_to_release(draft: DraftForm, again: int | None) -> str:
    """Hash of all that judging would depend on once it is released; see `rules_fingerprint`."""
    if again is None:
        return freshness.rules_fingerprint(draft)
    form = form_to_release(draft, again)
    return rules_fingerprint(ruleset_around(form), form.key)


def form_to_release(draft: DraftForm, again: int | None) -> Form:
    """The form as the draft says it, or as an earlier release did that comes back."""
    if again is None:
        return form_document(draft)
    return release_document(release_of(draft, again)).form(draft.key)
