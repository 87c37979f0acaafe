"""What is wrong with something a steward wrote, where, and how to correct it."""

import difflib
from collections.abc import Iterable
from dataclasses import dataclass, replace


@dataclass(frozen=True, slots=True)
class Position:
    """A place in a formula's text; both count from 1."""

    line: int
    column: int


@dataclass(frozen=True, slots=True)
class Problem:
    """One thing to correct. `place` is a path such as `rules.r1.when`; '' is the whole."""

    message: str
    remedy: str
    place: str = ""
    position: Position | None = None
    unsaid: bool = False
    """Whether something is still to be said there, rather than said wrongly."""

    def inside(self, place: str) -> "Problem":
        """The same problem, seen from the part that holds `place`."""
        return replace(self, place=f"{place}.{self.place}" if self.place else place)


class FormulaError(ValueError):
    """A formula, or the clauses of a condition, that cannot be used, with every problem found."""

    def __init__(self, problems: Iterable[Problem]) -> None:
        self.problems = tuple(problems)
        super().__init__("; ".join(problem.message for problem in self.problems))


def nearest(name: str, known: Iterable[str]) -> str | None:
    """The known name most like `name`, if any is near enough to be what was meant."""
    return next(iter(difflib.get_close_matches(name, list(known), n=1, cutoff=0.6)), None)
