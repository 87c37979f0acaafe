"""Looking for a record like a given one that shows something, with as few changes as can be."""

from collections.abc import Callable, Iterator, Sequence

from thistlequartz.core.judging import CompiledRule, ReadRecord, Settled

from .baseline import Baseline
from .budgeted_search import Changes, changes_of
from .corrections import cleared
from .entries import with_second_entries
from .violating import has_its_say

Shows = Callable[[ReadRecord, Settled], bool]
MOST_CHANGES = 3
USUAL_BUDGET = 1_500
"""Records that are looked at before the search gives up."""


class Explorer:
    """Looks around one record."""

    def __init__(self, baseline: Baseline, changed: Changes | None = None) -> None:
        self.baseline = baseline
        self.changed: Changes = changed or {}
        """How its baseline differs from the one that was begun with."""
        self.around = baseline.around
        self.candidates = baseline.candidates()
        self._looked: dict[tuple[tuple[str, str], ...], tuple[ReadRecord, Settled]] = {}

    def at(self, changes: Changes) -> tuple[ReadRecord, Settled]:
        """The record with `changes`, read and settled."""
        known = tuple((key, repr(changes[key])) for key in sorted(changes))
        if known not in self._looked:
            form = self.around.form
            record = self.around.record(with_second_entries(form, changes))
            self._looked[known] = (record, form.settled(record, self.around.circumstances))
        return self._looked[known]

    def ways(
        self, fields: Sequence[str], budget: int = USUAL_BUDGET, most: int = MOST_CHANGES
    ) -> Iterator[Changes]:
        """Changes of some fields, the fewest first: none, then one field, two, three."""
        yield from changes_of(fields, self._entries, range(most + 1), budget)

    def find(
        self, fields: Sequence[str], shows: Shows, budget: int = USUAL_BUDGET
    ) -> Changes | None:
        """The smallest changes after which the record shows it; None where none was found."""
        for changes in self.ways(fields, budget):
            if shows(*self.at(changes)):
                return changes
        return None

    def corrected(self, changes: Changes, one: CompiledRule, shows: Shows) -> Changes:
        """The same with what other rules say corrected, where the record still shows it then."""
        there = self.baseline.changed(changes).around
        further = cleared(there, self.candidates, one.rule.key)
        whole = {**changes, **further}
        return whole if further and shows(*self.at(whole)) else changes

    def where_it_applies(
        self, one: CompiledRule, fields: Sequence[str], budget: int = USUAL_BUDGET
    ) -> "Explorer | None":
        """Return an explorer around a record to which the rule applies.

        None where none was found, or where the rule applies here already.
        """
        first = self.find(fields, lambda _, settled: has_its_say(one, settled), budget)
        if not first:
            return None
        corrected = {**first, **cleared(self.baseline.changed(first).around, self.candidates)}
        return Explorer(self.baseline.changed(corrected), corrected)

    def _entries(self, key: str) -> list[object]:
        standing = self.around.values.get(key)
        return [one for one in self.candidates.of(key) if one != standing]
