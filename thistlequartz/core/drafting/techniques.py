"""Cases drafted by the machine, each with the reason for its being there.

Boundary values, pairwise combinations and each choice by ISO/IEC/IEEE 29119-4; each part of a
condition alone by unique-cause MC/DC; blank, as every new record starts so; and every rule both
ways. What cannot be reached from the baseline is left out.
"""

from collections.abc import Callable, Collection, Iterable, Iterator, Mapping, Sequence
from typing import Literal

from thistlequartz.core.candidates.baseline import Baseline
from thistlequartz.core.candidates.budgeted_search import Changes
from thistlequartz.core.candidates.circumstances import in_scope
from thistlequartz.core.candidates.corrections import change_words
from thistlequartz.core.candidates.entries import conditions_of, deciding_fields, enterable
from thistlequartz.core.candidates.exploring import Explorer, Shows
from thistlequartz.core.candidates.violating import has_its_say, is_violated
from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.judging import CompiledForm, CompiledRule, ReadRecord, Settled
from thistlequartz.core.language import tree
from thistlequartz.core.ruleset import Case
from thistlequartz.core.translation import tr

from .boundaries import BoundaryComparison, bounds_of
from .decisions import Decision, DecisionAssignment, decisions_of, reach_of
from .drafted_case import DraftedCase, Technique
from .pairing import pairwise_rows

BUDGET = 600
MOST_ANSWERS = 8
"""Of one governing field in combinations: those that rules name, one other, and blank."""
BoundaryValues = Literal[2, 3]


def drafted_cases(
    form: CompiledForm,
    baseline: Baseline,
    technique: Technique,
    *,
    boundary_values: BoundaryValues = 2,
    kept: Sequence[Case] = (),
) -> Iterator[DraftedCase]:
    """The cases that a technique asks for and that are not kept yet, each once.

    `baseline` is the record they are drafted from, best one that goes through without a word.
    """
    drafter = _Drafter(form, baseline, boundary_values)
    makers: dict[Technique, Callable[[], Iterator[DraftedCase]]] = {
        "both": drafter.both_ways,
        "boundary": drafter.boundaries,
        "blank": drafter.blanks,
        "choice": drafter.choices,
        "pairs": drafter.pairs,
        "parts": drafter.parts,
    }
    return unlike(makers[technique](), kept)


def unlike(drafted: Iterable[DraftedCase], kept: Sequence[Case]) -> Iterator[DraftedCase]:
    """Those that differ from the kept ones and from one another."""
    seen = {_mark(case.circumstances, case.values) for case in kept}
    for one in drafted:
        mark = _mark(one.circumstances, one.values)
        if mark not in seen:
            seen.add(mark)
            yield one


def _mark(circumstances: object, values: Mapping[str, object]) -> str:
    filled = {key: value for key, value in values.items() if value not in (None, "", [])}
    return f"{circumstances!r} {sorted(filled.items(), key=lambda item: item[0])!r}"


