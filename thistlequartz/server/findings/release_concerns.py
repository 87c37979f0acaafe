"""What is found of a draft before it is released."""

from collections.abc import Iterable

from thistlequartz.core.findings import TITLES, Finding
from thistlequartz.core.translation import tr, tr_count
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.releases.concerns import Concern, concern

from .services import bring_up_to_date, open_findings, under_way


def finding_concerns(draft: DraftForm, again: int | None) -> list[Concern]:
    """Concerns about findings that nobody has dismissed."""
    if again is not None:
        return []  # what is found is found of the draft
    findings, known = open_findings(draft)
    if known.findings is None or known.stale:
        bring_up_to_date(draft, None)
        says = tr("The search for findings is still running.")
        if under_way(draft):
            return [concern("findings", "note", says, settled=False, lacking=True)]
        says = tr("Nobody has looked for what may be wrong with the rules as they are.")
        return [concern("findings", "warn", says, lacking=True)]
    wrong = [one for one in findings if one.gravity == "wrong"]
    doubtful = [one for one in findings if one.gravity != "wrong"]
    told = []
    if wrong:
        says = tr_count(
            "One thing is found wrong with the rules.",
            "{count} things are found wrong with the rules.",
            len(wrong),
        )
        told.append(concern("findings", "warn", says, _named(wrong)))
    if doubtful:
        says = tr_count(
            "One thing is doubtful about the rules.",
            "{count} things are doubtful about the rules.",
            len(doubtful),
        )
        told.append(concern("findings", "note", says, _named(doubtful)))
    if failed := known.findings.failures:
        says = tr_count(
            "A search for what may be wrong with the rules failed.",
            "{count} of the searches for what may be wrong with the rules failed.",
            len(failed),
        )
        named = [(code, TITLES[code]) for code in failed]
        told.append(concern("findings", "warn", says, named))
    return told or [concern("findings", "clear", tr("Nothing was found wrong with the rules."))]


def _named(some: Iterable[Finding]) -> list[tuple[str, str]]:
    return [(one.fingerprint, one.says) for one in some]
