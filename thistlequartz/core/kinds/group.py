"""How many of several fields are filled."""

from typing import Literal

from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr

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


class GroupRule(CheckBase):
    """At least one, exactly one, or all or none of the relevant targets are filled."""

    kind: Literal["group"] = "group"
    quantity: Literal["at_least_one", "exactly_one", "all_or_none"]


def _musts(rule: GroupRule, reader: FormulaReader) -> list[Must]:
    if len(rule.targets) < 2:
        said = tr("A group has one field only, so there is nothing to choose among.")
        reader.report(said, tr("Name at least two fields."), "targets", unsaid=True)
    return together(rule, tree.Filled(rule.quantity, rule.targets))


KIND = CheckKind(
    document=GroupRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    musts=_musts,
    judges_blanks=True,
    marks=False,
    agreement=False,
    hints=False,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="blank",
)
