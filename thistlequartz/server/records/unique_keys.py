"""The keys of unique rules, kept so that a race has one winner."""

import hashlib
import json
from collections.abc import Iterable, Mapping

from thistlequartz.core.judging import CompiledForm, Verdict, unique_key
from thistlequartz.core.ruleset import Moment, claims_key
from thistlequartz.core.values import Value

from .models import LONGEST_FINGERPRINT, Record, State, UniqueKey

FOLDING = 3
"""Which way of comparing values the keys were made by; goes up when that changes."""
_BESIDE = {"fields", "rules", "name", "purpose", "sections", "starters"}
"""Parts of a form's document that decide nothing about unique keys, or stand elsewhere already."""

MOMENTS_OF: dict[str, tuple[Moment, ...]] = {
    State.IN_PROGRESS: ("save",),
    State.RETURNED: ("save",),
    State.SUBMITTED: ("save", "submit"),
    State.APPROVED: ("save", "submit"),
}


def digest_of(form_key: str, keys: tuple[str, ...], folded: tuple[str, ...]) -> str:
    """Values in some fields of a form, as one hash."""
    text = json.dumps([form_key, keys, folded], ensure_ascii=True)
    return hashlib.sha256(text.encode()).hexdigest()


def claiming(verdicts: Iterable[Verdict]) -> frozenset[str]:
    """The rules that apply to a record and would block it: what they make unique is claimed."""
    applying = ("satisfied", "violated", "not_evaluable")
    return frozenset(
        result.rule
        for verdict in verdicts
        for result in verdict.results
        if result.severity == "block" and result.status in applying
    )


def unique_rules_fingerprint(form: CompiledForm) -> str:
    """Return the fingerprint of what decides the unique keys a record holds and claims.

    The rules of uniqueness, and the rules and fields that decide what is asked. Blank without such
    rules.
    """
    unique = [one.rule for one in form.rules if claims_key(one.rule) and one.rule.enabled]
    if not unique:
        return ""
    effects = [one.rule for one in form.rules if one.check_kind is None]
    document = form.form.model_dump(mode="json")
    told = [
        FOLDING,
        [rule.model_dump(mode="json") for rule in (*unique, *effects)],
        [{**field, "label": "", "hint": ""} for field in document["fields"]],
        {key: part for key, part in document.items() if key not in _BESIDE},
    ]
    text = json.dumps(told, sort_keys=True)
    return hashlib.sha256(text.encode()).hexdigest()[:LONGEST_FINGERPRINT]


def keys_of(
    record: Record,
    form: CompiledForm,
    values: Mapping[str, Value],
    claimed: frozenset[str],
    keys_fingerprint: str,
) -> list[UniqueKey]:
    """The keys that `record` holds by the unique rules of `form`; a blank leaves none.

    `claimed` are the rules by which no other record may claim the same.
    """
    rows = []
    for one in form.rules:
        rule = one.rule
        if not claims_key(rule) or not rule.enabled:
            continue
        held = unique_key(form.fields, rule.targets, [values.get(key) for key in rule.targets])
        if held is None:
            continue
        digest = digest_of(form.form.key, rule.targets, held)
        claim = None
        if rule.key in claimed:
            claim = hashlib.sha256(f"{keys_fingerprint} {rule.key} {digest}".encode()).hexdigest()
        rows.append(
            UniqueKey(
                record=record,
                rule_key=rule.key,
                keys_fingerprint=keys_fingerprint,
                digest=digest,
                claim=claim,
            )
        )
    return rows
