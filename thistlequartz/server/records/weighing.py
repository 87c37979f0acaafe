"""Stored records weighed against the draft: what releasing it would newly stop or warn of."""

from collections.abc import Iterator, Mapping
from dataclasses import asdict
from typing import Any

from django.utils import timezone

from thistlequartz.core.analysis.weighing import Scales, Stored
from thistlequartz.core.engines.rows import Where
from thistlequartz.core.judging import Found
from thistlequartz.core.language import Vocabulary
from thistlequartz.server.forms.drafts import form_document, get_draft, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released import newest_release, release_document
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin, newest
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal
from thistlequartz.server.releases.services import ruleset_hash

from .lookup import DatabaseLookup
from .models import Record

WEIGH = "weigh"
RECORDS_AT_ONCE = 500


def begin_weighing(person: Person, form_key: str) -> Job:
    """Weigh the stored records of a form in the background; refused where nothing is released."""
    draft = get_draft(form_key)
    if newest_release(draft) is None:
        raise Refusal(
            409,
            "not-released",
            f"{draft.name} has not been released yet.",
            "There is nothing to weigh the draft against; release it first.",
        )
    return begin(WEIGH, draft, person, "|".join(_compared(draft)))


def last_weighing(form_key: str) -> tuple[Job | None, bool]:
    """The newest weighing, and whether draft or release are others by now."""
    draft = get_draft(form_key)
    job = newest(WEIGH, draft)
    return job, job is not None and job.stamp != "|".join(_compared(draft))


def weigh_in_background(job: Job, progress: Progress) -> dict[str, Any]:
    """What a weighing gives, as JSON."""
    draft = DraftForm.objects.get(pk=job.form_id)
    release = newest_release(draft)
    scales = Scales(
        release_document(release.pk),
        ruleset_around(form_document(draft)),
        draft.key,
        timezone.now(),
    )
    total = draft.records.count()
    for _ in progress.over(scales.weigh(_stored(draft)), total):
        pass
    return {"release": release.number, **asdict(scales.weight)}


def _compared(draft: DraftForm) -> tuple[str, str]:
    """What is weighed: the release in use by its number, and the draft by its hash."""
    release = newest_release(draft)
    hashed = ruleset_hash(ruleset_around(form_document(draft)))
    return (str(release.number) if release else "", hashed)


def _stored(draft: DraftForm) -> Iterator[Stored]:
    lookup, last = _Remembering(draft.key), 0
    while True:
        rows = Record.objects.filter(form=draft, pk__gt=last).order_by("pk")
        some = list(rows.values_list("pk", "number", "values")[:RECORDS_AT_ONCE])
        if not some:
            return
        for _, number, values in some:
            yield Stored(number, values, lookup)
        last = some[-1][0]


class _Remembering:
    """The records that others refer to, each asked for once."""

    def __init__(self, form_key: str) -> None:
        self._asked = DatabaseLookup(form_key)
        self._found: dict[tuple[str, str], Found | None] = {}

    def record(self, form: str, number: str) -> Found | None:
        """The record of that number."""
        if (form, number) not in self._found:
            self._found[form, number] = self._asked.record(form, number)
        return self._found[form, number]

    def taken(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> bool:
        """Never asked: rules that look at other records are not weighed."""
        return False

    def holder(self, keys: tuple[str, ...], folded: tuple[str, ...]) -> str | None:
        """Never asked, either."""
        return None

    def others(self, where: Where, fields: Vocabulary) -> Iterator[Mapping[str, object]]:
        """None."""
        return iter(())
