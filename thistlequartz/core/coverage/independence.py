"""Parts of conditions that no pair of cases shows alone: two records that would, or a proof."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, replace
from datetime import date
from typing import Literal

from thistlequartz.core.candidates.baseline import baseline_of
from thistlequartz.core.documents import MAX_LABEL
from thistlequartz.core.drafting.decisions import decisions_of
from thistlequartz.core.drafting.drafted_case import DraftedCase
from thistlequartz.core.judging import CompiledForm, CompiledRule
from thistlequartz.core.solving.independence import IndependencePair, NeverEvaluated, turns_alone
from thistlequartz.core.solving.prover import Prover, Undecided, Unsatisfiable
from thistlequartz.core.solving.witness import Witness
from thistlequartz.core.translation import tr

from .proof import (
    NEVER_ALONE,
    NEVER_ASKED,
    PartProof,
    PartState,
    Proof,
    looked_at,
    part_key,
    shown_of,
)


@dataclass(frozen=True, slots=True)
class PartAlone:
    """What could be said of one part for every record."""

    key: str
    state: Literal["shown", "never", "not_decided"]
    """`never`: no two records show it, from today on."""
    why: str = ""
    """What stands in the way, where it is not decided."""
    drafted: tuple[DraftedCase, ...] = ()
    """The two records, where they are shown."""


def with_parts(proof: Proof, answers: Mapping[str, PartAlone]) -> Proof:
    """The same with what was worked out of the parts that its cases do not show."""

    def told(part: PartProof) -> PartProof:
        answer = answers.get(part.key)
        if part.state != "open" or answer is None:
            return part
        state: PartState = "not_reachable" if answer.state == "never" else "open"
        return replace(part, state=state, why=answer.why)

    rules = tuple(replace(one, parts=tuple(map(told, one.parts))) for one in proof.rules)
    parts = [part for one in rules if one.counts for part in one.parts]
    return replace(proof, rules=rules, parts=shown_of(parts))


def open_parts(proof: Proof) -> tuple[str, ...]:
    """The keys of the parts that its cases do not show, and that may be shown."""
    return tuple(
        part.key for one in proof.rules if one.counts for part in one.parts if part.state == "open"
    )


def parts_alone(form: CompiledForm, today: date, keys: Sequence[str]) -> Iterator[PartAlone]:
    """Each of these parts in turn, by the keys that PartProof gives them."""
    prover = Prover(form, today)
    for one in form.rules:
        for number, decision in enumerate(decisions_of(one, form)):
            for place, words in enumerate(decision.words):
                key = part_key(one.rule.key, number, place)
                if key in keys:
                    answer = turns_alone(prover, one, decision, place, looked_at(decision))
                    yield _told(form, one, key, words, answer)


def _told(
    form: CompiledForm,
    one: CompiledRule,
    key: str,
    words: str,
    answer: IndependencePair | Unsatisfiable | NeverEvaluated | Undecided,
) -> PartAlone:
    match answer:
        case IndependencePair(with_it, without_it):
            pair = (
                _drafted(form, one, words, tr("is so"), with_it.witness),
                _drafted(form, one, words, tr("is not so"), without_it.witness),
            )
            return PartAlone(key, "shown", drafted=pair)
        case Unsatisfiable():
            return PartAlone(key, "never", NEVER_ALONE)
        case NeverEvaluated():
            return PartAlone(key, "never", NEVER_ASKED)
        case Undecided(why):
            return PartAlone(key, "not_decided", why)


def _drafted(
    form: CompiledForm, one: CompiledRule, words: str, stands: str, witness: Witness
) -> DraftedCase:
    name = f"{words}: {stands}"[:MAX_LABEL]
    return DraftedCase.of(
        name=name,
        why=tr("Shows that “{words}” matters alone (MC/DC, unique cause).", words=words),
        technique="parts",
        rules=(one.rule.key,),
        baseline=baseline_of(form, witness.case(name)),
        changes={},
    )
