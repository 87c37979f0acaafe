"""Impact of a rule on stored records before it is saved: of a sample, then exactly."""

import hashlib
import time
from collections.abc import Mapping
from dataclasses import asdict, dataclass, fields
from datetime import timedelta
from functools import partial
from typing import Any, Final, cast

from django.utils import timezone
from pydantic import TypeAdapter

from thistlequartz.core.enumerations import StoringMoment
from thistlequartz.core.impact import Impact, ImpactAnalysis
from thistlequartz.core.kinds import CHECK_KINDS
from thistlequartz.core.ruleset import Form, Rule, RuleSet
from thistlequartz.server.forms.drafts import form_document, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released_documents import release_document
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.jobs.models import UNDER_WAY, Job, JobState
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import done_or_begun
from thistlequartz.server.people.models import Person
from thistlequartz.server.releases.services import ruleset_hash

from .shares import ImpactVersions, impact_of_all
from .stored_neighbours import StoredNeighbours, stored_sample

RULE_IMPACT: Final = "rule_impact"
SAMPLE: Final = 200
"""Records that are judged while one waits: some ten milliseconds' work."""
SAMPLED_FOR: Final = 0.15
"""Seconds after which fewer of them will do, where each of them asks for others."""
FEWEST: Final = 40
KEPT_FOR: Final = timedelta(minutes=1)
"""For which an exact answer counts, whatever is stored meanwhile: where clerks are at work, the
records are others by each answer.
"""
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)


@dataclass(frozen=True, slots=True)
class RuleImpactPreview:
    """How many records a rule would newly violate, and at which moment it would refuse or warn.

    Of a rule with an effect, how many come out otherwise.
    """

    records: int
    """That are stored."""
    looked_at: int
    newly: int
    stops: Mapping[StoringMoment, int]
    warns: Mapping[StoringMoment, int]
    frees: Mapping[StoringMoment, int]
    """Which were stopped and would go through."""
    working: bool = False
    """Whether the exact answer is being worked out."""


def impact_of(person: Person, draft: DraftForm, rule: Rule) -> RuleImpactPreview:
    """Return the impact of `rule` on stored records, in the place of the one with its key.

    Exact where few are stored or the work is done; else of a sample, and the exact impact is
    worked out in the background.
    """
    records = draft.records.count()
    if release_in_force(draft) is None or records == 0:
        return _impact(records, None, rule.key)
    versions, working = _versions(draft, rule), False
    if records > SAMPLE:
        shape = (one.name for one in fields(RuleImpactPreview))  # another version told otherwise
        told = "|".join((*shape, rule.key, *map(ruleset_hash, versions)))
        fingerprint = hashlib.sha256(told.encode()).hexdigest()
        asked = {"rule": _RULE.dump_json(rule).decode()}
        job = done_or_begun(RULE_IMPACT, draft, person, fingerprint, asked, partial(_counts, draft))
        if job.state == JobState.DONE:
            return RuleImpactPreview(**cast(dict[str, Any], job.result))
        working = job.state in UNDER_WAY
        if rule.kind in CHECK_KINDS and CHECK_KINDS[rule.kind].other_records:
            # Each of a sample would ask all of them.
            return _impact(records, None, rule.key, working=working)
    analysis = ImpactAnalysis(*versions, draft.key, timezone.now())
    around = StoredNeighbours(draft.key, analysis.forms, sampled=True)
    begun = time.monotonic()
    for _ in analysis.run(stored_sample(draft, around, SAMPLE)):
        if time.monotonic() - begun > SAMPLED_FOR and analysis.impact.records >= FEWEST:
            break
    return _impact(records, analysis.impact, rule.key, working=working)


def _counts(draft: DraftForm, job: Job) -> bool:
    """Whether what was found is of the records as they are, or was found just now."""
    if job.ended_at is not None and timezone.now() - job.ended_at < KEPT_FOR:
        return True
    found = cast(dict[str, Any], job.result)
    stored_since = draft.records.filter(changed_at__gt=job.created_at).exists()
    return not stored_since and found["records"] == draft.records.count()


def preview_in_background(job: Job, progress: Progress) -> dict[str, Any]:
    """The exact answer, as JSON."""
    draft = DraftForm.objects.get(pk=job.form_id)
    rule = _RULE.validate_json(job.asked["rule"])
    versions = ImpactVersions(draft.key, *_versions(draft, rule), timezone.now())
    impact = impact_of_all(versions, progress)
    return asdict(_impact(impact.records, impact, rule.key))


def _impact(
    records: int, impact: Impact | None, key: str, *, working: bool = False
) -> RuleImpactPreview:
    found = impact or Impact()
    stops, warns, frees = (
        {moment: one.count for moment, one in counts.items()}
        for counts in (found.newly_refused, found.newly_warned, found.no_longer_refused)
    )
    own = found.rules.get(key)
    if own is None:
        return RuleImpactPreview(records, found.records, 0, stops, warns, frees, working)
    # As the page of stored records counts it: also where something else stops a record already.
    newly = own.newly.count
    return RuleImpactPreview(records, found.records, newly, own.stops, own.warns, frees, working)


def _versions(draft: DraftForm, rule: Rule) -> tuple[RuleSet, RuleSet]:
    """The draft with what is in force of the rule, and with the rule as it is being written."""
    form = form_document(draft)
    released = release_document(release_in_force(draft).pk).form(draft.key)
    former = next((one for one in released.rules if one.key == rule.key), None)
    return ruleset_around(_with(form, rule.key, former)), ruleset_around(
        _with(form, rule.key, rule)
    )


def _with(form: Form, key: str, rule: Rule | None) -> Form:
    rules = [one for one in form.rules if one.key != key]
    return form.model_copy(update={"rules": tuple(rules if rule is None else [*rules, rule])})
