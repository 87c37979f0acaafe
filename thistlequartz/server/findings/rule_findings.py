"""What would be found of a rule as it is being written, in the background."""

import hashlib
from collections.abc import Iterator
from typing import Any, Final

from pydantic import TypeAdapter

from thistlequartz.core.findings import Finding, Findings, grouped
from thistlequartz.core.ruleset import Form, Rule
from thistlequartz.server.forms.drafts import form_document, ruleset_around
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.models import UNDER_WAY, Job, JobState
from thistlequartz.server.jobs.progress import Progress
from thistlequartz.server.jobs.services import done_or_begun
from thistlequartz.server.people.models import Person

from .services import fingerprint_now, found_in, known_of

OF_A_RULE: Final = "findings_of_rule"
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)
_FOUND: TypeAdapter[tuple[Finding, ...]] = TypeAdapter(tuple[Finding, ...])


def found_of(person: Person, draft: DraftForm, rule: Rule) -> tuple[list[Finding], bool]:
    """Return the findings of `rule` in the place of the one with its key.

    As far as known, and whether the search goes on.
    """
    if not rule.targets:
        return [], False  # it says nothing yet
    document = _RULE.dump_json(rule).decode()
    told = f"{fingerprint_now(draft)}|{document}"
    fingerprint = hashlib.sha256(told.encode()).hexdigest()
    job = done_or_begun(OF_A_RULE, draft, person, fingerprint, {"rule": document})
    if job.state == JobState.DONE:
        return list(_FOUND.validate_python(job.result)), False
    return [], job.state in UNDER_WAY


def find_of_rule_in_background(job: Job, progress: Progress) -> Any:
    """What is found of the rule, and was not found of the draft without it, as JSON."""
    draft = DraftForm.objects.get(pk=job.form_id)
    rule = _RULE.validate_json(job.asked["rule"])
    findings = found_in(draft, ruleset_around(_with(form_document(draft), rule)), progress)
    before = known_of(draft).findings or Findings()
    return _FOUND.dump_python(tuple(_new(findings, before, rule.key)), mode="json")


def _new(findings: Findings, before: Findings, key: str) -> Iterator[Finding]:
    """What is about the rule, or came with it, by its most telling one; a circle that it closes is
    told as what is to be corrected in it.
    """
    known = {one.fingerprint for one in before.found}
    for group in grouped(findings.found):
        one = group.finding
        about = key in (*one.rules, *one.proof) or one.fingerprint not in known
        if about and one.code != "F39":
            yield one


def _with(form: Form, rule: Rule) -> Form:
    there = any(one.key == rule.key for one in form.rules)
    rules = tuple(rule if one.key == rule.key else one for one in form.rules)
    return form.model_copy(update={"rules": rules if there else (*rules, rule)})
