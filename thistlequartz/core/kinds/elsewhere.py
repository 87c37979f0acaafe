"""What no other record of the form may say."""

from typing import Literal

from thistlequartz.core.documents import Formula
from thistlequartz.core.language import tree

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import (
    CheckKind,
    Must,
    as_it_is,
    formula_in,
    no_mutations,
    no_names,
    no_placeholders,
)
from .base.phrases import each_check, told_of_must
from .base.targets import together


class ElsewhereRule(CheckBase):
    """There is no other record of the form for which the FEEL condition on `other.key` is true."""

    kind: Literal["elsewhere"] = "elsewhere"
    no_other: Formula


def _musts(rule: ElsewhereRule, reader: FormulaReader) -> list[Must]:
    inner = reader.condition(rule.no_other, "no_other", others=True)
    return together(rule, tree.NoOther(inner) if inner else None)


KIND = CheckKind(
    document=ElsewhereRule,
    formulas=formula_in("no_other"),
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
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="another_record",
)
