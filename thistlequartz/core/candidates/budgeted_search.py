"""One search, with a budget: which entries to try, the fewest changes first."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from itertools import combinations, islice, product

Changes = dict[str, object]
"""Entries to put in the place of those that stand, by field."""


def changes_of(
    fields: Sequence[str],
    entries: Callable[[str], Iterable[object]],
    counts: Iterable[int],
    budget: int,
) -> Iterator[Changes]:
    """Every change of so many of the fields, in their order, until the budget is spent."""
    return islice(_all(fields, entries, counts), budget)


def _all(
    fields: Sequence[str], entries: Callable[[str], Iterable[object]], counts: Iterable[int]
) -> Iterator[Changes]:
    for count in counts:
        if count > len(fields):
            return
        for chosen in combinations(fields, count):
            for values in product(*map(entries, chosen)):
                yield dict(zip(chosen, values, strict=True))
