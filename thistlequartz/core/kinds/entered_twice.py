"""A field that is entered a second time."""

from typing import Literal

from thistlequartz.core.language import tree

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import CheckKind, as_it_is, no_formulas, no_mutations, no_names, no_placeholders
from .base.phrases import each_check, told_of_must
from .base.targets import of_each_target


class EnteredTwiceRule(CheckBase):
    """Each target is entered a second time, alike, wherever it is filled and changed.

    The second entry of the field `email` travels as `email.again`.
    """

    kind: Literal["entered_twice"] = "entered_twice"


def _alike(rule: EnteredTwiceRule, target: tree.Field, reader: FormulaReader) -> tree.Node:
    return tree.EnteredTwice(target.key)


KIND = CheckKind(
    document=EnteredTwiceRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    musts=of_each_target(_alike),
    judges_blanks=True,
    marks=False,
    agreement=False,
    hints=False,
    second_entry=True,
    other_records=False,
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="second_entry",
)
