"""Fields that are asked only under a condition."""

from typing import Literal

from thistlequartz.core.documents import Formula
from thistlequartz.core.translation import tr

from .base.common import EffectBase
from .base.kind import EffectKind, as_it_is, no_effect, no_formulas, no_mutations, no_names
from .base.phrases import of_all_targets, targets_are


class OpenRule(EffectBase):
    """The targets are asked while the condition is true."""

    kind: Literal["open"] = "open"
    when: Formula
    otherwise: Literal["hidden", "disabled"] = "hidden"
    """How a target is shown while it is not asked."""


KIND = EffectKind(
    document=OpenRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    effect=no_effect,
    part="opening",
    decides="state",
    told_out_of_play=True,
    on_creation_only=False,
    can_be_unconditional=False,
    obligation=of_all_targets(tr("{targets} is asked"), tr("{targets} are asked")),
    in_effect=targets_are(tr("{targets} is asked."), tr("{targets} are asked.")),
)
