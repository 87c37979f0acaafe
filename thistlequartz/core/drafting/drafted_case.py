"""Cases as the machine drafts them, for the steward to look at and to choose from."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from typing import Literal, Self, cast

from thistlequartz.core.candidates.baseline import Baseline
from thistlequartz.core.candidates.entries import with_second_entries
from thistlequartz.core.cases.case_records import CaseRecords
from thistlequartz.core.cases.observing import Observed, Observer
from thistlequartz.core.judging import CompiledForm, JudgeRequest
from thistlequartz.core.ruleset import Case, CaseCircumstances, Entered, OtherRecord
from thistlequartz.core.sweep import RecordContext

Technique = Literal["both", "boundary", "blank", "choice", "pairs", "parts", "slip"]


@dataclass(frozen=True, slots=True)
class DraftedCase:
    """A case that could be kept, with what would happen now."""

    name: str
    why: str
    technique: Technique
    rules: tuple[str, ...]
    """The rules it is about."""
    circumstances: CaseCircumstances
    values: Mapping[str, Entered]
    observed: Observed
    others: tuple[OtherRecord, ...] = ()
    applied: tuple[str, ...] = ()
    """The rules whose proposals are applied in it."""

    @classmethod
    def of(
        cls,
        *,
        name: str,
        why: str,
        technique: Technique,
        rules: tuple[str, ...],
        baseline: Baseline,
        changes: Mapping[str, object],
        applied: tuple[str, ...] = (),
        against: Sequence[CompiledForm] = (),
    ) -> Self:
        """A case like the record of `baseline` with some changes, under its circumstances."""
        around, here = baseline.around, baseline.around.circumstances
        values = {**around.values, **with_second_entries(around.form, changes)}
        circumstances = CaseCircumstances(
            as_of=here.today,
            event=here.event,
            stored=dict(cast("Mapping[str, Entered]", around.stored or {})),
            entry_point=here.entry_point,
            layout=here.layout,
            role=here.role,
        )
        started = _started(around.form, *against)
        filled = {
            key: value
            for key, value in values.items()
            if key in changes or key in started or value not in (None, "", [])
        }
        case = cls(
            name=name,
            why=why,
            technique=technique,
            rules=rules,
            circumstances=circumstances,
            values=cast("Mapping[str, Entered]", filled),
            observed=_seen(around.form, filled, around, baseline.others, applied),
            others=baseline.others,
            applied=applied,
        )
        return case._with_few_others(around, (around.form, *against))

    def _with_few_others(self, around: RecordContext, forms: Sequence[CompiledForm]) -> Self:
        """Without the other records that make no difference to any of the forms."""
        kept = self.others

        def seen(others: tuple[OtherRecord, ...]) -> list[Observed]:
            return [_seen(form, self.values, around, others, self.applied) for form in forms]

        for one in self.others:
            fewer = tuple(other for other in kept if other is not one)
            if seen(fewer) == seen(kept):
                kept = fewer
        return replace(self, others=kept)

    def case(self, key: str) -> Case:
        """The same as a case that expects what happens now."""
        return Case(
            key=key,
            name=self.name,
            why=self.why,
            circumstances=self.circumstances,
            values=dict(self.values),
            others=self.others,
            proposals_applied=self.applied,
            expected=self.observed.as_expected(),
        )


def _started(*forms: CompiledForm) -> set[str]:
    """The fields that a new record may start with something in: there, to be sent as blank is not
    the same as not to be sent.
    """
    rules = (one for form in forms for one in form.rules if one.part == "starting")
    return {key for one in rules for key in one.rule.targets}


def _seen(
    form: CompiledForm,
    values: Mapping[str, object],
    around: RecordContext,
    others: tuple[OtherRecord, ...],
    applied: tuple[str, ...],
) -> Observed:
    record = form.read(values, stored=around.stored, lookup=CaseRecords(form, others))
    judged = form.judged(JudgeRequest(record, around.circumstances, applied=applied))
    return Observer(form).of_judged(judged)
