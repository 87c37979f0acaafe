"""Releasing a form, and judging by a release."""

import hashlib
import json
from functools import lru_cache

from django.db import transaction
from django.dispatch import Signal
from django.http import Http404

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import RuleSet
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import form_document, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released import differs_from, newest_release, release_document
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal, item

from .models import Release

released = Signal()
"""A draft has been released: `draft`, and its compiled form now (`compiled`) and `before`, or None.
Who listens does so in the same transaction, and can refuse the release."""

COMPILED_RELEASES_KEPT = 64


def ruleset_hash(ruleset: RuleSet) -> str:
    """The SHA-256 of the document in its canonical JSON."""
    text = json.dumps(ruleset.model_dump(mode="json"), sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def release_form(person: Person, form_key: str, note: str) -> Release:
    """Release the draft as it stands. Unfinished rules are refused by name."""
    with transaction.atomic():
        draft = DraftForm.objects.select_for_update().filter(key=form_key).first()
        if draft is None:
            raise Http404(form_key)
        ruleset = ruleset_around(form_document(draft))
        newest = newest_release(draft)
        digest = ruleset_hash(ruleset)
        if newest is not None and not differs_from(draft, newest):
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
        compiled = compiled_release(release)
        before = compiled_release(newest) if newest else None
        released.send(sender=Release, draft=draft, compiled=compiled, before=before)
        log(person, "release", form_key, f"Release {release.number}", note=note)
        return release


def _refuse_unfinished(ruleset: RuleSet, form_key: str) -> None:
    compiled = compile_ruleset(ruleset, form=form_key)
    problems = compiled.problems
    if compiled.form_problems:
        raise Refusal(
            409,
            "unfinished-form",
            "Parts of the form point to what is not there.",
            "Mend them, then release.",
            [item(problem) for problem in compiled.form_problems],
        )
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
    key = Release.objects.values_list("form__key", flat=True).get(pk=pk)
    return compile_ruleset(release_document(pk), form=key)
