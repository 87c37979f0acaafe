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
from .base.kind import CheckKind, EffectKind

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
