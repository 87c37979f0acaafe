"""What the bench has seen: entries that make sense, and what became of rules."""

from collections.abc import Callable
from functools import lru_cache

from thistlequartz.core.judging import TOO_MUCH_WORK
from thistlequartz.server.forms.drafts import compiled_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.judging.shapes import RuleResultView, VerdictsView

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


def note_seen(draft: DraftForm, judgement: VerdictsView) -> None:
    """Keep what has been seen of rules since they were written: fired, kept, too much work."""
    results = [one for verdict in (judgement.save, judgement.submit) for one in verdict.results]
    for flag, shows in _FLAGS.items():
        seen = frozenset(one.rule for one in results if shows(one))
        if seen and _first_time(draft.pk, draft.fingerprint, flag, seen):
            unseen = draft.rule_rows.filter(
                key__in=seen, form__fingerprint=draft.fingerprint, **{flag: False}
            )
            unseen.update(**{flag: True})


_FLAGS: dict[str, Callable[[RuleResultView], bool]] = {
    "violated_seen": lambda one: one.status == "violated",
    "satisfied_seen": lambda one: one.status == "satisfied",
    "overspent_seen": lambda one: one.reason == TOO_MUCH_WORK,
}


@lru_cache(maxsize=SEEN_KEPT)
def _token(pk: int, fingerprint: str, flag: str, seen: frozenset[str]) -> list[None]:
    return []


def _first_time(pk: int, fingerprint: str, flag: str, seen: frozenset[str]) -> bool:
    """Whether the same has not been noted already: the bench asks at every key that is pressed."""
    token = _token(pk, fingerprint, flag, seen)
    token.append(None)
    return len(token) == 1
