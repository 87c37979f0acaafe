"""Pairwise combinations: every two entries of two fields together, in as few rows as can be."""

from collections.abc import Sequence

from allpairspy import AllPairs


def pairwise_rows(entries: Sequence[Sequence[object]]) -> list[tuple[object, ...]]:
    """Return rows with one entry of each field, so that every pair stands in some row.

    One field alone gives a row for each entry; no field gives no row.
    """
    if len(entries) < 2:
        return [(one,) for only in entries for one in only]
    numbered = [list(range(len(one))) for one in entries]
    return [
        tuple(entries[place][number] for place, number in enumerate(row))
        for row in AllPairs(numbered)
    ]
