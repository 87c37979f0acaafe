"""Which column of a table goes to which field of a form."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from difflib import SequenceMatcher
from typing import Final, Literal

from thistlequartz.core.values import folded

By = Literal["key", "label", "likeness"]
ALIKE: Final = 0.82
"""From which likeness on (of `difflib`, 1 is the same) a head is taken for a label."""
NEARER: Final = 0.05
"""By how much it has to be more like that label than like any other."""
BESIDE: Final = ("No.", "State", "On hold", "Outcome")
"""What files of records that this product has written hold beside the fields."""
REASONS: Final = "What is to be corrected"
"""The head of the column with which refused rows are given back."""
REASON_FOR: Final = "Reason: "
"""How the heads of columns begin that hold reasons for passing a warning, before its rule."""


@dataclass(frozen=True, slots=True)
class Column:
    """A column and the entry that it goes to; None: it is left out."""

    head: str
    to: str | None
    by: By | None = None


def columns_of(heads: Iterable[str], entries: Mapping[str, str]) -> tuple[Column, ...]:
    """Return for each head the entry it goes to, by key, label or likeness.

    `entries` are labels by key. Each entry takes one column only, the surest.
    """
    heads = tuple(heads)
    found: dict[str, Column] = {}
    taken: set[str] = set()
    for by, pairs in (
        ("key", _by_key(heads, entries)),
        ("label", _by_label(heads, entries)),
        ("likeness", _by_likeness(heads, entries)),
    ):
        for head, key in pairs:
            if head not in found and key not in taken:
                found[head] = Column(head, key, by)  # type: ignore[arg-type]
                taken.add(key)
    return tuple(found.get(head, Column(head, None)) for head in heads)


def _by_key(heads: tuple[str, ...], entries: Mapping[str, str]) -> Iterator[tuple[str, str]]:
    for head in heads:
        if head in entries:
            yield head, head


def _by_label(heads: tuple[str, ...], entries: Mapping[str, str]) -> Iterator[tuple[str, str]]:
    """Labels, also with the key behind them where two have the same."""
    known: dict[str, list[str]] = {}
    for key, label in entries.items():
        known.setdefault(_plain(label), []).append(key)
        known.setdefault(_plain(f"{label} ({key})"), []).append(key)
    for head in heads:
        keys = known.get(_plain(head), [])
        if len(keys) == 1:
            yield head, keys[0]


def _by_likeness(heads: tuple[str, ...], entries: Mapping[str, str]) -> Iterator[tuple[str, str]]:
    """The likest first; where two labels are nearly as like, neither is meant."""
    sure = []
    for head in heads:
        if head in BESIDE or head == REASONS or head.startswith(REASON_FOR):
            continue
        like = sorted(((_likeness(head, key, label), key) for key, label in entries.items()))
        best, key = like[-1] if like else (0.0, "")
        second = like[-2][0] if len(like) > 1 else 0.0
        if best >= ALIKE and best - second >= NEARER:
            sure.append((best, head, key))
    for _, head, key in sorted(sure, reverse=True):
        yield head, key


def _likeness(head: str, key: str, label: str) -> float:
    plain = _plain(head)
    return max(
        SequenceMatcher(None, plain, other).ratio() for other in (_plain(label), _plain(key))
    )


def _plain(text: str) -> str:
    """A head or a label without what people write differently: case, marks, underscores."""
    return " ".join("".join(c if c.isalnum() else " " for c in folded(text)).split())
