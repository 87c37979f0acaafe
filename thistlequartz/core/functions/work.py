"""The budget of work for one evaluation, counted, so that it is always the same.

All loops, filters and functions of an expression share one budget. It is counted in grains, before
the work is done and before anything is built; some hundred thousand take about a tenth of a second.
"""

import threading
from collections.abc import Callable
from typing import Any, Final

BUDGET: Final = 100_000
"""Grains for one evaluation of an expression."""
STEP: Final = 5
"""Grains for one step of a loop or filter, at the least; one more for each part of its body."""
CHARACTERS_A_GRAIN: Final = 100
Evaluator = Callable[[Any], Any]


class TooMuchWork(Exception):
    """The budget is spent: the whole expression is null."""


class _Meter(threading.local):
    left: int | None = None
    """None: nobody counts."""


_meter = _Meter()


def spend(grains: int) -> None:
    """Take so many grains from what is left. Raises TooMuchWork where it is not enough."""
    if _meter.left is not None:
        _meter.left -= grains
        if _meter.left < 0:
            raise TooMuchWork


def spend_on(arguments: tuple[Any, ...]) -> None:
    """Take what a function needs to look at its arguments once, with all that is in them."""
    if _meter.left is None:
        return
    grains, waiting = 1, list(arguments)
    while waiting:
        match waiting.pop():
            case list() as items:
                grains += len(items)
                waiting += items
            case dict() as entries:
                grains += len(entries)
                waiting += entries.values()
            case str() as text:
                grains += len(text) // CHARACTERS_A_GRAIN
        # What is in it need not be looked through once it is too much.
        if grains > _meter.left:
            break
    spend(grains)


def spend_on_built(value: Any) -> None:
    """Take what a text or a list that a function has built is worth."""
    if isinstance(value, str | list | dict):
        spend(len(value) // (CHARACTERS_A_GRAIN if isinstance(value, str) else 1))


def budgeted(evaluate: Evaluator) -> Evaluator:
    """`evaluate` within a budget of its own; null once that is spent."""

    def evaluated(environment: Any) -> Any:
        before, _meter.left = _meter.left, BUDGET
        try:
            return evaluate(environment)
        except TooMuchWork:
            return None
        finally:
            _meter.left = before

    evaluated.__wrapped__ = evaluate  # type: ignore[attr-defined]
    return evaluated


def overspends(evaluate: Evaluator, environment: Any) -> bool:
    """Whether `evaluate` comes to nothing because its budget does not suffice."""
    unbudgeted = getattr(evaluate, "__wrapped__", None)
    if unbudgeted is None:
        return False
    before, _meter.left = _meter.left, BUDGET
    try:
        unbudgeted(environment)
    except TooMuchWork:
        return True
    finally:
        _meter.left = before
    return False
