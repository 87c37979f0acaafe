"""A field that is required."""

from collections.abc import Iterator
from typing import Literal

from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import CheckKind, RuleMutation, as_it_is, no_formulas, no_names, no_placeholders
from .base.phrases import of_all_targets, told_of_targets
from .base.targets import of_each_target
from .lock import LockRule


class MandatoryRule(CheckBase):
    """Each target is required: it must be filled in."""

    kind: Literal["mandatory"] = "mandatory"


def _filled(rule: MandatoryRule, target: tree.Field, reader: FormulaReader) -> tree.Node:
    return tree.Comparison("!=", target, tree.Null())


def _locked_instead(rule: MandatoryRule) -> Iterator[RuleMutation]:
    shared = rule.model_dump(include=LockRule.model_fields.keys() - {"kind"})
    yield RuleMutation("locked", tr("its field is locked instead of required"), LockRule(**shared))


KIND = CheckKind(
    document=MandatoryRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=_locked_instead,
    musts=of_each_target(_filled),
    judges_blanks=True,
    marks=True,
    agreement=False,
    hints=False,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=of_all_targets(tr("{targets} is required"), tr("{targets} are required")),
    told=told_of_targets(tr("{targets} is required")),
    placeholders=no_placeholders,
    neighbour="blank",
)