class _Drafter:
    def __init__(self, form: CompiledForm, baseline: Baseline, values: BoundaryValues) -> None:
        self.form = form
        self.baseline = baseline
        self.values: BoundaryValues = values
        self.rules = [one for one in form.rules if one.rule.enabled]
        self._explorers: dict[object, Explorer] = {}
        self._applying: dict[str, Explorer | None] = {}

    def _explorer(self, one: CompiledRule | None = None) -> Explorer:
        baseline = in_scope(self.baseline, one.rule) if one else self.baseline
        here = baseline.around.circumstances
        if here not in self._explorers:
            self._explorers[here] = Explorer(baseline)
        return self._explorers[here]

    def _find(
        self, one: CompiledRule, shows: Shows, known: Changes | None = None
    ) -> Changes | None:
        """The smallest changes that show it; else, where they do, those that are `known` to."""
        explorer, fields = self._explorer(one), deciding_fields(self.form, [one])
        found = explorer.find(fields, shows, BUDGET)
        if found is None and known is not None and shows(*explorer.at(known)):
            found = known
        if found is not None:
            return explorer.corrected(found, one, shows)
        if one.is_effect:
            return None
        if one.rule.key not in self._applying:
            self._applying[one.rule.key] = explorer.where_it_applies(one, fields, BUDGET)
        there = self._applying[one.rule.key]
        if there is None:
            return None
        found = there.find(fields, shows, BUDGET)
        return None if found is None else {**there.changed, **there.corrected(found, one, shows)}

    def _draft(
        self,
        technique: Technique,
        name: str,
        why: str,
        changes: Changes,
        rules: Iterable[CompiledRule],
    ) -> DraftedCase:
        listed = list(rules)
        return DraftedCase.of(
            name=name[:MAX_LABEL],
            why=why,
            technique=technique,
            rules=tuple(one.rule.key for one in listed),
            baseline=self._explorer(listed[0] if listed else None).baseline,
            changes=changes,
        )

    def _said(self, changes: Changes) -> str:
        if not changes:
            return tr("the record as it is")
        return "; ".join(change_words(k, v, self.form.fields) for k, v in changes.items())

    def both_ways(self) -> Iterator[DraftedCase]:
        """Every rule seen violated, and seen met."""
        for one in self.rules:
            for fires, words in ((True, "violated"), (False, "met")):
                changes = self._find(one, _goes(one, fires=fires))
                if changes is not None:
                    name = f"{self._said(changes)}: {words}"
                    why = tr(
                        "Shows “{name}” both ways ({changes}).",
                        name=one.rule.name,
                        changes=self._said(changes),
                    )
                    yield self._draft("both", name, why, changes, [one])

    def boundaries(self) -> Iterator[DraftedCase]:
        """The values on and beside every bound of every rule."""
        for one in self.rules:
            for bound in bounds_of(one, self.form):
                for position in range(self.values):
                    changes = self._find(one, _stands_at(one, bound, position, self.values))
                    if changes is None:
                        continue
                    name = self._said(changes)
                    count = "Two" if self.values == 2 else "Three"
                    why = tr("{count}-value boundary of “{words}”.", count=count, words=bound.words)
                    yield self._draft("boundary", name, why, changes, [one])

    def blanks(self) -> Iterator[DraftedCase]:
        """Every field that rules look at left blank, and every demand not met."""
        can = enterable(self.form)
        for key in self.form.fields:
            reading = [one for one in self.rules if key in one.reads]
            filled = self._explorer().around.values.get(key) not in (None, "", [])
            if reading and filled and key in can:
                label = self.form.fields[key].label
                why = tr(
                    "{label} starts out blank: what do the rules that look at it say then?",
                    label=label,
                )
                yield self._draft(
                    "blank", tr("{label} left blank", label=label), why, {key: None}, reading[:1]
                )
        for one in self.rules:
            if one.check_kind and one.check_kind.neighbour == "blank":
                changes = self._find(one, _asked_and_blank(one))
                if changes is not None:
                    name = tr("{changes}: asked, and blank", changes=self._said(changes))
                    why = tr("“{name}” asks for something that is not there.", name=one.rule.name)
                    yield self._draft("blank", name, why, changes, [one])

    def choices(self) -> Iterator[DraftedCase]:
        """Each answer of every field that is chosen from and that rules look at."""
        for key, entries in self._answers(everything=True).items():
            reading = [one for one in self.rules if key in one.reads]
            for entry in entries:
                changes = self._explorer().find(
                    deciding_fields(self.form, reading), _answered(key, entry), BUDGET
                )
                if changes is not None:
                    words = change_words(key, entry, self.form.fields)
                    why = tr(
                        "Each answer of {label} at least once.", label=self.form.fields[key].label
                    )
                    yield self._draft("choice", words, why, changes, reading[:1])

    def pairs(self) -> Iterator[DraftedCase]:
        """Every two answers of two governing fields together, in as few cases as can be."""
        answers = self._answers(everything=False)
        standing = self._explorer().around.values
        for row in pairwise_rows(list(answers.values())):
            changes = _differing(dict(zip(answers, row, strict=True)), standing)
            why = tr("Every two answers of two governing fields together at least once (pairwise).")
            yield self._draft("pairs", self._said(changes), why, changes, [])

    def _answers(self, *, everything: bool) -> dict[str, list[object]]:
        """The answers of fields that are chosen from: of all that rules look at, or, for those
        that govern a rule, the ones that rules name, one other and blank.
        """
        can = enterable(self.form)
        found: dict[str, list[object]] = {}
        for key, declared in self.form.fields.items():
            if key not in can or declared.type.answers() is None:
                continue
            entries = list(self._explorer().candidates.of(key))
            if everything:
                if any(key in one.reads for one in self.rules):
                    found[key] = entries
            elif any(key in one.governors for one in self.rules):
                found[key] = self._partitions(key, entries)
        return found

    def _partitions(self, key: str, entries: list[object]) -> list[object]:
        named = {
            node.value
            for one in self.rules
            for condition in conditions_of(one)
            if key in tree.fields_read(condition)
            for node in tree.walk(condition)
            if isinstance(node, tree.Text | tree.Boolean)
        }

        def is_named(entry: object) -> bool:
            return entry in named if isinstance(entry, str | bool) else False

        told = [one for one in entries if is_named(one) or _alone_in(one, named)]
        others = [one for one in entries if one is not None and one not in told]
        return [*told[:MOST_ANSWERS], *others[:1], None]

    def parts(self) -> Iterator[DraftedCase]:
        """Each part of every condition shown to matter alone."""
        for one in self.rules:
            for decision in decisions_of(one, self.form):
                if len(decision.parts) > 1:
                    yield from self._parts_of(one, decision)

    def _parts_of(self, one: CompiledRule, decision: Decision) -> Iterator[DraftedCase]:
        explorer = self._explorer(one)
        _, settled = explorer.at({})
        reach = reach_of(decision, self.form, explorer.candidates, settled.environment)
        used: list[DecisionAssignment] = []
        for place, words in enumerate(decision.words):
            pair = None if place in decision.coupled else reach.pair(place, first=used)
            for assigned in pair or ():
                if assigned in used:
                    continue
                used.append(assigned)
                known = _differing(assigned.entries, explorer.around.values)
                changes = self._find(one, _comes_to(one, decision, assigned), known)
                if changes is not None:
                    name = self._said(changes)
                    why = tr(
                        "Shows that “{words}” matters alone (MC/DC, unique cause).", words=words
                    )
                    yield self._draft("parts", name, why, changes, [one])


