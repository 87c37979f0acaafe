"""The kinds of rule, one file each: document, lowering, words and mutations.

`registry.py` lists them; `kind.py` says which parts each must have, and there is no default.
"""

from .allowed_values import AllowedRow, AllowedValuesRule
from .base.common import Scope, Severities
from .base.form_language import Language
from .base.kind import (
    CheckKind,
    EffectKind,
    EffectSeen,
    FormulaSlot,
    KindPlaceholder,
    RuleMutation,
)
from .base.lowered import Check, Effect, Lowered
from .close import CloseRule
from .consent import ConsentRule
from .cross_field import CrossFieldRule
from .derive import DeriveRule
from .elsewhere import ElsewhereRule
from .entered_twice import EnteredTwiceRule
from .format import FormatRule
from .group import GroupRule
from .lock import LockRule
from .mandatory import MandatoryRule
from .open import OpenRule
from .propose import ProposedValue, ProposeRule
from .range import Bound, RangeRule
from .registry import (
    CHECK_KINDS,
    EFFECT_KINDS,
    KINDS,
    CheckRule,
    EffectRule,
    Rule,
    claims_key,
    part_of,
)
from .start import StartRule
from .unique import UniqueRule
from .wait import WaitRule

__all__ = [
    "CHECK_KINDS",
    "EFFECT_KINDS",
    "KINDS",
    "AllowedRow",
    "AllowedValuesRule",
    "Bound",
    "Check",
    "CheckKind",
    "CheckRule",
    "CloseRule",
    "ConsentRule",
    "CrossFieldRule",
    "DeriveRule",
    "Effect",
    "EffectKind",
    "EffectRule",
    "EffectSeen",
    "ElsewhereRule",
    "EnteredTwiceRule",
    "FormatRule",
    "FormulaSlot",
    "GroupRule",
    "KindPlaceholder",
    "Language",
    "LockRule",
    "Lowered",
    "MandatoryRule",
    "OpenRule",
    "ProposeRule",
    "ProposedValue",
    "RangeRule",
    "Rule",
    "RuleMutation",
    "Scope",
    "Severities",
    "StartRule",
    "UniqueRule",
    "WaitRule",
    "claims_key",
    "part_of",
]
