"""Releasing a form, and judging by a release."""

import hashlib
import json
from functools import lru_cache

from django.db import transaction
from django.http import Http404
from django.utils import timezone

from thistlequartz.core.evaluation import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import Rule, RuleSet
from thistlequartz.core.values import Fault
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import form_document, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import ProblemItem, Refusal, item
from thistlequartz.server.records.models import UniqueKey
from thistlequartz.server.records.uniqueness import MOMENTS_OF, claiming, keys_of

from .models import Release

COMPILED_RELEASES_KEPT = 64
RECORDS_AT_ONCE = 500
COMPARISONS_KEPT = 256


def newest_release(draft: DraftForm) -> Release | None:
    """The release that records are judged by now, if there is one."""
    return draft.releases.select_related("released_by").first()


def ruleset_hash(ruleset: RuleSet) -> str:
    """The SHA-256 of the document in its canonical JSON."""
    text = json.dumps(ruleset.model_dump(mode="json"), sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def draft_changed(draft: DraftForm, release: Release | None) -> bool:
    """Whether the draft says something else than its newest release."""
    return release is None or _differs(draft.pk, draft.revision, release.pk)


@lru_cache(maxsize=COMPARISONS_KEPT)
def _differs(draft: int, revision: int, release: int) -> bool:
    form = form_document(DraftForm.objects.get(pk=draft))
    return form != _document(release).form(form.key)


def release_form(person: Person, form_key: str, note: str) -> Release:
    """Release the draft as it stands. Unfinished rules are refused by name."""
    with transaction.atomic():
        draft = DraftForm.objects.select_for_update().filter(key=form_key).first()
        if draft is None:
            raise Http404(form_key)
        ruleset = ruleset_around(form_document(draft))
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
        claim_unique_keys(draft, compiled_release(release), newest)
        log(person, "release", form_key, f"Release {release.number}", note=note)
        return release


def claim_unique_keys(draft: DraftForm, compiled: CompiledForm, before: Release | None) -> None:
    """Keep the keys of stored records by the release's unique rules, where those have changed.

    Refused, with the collisions, where stored records hold the same key and the rule would block.
    """
    if before is not None and _unique_rules(compiled_release(before)) == _unique_rules(compiled):
        return
    UniqueKey.objects.filter(record__form=draft).delete()
    now = timezone.now()
    held: dict[str, int] = {}
    rows: list[UniqueKey] = []
    collisions: list[ProblemItem] = []
    for record in draft.records.iterator(RECORDS_AT_ONCE):
        readings = compiled.read(record.values).readings
        values = {
            key: value
            for key, value in readings.items()
            if value is not None and not isinstance(value, Fault)
        }
        verdicts = compiled.judge_moments(
            record.values,
            moments=MOMENTS_OF[record.state],
            today=compiled.today_at(now),
            now=now,
            event="update",
            stored=record.values,
        )
        for row in keys_of(record, compiled, values, claiming(verdicts.values())):
            first = held.setdefault(row.claim, record.number) if row.claim else record.number
            if first == record.number:
                rows.append(row)
            else:
                said = f"Records {first} and {record.number} hold the same values."
                remedy = "Change one of the two, or let the rule warn."
                collisions.append(
                    ProblemItem(place=f"rules.{row.rule_key}", message=said, remedy=remedy)
                )
    if collisions:
        raise Refusal(
            409,
            "collisions",
            f"{len(collisions)} stored records would break a rule of uniqueness at once.",
            "Mend them first, then release; the release in use stays as it is.",
            collisions,
        )
    UniqueKey.objects.bulk_create(rows, batch_size=RECORDS_AT_ONCE)


def _unique_rules(compiled: CompiledForm) -> list[Rule]:
    return [rule for rule in compiled.form.rules if rule.kind == "unique"]


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
    return compile_ruleset(_document(pk), form=key)


@lru_cache(maxsize=COMPILED_RELEASES_KEPT)
def _document(pk: int) -> RuleSet:
    return RuleSet.model_validate(Release.objects.values_list("document", flat=True).get(pk=pk))
