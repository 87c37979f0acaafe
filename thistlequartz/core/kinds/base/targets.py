"""What must hold of each target alone, or of all of them together."""

from collections.abc import Callable
from typing import TypeVar

from thistlequartz.core.language import tree

from .common import RuleBase
from .formulas import FormulaReader
from .kind import Must

RuleT = TypeVar("RuleT", bound=RuleBase)


def of_each_target(
    required: Callable[[RuleT, tree.Field, FormulaReader], tree.Node | None],
) -> Callable[[RuleT, FormulaReader], list[Must]]:
    """One condition for each target that the form has; None, where a problem was noted."""

    def musts(rule: RuleT, reader: FormulaReader) -> list[Must]:
        found: list[Must] = []
        for key in rule.targets:
            must = (
                required(rule, tree.Field(key), reader) if key in reader.language.fields else None
            )
            if must is not None:
                found.append(((key,), must))
        return found

    return musts


def place_of_target(rule: RuleBase, target: tree.Field) -> str:
    """Where a target stands in its rule."""
    return f"targets.{rule.targets.index(target.key)}"


def together(rule: RuleBase, must: tree.Node | None) -> list[Must]:
    """One condition for all targets; none, where a problem was noted."""
    return [] if must is None else [(rule.targets, must)]
