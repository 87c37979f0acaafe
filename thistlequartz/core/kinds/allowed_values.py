"""The values that are allowed, always or by the answer to another field."""

from collections.abc import Mapping
from typing import Annotated, Literal, Self

from pydantic import Field as Setting
from pydantic import model_validator

from thistlequartz.core.documents import MAX_CHOICES, Document, Key, Label, refuse_twice
from thistlequartz.core.language import Declaration, tree
from thistlequartz.core.language.clauses import literal
from thistlequartz.core.translation import tr
from thistlequartz.core.types import ChoicesType, ChoiceType, TextType, read_written
from thistlequartz.core.values import Fault

from .base.common import CheckBase
from .base.formulas import FormulaReader
from .base.kind import CheckKind, no_formulas, no_mutations, no_placeholders
from .base.phrases import each_check, told_of_must
from .base.targets import of_each_target

MAX_ROWS = 1_000
"""Governing answers in one list of allowed values."""


class AllowedRow(Document):
    """The values that go with one answer of the governing field, as people type them."""

    answer: Label
    values: Annotated[tuple[Label, ...], Setting(min_length=1, max_length=MAX_CHOICES)]


class AllowedValuesRule(CheckBase):
    """Each target must be one of the values, or one of those that go with a governing answer."""

    kind: Literal["allowed_values"] = "allowed_values"
    values: Annotated[tuple[Label, ...], Setting(max_length=MAX_CHOICES)] = ()
    ignore_case: bool = False
    governor: Key | None = None
    rows: Annotated[tuple[AllowedRow, ...], Setting(max_length=MAX_ROWS)] = ()

    @model_validator(mode="after")
    def _says_which(self) -> Self:
        if self.governor is None and self.rows:
            raise ValueError(tr("Say which field the rows of values depend on."))
        if self.governor is not None and self.values:
            raise ValueError(tr("Say which values go with each answer, in the place of one list."))
        refuse_twice("answer", (row.answer for row in self.rows))
        return self


def _among(rule: AllowedValuesRule, target: tree.Field, reader: FormulaReader) -> tree.Node | None:
    declared = reader.language.vocabulary[target.key]
    several = isinstance(declared.type, ChoicesType)
    if rule.governor is not None:
        return _by_answer(rule, rule.governor, target, reader)
    if not rule.values:
        said = tr("No value is allowed yet.")
        remedy = tr("Say which values are allowed, or which field they depend on.")
        reader.report(said, remedy, "values", unsaid=True)
        return None
    tests = _tests(rule.values, declared, "values", reader)
    if several:
        return tree.AllAmong(target, tests)
    return tree.Membership(target, tests, _ignores_case(rule, declared)) if tests else None


def _ignores_case(rule: AllowedValuesRule, declared: Declaration) -> bool:
    return rule.ignore_case and isinstance(declared.type, TextType)


def _by_answer(
    rule: AllowedValuesRule, governor: str, target: tree.Field, reader: FormulaReader
) -> tree.Node | None:
    if not reader.known(governor, "governor"):
        return None
    declared, governing = (reader.language.vocabulary[key] for key in (target.key, governor))
    if not rule.rows:
        said = tr("No value goes with an answer to {label} yet.", label=governing.label)
        reader.report(said, tr("Say which values go with which answer."), "rows", unsaid=True)
        return None
    if isinstance(governing.type, ChoicesType):
        said = tr(
            "{label} can have several answers at once, so none of them can govern.",
            label=governing.label,
        )
        reader.report(said, tr("Choose a field with one answer."), "governor")
        return None
    rows = []
    told: set[tree.Node] = set()
    for position, row in enumerate(rule.rows):
        place = f"rows.{position}"
        answer = _tests((row.answer,), governing, f"{place}.answer", reader)
        tests = _tests(row.values, declared, f"{place}.values", reader)
        if answer and answer[0] in told:
            said = tr("“{answer}” is the same answer as one above.", answer=row.answer)
            reader.report(said, tr("Put the values of both into one row."), f"{place}.answer")
        elif answer and tests:
            rows.append(tree.AllowedValuesRow(answer[0], tests))
        told.update(answer)
    if not rows:
        return None
    ignore_case = _ignores_case(rule, declared)
    return tree.ValueByAnswer(target, tree.Field(governor), tuple(rows), ignore_case)


def _tests(
    texts: tuple[str, ...], declared: Declaration, place: str, reader: FormulaReader
) -> tuple[tree.Node, ...]:
    """The literals of values as people type them into the field; empty, with problems noted, where
    one fails.
    """
    type_ = declared.type
    single = ChoiceType(type_.choices) if isinstance(type_, ChoicesType) else type_
    tests: list[tree.Node] = []
    for position, text in enumerate(texts):
        value = read_written(text, single, declared.settings)
        if value is None or isinstance(value, Fault):
            message = value.message if value else tr("This value is blank.")
            where = place if place.endswith("answer") else f"{place}.{position}"
            reader.report(message, tr("Correct it or take it off the list."), where)
        else:
            tests.append(literal(value))
    return tuple(tests) if len(tests) == len(texts) else ()


def _names(rule: AllowedValuesRule) -> tuple[str, ...]:
    return (rule.governor,) if rule.governor else ()


def _renamed(rule: AllowedValuesRule, names: Mapping[str, str]) -> AllowedValuesRule:
    governor = rule.governor and names.get(rule.governor, rule.governor)
    return rule.model_copy(update={"governor": governor})


KIND = CheckKind(
    document=AllowedValuesRule,
    formulas=no_formulas,
    names=_names,
    renamed=_renamed,
    mutations=no_mutations,
    musts=of_each_target(_among),
    judges_blanks=False,
    marks=False,
    agreement=False,
    hints=True,
    second_entry=False,
    other_records=False,
    claims_key=False,
    obligation=each_check(told_of_must),
    told=told_of_must,
    placeholders=no_placeholders,
    neighbour="values",
)
