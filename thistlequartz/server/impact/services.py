"""Impact on stored records: what the draft would newly refuse or warn of."""

from dataclasses import asdict
from typing import Any, NamedTuple

from django.http import Http404
from django.utils import timezone

from thistlequartz.core.translation import tr
from thistlequartz.server.forms.drafts import get_draft, ruleset_around
from thistlequartz.server.forms.freshness import impact_fingerprint
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released_documents import release_document
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.jobs.models import UNDER_WAY, Job, JobState
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import begin, newest
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal
from thistlequartz.server.releases.comparison import fingerprint_to_release, form_to_release

from .shares import ImpactVersions, impact_of_all

IMPACT, RELEASE_IMPACT = "impact", "release_impact"
OF_A_RULE = ("newly", "no_longer", "harder")
"""What is counted of each rule; everything else is counted of a moment or a field."""


def begin_analysis(person: Person, form_key: str, again: int | None = None) -> Job:
    """Begin the impact analysis of a draft, or of a release that may come `again`.

    Refused where nothing is in force.
    """
    draft = get_draft(form_key)
    if release_in_force(draft) is None:
        raise Refusal(
            409,
            "not-released",
            tr("No release of {name} is in force yet.", name=draft.name),
            tr("The draft has no release to be compared with; release it first."),
        )
    kind = _kind(again)
    return begin(kind, draft, person, _fingerprint(draft, again), {"again": str(again or "")})


class ImpactState(NamedTuple):
    """The newest impact analysis and its state."""

    job: Job | None
    stale: bool
    """Whether draft or release are others by now."""
    saved_since: int = 0
    """How many records were stored or changed since it began."""

    @property
    def result(self) -> dict[str, Any] | None:
        """What it gave, where it is done."""
        done = self.job is not None and self.job.state == JobState.DONE
        return self.job.result if self.job is not None and done else None


def newest_impact(form_key: str, again: int | None = None) -> ImpactState:
    """Return the newest impact of the draft, or of a release that may come again."""
    draft = get_draft(form_key)
    kind, fingerprint = _kind(again), _fingerprint(draft, again)
    job = newest(kind, draft, *UNDER_WAY, JobState.DONE, fingerprint=fingerprint) or newest(
        kind, draft
    )
    since = draft.records.filter(changed_at__gt=job.created_at).count() if job else 0
    return ImpactState(job, job is not None and job.fingerprint != fingerprint, since)


def numbers_behind(form_key: str, again: int | None, what: str, of: str) -> list[int]:
    """Return the numbers of the records behind one count of the newest analysis.

    `what` is the count, `of` its moment, field or rule. Refused where it is out of date.
    """
    newest = newest_impact(form_key, again)
    impact = newest.result
    if impact is None or newest.stale:
        raise Refusal(
            409,
            "impact-not-known",
            tr("The impact of the draft as it is has not been worked out."),
            tr("Work out again first."),
        )
    try:
        found = impact["rules"][of][what] if what in OF_A_RULE else impact[what][of]
        numbers: list[int] = found.get("records", found)["numbers"]
    except (KeyError, TypeError):
        raise Http404(f"{what} {of}") from None
    return numbers


def analyse_in_background(job: Job, progress: Progress) -> dict[str, Any]:
    """Run an impact analysis; return it as JSON."""
    draft = DraftForm.objects.get(pk=job.form_id)
    again = int(job.asked["again"]) if job.asked.get("again") else None
    release = release_in_force(draft)
    after = ruleset_around(form_to_release(draft, again))
    versions = ImpactVersions(draft.key, release_document(release.pk), after, timezone.now())
    return {"release": release.number, **asdict(impact_of_all(versions, progress))}


def _kind(again: int | None) -> str:
    return IMPACT if again is None else RELEASE_IMPACT


def _fingerprint(draft: DraftForm, again: int | None) -> str:
    release = release_in_force(draft)
    following = fingerprint_to_release(draft, again)
    return impact_fingerprint(release.number if release else None, again, following)
