"""What stored records say of a release before it is made."""

from typing import Any

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.jobs.models import UNDER_WAY
from thistlequartz.server.releases.concerns import Concern, concern

from .services import last_weighing


def record_concerns(draft: DraftForm, again: int | None) -> list[Concern]:
    """Concerns about the records that are stored, as far as they have been weighed."""
    if release_in_force(draft) is None or not draft.records.exists():
        return []
    weighing = last_weighing(draft.key, again)
    weight = weighing.result
    if weight is None or weighing.stale or "lost" not in weight:
        working = weighing.job is not None and weighing.job.state in UNDER_WAY
        says = "The impact on stored records was not worked out."
        return [concern("records", "warn", says, settled=not working, lacking=True)]
    return list(_told(weight, weighing.saved_since))


def _told(weight: dict[str, Any], saved_since: int) -> list[Concern]:
    said = [
        *(
            _counted(weight[what][moment], level, words)
            for what, moment, level, words in (
                ("newly_refused", "save", "warn", "could no longer be saved as they are"),
                ("newly_refused", "submit", "warn", "could no longer be submitted as they are"),
                ("newly_warned", "save", "note", "would newly be warned of on saving"),
                ("newly_warned", "submit", "note", "would newly be warned of on submitting"),
            )
        ),
        *(
            _counted(one["records"], "warn", f"would lose what they hold in {one['label']}")
            for one in weight["lost"].values()
        ),
        *(
            _counted(
                one["newly"], "warn", f"would newly violate “{one['name']}”, by what others hold"
            )
            for one in weight["rules"].values()
            if one["other_records"]
        ),
    ]
    found = [one for one in said if one is not None]
    if saved_since:
        records = "1 record was" if saved_since == 1 else f"{saved_since:,} records were"
        says = f"{records} saved since the impact on stored records was worked out."
        found.append(concern("records", "note", says))
    if found:
        return found
    return [
        concern("records", "clear", f"Of {weight['records']:,} stored records none is worse off.")
    ]


def _counted(found: dict[str, Any], level: Any, words: str) -> Concern | None:
    count = found["count"]
    if not count:
        return None
    records = "1 stored record" if count == 1 else f"{count:,} stored records"
    named = [(str(number), f"Record {number}") for number in found["numbers"]]
    return concern("records", level, f"{records} {words}.", named)
