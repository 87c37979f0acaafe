"""Reasons given for passing a warning: what they belong to, and when they lapse."""

import hashlib
import json
from collections.abc import Mapping
from typing import Literal

from thistlequartz.core.judging.compiling.compiled_rule import CompiledRule
from thistlequartz.core.judging.evaluation import Evaluation
from thistlequartz.core.judging.settled import Settled
from thistlequartz.core.values import to_json

from .verdict import Waiver


def basis_of(compiled: CompiledRule, finding: Evaluation, settled: Settled) -> str:
    """What a reason belongs to: the rule, its wording, and the values it read."""
    read = dict.fromkeys((*finding.reads, *compiled.governors))
    values = {key: to_json(settled.value_of(key)) for key in read}
    wording = compiled.rule.model_dump_json(
        include={"key", "kind", "targets", "when", "message"}
        | set(type(compiled.rule).model_fields.keys() - _NOT_WORDING)
    )
    text = json.dumps([wording, values], sort_keys=True, ensure_ascii=True)
    return hashlib.sha256(text.encode()).hexdigest()[:32]


_NOT_WORDING = {
    "name",
    "why",
    "severity",
    "hold",
    "reason_required",
    "placement",
    "confirmation",
    "scope",
    "in_force_from",
    "in_force_to",
    "enabled",
}
"""What can change without making a reason given for the rule a reason for something else."""


def waiver_state(
    key: str, basis: str, given: Mapping[str, Waiver | str]
) -> Literal["required", "given", "lapsed"]:
    """How a required reason stands."""
    waiver = given.get(key)
    if isinstance(waiver, str):
        waiver = Waiver(waiver)
    if waiver is None or not waiver.text.strip():
        return "required"
    return "given" if waiver.basis in (None, basis) else "lapsed"