def _differing(entries: Mapping[str, object], standing: Mapping[str, object]) -> Changes:
    return {key: entry for key, entry in entries.items() if entry != standing.get(key)}


def _alone_in(entry: object, named: Collection[object]) -> bool:
    return isinstance(entry, list) and len(entry) == 1 and entry[0] in named


def _goes(one: CompiledRule, *, fires: bool) -> Shows:
    """Whether a rule fires: is violated, or has its effect; or that it does not, and could have."""

    def shows(record: ReadRecord, settled: Settled) -> bool:
        if one.is_effect:
            return one.applies(settled.environment) is fires
        if fires:
            return is_violated(one, settled)
        return (
            has_its_say(one, settled)
            and any(check.satisfied(settled.environment) for check in one.checks)
            and not is_violated(one, settled)
        )

    return shows


def _stands_at(
    one: CompiledRule, bound: BoundaryComparison, position: int, values: BoundaryValues
) -> Shows:
    def shows(record: ReadRecord, settled: Settled) -> bool:
        environment = settled.environment
        places = bound.places(environment, values)
        if position >= len(places) or bound.stands(environment) != places[position]:
            return False
        return bound.part == "when" or (
            has_its_say(one, settled)
            and any(check.satisfied(environment) is not None for check in one.checks)
        )

    return shows


def _asked_and_blank(one: CompiledRule) -> Shows:
    def shows(record: ReadRecord, settled: Settled) -> bool:
        environment = settled.environment
        return has_its_say(one, settled) and all(
            environment[key] is None for key in one.rule.targets
        )

    return shows


def _answered(key: str, entry: object) -> Shows:
    def shows(record: ReadRecord, settled: Settled) -> bool:
        return key not in settled.closed and settled.environment[key] == entry

    return shows


def _comes_to(one: CompiledRule, decision: Decision, assigned: DecisionAssignment) -> Shows:
    def shows(record: ReadRecord, settled: Settled) -> bool:
        environment = settled.environment
        if decision.part == "must" and not has_its_say(one, settled):
            return False
        return decision.vector(environment) == assigned.vector

    return shows
