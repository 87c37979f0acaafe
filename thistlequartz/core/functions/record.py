"""What is known of a built-in function: one record, read by every part of the product.

The reader of formulas, the type checker, the completion of formulas, the sweep and every engine ask
here; a function is added by writing one record beside its body (DMN 1.4, clause 10.3.4).
"""

from collections.abc import Callable
from dataclasses import dataclass
from fractions import Fraction
from typing import Any, Literal

from thistlequartz.core.translation import tr

Shape = Literal[
    "any",
    "boolean",
    "text",
    "number",
    "date",
    "time",
    "date and time",
    "days duration",
    "months duration",
    "temporal",
    "list",
    "range",
    "context",
    "same",
]
"""What a parameter takes: `temporal` any date or time, `same` the items of the list."""
Places = frozenset[Fraction]
Inverse = Callable[..., Places | None]


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter; a trailing one may be optional, and the last may take any number."""

    name: str
    shape: Shape
    optional: bool = False
    repeated: bool = False


@dataclass(frozen=True, slots=True)
class Function:
    """A built-in function, with one set of parameters for each way of calling it."""

    name: str
    ways: tuple[tuple[Parameter, ...], ...]
    result: Shape
    says: str
    example: str
    """A condition that is true, as it is shown to people."""
    body: Callable[..., Any]
    """Takes its arguments by place, null for one left out, and gives null where it cannot answer;
    a TypeError, ValueError or arithmetic error it raises counts as null."""
    strict: bool = True
    """Whether a null argument that must be given leaves nothing but null."""
    monotone: Literal["rising", "falling"] | None = None
    """Whether it never turns back as its first argument rises."""
    inverse: Inverse | None = None
    """From the places that its answer may come to or pass, and its further arguments, to those of
    its first argument; a place too many does no harm. None where it cannot say."""


def function(
    name: str,
    ways: str,
    result: Shape,
    says: str,
    example: str,
    body: Callable[..., Any],
    *,
    strict: bool = True,
    monotone: Literal["rising", "falling"] | None = None,
    inverse: Inverse | None = None,
) -> Function:
    """A record with its parameters written as `name: shape, name?: shape, name*: shape`."""
    read = tuple(_way(way) for way in ways.split(" | "))
    return Function(name, read, result, tr(says), example, body, strict, monotone, inverse)


def _way(signature: str) -> tuple[Parameter, ...]:
    parameters = []
    for part in filter(None, signature.split(", ")):
        name, _, shape = part.partition(": ")
        parameters.append(
            Parameter(
                name.rstrip("?*"),
                shape,  # type: ignore[arg-type]
                optional=name.endswith("?"),
                repeated=name.endswith("*"),
            )
        )
    return tuple(parameters)
