"""Values that are proposed, which the person applies or leaves."""

from collections.abc import Iterator, Mapping
from typing import Annotated, Literal, Self

from pydantic import Field as Setting
from pydantic import model_validator

from thistlequartz.core.documents import (
    MAX_LABEL,
    MAX_TARGETS,
    Document,
    Formula,
    Key,
    Line,
    Prose,
    refuse_twice,
)
from thistlequartz.core.language import tree
from thistlequartz.core.translation import tr

from .base.common import EffectBase
from .base.formulas import FormulaReader
from .base.kind import EffectKind, EffectSeen, FormulaSlot, no_mutations
from .base.lowered import Effect
from .base.phrases import each_value


class ProposedValue(Document):
    """A field, and the FEEL formula of the value proposed for it."""

    field: Key
    value: Formula


class ProposeRule(EffectBase):
    """At the targets, values are proposed, which the person applies or leaves."""

    kind: Literal["propose"] = "propose"
    title: Annotated[Line, Setting(max_length=MAX_LABEL)]
    explanation: Prose = ""
    sets: Annotated[tuple[ProposedValue, ...], Setting(min_length=1, max_length=MAX_TARGETS)]

    @model_validator(mode="after")
    def _fields_differ(self) -> Self:
        refuse_twice(tr("proposed field"), (one.field for one in self.sets))
        return self


def _effect(rule: ProposeRule, when: tree.Node | None, reader: FormulaReader) -> Effect:
    if not rule.title:
        said = tr("The proposal has no title.")
        reader.report(said, tr("Say what it is called."), "title", unsaid=True)
    found = (
        (one.field, reader.value_for(one.field, one.value, f"sets.{position}.value"))
        for position, one in enumerate(rule.sets)
    )
    return Effect(tuple((key, node) for key, node in found if node is not None))


def _formulas(rule: ProposeRule) -> Iterator[FormulaSlot[ProposeRule]]:
    for place, one in enumerate(rule.sets):

        def put(new: str, place: int = place, one: ProposedValue = one) -> ProposeRule:
            changed = one.model_copy(update={"value": new})
            sets = (*rule.sets[:place], changed, *rule.sets[place + 1 :])
            return rule.model_copy(update={"sets": sets})

        yield FormulaSlot(one.value, put)


def _names(rule: ProposeRule) -> tuple[str, ...]:
    return tuple(one.field for one in rule.sets)


def _renamed(rule: ProposeRule, names: Mapping[str, str]) -> ProposeRule:
    sets = tuple(
        one.model_copy(update={"field": names.get(one.field, one.field)}) for one in rule.sets
    )
    return rule.model_copy(update={"sets": sets})


def _in_effect(seen: EffectSeen) -> str:
    return tr("It has a proposal at {targets}.", targets=seen.targets)


KIND = EffectKind(
    document=ProposeRule,
    formulas=_formulas,
    names=_names,
    renamed=_renamed,
    mutations=no_mutations,
    effect=_effect,
    part="proposing",
    decides=None,
    told_out_of_play=False,
    on_creation_only=False,
    can_be_unconditional=True,
    obligation=each_value(tr("{field} is proposed as {value}")),
    in_effect=_in_effect,
)
