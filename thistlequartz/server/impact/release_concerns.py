"""What stored records say of a release before it is made."""

from typing import Any, Final

from thistlequartz.core.translation import tr
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.jobs.models import UNDER_WAY
from thistlequartz.server.releases.concerns import Concern, concern

from .services import newest_impact

NOT_KNOWN: Final = tr("The impact on stored records was not worked out.")
IN_PROGRESS: Final = tr("The impact on stored records is being worked out.")


def record_concerns(draft: DraftForm, again: int | None) -> list[Concern]:
    """Concerns about stored records, as far as the impact is known."""
    if release_in_force(draft) is None or not draft.records.exists():
        return []
    newest = newest_impact(draft.key, again)
    impact = newest.result
    if impact is None or newest.stale or "lost" not in impact:
        working = newest.job is not None and newest.job.state in UNDER_WAY
        says = IN_PROGRESS if working else NOT_KNOWN
        return [concern("records", "warn", says, settled=not working, lacking=True)]
    return list(_told(impact, newest.saved_since))


def _told(impact: dict[str, Any], saved_since: int) -> list[Concern]:
    said = [
        *(
            _counted(impact[what][moment], level, words)
            for what, moment, level, words in (
                ("newly_refused", "save", "warn", tr("could no longer be saved as they are")),
                ("newly_refused", "submit", "warn", tr("could no longer be submitted as they are")),
                ("newly_warned", "save", "note", tr("would newly be warned of on saving")),
                ("newly_warned", "submit", "note", tr("would newly be warned of on submitting")),
            )
        ),
        *(
            _counted(
                one["records"], "warn", tr("would lose what they hold in {one}", one=one["label"])
            )
            for one in impact["lost"].values()
        ),
        *(
            _counted(
                one["newly"],
                "warn",
                tr("would newly violate “{one}”, by what others hold", one=one["name"]),
            )
            for one in impact["rules"].values()
            if one["other_records"]
        ),
    ]
    found = [one for one in said if one is not None]
    if saved_since:
        records = (
            tr("1 record was")
            if saved_since == 1
            else tr("{saved_since:,} records were", saved_since=saved_since)
        )
        says = tr(
            "{records} saved since the impact on stored records was worked out.", records=records
        )
        found.append(concern("records", "note", says))
    if found:
        return found
    return [
        concern(
            "records",
            "clear",
            tr("Of {impact:,} stored records none is worse off.", impact=impact["records"]),
        )
    ]


def _counted(found: dict[str, Any], level: Any, words: str) -> Concern | None:
    count = found["count"]
    if not count:
        return None
    records = tr("1 stored record") if count == 1 else tr("{count:,} stored records", count=count)
    named = [(str(number), tr("Record {number}", number=number)) for number in found["numbers"]]
    return concern("records", level, f"{records} {words}.", named)
