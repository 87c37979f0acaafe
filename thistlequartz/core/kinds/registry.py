"""The registry of rule kinds. A new kind is a file of its own and a line in each list here."""

from collections.abc import Mapping
from typing import Annotated, Any, cast

from pydantic import Field as Setting

from . import (
    allowed_values,
    close,
    consent,
    cross_field,
    derive,
    elsewhere,
    entered_twice,
    format,
    group,
    lock,
    mandatory,
    open,
    propose,
    range,
    start,
    unique,
    wait,
)
from .base.common import RuleBase
from .base.kind import CheckKind, EffectKind, Part

CheckRule = (
    mandatory.MandatoryRule
    | range.RangeRule
    | allowed_values.AllowedValuesRule
    | format.FormatRule
    | cross_field.CrossFieldRule
    | group.GroupRule
    | unique.UniqueRule
    | elsewhere.ElsewhereRule
    | entered_twice.EnteredTwiceRule
    | consent.ConsentRule
)
EffectRule = (
    open.OpenRule
    | close.CloseRule
    | lock.LockRule
    | wait.WaitRule
    | derive.DeriveRule
    | start.StartRule
    | propose.ProposeRule
)
Rule = Annotated[CheckRule | EffectRule, Setting(discriminator="kind")]

CHECK_KINDS: Mapping[str, CheckKind[Any]] = {
    one.KIND.name: cast("CheckKind[Any]", one.KIND)
    for one in (
        mandatory,
        range,
        allowed_values,
        format,
        cross_field,
        group,
        unique,
        elsewhere,
        entered_twice,
        consent,
    )
}
EFFECT_KINDS: Mapping[str, EffectKind[Any]] = {
    one.KIND.name: cast("EffectKind[Any]", one.KIND)
    for one in (open, close, lock, wait, derive, start, propose)
}
KINDS: Mapping[str, CheckKind[Any] | EffectKind[Any]] = {**CHECK_KINDS, **EFFECT_KINDS}


def part_of(rule: RuleBase) -> Part | None:
    """Return the place of a rule with an effect in an evaluation; None of one that checks."""
    kind = EFFECT_KINDS.get(rule.kind)  # type: ignore[attr-defined]
    return kind.part if kind else None


def claims_key(rule: RuleBase) -> bool:
    """Return whether the values of a rule's targets, taken together, belong to one record."""
    kind = CHECK_KINDS.get(rule.kind)  # type: ignore[attr-defined]
    return kind is not None and kind.claims_key
