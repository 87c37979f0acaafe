"""What a release asks of stored records: unique keys and the index by what it says."""

from typing import Any

from django.db import transaction
from django.utils import timezone

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.ruleset import Rule
from thistlequartz.core.values import Fault
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.released import newest_release
from thistlequartz.server.problems import ProblemItem, Refusal
from thistlequartz.server.releases.services import compiled_release

from .indexing import index_form
from .models import UniqueKey
from .uniqueness import MOMENTS_OF, claiming, keys_of

RECORDS_AT_ONCE = 500


def when_released(
    sender: Any, draft: DraftForm, compiled: CompiledForm, before: CompiledForm | None, **_: Any
) -> None:
    """Stored records follow the release; refused where some of them could not."""
    claim_unique_keys(draft, compiled, before)
    index_form(draft, compiled)


def claim_unique_keys(
    draft: DraftForm, compiled: CompiledForm, before: CompiledForm | None
) -> None:
    """Keep the keys of stored records by the release's unique rules, where those have changed.

    Refused, with the collisions, where stored records hold the same key and the rule would block.
    """
    if before is not None and _unique_rules(before) == _unique_rules(compiled):
        return
    UniqueKey.objects.filter(record__form=draft).delete()
    now = timezone.now()
    held: dict[str, int] = {}
    rows: list[UniqueKey] = []
    collisions: list[ProblemItem] = []
    for record in draft.records.iterator(RECORDS_AT_ONCE):
        entered = compiled.as_entered(record.values)
        readings = compiled.read(entered).readings
        values = {
            key: value
            for key, value in readings.items()
            if value is not None and not isinstance(value, Fault)
        }
        verdicts = compiled.judge_moments(
            entered,
            moments=MOMENTS_OF[record.state],
            today=compiled.today_at(now),
            now=now,
            event="update",
            stored=record.values,
        )
        for row in keys_of(record, compiled, values, claiming(verdicts.values())):
            first = held.setdefault(row.claim, record.number) if row.claim else record.number
            if first == record.number:
                rows.append(row)
            else:
                said = f"Records {first} and {record.number} hold the same values."
                remedy = "Change one of the two, or let the rule warn."
                collisions.append(
                    ProblemItem(place=f"rules.{row.rule_key}", message=said, remedy=remedy)
                )
    if collisions:
        raise Refusal(
            409,
            "collisions",
            f"{len(collisions)} stored records would break a rule of uniqueness at once.",
            "Mend them first, then release; the release in use stays as it is.",
            collisions,
        )
    UniqueKey.objects.bulk_create(rows, batch_size=RECORDS_AT_ONCE)


def index_released_forms() -> None:
    """Index the records of every form that is released, as far as they are not yet."""
    for draft in DraftForm.objects.all():
        newest = newest_release(draft)
        if newest is not None:
            with transaction.atomic():
                index_form(draft, compiled_release(newest))


def _unique_rules(compiled: CompiledForm) -> list[Rule]:
    return [one.rule for one in compiled.rules if one.check_kind and one.check_kind.claims_key]
