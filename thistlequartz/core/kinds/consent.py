"""A field that must be agreed to."""

from typing import Literal

from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr
from thistlequartz.core.types import YesNoType

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import CheckKind, as_it_is, no_formulas, no_mutations, no_names, no_placeholders
from .base.phrases import each_check, told_of_targets
from .base.targets import of_each_target, place_of_target


class ConsentRule(CheckBase):
    """Each target must be yes; blank is not consent."""

    kind: Literal["consent"] = "consent"


def _agreed(rule: ConsentRule, target: tree.Field, reader: FormulaReader) -> tree.Node | None:
    declared = reader.language.vocabulary[target.key]
    if not isinstance(declared.type, YesNoType):
        said = tr(
            "{label} is not answered by yes or no, so it cannot give consent.", label=declared.label
        )
        reader.report(said, tr("Choose a field of yes or no."), place_of_target(rule, target))
        return None
    return tree.Comparison("=", target, tree.Boolean(True))


_told = told_of_targets(tr("{targets} must be agreed to"))

KIND = CheckKind(
    document=ConsentRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    musts=of_each_target(_agreed),
    judges_blanks=True,
    marks=True,
    agreement=True,
    hints=False,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=each_check(_told),
    told=_told,
    placeholders=no_placeholders,
    neighbour="blank",
)
