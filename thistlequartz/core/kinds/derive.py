"""Fields that are computed."""

from typing import Literal

from thistlequartz.core.documents import Formula
from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr

from .base.common import EffectBase
from .base.formulas import FormulaReader
from .base.kind import EffectKind, as_it_is, formula_in, no_mutations, no_names
from .base.lowered import Effect
from .base.phrases import each_value, values_in_effect


class DeriveRule(EffectBase):
    """The targets are computed. The first in order that applies gives the value."""

    kind: Literal["derive"] = "derive"
    value: Formula


def _effect(rule: DeriveRule, when: tree.Node | None, reader: FormulaReader) -> Effect:
    found = ((key, reader.value_for(key, rule.value, "value")) for key in rule.targets)
    return Effect(tuple((key, node) for key, node in found if node is not None))


KIND = EffectKind(
    document=DeriveRule,
    formulas=formula_in("value"),
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    effect=_effect,
    part="deriving",
    decides="value",
    told_out_of_play=False,
    on_creation_only=False,
    can_be_unconditional=True,
    obligation=each_value(tr("{field} is {value}")),
    in_effect=values_in_effect,
)
