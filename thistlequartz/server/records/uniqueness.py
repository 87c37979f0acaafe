"""The keys of unique rules, kept so that a race has one winner."""

import hashlib
import json
from collections.abc import Mapping

from thistlequartz.core.evaluation import CompiledForm, folded_key
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


def keys_of(record: Record, form: CompiledForm, values: Mapping[str, Value]) -> list[UniqueKey]:
    """The keys that `record` holds by the unique rules of `form`; a blank leaves none."""
    rows = []
    for one in form.rules:
        rule = one.rule
        if not isinstance(rule, UniqueRule) or not rule.on:
            continue
        held = [values[key] for key in rule.targets if key in values]
        if len(held) < len(rule.targets):
            continue
        digest = digest_of(form.form.key, rule.targets, folded_key(held))
        blocks = any(one.severities[moment] == "block" for moment in MOMENTS_OF[record.state])
        claim = hashlib.sha256(f"{rule.key} {digest}".encode()).hexdigest() if blocks else None
        rows.append(UniqueKey(record=record, rule_key=rule.key, digest=digest, claim=claim))
    return rows
