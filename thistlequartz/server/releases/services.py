"""Releasing a form, and judging by a release."""

import hashlib
import json
from dataclasses import dataclass, replace
from datetime import datetime
from functools import lru_cache

from django.db.models import Max
from django.utils import timezone
from pydantic import TypeAdapter

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import RuleSet, rules_fingerprint
from thistlequartz.core.translation import tr, tr_count
from thistlequartz.server.activity.services import log
from thistlequartz.server.forms.drafts import get_draft, names_of_form, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released_documents import release_document
from thistlequartz.server.forms.releases_in_force import newest_release, waiting_release
from thistlequartz.server.jobs.models import Job, JobState
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin, newest
from thistlequartz.server.outages import in_one_go
from thistlequartz.server.people.models import Person
from thistlequartz.server.people.rights import refuse_closed_forms
from thistlequartz.server.problems import Refusal, item

from .comparison import fingerprint_to_release, form_to_release
from .concerns import Concern, refuse_unknowing
from .models import Release
from .ports import Told, all_concerns, complete_all, prepare_all

_KNOWN = TypeAdapter(list[Concern])
COMPILED_RELEASES_KEPT = 64
ATTEMPTS = 5
RELEASE = "release"
AT_ONCE = 300
"""Stored records up to which a release is not worth a job."""


class PreparationOutdated(Exception):
    """Too much was stored since the release was prepared: prepare again."""


