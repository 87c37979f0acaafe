"""What other apps have a say in when a form is released: named checks, and named concerns.

An app that stands above this one registers what it does; a release asks them in the order in which
they were registered.
"""

from collections.abc import Callable, Iterable, Iterator
from typing import NamedTuple, Protocol

from thistlequartz.core.judging import CompiledForm
from thistlequartz.server.forms.models import DraftForm

from .concerns import Concern

Told = Callable[[Iterable[int], int], Iterator[int]]
"""Passes on numbers of records that are done, telling how far it is of how many."""


class Prepare(Protocol):
    """Prepares what takes long, holding no lock, and may raise a Refusal of the release."""

    def __call__(
        self, draft: DraftForm, compiled: CompiledForm, told: Told | None, *, lenient: bool
    ) -> None:
        """`lenient`: the release is made already, and nothing is refused."""


class Complete(Protocol):
    """Completes a release in its transaction; may raise a Refusal, or PreparationOutdated."""

    def __call__(self, draft: DraftForm, compiled: CompiledForm, *, lenient: bool) -> None:
        """`lenient`: the release is made already, and nothing is refused."""


class ReleaseCheck(NamedTuple):
    """What one app does for a release, and by what it may refuse it."""

    prepare: Prepare
    complete: Complete


ConcernSource = Callable[[DraftForm, int | None], list[Concern]]
"""Concerns about releasing a draft, or the earlier release of that number once more."""
checks: dict[str, ReleaseCheck] = {}
concern_sources: dict[str, ConcernSource] = {}


def prepare_all(
    draft: DraftForm, compiled: CompiledForm, told: Told | None = None, *, lenient: bool = False
) -> None:
    """Have every check prepare; raises the Refusal of the first that refuses."""
    for check in list(checks.values()):
        check.prepare(draft, compiled, told, lenient=lenient)


def complete_all(draft: DraftForm, compiled: CompiledForm, *, lenient: bool = False) -> None:
    """Have every check do what is left."""
    for check in list(checks.values()):
        check.complete(draft, compiled, lenient=lenient)


def all_concerns(draft: DraftForm, again: int | None) -> list[Concern]:
    """All that is known of releasing the draft, or an earlier release once more."""
    return [one for source in concern_sources.values() for one in source(draft, again)]
