"""What would let a record through: the smallest changes that clear the blocks of a moment.

A search over the rules' own bounds and choices. First every single change, then pairs while they
are few, then one block after the other; whatever turns out not to be required is left out again.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.sweep import RecordContext
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_value, show_value
from thistlequartz.core.values import Fault

from .budgeted_search import Changes, changes_of
from .entries import Candidates, Seen, deciding_fields, enterable, with_second_entries

MOST_WAYS = 3
MOST_SINGLES = 10_000
MOST_PAIRS = 1_500
MOST_STEPS = 40
_FIRST_STEPS = 4
"""Ways to begin that are followed to the end."""


@dataclass(frozen=True, slots=True)
class Correction:
    """Changes after which nothing blocks."""

    changes: Mapping[str, object]
    words: tuple[str, ...]
    """Each change in words."""


_Block = tuple[str, tuple[str, ...]]
"""A check of a rule by its fields; the rule is blank where the field cannot be read."""


@dataclass(frozen=True, slots=True)
class _State:
    blocks: tuple[_Block, ...]
    warnings: int
    spoken: frozenset[str]
    """The rules that are violated."""


def ways_through(
    around: RecordContext, moment: Moment, seen: Seen | None = None
) -> list[Correction]:
    """Up to three ways to clear the blocks at `moment`, the smallest first.

    Submitting saves as well, so for it the blocks of both moments are cleared. Empty where nothing
    blocks, or where no way was found.
    """
    return _Search(around, moment, Candidates(around, seen)).ways()


def cleared(around: RecordContext, candidates: Candidates, spared: str | None = None) -> Changes:
    """Return changes with which the record goes through with as few results as possible.

    The rule `spared` is left violated.
    """
    search = _Search(around, "submit", candidates, spared)
    return search.quiet(search.stepwise({}) or {})


class _Search:
    def __init__(
        self,
        around: RecordContext,
        moment: Moment,
        candidates: Candidates,
        spared: str | None = None,
    ) -> None:
        self.around = around
        self.moment = moment
        self.candidates = candidates
        self.form = around.form
        self.spared = spared
        """A rule that is to stay violated while all others are cleared."""
        self._rules = {one.rule.key: one for one in self.form.rules}
        self._states: dict[tuple[tuple[str, str], ...], _State] = {}

    def state(self, changes: Changes) -> _State:
        known = tuple(sorted((key, repr(value)) for key, value in changes.items()))
        if known not in self._states:
            self._states[known] = self._look(changes)
        return self._states[known]

    def _look(self, changes: Changes) -> _State:
        record = self.around.record(with_second_entries(self.form, changes))
        screened = self.around.screener.screen(record)
        blocks: list[_Block] = [("", (key,)) for key, _ in screened.faults]
        warnings = 0
        for one in screened.violations:
            if one.rule == self.spared:
                continue
            hard = one.save == "block" or (self.moment == "submit" and one.submit == "block")
            if hard:
                blocks.append((one.rule, one.message.fields))
            elif (one.save, one.submit) != ("none", "none"):
                warnings += 1
        spoken = frozenset(one.rule for one in screened.violations)
        return _State(tuple(dict.fromkeys(blocks)), warnings, spoken)

    def ways(self) -> list[Correction]:
        if not self.state({}).blocks:
            return []
        found = list(self._of(1, MOST_SINGLES))
        if not found:
            found = list(self._of(2, MOST_PAIRS))
        found += self._longer(MOST_WAYS - len(found)) if len(found) < MOST_WAYS else []
        found.sort(key=lambda one: (len(one), self.state(one).warnings))
        distinct = [one for place, one in enumerate(found) if one not in found[:place]]
        return [way_of(self.form, one) for one in _varied(distinct)[:MOST_WAYS]]

    def _fields(self, blocks: Iterable[_Block]) -> list[str]:
        """What bears on some blocks, nearest first."""
        first = dict.fromkeys(key for _, keys in blocks for key in keys)
        rules = [self._rules[rule] for rule, _ in blocks if rule]
        can = enterable(self.form)
        further = (key for key in deciding_fields(self.form, rules) if key not in first)
        return [*(key for key in first if key in can), *further]

    def _entries(self, key: str) -> Iterator[object]:
        standing = self.around.values.get(key)
        for entry in self.candidates.of(key):
            if entry != standing and not (entry is None and standing in (None, "", [])):
                yield entry

    def _of(self, count: int, budget: int) -> Iterator[Changes]:
        """The changes of so many fields that clear every block."""
        fields = self._fields(self.state({}).blocks)
        for changes in changes_of(fields, self._entries, [count], budget):
            if not self.state(changes).blocks:
                yield changes

    def _longer(self, wanted: int) -> list[Changes]:
        first = self.state({}).blocks[:1]
        begun = [{}, *self._best({}, self._fields(first))[:_FIRST_STEPS]]
        found: list[Changes] = []
        for one in begun:
            way = self.stepwise(one)
            if way is not None and self._pruned(way) not in found:
                found.append(self._pruned(way))
            if len(found) == wanted:
                break
        return found

    def _best(self, changes: Changes, fields: Iterable[str]) -> list[Changes]:
        """Single further changes, those that leave the fewest blocks first."""
        before = self.state(changes)
        further = [
            {**changes, **one}
            for key in fields
            if key not in changes
            for one in changes_of([key], self._entries, [1], MOST_SINGLES)
        ]
        ranked = [(self.state(one), place, one) for place, one in enumerate(further)]
        better = [
            (len(state.blocks), state.warnings, place, one)
            for state, place, one in ranked
            if before.blocks[0] not in state.blocks and self._spares(state)
        ]
        return [one for *_, one in sorted(better, key=lambda each: each[:3])]

    def _spares(self, state: _State) -> bool:
        return self.spared is None or self.spared in state.spoken

    def stepwise(self, changes: Changes) -> Changes | None:
        """One block after the other; None where one cannot be cleared."""
        for _ in range(MOST_STEPS):
            blocks = self.state(changes).blocks
            if not blocks:
                return changes
            further = self._best(changes, self._fields(blocks[:1]))
            if not further:
                return None
            changes = further[0]
        return None

    def _pruned(self, changes: Changes) -> Changes:
        """Without what is not needed."""
        kept = dict(changes)
        for key in reversed(list(changes)):
            fewer = {name: value for name, value in kept.items() if name != key}
            if not self.state(fewer).blocks:
                kept = fewer
        return kept

    def quiet(self, changes: Changes) -> Changes:
        """With what still warns or notes cleared too, one after the other, where that can be."""
        for _ in range(MOST_STEPS):
            state = self.state(changes)
            if state.blocks or not state.warnings:
                return changes
            record = self.around.record(with_second_entries(self.form, changes))
            speaking = self.around.screener.screen(record).violations
            better = [
                one
                for violation in speaking
                if violation.rule != self.spared
                for key in self._fields([(violation.rule, violation.message.fields)])
                for change in changes_of([key], self._entries, [1], MOST_SINGLES)
                for one in ({**changes, **change},)
                if not self.state(one).blocks
                and self.state(one).warnings < state.warnings
                and self._spares(self.state(one))
            ]
            if not better:
                return changes
            changes = min(better, key=lambda one: (self.state(one).warnings, len(one)))
        return changes


def way_of(form: CompiledForm, changes: Mapping[str, object]) -> Correction:
    """Changes that clear the blocks, with the words of each."""
    words = (change_words(key, value, form.fields) for key, value in changes.items())
    return Correction(with_second_entries(form, changes), tuple(words))


def _varied(ways: list[Changes]) -> list[Changes]:
    """Those that change other fields come before more of the same; of several fields, once."""
    fields: list[frozenset[str]] = []
    first: list[Changes] = []
    more: list[Changes] = []
    for way in ways:
        if frozenset(way) not in fields:
            first.append(way)
        elif len(way) == 1:
            more.append(way)
        fields.append(frozenset(way))
    return [*first, *more]


def change_words(key: str, value: object, fields: Vocabulary) -> str:
    """“Depth: 40 m”, or “Depth: leave blank”."""
    declared = fields.get(key)
    if declared is None:
        return f"{key}: {value}"
    read = read_value(value, declared.type, declared.settings)
    if read is None:
        return tr("{label}: leave blank", label=declared.label)
    shown = str(value) if isinstance(read, Fault) else show_value(read, declared.type)
    return f"{declared.label}: {shown}"
