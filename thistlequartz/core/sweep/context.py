"""The record that stays as it is while a field moves, and what happens to it."""

from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property

from thistlequartz.core.judging import Circumstances, CompiledForm, Lookup, ReadRecord, Screener
from thistlequartz.core.ruleset import Outcome


@dataclass(frozen=True, slots=True)
class RecordOutcomes:
    """What happens to a record."""

    save: Outcome
    submit: Outcome
    violated: tuple[str, ...]
    """The rules that are violated and speak on saving or submitting, in the order of the form."""
    offered: tuple[str, ...]
    """The rules whose proposals are offered."""


@dataclass(frozen=True)
class RecordContext:
    """The record that stays as it is while a field moves, and under what it is judged."""

    form: CompiledForm
    values: Mapping[str, object]
    circumstances: Circumstances
    stored: Mapping[str, object] | None = None
    lookup: Lookup | None = None

    @cached_property
    def screener(self) -> Screener:
        """What judges the record."""
        return Screener(self.form, self.circumstances)

    def record(self, changes: Mapping[str, object]) -> ReadRecord:
        """The record with some entries changed."""
        return self.form.changed(self.unchanged, changes) if changes else self.unchanged

    @cached_property
    def unchanged(self) -> ReadRecord:
        """The record as it stands."""
        return self.form.read(self.values, stored=self.stored, lookup=self.lookup)

    def answer(self, changes: Mapping[str, object]) -> RecordOutcomes:
        """What happens to the record with some entries changed."""
        form, record = self.form, self.record(changes)
        settled = form.settled(record, self.circumstances)
        screened = self.screener.screen(record, settled)
        offered = tuple(one.rule for one in form.offered(settled, self.circumstances))
        violated = dict.fromkeys(one.rule for one in screened.violations)
        return RecordOutcomes(screened.save, screened.submit, tuple(violated), offered)
