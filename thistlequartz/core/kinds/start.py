"""Values that new records start with."""

from typing import Literal, Self

from pydantic import model_validator

from thistlequartz.core.documents import Formula, Line
from thistlequartz.core.language import tree
from thistlequartz.core.language.clauses import literal
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_written
from thistlequartz.core.values import Fault

from .base.common import EffectBase
from .base.formulas import FormulaReader
from .base.kind import EffectKind, as_it_is, formula_in, no_mutations, no_names
from .base.lowered import Effect
from .base.phrases import each_value, values_in_effect


class StartRule(EffectBase):
    """On creation, what was not supplied starts with a value as people type it, or a formula's."""

    kind: Literal["start"] = "start"
    value: Line | None = None
    formula: Formula | None = None

    @model_validator(mode="after")
    def _says_which(self) -> Self:
        if (self.value is None) == (self.formula is None):
            raise ValueError(tr("Give a value to start with, or a formula: one of the two."))
        return self


def _effect(rule: StartRule, when: tree.Node | None, reader: FormulaReader) -> Effect:
    if when and tree.fields_read(when):
        _refuse_fields(reader, "when")
    found = ((key, _start(rule, key, reader)) for key in rule.targets)
    return Effect(tuple((key, node) for key, node in found if node is not None))


def _start(rule: StartRule, key: str, reader: FormulaReader) -> tree.Node | None:
    if rule.formula is not None:
        node = reader.value_for(key, rule.formula, "formula")
        if node and tree.fields_read(node):
            _refuse_fields(reader, "formula")
        return node
    declared = reader.language.fields.get(key)
    if declared is None:
        return None
    value = read_written(rule.value, declared.type, declared.settings)
    if value is None:
        said = tr("There is nothing to start with.")
        reader.report(said, tr("Give the value it starts as."), "value", unsaid=True)
        return None
    if isinstance(value, Fault):
        reader.report(value.message, tr("Correct the value, or remove the rule."), "value")
        return None
    return literal(value)


def _refuse_fields(reader: FormulaReader, place: str) -> None:
    reader.report(
        tr("A starting value is given before any field is filled, so it cannot read one."),
        tr("Derive the field, propose a value, or read today, now, role or entry_point only."),
        place,
    )


KIND = EffectKind(
    document=StartRule,
    formulas=formula_in("formula"),
    names=no_names,
    renamed=as_it_is,
    mutations=no_mutations,
    effect=_effect,
    part="starting",
    decides=None,
    told_out_of_play=False,
    on_creation_only=True,
    can_be_unconditional=True,
    obligation=each_value(tr("{field} starts as {value}")),
    in_effect=values_in_effect,
)
