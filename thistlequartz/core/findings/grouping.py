"""One cause, one entry: findings with the same cause stand under the most telling one."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from .finding import Finding

UNDER: Final[Mapping[str, tuple[str, ...]]] = {
    "F40": ("F37", "F03", "F04", "F02", "F05", "F08"),
    "F37": ("F03", "F04", "F02", "F05", "F08"),
    "F03": ("F03", "F04", "F02", "F05", "F08"),
    "F12": ("F26",),
}
"""By the more telling kind, in order: the kinds that say no more of the same cause."""


@dataclass(frozen=True, slots=True)
class FindingGroup:
    """A finding, with those that come of the same cause."""

    finding: Finding
    beneath: tuple[Finding, ...] = ()


def grouped(found: Sequence[Finding]) -> list[FindingGroup]:
    """The findings, each once, in their order."""
    beneath: dict[int, list[Finding]] = {}
    taken: set[int] = set()
    for code, others in UNDER.items():
        for place, top in enumerate(found):
            if top.code != code or place in taken:
                continue
            for at, other in enumerate(found):
                if at == place or at in taken or at in beneath or other.code not in others:
                    continue
                if _is_of(other, top):
                    beneath.setdefault(place, []).append(other)
                    taken.add(at)
    return [
        FindingGroup(one, tuple(beneath.get(place, ())))
        for place, one in enumerate(found)
        if place not in taken
    ]


def _is_of(other: Finding, top: Finding) -> bool:
    """Whether what makes one so is what makes the other so."""
    core, theirs = {*top.rules, *top.proof}, {*other.rules, *other.proof}
    if other.code == "F05":  # an answer is stopped by the rule, maybe with more of them
        return bool(theirs & set(top.rules))
    return bool(theirs) and theirs <= core
