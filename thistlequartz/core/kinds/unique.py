"""Values that one record alone may hold."""

from typing import Literal

from thistlequartz.core.language import tree

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import (
    CheckKind,
    Must,
    as_it_is,
    no_formulas,
    no_mutations,
    no_names,
    no_placeholders,
)
from .base.phrases import each_check, told_of_must
from .base.targets import together


class UniqueRule(CheckBase):
    """No other record of the form holds the same values in the targets, taken together."""

    kind: Literal["unique"] = "unique"


def _musts(rule: UniqueRule, reader: FormulaReader) -> list[Must]:
    return together(rule, tree.Unique(rule.targets))


KIND = CheckKind(
    document=UniqueRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    musts=_musts,
    judges_blanks=False,
    marks=False,
    agreement=False,
    hints=False,
    second_entry=False,
    other_records=True,
    claims_key=True,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="another_record",
)
