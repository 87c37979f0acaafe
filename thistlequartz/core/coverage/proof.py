"""Coverage by cases: rules reached, sides of each bound, and parts of conditions."""

from collections.abc import Callable, Collection, Iterable, Sequence
from dataclasses import dataclass
from typing import Literal

from thistlequartz.core.candidates.baseline import Baseline
from thistlequartz.core.candidates.entries import Candidates
from thistlequartz.core.cases.observing import circumstances_of, read_case
from thistlequartz.core.cases.running import gone
from thistlequartz.core.drafting.boundaries import BoundaryComparison, bounds_of
from thistlequartz.core.drafting.decisions import Decision, decisions_of, reach_of, shown_alone
from thistlequartz.core.judging import CompiledForm, CompiledRule, Judgement, JudgeRequest
from thistlequartz.core.ruleset import Case
from thistlequartz.core.translation import tr

PartState = Literal["shown", "open", "not_reachable"]


@dataclass(frozen=True, slots=True)
class BoundProof:
    """One bound: the case that stands at the last value inside, and at the first one outside."""

    words: str
    inside: str | None
    outside: str | None


@dataclass(frozen=True, slots=True)
class PartProof:
    """One part of a condition, and the two cases that show it to matter alone."""

    key: str
    """Its name among the parts of the form, the same as long as the rule is."""
    words: str
    state: PartState
    cases: tuple[str, ...] = ()
    why: str = ""


@dataclass(frozen=True, slots=True)
class RuleProof:
    """What the cases prove of one rule."""

    rule: str
    counts: bool
    """Whether it is switched on and can be used."""
    fired: tuple[str, ...]
    """The cases in which it is violated; of a rule with an effect: in which it has it."""
    always: bool
    """Whether it has its effect always, as it has no condition."""
    cleared: tuple[str, ...]
    """Those in which it is kept; of a rule with an effect: in which it does not apply."""
    bounds: tuple[BoundProof, ...]
    parts: tuple[PartProof, ...]

    @property
    def both_ways(self) -> bool:
        """Whether it was seen to fire and to clear."""
        return bool(self.fired) and (self.always or bool(self.cleared))


@dataclass(frozen=True, slots=True)
class Tally:
    """So many of so many."""

    done: int
    of: int


@dataclass(frozen=True, slots=True)
class Proof:
    """What the cases of a form prove."""

    cases: int
    rules: tuple[RuleProof, ...]
    both_ways: Tally
    """Rules that were seen to fire and to clear."""
    save: Tally
    """Rules that speak on saving, and those of them that fired."""
    submit: Tally
    bounds: Tally
    """Bounds with a case at the last value inside and one at the first outside."""
    parts: Tally
    """Parts of conditions shown to matter alone, of those that can be."""


Played = Sequence[tuple[str, Judgement]]
"""Cases by key, judged."""
NEVER_ALONE = tr("The other parts turn with it, so it never turns alone.")
NEVER_ASKED = tr("No record comes to it, as its rule is never asked.")
_MOST_NAMED = 50
"""Cases that are named for a rule."""


def play(form: CompiledForm, cases: Iterable[Case]) -> list[tuple[str, Judgement]]:
    """The cases that can be run, judged."""
    played = []
    for case in cases:
        if not any(gone(form, case)):
            circumstances = circumstances_of(form, case.circumstances)
            record = read_case(form, case)
            judged = form.judged(
                JudgeRequest(record, circumstances, applied=case.proposals_applied)
            )
            played.append((case.key, judged))
    return played


def part_key(rule: str, decision: int, place: int) -> str:
    """What a part of a decision of a rule is called."""
    return f"{rule}:{decision}:{place}"


def prove(form: CompiledForm, cases: Sequence[Case], baseline: Baseline) -> Proof:
    """What `cases` prove; parts of conditions are looked at from the record of `baseline`."""
    played = play(form, cases)
    compiled = {one.rule.key: one for one in form.rules}
    candidates = baseline.candidates()
    rules = tuple(
        _rule(compiled[rule.key], form, played, candidates)
        if rule.key in compiled and rule.enabled
        else RuleProof(rule.key, False, (), False, (), (), ())
        for rule in form.form.rules
    )
    counted = [one for one in rules if one.counts]
    bounds = [bound for one in counted for bound in one.bounds]
    parts = [part for one in counted for part in one.parts]
    return Proof(
        cases=len(played),
        rules=rules,
        both_ways=Tally(sum(one.both_ways for one in counted), len(counted)),
        save=_reached(counted, compiled, "save"),
        submit=_reached(counted, compiled, "submit"),
        bounds=Tally(
            sum(one.inside is not None and one.outside is not None for one in bounds),
            len(bounds),
        ),
        parts=shown_of(parts),
    )