def ruleset_hash(ruleset: RuleSet) -> str:
    """The SHA-256 of the document in its canonical JSON."""
    text = json.dumps(ruleset.model_dump(mode="json"), sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


@dataclass(frozen=True, slots=True)
class ReleaseRequest:
    """What somebody wants released: the draft, or an earlier release once more."""

    note: str
    again: int | None = None
    """The number of the earlier release."""
    since: datetime | None = None
    """The moment from which it is in force; None: at once."""
    known: tuple[Concern, ...] | None = None
    """What is known of it; None: what is found when it is made."""
    made_at: datetime | None = None
    """When it is taken to have been made, in a history that is written afterwards; None: now."""


def release_or_begin(
    person: Person, form_key: str, wish: ReleaseRequest, fingerprint: str
) -> Release | Job:
    """Release what is wished for: at once, or in the background where many records are stored.

    `mark` stands for what the person has seen of it; where something else is known, it is refused.
    """
    draft = get_draft(form_key)
    ruleset, _ = _to_release(draft, wish.again)
    refuse_closed_forms(person, names_of_form(ruleset.form(form_key)))
    known = all_concerns(draft, wish.again)
    document = rules_fingerprint(ruleset, form_key)
    refuse_unknowing(known, document, fingerprint)
    wish = replace(wish, known=tuple(known))
    if draft.releases.exists() and draft.records.count() > AT_ONCE:
        asked = {
            "note": wish.note,
            "hash": document,
            "again": str(wish.again or ""),
            "since": wish.since.isoformat() if wish.since else "",
            "known": _KNOWN.dump_json(known).decode(),
        }
        fingerprint = f"{draft.fingerprint} {wish.again or ''} {asked['since']}".strip()
        return begin(RELEASE, draft, person, fingerprint, asked)
    return release_form(person, form_key, wish)


def release_in_background(job: Job, progress: Progress) -> int:
    """The release that a job was begun for; its number."""
    if job.person is None:
        raise Refusal(409, "nobody", tr("Whoever asked for this is gone."), tr("Release it anew."))
    draft = get_draft(job.form.key)
    asked = job.asked
    again = int(asked["again"]) if asked["again"] else None
    if fingerprint_to_release(draft, again) != job.asked["hash"]:
        raise Refusal(
            409,
            "changed-meanwhile",
            tr("The draft has changed since you released it."),
            tr("Look at the change, then release it again; the release in force stays as it is."),
        )
    since = datetime.fromisoformat(asked["since"]) if asked["since"] else None
    known = tuple(_KNOWN.validate_json(asked["known"]))
    wish = ReleaseRequest(asked["note"], again, since, known)
    return release_form(job.person, draft.key, wish, progress.over).number


def work_on_release(form_key: str) -> Job | None:
    """The release that is being prepared, or the last one that did not come about."""
    draft = get_draft(form_key)
    job = newest(RELEASE, draft)
    release = newest_release(draft)
    if job is None or job.state == JobState.DONE:
        return None
    outdated = release is not None and release.released_at > (job.ended_at or timezone.now())
    return None if outdated else job


def release_form(
    person: Person, form_key: str, wish: ReleaseRequest, told: Told | None = None
) -> Release:
    """Release the draft, or an earlier release once more, which leaves the draft as it is.

    Unfinished rules are refused by name.
    """
    for _ in range(ATTEMPTS):
        draft = get_draft(form_key)
        before = newest_release(draft)
        ruleset, compiled = _to_release(draft, wish.again)
        if wish.known is None:
            wish = replace(wish, known=tuple(all_concerns(draft, wish.again)))
        prepare_all(draft, compiled, told)
        try:
            return _make(person, form_key, wish, ruleset, before)
        except PreparationOutdated:
            continue
    raise Refusal(
        503,
        "busy",
        tr("The draft, or records of this form, are changing faster than a release is prepared."),
        tr("The release in force stays as it is. Try again in a moment."),
    )


def what_would_be(draft: DraftForm, again: int | None) -> str | Refusal:
    """The fingerprint of what would be released, or why it cannot be released as it is."""
    try:
        ruleset, _ = _to_release(draft, again)
    except Refusal as refusal:
        return refusal
    return rules_fingerprint(ruleset, draft.key)


def _to_release(draft: DraftForm, again: int | None) -> tuple[RuleSet, CompiledForm]:
    """What is to be in force, compiled; refused where it says nothing new or is unfinished."""
    _refuse_beside_waiting(draft)
    before = newest_release(draft)
    form = form_to_release(draft, again)
    if before is not None and form == release_document(before.pk).form(draft.key):
        says = (
            tr("The draft says the same as release {number}.")
            if again is None
            else tr("Release {again} says the same as release {number}.")
        )
        raise Refusal(
            409,
            "nothing-new",
            says.format(again=again, number=before.number),
            tr("Change something first, then release it."),
        )
    ruleset = ruleset_around(form)
    compiled = compile_ruleset(ruleset, form=draft.key)
    _refuse_unfinished(compiled)
    return ruleset, compiled


def _refuse_beside_waiting(draft: DraftForm) -> None:
    waiting = waiting_release(draft)
    if waiting is not None:
        raise Refusal(
            409,
            "one-waits",
            tr("Release {number} is scheduled and not in force yet.", number=waiting.number),
            tr("Wait for it, or withdraw it first; then release."),
        )


@in_one_go
def _make(
    person: Person, form_key: str, wish: ReleaseRequest, ruleset: RuleSet, before: Release | None
) -> Release:
    draft = DraftForm.objects.select_for_update().get(key=form_key)
    _refuse_beside_waiting(draft)
    # Somebody else may have released, or changed the draft, since it was looked at without a lock.
    if newest_release(draft) != before:
        raise PreparationOutdated
    if ruleset_around(form_to_release(draft, wish.again)) != ruleset:
        raise PreparationOutdated
    now = wish.made_at or timezone.now()
    since = wish.since if wish.since and wish.since > now else None
    numbers = draft.releases.aggregate(last=Max("number"))
    release = Release.objects.create(
        form=draft,
        number=(numbers["last"] or 0) + 1,
        document=ruleset.model_dump(mode="json"),
        hash=ruleset_hash(ruleset),
        note=wish.note,
        released_by=person,
        released_at=now,
        in_force_from=since or now,
        brought_at=None if since else now,
        known=[one.model_dump(mode="json") for one in wish.known or ()],
    )
    if since is None:
        complete_all(draft, compiled_release(release))
    said = [tr("Release {again} once more.", again=wish.again)] if wish.again is not None else []
    if since is not None:
        said.append(tr("In force from {moment}.", moment=since.isoformat(" ", "minutes")))
    note = " ".join([*said, wish.note])
    log(
        person,
        "release",
        form_key,
        tr("Release {number}", number=release.number),
        note=note,
        at=now,
    )
    return release


def _refuse_unfinished(compiled: CompiledForm) -> None:
    problems = compiled.problems
    if compiled.form_problems:
        raise Refusal(
            409,
            "unfinished-form",
            tr("Parts of the form point to what is not there."),
            tr("Correct them, then release."),
            [item(problem) for problem in compiled.form_problems],
        )
    if problems:
        raise Refusal(
            409,
            "unfinished-rules",
            tr_count(
                "One of the rules cannot work yet.",
                "{count} of the rules cannot work yet.",
                len(problems),
            ),
            tr("Correct or remove them, then release."),
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
