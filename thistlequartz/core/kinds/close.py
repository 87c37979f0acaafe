"""Fields that are not asked under a condition."""

from typing import Literal

from thistlequartz.core.documents import Formula
from thistlequartz.core.translation import tr

from .base.common import EffectBase
from .base.kind import EffectKind, as_it_is, no_effect, no_formulas, no_mutations, no_names
from .base.phrases import of_all_targets, targets_are


class CloseRule(EffectBase):
    """The targets are not relevant while the condition is true."""

    kind: Literal["close"] = "close"
    when: Formula
    shown: Literal["hidden", "disabled"] = "hidden"


KIND = EffectKind(
    document=CloseRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    effect=no_effect,
    part="closing",
    decides="state",
    told_out_of_play=True,
    on_creation_only=False,
    can_be_unconditional=False,
    obligation=of_all_targets(tr("{targets} is not asked"), tr("{targets} are not asked")),
    in_effect=targets_are(tr("{targets} is not asked."), tr("{targets} are not asked.")),
)
