"""Which slips the cases notice, and for the others a case that would."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from typing import Literal

from thistlequartz.core.candidates.baseline import Baseline, baseline_of
from thistlequartz.core.candidates.budgeted_search import Changes
from thistlequartz.core.candidates.circumstances import in_scope
from thistlequartz.core.candidates.corrections import cleared
from thistlequartz.core.candidates.entries import deciding_fields
from thistlequartz.core.candidates.exploring import Explorer
from thistlequartz.core.cases.differences import agrees
from thistlequartz.core.cases.observing import Observed, Observer, circumstances_of, read_case
from thistlequartz.core.cases.running import gone
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.judging import Circumstances, CompiledForm, ReadRecord
from thistlequartz.core.ruleset import Case

from .drafting import drafted_of
from .mutated_form import MutatedForm
from .mutations import Mutation

SlipState = Literal["noticed", "unnoticed", "not_decided"]
BUDGET = 600
"""Records looked at around each one that a search begins from."""
MOST_GROUNDS = 3
MOST_CLEARED = 6
"""Records that are corrected elsewhere, so that what the slip changes stands out."""


@dataclass(frozen=True, slots=True)
class MutationResult:
    """What came of one slip."""

    slip: Mutation
    state: SlipState
    case: str | None = None
    """The first case that notices it."""
    witness: DraftedCase | None = None
    """A record that would, where no case does."""


@dataclass(frozen=True, slots=True)
class _Played:
    case: Case
    record: ReadRecord
    circumstances: Circumstances
    observed: Observed


@dataclass(frozen=True, slots=True)
class _Known:
    drafted: DraftedCase
    record: ReadRecord
    circumstances: Circumstances


def try_mutants(
    form: CompiledForm, cases: Sequence[Case], baseline: Baseline, slips: Sequence[Mutation]
) -> Iterator[MutationResult]:
    """Yield each mutation with its outcome: killed by a passing case, or survived.

    A survivor comes with a record that tells the two apart; where none is found it is undecided,
    and the mutation counts as not proved.

    One such record serves for as many slips as it tells. `baseline` is a record from which to look,
    best one that goes through without a word.
    """
    hunter = _Hunter(form, cases, baseline)
    for slip in slips:
        found = hunter.look(slip)
        if found is not None:
            yield found


class _Hunter:
    def __init__(self, form: CompiledForm, cases: Sequence[Case], baseline: Baseline) -> None:
        self.form = form
        self.baseline = baseline
        self.observer = Observer(form)
        self.rules = {one.rule.key: one for one in form.rules}
        self.played = list(self._play(cases))
        self.drafted: list[_Known] = []
        self._explorers: dict[tuple[Circumstances, int], Explorer] = {}

    def _play(self, cases: Sequence[Case]) -> Iterator[_Played]:
        """The cases that can be run and agree; the others prove nothing."""
        for case in cases:
            if any(gone(self.form, case)):
                continue
            circumstances = circumstances_of(self.form, case.circumstances)
            record = read_case(self.form, case)
            observed = self.observer.observe(
                record, circumstances, case.proposals_applied, case.expected
            )
            if agrees(case.expected, observed):
                yield _Played(case, record, circumstances, observed)

    def look(self, slip: Mutation) -> MutationResult | None:
        """What comes of a slip; None where the rule cannot be used with it, as that is told."""
        mistaken = self.form.rewritten(slip.form)
        if mistaken.problems.keys() - self.form.problems.keys():
            return None
        writings = MutatedForm(self.observer, self.rules, mistaken, slip.rule)
        for one in sorted(self.played, key=lambda one: slip.rule not in one.observed.violated):
            seen = writings.other.observe(
                one.record, one.circumstances, one.case.proposals_applied, one.case.expected
            )
            if not agrees(one.case.expected, seen):
                return MutationResult(slip, "noticed", one.case.key)
        witness = self._known_witness(writings) or self._witness(slip, writings)
        return MutationResult(slip, "unnoticed" if witness else "not_decided", None, witness)

    def _known_witness(self, writings: MutatedForm) -> DraftedCase | None:
        """A record that was drafted for another slip already, and tells this one too."""
        for one in self.drafted:
            seen = writings.other.observe(one.record, one.circumstances, one.drafted.applied)
            if not agrees(one.drafted.observed, seen):
                return one.drafted
        return None

    def _witness(self, slip: Mutation, writings: MutatedForm) -> DraftedCase | None:
        touched = writings.touched
        before = [self.rules[one.rule.key] for one in touched]
        fields = deciding_fields(self.form, (*before, *touched))
        for explorer in self._explorers_for(slip, writings):
            found = _telling(explorer, fields, writings) or _telling_where_it_applies(
                explorer, fields, writings
            )
            if found is not None:
                drafted = drafted_of(slip, explorer.baseline, writings.mistaken, *found)
                self._keep(drafted)
                return drafted
        return None

    def _keep(self, drafted: DraftedCase) -> None:
        case = drafted.case("drafted")
        circumstances = circumstances_of(self.form, case.circumstances)
        self.drafted.append(_Known(drafted, read_case(self.form, case), circumstances))

    def _explorers_for(self, slip: Mutation, writings: MutatedForm) -> Iterator[Explorer]:
        """Around the good record, in circumstances in which the rule counts, and around cases in
        which it spoke.
        """
        rule = writings.touched[0].rule if writings.touched else None
        baseline = in_scope(self.baseline, rule) if rule else self.baseline
        yield self._explorer(baseline, -1)
        spoke = [
            place for place, one in enumerate(self.played) if slip.rule in one.observed.violated
        ]
        for place in spoke[: MOST_GROUNDS - 1]:
            yield self._explorer(baseline_of(self.form, self.played[place].case), place)

    def _explorer(self, baseline: Baseline, place: int) -> Explorer:
        known = (baseline.around.circumstances, place)
        if known not in self._explorers:
            seen = self.baseline.seen
            self._explorers[known] = Explorer(replace(baseline, seen=seen))
        return self._explorers[known]


def _telling(
    explorer: Explorer, fields: Sequence[str], writings: MutatedForm
) -> tuple[Changes, tuple[str, ...]] | None:
    """The smallest changes after which a record tells the writings apart, and what to apply."""
    circumstances = explorer.around.circumstances
    drowned: list[Changes] = []

    for changes in explorer.ways(fields, BUDGET):
        record, settled = explorer.at(changes)
        if not writings.may_tell(settled):
            continue
        applied = writings.told_by(record, circumstances)
        if applied is not None:
            return changes, applied
        if writings.quick:
            drowned.append(changes)
            if len(drowned) == MOST_CLEARED:
                break
    for changes in drowned:
        found = _stand_out(explorer, changes, writings)
        if found is not None:
            return found, ()
    return None


def _telling_where_it_applies(
    explorer: Explorer, fields: Sequence[str], writings: MutatedForm
) -> tuple[Changes, tuple[str, ...]] | None:
    """The same, from a record that was changed first so that the rule has something to say."""
    if not writings.touched:
        return None
    one = writings.before(writings.touched[0])
    there = explorer.where_it_applies(one, fields, BUDGET)
    found = there and _telling(there, fields, writings)
    return ({**there.changed, **found[0]}, found[1]) if there and found else None


def _stand_out(explorer: Explorer, changes: Changes, writings: MutatedForm) -> Changes | None:
    """What a rule says there is drowned by others: the same with the others corrected."""
    around = explorer.around
    there = explorer.baseline.changed(changes)
    spared = writings.touched[0].rule.key
    further = cleared(there.around, explorer.candidates, spared)
    whole = {**changes, **further}
    record, _ = explorer.at(whole)
    told = writings.told_by(record, around.circumstances)
    return whole if further and told is not None else None
