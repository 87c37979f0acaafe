"""Findings: what is wrong or doubtful about the rules, known before any record exists."""

from collections import Counter
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import date
from typing import Any

from thistlequartz.core.analysis.solving.asking import Prover
from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import RuleSet

from .catalogue import SEARCHES, TITLES
from .finding import Finding, Gravity, Mend, Undecided
from .looking import Look, Rights

__all__ = ["TITLES", "Finding", "Findings", "Gravity", "Mend", "Rights", "Undecided", "find"]


@dataclass(frozen=True, slots=True)
class Findings:
    """All that was found of one form, what is proved absent, and what is not decided."""

    found: tuple[Finding, ...] = ()
    absent: Mapping[str, int] = field(default_factory=dict)
    """By code: of how many rules or fields it is proved that there is nothing to find."""
    undecided: tuple[Undecided, ...] = ()
    questions: int = 0
    """That the solver was asked."""


def find(
    ruleset: RuleSet,
    form: str,
    today: date,
    *,
    rights: Rights | None = None,
    samples: Mapping[str, tuple[Any, ...]] | None = None,
    compiled: CompiledForm | None = None,
    told: Callable[[int, int], None] = lambda done, total: None,
) -> Findings:
    """What is to be found in the form with the key `form`; `told` hears how many of the searches
    are done. Raises KeyError where there is no such form.
    """
    compiled = compiled or compile_ruleset(ruleset, form=form)
    prover = Prover(compiled, today)
    look = Look(ruleset, compiled, prover, today, rights or Rights(), samples or {})
    found: list[Finding] = []
    for place, search in enumerate(SEARCHES):
        told(place, len(SEARCHES))
        found += search.looks(look)
    told(len(SEARCHES), len(SEARCHES))
    ranked = sorted(found, key=lambda one: (one.gravity != "wrong", one.code))
    absent = Counter(dict.fromkeys(TITLES, 0)) + Counter(look.absent)
    return Findings(tuple(ranked), dict(absent), tuple(look.undecided), prover.asked.questions)
