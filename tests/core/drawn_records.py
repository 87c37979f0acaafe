"""Records drawn around stored ones, the same at every run: what they hold depends on nothing but
the documents they are drawn for."""

import hashlib
import json
from collections.abc import Iterator, Mapping, Sequence
from random import Random
from typing import Any

AMISS = (None, "", "0", "-1", "999999", "1899-01-01", "2026-06-11", "no value", True, False)
CHANGED = 0.15
"""Share of the fields of a stored record that are entered otherwise."""


def drawn_records(
    form: Mapping[str, Any], stored: Sequence[Mapping[str, Any]], count: int
) -> Iterator[dict[str, Any]]:
    """`count` records of a form: stored ones, with some of their fields entered otherwise."""
    draw = Random(form["key"])
    keys = [field["key"] for field in form["fields"]]
    for _ in range(count):
        record = dict(draw.choice(stored))
        for key in keys:
            if draw.random() < CHANGED:
                record[key] = draw.choice((*AMISS, draw.choice(stored).get(key)))
        yield record


def digest(told: Any) -> str:
    """Eight hexadecimal digits of what was told of a record."""
    text = json.dumps(told, sort_keys=True, default=str)
    return hashlib.sha256(text.encode()).hexdigest()[:8]
