"""Fields that are shown and count, but cannot be entered."""

from typing import Literal

from thistlequartz.core.translation import tr

from .base.common import EffectBase
from .base.kind import EffectKind, as_it_is, no_effect, no_formulas, no_mutations, no_names
from .base.phrases import of_all_targets, targets_are


class LockRule(EffectBase):
    """The targets are shown and count, but cannot be entered, while the condition is true."""

    kind: Literal["lock"] = "lock"


KIND = EffectKind(
    document=LockRule,
    formulas=no_formulas,
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    effect=no_effect,
    part="locking",
    decides="state",
    told_out_of_play=False,
    on_creation_only=False,
    can_be_unconditional=False,
    obligation=of_all_targets(tr("{targets} is locked"), tr("{targets} are locked")),
    in_effect=targets_are(tr("{targets} is locked."), tr("{targets} are locked.")),
)
