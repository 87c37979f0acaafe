"""Releasing a form, and judging by a release."""

import hashlib
import json
from functools import lru_cache

from django.db import transaction
from django.http import Http404

from thistlequartz.core.evaluation import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import form_document
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal, item

from .models import Release

COMPILED_RELEASES_KEPT = 64


def newest_release(draft: DraftForm) -> Release | None:
    """The release that records are judged by now, if there is one."""
    return draft.releases.select_related("released_by").first()


def ruleset_hash(ruleset: RuleSet) -> str:
    """The SHA-256 of the document in its canonical JSON."""
    text = json.dumps(ruleset.model_dump(mode="json"), sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def draft_changed(draft: DraftForm, release: Release | None) -> bool:
    """Whether the draft says something else than its newest release."""
    return release is None or form_document(draft) != compiled_release(release).form


def release_form(person: Person, form_key: str, note: str) -> Release:
    """Release the draft as it stands. Unfinished rules are refused by name."""
    with transaction.atomic():
        draft = DraftForm.objects.select_for_update().filter(key=form_key).first()
        if draft is None:
            raise Http404(form_key)
        ruleset = RuleSet(forms=(form_document(draft),))
        newest = newest_release(draft)
        digest = ruleset_hash(ruleset)
        if newest is not None and not draft_changed(draft, newest):
            raise Refusal(
                409,
                "nothing-new",
                f"The draft says the same as release {newest.number}.",
                "Change something first, then release it.",
            )
        _refuse_unfinished(ruleset, form_key)
        release = Release.objects.create(
            form=draft,
            number=newest.number + 1 if newest else 1,
            document=ruleset.model_dump(mode="json"),
            hash=digest,
            note=note,
            released_by=person,
        )
        log(person, "release", form_key, f"Release {release.number}", note=note)
        return release


def _refuse_unfinished(ruleset: RuleSet, form_key: str) -> None:
    problems = compile_ruleset(ruleset, form=form_key).problems
    if problems:
        raise Refusal(
            409,
            "unfinished-rules",
            f"{len(problems)} of the rules cannot work yet.",
            "Mend or remove them, then release.",
            [
                item(problem.inside(f"rules.{key}"))
                for key, found in problems.items()
                for problem in found
            ],
        )


def compiled_release(release: Release) -> CompiledForm:
    """The release ready to judge; kept in memory, as it never changes."""
    return _compiled(release.pk)


@lru_cache(maxsize=COMPILED_RELEASES_KEPT)
def _compiled(pk: int) -> CompiledForm:
    release = Release.objects.select_related("form").get(pk=pk)
    return compile_ruleset(RuleSet.model_validate(release.document), form=release.form.key)
