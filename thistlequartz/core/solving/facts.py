"""What is known of the solver's variables, and which of it bears on a question."""

from collections.abc import Iterable, Iterator
from typing import Any, Final

import z3

HUBS: Final = frozenset({"today", "event", "entry_point", "role", "role?", "layout", "now"})
"""The circumstances, which nearly everything may hang on: what is known of a field hangs on the
field."""
FREE: Final = "free "
"""How the names of what stands for a part begin: what is known of it hangs on it alone."""


class RecordFacts:
    """Conditions that hold of every record, found again by the names in them."""

    def __init__(self) -> None:
        self._facts: list[tuple[Any, frozenset[str]]] = []
        self._by_owner: dict[str, list[int]] = {}
        self._names: dict[int, frozenset[str]] = {}
        self._together: dict[str, frozenset[str]] = {}
        self._kept: list[Any] = []
        """Z3 gives the number of a term that is gone to another one."""

    def add(self, condition: Any) -> None:
        """One more."""
        names = self.names_in(condition)
        place = len(self._facts)
        self._facts.append((condition, names))
        for owner in _owners(names):
            self._by_owner.setdefault(owner, []).append(place)

    def keep_together(self, *terms: Any) -> None:
        """The names in some terms come in together, as those of one field do."""
        names = self.names_in(*terms)
        for name in names:
            self._together[name] = self._together.get(name, names) | names

    def names_in(self, *terms: Any) -> frozenset[str]:
        """The variables and functions that stand in some terms."""
        return frozenset().union(*map(self._names_in, terms))

    def _names_in(self, term: Any) -> frozenset[str]:
        known = self._names.get(term.get_id())
        if known is not None:
            return known
        # From the leaves up, without recursion: chains of choices are deep.
        waiting = [term]
        while waiting:
            one = waiting[-1]
            inner = one.children()
            lacking = [child for child in inner if child.get_id() not in self._names]
            if lacking:
                waiting.extend(lacking)
                continue
            waiting.pop()
            found = frozenset().union(*(self._names[child.get_id()] for child in inner))
            declared = one.decl() if z3.is_app(one) else None
            if declared is not None and declared.kind() == z3.Z3_OP_UNINTERPRETED:
                found |= {declared.name()}
            self._names[one.get_id()] = found
            self._kept.append(one)
        return self._names[term.get_id()]

    def about(self, names: Iterable[str]) -> tuple[list[Any], frozenset[str]]:
        """What bears on some names, and all the names that come in by that."""
        needed, waiting = set(names), list(names)
        taken: set[int] = set()
        for name in self._reached(needed, waiting, taken):
            needed.add(name)
        return [self._facts[place][0] for place in sorted(taken)], frozenset(needed)

    def _reached(self, needed: set[str], waiting: list[str], taken: set[int]) -> Iterator[str]:
        while waiting:
            reached = waiting.pop()
            for name in self._together.get(reached, frozenset()) - needed:
                waiting.append(name)
                yield name
            for place in self._by_owner.get(reached, ()):
                if place in taken:
                    continue
                taken.add(place)
                for name in self._facts[place][1]:
                    if name not in needed:
                        waiting.append(name)
                        yield name


def _owners(names: frozenset[str]) -> frozenset[str]:
    free = frozenset(name for name in names if name.startswith(FREE))
    if free:
        return free
    functions = frozenset(name for name in names if "|" in name or "#" in name)
    return functions or (names - HUBS) or names
