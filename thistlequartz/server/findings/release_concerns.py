"""What is found of a draft before it is released."""

from thistlequartz.core.findings import TITLES
from thistlequartz.core.translation import tr
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
    for some, level, says in (
        (wrong, "warn", tr("{} found wrong with the rules.")),
        (doubtful, "note", tr("{} doubtful about the rules.")),
    ):
        if some:
            count = (
                tr("One thing is") if len(some) == 1 else tr("{count} things are", count=len(some))
            )
            named = [(one.fingerprint, one.says) for one in some]
            told.append(concern("findings", level, says.format(count), named))  # type: ignore[arg-type]
    if failed := known.findings.failures:
        says = tr(
            "{count} of the searches for what may be wrong with the rules failed.",
            count=len(failed),
        )
        named = [(code, TITLES[code]) for code in failed]
        told.append(concern("findings", "warn", says, named))
    return told or [concern("findings", "clear", tr("Nothing was found wrong with the rules."))]
