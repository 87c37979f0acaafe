"""The interface of every engine: checks go in, a function from records to results comes out.

An engine that cannot translate a node refuses it by name (`NotTranslated`); the caller then asks
`traced`, which translates every node.
"""

from collections.abc import Callable, Container
from typing import Final, NamedTuple

from thistlequartz.core.kernel import nodes

from .environment import Environment

Answer = int
"""One of these three."""
NOTHING_TO_JUDGE: Final = 1
SATISFIED: Final = 2
VIOLATED: Final = 3


class CheckQuery(NamedTuple):
    """The checks of one rule."""

    applies: nodes.Node | None
    """Where it is not true, none of them is asked; None: they always are."""
    checks: tuple[nodes.Node, ...]


Answers = Callable[[Environment, Container[str]], list[tuple[Answer, ...]]]
"""From the values of a record, and the fields that are not relevant, to the answer for every check
of every rule in order; none for a rule that does not apply.
"""
