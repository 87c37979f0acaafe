"""A condition on several fields."""

from typing import Literal

from thistlequartz.core.documents import Formula

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


class CrossFieldRule(CheckBase):
    """What the FEEL condition says of several fields must be true; told at the targets."""

    kind: Literal["cross_field"] = "cross_field"
    must: Formula


def _musts(rule: CrossFieldRule, reader: FormulaReader) -> list[Must]:
    return together(rule, reader.condition(rule.must, "must"))


KIND = CheckKind(
    document=CrossFieldRule,
    formulas=formula_in("must"),
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    musts=_musts,
    judges_blanks=False,
    marks=False,
    agreement=False,
    hints=False,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="values",
)
