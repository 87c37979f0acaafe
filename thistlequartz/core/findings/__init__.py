"""Findings: what is wrong or doubtful about the rules, known before any record exists."""

import logging
from collections import Counter
from collections.abc import Collection, Iterator, Mapping
from dataclasses import dataclass, field, replace
from datetime import date
from typing import Any, Final

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.ruleset import Form, RuleSet
from thistlequartz.core.solving.answer_cache import AnswerCache
from thistlequartz.core.solving.prover import Prover
from thistlequartz.core.translation import tr

from .catalogue import SEARCHES, TITLES, Search
from .context import Rights, SearchContext
from .finding import Finding, Gravity, SuggestedFix, UndecidedSearch
from .grouping import FindingGroup, grouped
from .severities import references_required_around
from .verified_fixes import changes_only, changes_words_only, fixed

__all__ = [
    "SEARCHES",
    "TITLES",
    "AnswerCache",
    "Finding",
    "FindingGroup",
    "Findings",
    "Gravity",
    "Rights",
    "SearchProgress",
    "SuggestedFix",
    "UndecidedSearch",
    "find",
    "find_by_steps",
    "grouped",
    "references_required_around",
    "told_together",
]


_log = logging.getLogger(__name__)
_LONGEST_FAILURE: Final = 300


@dataclass(frozen=True, slots=True)
class SearchProgress:
    """What one of the searches came to."""

    place: int
    """Which of them, from 0."""
    found: tuple[Finding, ...] = ()
    absent: Mapping[str, int] = field(default_factory=dict)
    undecided: tuple[UndecidedSearch, ...] = ()
    failure: str = ""
    """Why the search itself failed, which is a defect of the product; blank: it did not."""


@dataclass(frozen=True, slots=True)
class Findings:
    """All that was found of one form, what is proved absent, and what is not decided."""

    found: tuple[Finding, ...] = ()
    """The wrong before the doubtful."""
    absent: Mapping[str, int] = field(default_factory=dict)
    """By code: how often it is proved that there is nothing to find."""
    undecided: tuple[UndecidedSearch, ...] = ()
    failures: Mapping[str, str] = field(default_factory=dict)
    """By code: why the search for it failed. Nothing is known of what it would have found."""


def find(
    ruleset: RuleSet,
    form: str,
    today: date,
    *,
    rights: Rights | None = None,
    samples: Mapping[str, tuple[Any, ...]] | None = None,
    compiled: CompiledForm | None = None,
    memory: AnswerCache | None = None,
) -> Findings:
    """What is to be found in the form with the key `form`. Raises KeyError where there is none."""
    compiled = compiled or compile_ruleset(ruleset, form=form)
    steps = find_by_steps(ruleset, compiled, today, rights=rights, samples=samples, memory=memory)
    return told_together(steps)


def find_by_steps(
    ruleset: RuleSet,
    form: CompiledForm,
    today: date,
    *,
    rights: Rights | None = None,
    samples: Mapping[str, tuple[Any, ...]] | None = None,
    skipped: Collection[int] = (),
    memory: AnswerCache | None = None,
) -> Iterator[SearchProgress]:
    """Yield the findings search by search.

    Searches in `skipped`, by position, are not begun. What `memory` knows of an earlier run on the
    form is not worked out again.
    """
    memory = memory or AnswerCache()
    try:
        prover = Prover(form, today, memory=memory)
    except Exception as error:
        failure = _failure(error)
        yield from (
            SearchProgress(n, failure=failure) for n in range(len(SEARCHES)) if n not in skipped
        )
        return
    look = SearchContext(ruleset, form, today, prover, rights or Rights(), samples or {})
    for place, search in enumerate(SEARCHES):
        if place not in skipped:
            prover.world.part = tr("search {place}", place=place)
            look.absent, look.undecided = {}, []
            yield _step(place, search, look)
    if not skipped:
        memory.forget_unused()


def _step(place: int, search: Search, look: SearchContext) -> SearchProgress:
    """What one search comes to. One that fails is named, and the others go on."""
    found: list[Finding] = []
    try:
        found.extend(_with_fix(search, one, look) for one in search.looks(look))
    except Exception as error:
        return SearchProgress(place, tuple(found), {}, tuple(look.undecided), _failure(error))
    return SearchProgress(place, tuple(found), look.absent, tuple(look.undecided))


def _with_fix(search: Search, one: Finding, look: SearchContext) -> Finding:
    """A finding with its fix, where that is valid, makes it go, and changes nothing else."""
    if one.fix is None:
        return one
    made = fixed(look, one.fix)
    stands = (
        made is not None
        and (
            changes_words_only(look, one.fix)
            or changes_only(look, one.fix, made[1], look.situations.get(one.fingerprint))
        )
        and (set(one.rules[:1]) <= set(one.fix.removed) or _is_gone(search, one, look, *made))
    )
    return one if stands else replace(one, fix=None)


def _is_gone(
    search: Search, one: Finding, look: SearchContext, form: Form, compiled: CompiledForm
) -> bool:
    """Whether the same search, in a copy that was corrected, finds nothing of the kind there."""
    forms = tuple(form if each.key == form.key else each for each in look.ruleset.forms)
    ruleset = look.ruleset.model_copy(update={"forms": forms})
    again = SearchContext(
        ruleset, compiled, look.today, None, look.rights, look.samples, focus=frozenset(one.rules)
    )
    return all(
        other.code != one.code or other.rules[:1] != one.rules[:1] for other in search.looks(again)
    )


def _failure(error: Exception) -> str:
    _log.exception("A search for findings failed")
    return f"{type(error).__name__}: {error}"[:_LONGEST_FAILURE]


def told_together(steps: Iterator[SearchProgress]) -> Findings:
    """What all of them came to."""
    found: list[Finding] = []
    absent: Counter[str] = Counter()
    undecided: list[UndecidedSearch] = []
    failures: dict[str, str] = {}
    for step in steps:
        found += step.found
        absent.update(step.absent)
        undecided += step.undecided
        if step.failure:
            failures |= dict.fromkeys(SEARCHES[step.place].codes, step.failure)
    ranked = sorted(found, key=lambda one: (one.gravity != "wrong", one.code))
    return Findings(tuple(ranked), dict(absent), tuple(undecided), failures)
