"""What stored records say of a release before it is made."""

from collections.abc import Callable
from typing import Any, Final

from thistlequartz.core.ruleset import Moment, Severity
from thistlequartz.core.translation import tr, tr_count
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
            _counted(impact[what][moment], level, says)
            for (what, moment, level), says in _WORSE.items()
        ),
        *(
            _counted(one["records"], "warn", _loses, field=one["label"])
            for one in impact["lost"].values()
        ),
        *(
            _counted(one["newly"], "warn", _violates, rule=one["name"])
            for one in impact["rules"].values()
            if one["other_records"]
        ),
    ]
    found = [one for one in said if one is not None]
    if saved_since:
        says = tr_count(
            "1 record was saved since the impact on stored records was worked out.",
            "{count:,} records were saved since the impact on stored records was worked out.",
            saved_since,
        )
        found.append(concern("records", "note", says))
    if found:
        return found
    return [
        concern(
            "records",
            "clear",
            tr("Of {count:,} stored records none is worse off.", count=impact["records"]),
        )
    ]


def _not_saved(count: int) -> str:
    return tr_count(
        "1 stored record could no longer be saved as it is.",
        "{count:,} stored records could no longer be saved as they are.",
        count,
    )


def _not_submitted(count: int) -> str:
    return tr_count(
        "1 stored record could no longer be submitted as it is.",
        "{count:,} stored records could no longer be submitted as they are.",
        count,
    )


def _warned_on_saving(count: int) -> str:
    return tr_count(
        "1 stored record would newly be warned of on saving.",
        "{count:,} stored records would newly be warned of on saving.",
        count,
    )


def _warned_on_submitting(count: int) -> str:
    return tr_count(
        "1 stored record would newly be warned of on submitting.",
        "{count:,} stored records would newly be warned of on submitting.",
        count,
    )


def _loses(count: int, field: str) -> str:
    return tr_count(
        "1 stored record would lose what it holds in {field}.",
        "{count:,} stored records would lose what they hold in {field}.",
        count,
        field=field,
    )


def _violates(count: int, rule: str) -> str:
    return tr_count(
        "1 stored record would newly violate “{rule}”, by what others hold.",
        "{count:,} stored records would newly violate “{rule}”, by what others hold.",
        count,
        rule=rule,
    )


_WORSE: Final[dict[tuple[str, Moment, Severity], Callable[[int], str]]] = {
    ("newly_refused", "save", "warn"): _not_saved,
    ("newly_refused", "submit", "warn"): _not_submitted,
    ("newly_warned", "save", "note"): _warned_on_saving,
    ("newly_warned", "submit", "note"): _warned_on_submitting,
}


def _counted(
    found: dict[str, Any], level: Any, says: Callable[..., str], **places: str
) -> Concern | None:
    count = found["count"]
    if not count:
        return None
    named = [(str(number), tr("Record {number}", number=number)) for number in found["numbers"]]
    return concern("records", level, says(count, **places), named)
