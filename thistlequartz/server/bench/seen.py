"""What the bench has seen: entries that make sense, and rules that fired or were satisfied."""

from functools import lru_cache

from thistlequartz.server.forms.drafts import compiled_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.judging.shapes import Verdicts

SEEN_KEPT = 1_024
RECORDS_LOOKED_AT = 20


def entries_of_records(draft: DraftForm) -> dict[str, list[object]]:
    """Entries of the newest stored records, by field, each once: they are known to make sense."""
    found: dict[str, list[object]] = {}
    newest = draft.records.order_by("-number").values_list("values", flat=True)[:RECORDS_LOOKED_AT]
    form = compiled_draft(draft)
    for values in newest:
        for key, value in form.as_entered(values).items():
            entries = found.setdefault(key, [])
            if value not in entries:
                entries.append(value)
    return found


def note_seen(draft: DraftForm, judgement: Verdicts) -> None:
    """Keep which rules have been seen to fire, and which to be kept, since they were written."""
    statuses = [
        (one.rule, one.status)
        for verdict in (judgement.save, judgement.submit)
        for one in verdict.results
    ]
    for status, flag in (("broken", "broken_seen"), ("kept", "kept_seen")):
        seen = frozenset(rule for rule, found in statuses if found == status)
        if seen and _first_time(draft.pk, draft.revision, flag, seen):
            unseen = draft.rule_rows.filter(key__in=seen, **{flag: False})
            unseen.update(**{flag: True})


@lru_cache(maxsize=SEEN_KEPT)
def _token(pk: int, revision: int, flag: str, seen: frozenset[str]) -> list[None]:
    return []


def _first_time(pk: int, revision: int, flag: str, seen: frozenset[str]) -> bool:
    """Whether the same has not been noted already: the bench asks at every key that is pressed."""
    token = _token(pk, revision, flag, seen)
    token.append(None)
    return len(token) == 1
