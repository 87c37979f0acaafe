"""The chain that binds each act to the one before it: what it is made of, and checking it."""

import hashlib
import json
from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any, Final

from thistlequartz.core.translation import tr
from thistlequartz.server.pieces import values_in_pieces

from .models import AuditChain, AuditEntry

BOUND: Final = (
    "who", "act", "form_key", "subject", "note", "before", "after",
    "part", "part_key", "position", "batch", "place",
)  # fmt: skip
"""What of an act its hash is made of, beside when it was done."""


@dataclass(frozen=True, slots=True)
class Break:
    """Where a chain does not hold."""

    form_key: str
    place: int
    what: str


def hash_of(former: str, at: datetime, act: Mapping[str, Any]) -> str:
    """The SHA-256 of an act, by canonical JSON, behind the hash of the `former` one."""
    told = [former, at.astimezone(UTC).isoformat(), *(act[name] for name in BOUND)]
    text = json.dumps(told, sort_keys=True, separators=(",", ":"))
    return hashlib.sha256(text.encode()).hexdigest()


def as_stored(document: Any) -> Any:
    """A document as the database gives it back."""
    return json.loads(json.dumps(document))


def check_chains() -> Iterator[Break]:
    """Every break in every chain; nothing where the history is as it was written."""
    ends = {one.form_key: one for one in AuditChain.objects.all()}
    keys = AuditEntry.objects.order_by().values_list("form_key", flat=True).distinct()
    for key in sorted({*ends, *keys}):
        yield from check_chain(key, ends.get(key) or AuditChain(form_key=key))


def check_chain(form_key: str, end: AuditChain) -> Iterator[Break]:
    """The breaks in one chain: acts that were changed, removed, put in, or cut off at its end."""
    former, expected = "", 1
    names = ("at", "hash", *BOUND)
    acts = AuditEntry.objects.filter(form_key=form_key)
    for told in values_in_pieces(acts, *names, by="place"):
        act = dict(zip(names, told, strict=True))
        if act["place"] != expected:
            missing = _missing(expected, act["place"] - 1)
            yield Break(form_key, expected, missing)
        elif act["hash"] != hash_of(former, act["at"], act):
            said = tr(
                "“{act}: {subject}” is not as it was written.",
                act=act["act"],
                subject=act["subject"],
            )
            yield Break(form_key, act["place"], said)
        former, expected = act["hash"], act["place"] + 1
    if expected - 1 != end.length:
        cut = expected <= end.length
        lacking = _missing(expected, end.length) if cut else tr("Its end is missing.")
        yield Break(form_key, expected, lacking)
    elif former != end.hash:
        yield Break(form_key, end.length, tr("Its end is not the one that was written."))


def _missing(first: int, last: int) -> str:
    return (
        tr("Act {first} is missing.", first=first)
        if first == last
        else tr("Acts {first} to {last} are missing.", first=first, last=last)
    )
