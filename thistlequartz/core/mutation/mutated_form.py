"""Two writings of one form, and whether a record tells them apart."""

from collections.abc import Mapping
from functools import cached_property

from thistlequartz.core.candidates.violating import is_violated
from thistlequartz.core.cases.differences import agrees
from thistlequartz.core.cases.observing import Observer
from thistlequartz.core.judging import (
    Circumstances,
    CompiledForm,
    CompiledRule,
    ReadRecord,
    Settled,
)

Applied = tuple[str, ...]


class MutatedForm:
    """A form as it is written, and the same with a slip in one rule or in a shared condition."""

    def __init__(
        self,
        observer: Observer,
        rules: Mapping[str, CompiledRule],
        mistaken: CompiledForm,
        rule: str | None,
    ) -> None:
        self.observer = observer
        self.mistaken = mistaken
        self.other = Observer(mistaken)
        self._rules = rules
        self._rule = rule

    @cached_property
    def touched(self) -> list[CompiledRule]:
        """The rules that the slip is in, as they would be."""
        return [
            one
            for one in self.mistaken.rules
            if one.rule.key == self._rule or one.lowered != self._rules[one.rule.key].lowered
        ]

    def before(self, one: CompiledRule) -> CompiledRule:
        """The rule without the slip."""
        return self._rules[one.rule.key]

    @property
    def quick(self) -> bool:
        """Whether the slip changes no more than what one rule checks, and how hard."""
        return len(self.touched) == 1 and not any(
            one.is_effect for one in (self.touched[0], self.before(self.touched[0]))
        )

    def may_tell(self, settled: Settled) -> bool:
        """Whether a record can tell them apart at all, asked of the one rule alone."""
        if not self.quick:
            return True
        theirs = self.touched[0]
        mine = self.before(theirs)
        violated = is_violated(mine, settled)
        if violated != is_violated(theirs, settled):
            return True
        return violated and _speaks(mine) != _speaks(theirs)

    def told_by(self, record: ReadRecord, circumstances: Circumstances) -> Applied | None:
        """Return the proposals to apply so that the record tells the forms apart.

        None mostly; None as a value where it does not tell them apart.
        """
        mine = self.observer.observe(record, circumstances)
        if not agrees(mine, self.other.observe(record, circumstances)):
            return ()
        applied = tuple(mine.offered)
        if applied and not self.quick:
            mine = self.observer.observe(record, circumstances, applied)
            if not agrees(mine, self.other.observe(record, circumstances, applied)):
                return applied
        return None


def _speaks(one: CompiledRule) -> tuple[object, ...]:
    return one.severities["save"], one.severities["submit"], one.check_rule.hold
