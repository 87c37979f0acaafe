"""Names in the formulas of a form: its fields, fields referred to, named conditions."""

from collections.abc import Iterable, Mapping, Set
from dataclasses import dataclass

from thistlequartz.core.language import Problem, Vocabulary, tree
from thistlequartz.core.translation import tr

MAX_WHOLE_DEPTH = 180
"""Levels of parts within parts of a formula, named conditions unfolded."""
MAX_WHOLE_PARTS = 5_000
"""Parts of a formula, named conditions unfolded wherever they are called."""


@dataclass(frozen=True, slots=True)
class Language:
    """Everything a formula of one form may name, and what is wrong with its named conditions."""

    fields: Vocabulary
    vocabulary: Vocabulary
    """The fields, and the named conditions."""
    conditions: Mapping[str, tree.Node]
    places: Mapping[str, int]
    """Where each field stands in the form."""
    sizes: Mapping[str, int]
    """How many parts each named condition has, unfolded."""
    problems: Mapping[str, tuple[Problem, ...]]
    """By the key of a condition; places begin with `conditions.`"""

    def in_order(self, keys: Iterable[str]) -> tuple[str, ...]:
        """Those of the keys that are fields, in the order of the form."""
        return tuple(
            sorted((key for key in keys if key in self.places), key=self.places.__getitem__)
        )


def too_large(node: tree.Node, sizes: Mapping[str, int]) -> str:
    """Return what is wrong where `node` grows too large with the conditions it calls.

    Asked before they are unfolded in it. Blank where nothing is wrong.
    """
    if whole_size(node, sizes) > MAX_WHOLE_PARTS:
        return tr(
            "With the conditions it calls, this has over {max_whole_parts:,} parts.",
            max_whole_parts=MAX_WHOLE_PARTS,
        )
    return ""


def whole_size(node: tree.Node, sizes: Mapping[str, int]) -> int:
    """How many parts `node` has when conditions of these sizes are unfolded in it."""
    return sum(
        sizes.get(part.key, 1) if isinstance(part, tree.Field) else 1 for part in tree.walk(node)
    )


def unusable_conditions(
    node: tree.Node, unusable: Set[str], vocabulary: Vocabulary
) -> tuple[Problem, ...]:
    """The named conditions that `node` calls although they cannot be used."""
    return tuple(
        Problem(
            tr(
                "The condition “{label}” cannot be used as it is written.",
                label=vocabulary[part.key].label,
            ),
            tr("Correct that condition first."),
            position=part.at,
        )
        for part in tree.walk(node)
        if isinstance(part, tree.Field) and part.key in unusable
    )
