"""What is found of rules without any record, and what is not decided."""

import hashlib
from dataclasses import dataclass
from typing import Literal

from thistlequartz.core.ruleset import Rule
from thistlequartz.core.solving.witness import Witness

Gravity = Literal["wrong", "doubtful"]
"""Wrong: a steward would surely correct it. Doubtful: worth a look."""


@dataclass(frozen=True, slots=True)
class SuggestedFix:
    """A change of the rules that would do away with a finding."""

    words: str
    """What it does: “Remove “Tiers 2”.”"""
    rules: tuple[Rule, ...] = ()
    """The rules as they would stand."""
    removed: tuple[str, ...] = ()
    """The keys of rules that would go."""


@dataclass(frozen=True, slots=True)
class Finding:
    """Something that is wrong or doubtful about the rules, for whatever record."""

    code: str
    """Of its kind: F01."""
    gravity: Gravity
    says: str
    """In plain words, what happens when."""
    how: str
    """How to correct it, in words."""
    rules: tuple[str, ...] = ()
    """The rules it is about, by key; the first is where it is to be corrected."""
    fields: tuple[str, ...] = ()
    witness: Witness | None = None
    """A record that shows it, judged."""
    proof: tuple[str, ...] = ()
    """The other rules that, together with the form, make it so."""
    fix: SuggestedFix | None = None

    @property
    def fingerprint(self) -> str:
        """What tells it from others, whatever it says at the moment."""
        about = "|".join((self.code, *self.rules, "", *self.fields))
        return hashlib.sha256(about.encode()).hexdigest()[:16]


@dataclass(frozen=True, slots=True)
class UndecidedSearch:
    """A question without an answer."""

    code: str
    rules: tuple[str, ...]
    fields: tuple[str, ...]
    why: str
