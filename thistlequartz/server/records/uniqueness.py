"""The keys of unique rules, kept so that a race has one winner."""

import hashlib
import json
from collections.abc import Iterable, Mapping

from thistlequartz.core.judging import CompiledForm, Verdict, folded_key
from thistlequartz.core.ruleset import Moment, UniqueRule
from thistlequartz.core.values import Value

from .models import Record, State, UniqueKey

MOMENTS_OF: dict[str, tuple[Moment, ...]] = {
    State.SAVED: ("save",),
    State.SUBMITTED: ("save", "submit"),
}


def digest_of(form_key: str, keys: tuple[str, ...], folded: tuple[str, ...]) -> str:
    """Values in some fields of a form, as one hash."""
    text = json.dumps([form_key, keys, folded], ensure_ascii=True)
    return hashlib.sha256(text.encode()).hexdigest()


def claiming(verdicts: Iterable[Verdict]) -> frozenset[str]:
    """The rules that apply to a record and would block it: what they make unique is claimed."""
    applying = ("kept", "broken", "nothing_to_judge")
    return frozenset(
        result.rule
        for verdict in verdicts
        for result in verdict.results
        if result.severity == "block" and result.status in applying
    )


def keys_of(
    record: Record, form: CompiledForm, values: Mapping[str, Value], claimed: frozenset[str]
) -> list[UniqueKey]:
    """The keys that `record` holds by the unique rules of `form`; a blank leaves none.

    `claimed` are the rules by which no other record may claim the same.
    """
    rows = []
    for one in form.rules:
        rule = one.rule
        if not isinstance(rule, UniqueRule) or not rule.on:
            continue
        held = [values[key] for key in rule.targets if key in values]
        if len(held) < len(rule.targets):
            continue
        digest = digest_of(form.form.key, rule.targets, folded_key(held))
        claim: str | None = hashlib.sha256(f"{rule.key} {digest}".encode()).hexdigest()
        claim = claim if rule.key in claimed else None
        rows.append(UniqueKey(record=record, rule_key=rule.key, digest=digest, claim=claim))
    return rows
