"""A form as records are judged and stored by it now: the release that is in force."""

from dataclasses import dataclass
from functools import lru_cache

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.translation import tr
from thistlequartz.server.forms.drafts import get_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.problems import Refusal
from thistlequartz.server.releases.models import Release
from thistlequartz.server.releases.services import COMPILED_RELEASES_KEPT, compiled_release

from .unique_keys import unique_rules_fingerprint


@dataclass(frozen=True, slots=True)
class DeskForm:
    """What clerks fill in now: the release of a form that is in force."""

    draft: DraftForm
    release: Release
    compiled: CompiledForm
    keys_fingerprint: str
    """What the unique keys of records are made for."""


def desk_of(form_key: str) -> DeskForm:
    """The release of a form that is in force; raises a Refusal (409) before there is one."""
    draft = get_draft(form_key)
    release = release_in_force(draft)
    if release is None:
        raise Refusal(
            409,
            "not-released",
            tr("No release of {name} is in force yet.", name=draft.name),
            tr("A steward releases it; then records can be filled in."),
        )
    return DeskForm(draft, release, compiled_release(release), _generation(release.pk))


@lru_cache(maxsize=COMPILED_RELEASES_KEPT)
def _generation(release: int) -> str:
    return unique_rules_fingerprint(compiled_release(Release.objects.get(pk=release)))