def shown_of(parts: Collection[PartProof]) -> Tally:
    """How many parts are shown alone, of those that can be."""
    return Tally(
        sum(one.state == "shown" for one in parts),
        sum(one.state != "not_reachable" for one in parts),
    )


def _reached(
    rules: Iterable[RuleProof],
    compiled: dict[str, CompiledRule],
    moment: Literal["save", "submit"],
) -> Tally:
    speaking = [one for one in rules if compiled[one.rule].severities[moment] != "none"]
    return Tally(sum(bool(one.fired) for one in speaking), len(speaking))


def _rule(
    one: CompiledRule, form: CompiledForm, played: Played, candidates: Candidates
) -> RuleProof:
    firing, clearing = (
        ("satisfied", "not_applicable") if one.is_effect else ("violated", "satisfied")
    )
    key = one.rule.key
    fired = [name for name, judged in played if judged.findings[key].status == firing]
    cleared = [name for name, judged in played if judged.findings[key].status == clearing]
    return RuleProof(
        rule=key,
        counts=True,
        fired=tuple(fired[:_MOST_NAMED]),
        always=one.is_effect and not one.condition,
        cleared=tuple(cleared[:_MOST_NAMED]),
        bounds=tuple(_bound(bound, key, played) for bound in bounds_of(one, form)),
        parts=tuple(
            part
            for number, decision in enumerate(decisions_of(one, form))
            if len(decision.parts) > 1
            for part in _parts(decision, (key, number), form, played, candidates)
        ),
    )


def judges(judged: Judgement, rule: str) -> bool:
    """Whether what must hold was looked at."""
    return judged.findings[rule].status in ("violated", "satisfied")


def counts(judged: Judgement, rule: str) -> bool:
    """Whether the rule's condition was looked at."""
    outside = ("disabled", "out_of_scope", "unfinished", "not_relevant")
    return judged.findings[rule].status not in outside


def looked_at(decision: Decision) -> Callable[[Judgement, str], bool]:
    """What says of a judged record whether the decision of a rule was asked in it."""
    return counts if decision.part == "when" else judges


def _bound(bound: BoundaryComparison, rule: str, played: Played) -> BoundProof:
    found: list[str | None] = [None, None]
    for name, judged in played:
        looked = judges if bound.part == "must" else counts
        if not looked(judged, rule) or None not in found:
            continue
        environment = judged.settled.environment
        sides = bound.sides(environment)
        stands = bound.stands(environment)
        if sides is not None and stands in sides:
            place = sides.index(stands)
            found[place] = found[place] or name
    return BoundProof(bound.words, *found)


def _parts(
    decision: Decision,
    name: tuple[str, int],
    form: CompiledForm,
    played: Played,
    candidates: Candidates,
) -> Iterable[PartProof]:
    rule, looked = name[0], looked_at(decision)
    seen = [
        (case, decision.vector(judged.settled.environment), decision.turned(environment))
        for case, judged in played
        if looked(judged, rule) and (environment := judged.settled.environment)
    ]
    reach = None
    for place, words in enumerate(decision.words):
        key = part_key(*name, place)
        if place in decision.coupled:
            why = tr("It stands in the condition more than once, so neither turns alone.")
            yield PartProof(key, words, "not_reachable", why=why)
            continue
        shown = shown_alone(seen, place)
        if shown is not None:
            yield PartProof(key, words, "shown", shown)
            continue
        if reach is None:
            around = candidates.around
            base = form.settled(around.unchanged, around.circumstances).environment
            reach = reach_of(decision, form, candidates, base)
        if reach.whole and reach.pair(place) is None:
            yield PartProof(key, words, "not_reachable", why=NEVER_ALONE)
        else:
            yield PartProof(key, words, "open")
