"""Numbers and days in what is said, beside those that rules have."""

import re
from collections.abc import Callable, Collection, Iterator, Mapping, Sequence
from datetime import date, timedelta
from decimal import Decimal
from typing import Any, Final

from thistlequartz.core.engines.solver import TruthTerm
from thistlequartz.core.engines.traced import traced
from thistlequartz.core.judging import CompiledRule, Judgement
from thistlequartz.core.kernel import nodes
from thistlequartz.core.language import tree
from thistlequartz.core.language.feel import write_formula
from thistlequartz.core.language.rebuilding import rebuilt
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import show_value
from thistlequartz.core.values import Months, show_length

from .context import SearchContext
from .finding import Finding, SuggestedFix
from .numbers_in_texts import StatedNumber, said_in

_SAMPLES_NEEDED: Final = 20
_FAR: Final = Decimal(10)
_TEXTS: Final = {
    "message": "message", "name": "name", "why": "reason", "explanation": "explanation",
    "title": "title",
}  # fmt: skip
"""The texts of a rule, as people call them."""


def numbers_said(look: SearchContext) -> Iterator[Finding]:
    """F15: what is said speaks of a number or a day that the rule does not have."""
    for one in look.rules:
        has = _had_by(one)
        if not has or ("F15", one.rule.key) in look.explained:
            continue
        odd: list[tuple[str, StatedNumber]] = []
        for name in _TEXTS:
            # A rule that nobody named is called by its own sentence.
            source = look.form.written[one.rule.key] if name == "name" else one.rule
            text = _without_names(getattr(source, name, None) or "", one, look)
            said = said_in(text, _own_labels(one, look), _units(one, look))
            odd += [(name, number) for number in said if not _is_had(number, has)]
        if not odd:
            look.nothing("F15")
            continue
        (first, number), *others = odd
        told = "".join(
            tr(" and its {text} says {words}", text=_TEXTS[name], words=other.words)
            for name, other in others
        )
        measured = any(each.unit for _, each in odd)
        yield Finding(
            "F15",
            "wrong",
            tr(
                "The {text} of {name} says {words}{others}, and the rule has {values}.",
                text=_TEXTS[first],
                name=look.name(one.rule.key),
                words=number.words,
                others=told,
                values=_listed(has, _units(one, look) if measured else ()),
            ),
            tr("Correct the text, or the rule."),
            (one.rule.key,),
            tuple(one.rule.targets),
            fix=_corrected(look, one, first, number.written, has) if not others else None,
        )


def _without_names(text: str, one: CompiledRule, look: SearchContext) -> str:
    """A text without the labels of fields and choices that hold numbers themselves."""
    labels = [declared.label for declared in look.form.fields.values()]
    for key in one.reads:
        type_ = look.form.fields[key].type
        labels += [choice.label for choice in getattr(type_, "choices", ())]
    for label in sorted((each for each in labels if re.search(r"\d", each)), key=len, reverse=True):
        text = text.replace(label, " ")
    return text


def _own_labels(one: CompiledRule, look: SearchContext) -> list[str]:
    return [look.label(key) for key in one.reads]


def _units(one: CompiledRule, look: SearchContext) -> list[str]:
    types = (look.form.fields[key].type for key in one.reads)
    return [unit for type_ in types if (unit := getattr(type_, "unit", None))]


def _had_by(one: CompiledRule) -> dict[Any, Any]:
    """The numbers and days of a rule, with what each is of: itself, or a length of time."""
    asked = [check.satisfied for check in one.lowered.checks]
    if one.lowered.applies is not None:
        asked.append(one.lowered.applies)
    found: dict[Any, Any] = {}
    for node in asked:
        for part in nodes.walk(node):
            given: tuple[Any, ...] = ()
            if isinstance(part, nodes.Constant):
                given = (part.value,)
            elif isinstance(part, nodes.Among | nodes.EachAmong):
                given = part.constants
            for value in given:
                found |= dict.fromkeys(_as_numbers(value), value)
    for _, given_value in one.lowered.values:
        for written in tree.walk(given_value):
            if isinstance(written, tree.Number | tree.Date | tree.Duration):
                found |= dict.fromkeys(_as_numbers(written.value), written.value)
    return found


def _as_numbers(value: Any) -> list[Any]:
    match value:
        case bool():
            return []
        case Decimal() | date():
            return [value]
        case timedelta():
            return [Decimal(value.days), Decimal(value.days) / 7]
        case Months(count):
            return [Decimal(count), Decimal(count) / 12]
        case _:
            return []


def _is_had(said: StatedNumber, has: Collection[Any]) -> bool:
    if isinstance(said.means, date):
        days = [one for one in has if isinstance(one, date)]
        # “From the 12th on” says the same as “after the 11th”.
        return not days or any(abs((one - said.means).days) <= 1 for one in days)
    numbers = {one for one in has if isinstance(one, Decimal)}
    return not numbers or any(one in numbers or -one in numbers for one in said.means)


def _listed(has: Mapping[Any, Any], units: Sequence[str]) -> str:
    values = dict.fromkeys(value for number, value in has.items() if number != 0)
    return listed([_written(one, units) for one in values][:3]) or "0"


def _written(value: Any, units: Sequence[str]) -> str:
    """As people write it: 25,000 kg, 1 year 6 months, and 1 June 2026."""
    if isinstance(value, timedelta | Months):
        return show_length(value)
    if isinstance(value, Decimal) and len(set(units)) == 1:
        return f"{show_value(value)} {units[0]}"
    return show_value(value)


def _corrected(
    look: SearchContext, one: CompiledRule, name: str, written: str, has: Collection[Any]
) -> SuggestedFix | None:
    """The text with the one number that the rule has in the place of the one said."""
    numbers = [value for value in has if isinstance(value, Decimal)]
    text = getattr(one.rule, name, None) or ""
    if len(numbers) != 1 or text.count(written) != 1 or not written[:1].isdigit():
        return None
    if len(written.split()) > 1:
        return None  # a day, or a number in groups
    fixed = text.replace(written, f"{numbers[0]:f}")
    changed = one.rule.model_copy(update={name: fixed})
    return SuggestedFix(
        tr("{name} says: {fixed}", name=look.name(one.rule.key), fixed=fixed), rules=(changed,)
    )


def noughts(look: SearchContext) -> Iterator[Finding]:
    """F29: a bound with a nought too many or too few.

    Compared with its message, with the field's other bounds, and with what is stored.
    """
    for (key, side), found in _bounds(look).items():
        for one, bound in found:
            others = [other for rule, other in found if rule is not one]
            text = _without_names(getattr(one.rule, "message", None) or "", one, look)
            said = {
                value
                for number in said_in(text, _own_labels(one, look), _units(one, look))
                if not isinstance(number.means, date)
                for value in number.means
            }
            beside = next((v for v in (*sorted(said), *others) if _by_noughts(bound, v)), None)
            if beside is not None and bound not in said:
                look.explained.add(("F15", one.rule.key))
                yield _nought(
                    look, one, key, bound, tr("beside {beside}", beside=show_value(beside))
                )
            elif _far_from_samples(bound, side, look.samples.get(key, ())):
                yield _nought(look, one, key, bound, tr("beside what is stored"))
            else:
                look.nothing("F29")


def _bounds(look: SearchContext) -> dict[tuple[str, str], list[tuple[CompiledRule, Decimal]]]:
    """By field and side: the numbers by which checks bound it, whatever their kind."""
    found: dict[tuple[str, str], list[tuple[CompiledRule, Decimal]]] = {}
    for one in look.checks:
        for check in one.lowered.checks:
            for key, side, bound in _bounded(check.satisfied):
                if bound != 0 and look.form.fields[key].type.kind == "number":
                    found.setdefault((key, side), []).append((one, bound))
    return found


def _bounded(node: nodes.Node) -> Iterator[tuple[str, str, Decimal]]:
    """The fields that a condition holds on one side of a number, where all of it has to be so."""
    match node:
        case nodes.If(nodes.IsBlank() | nodes.Or(), nodes.Constant(None), otherwise):
            yield from _bounded(otherwise)  # nothing is judged while a part of it is blank
        case nodes.And(parts):
            for part in parts:
                yield from _bounded(part)
        case nodes.Order(_, nodes.Read("field", key), nodes.Constant(Decimal() as bound)):
            yield key, "upper", bound
        case nodes.Order(_, nodes.Constant(Decimal() as bound), nodes.Read("field", key)):
            yield key, "lower", bound


def _by_noughts(bound: Decimal, other: Decimal) -> bool:
    """Whether one is the other with noughts added or left out."""
    if other == 0 or (bound > 0) != (other > 0) or bound == other or abs(bound) < 10:
        return False
    ratio = bound / other if abs(bound) > abs(other) else other / bound
    digits = ratio.normalize().as_tuple()
    return digits.digits == (1,) and isinstance(digits.exponent, int) and digits.exponent > 0


def _far_from_samples(bound: Decimal, side: str, samples: tuple[Any, ...]) -> bool:
    """Whether hardly a value comes near a bound that has a nought too many, or most are beyond one
    that has a nought too few.
    """
    numbers = [abs(one) for one in samples if isinstance(one, Decimal)]
    if side != "upper" or len(numbers) < _SAMPLES_NEEDED or bound <= 0:
        return False
    beyond = sum(one > bound for one in numbers)
    if 2 * beyond > len(numbers):
        return max(numbers) <= _FAR * bound
    # What ends in no nought has none too many.
    return bound % 10 == 0 and bound >= _FAR * max(numbers) > 0


def _nought(
    look: SearchContext, one: CompiledRule, key: str, bound: Decimal, beside: str
) -> Finding:
    return Finding(
        "F29",
        "doubtful",
        tr(
            "The bound {bound} of {name} seems to have a nought too many or too few {beside}.",
            bound=show_value(bound),
            name=look.name(one.rule.key),
            beside=beside,
        ),
        tr("Count its noughts."),
        (one.rule.key,),
        (key,),
    )


_INCLUDES: Final = re.compile(
    r"\b(or (?:after|before|later|earlier|more|less|fewer|above|below|equal|the same|on)|"
    r"at least|at most|no (?:later|earlier|more|less) than|not (?:before|after)|up to|inclusive)\b",
    re.IGNORECASE,
)


def bound_left_out(look: SearchContext) -> Iterator[Finding]:
    """F12, too: the words include the bound, and the rule leaves it out."""
    for one in look.checks:
        must = getattr(one.rule, "must", None)
        if not must:
            continue
        strict = [
            node
            for check in one.lowered.checks
            for node in tree.walk(check.must)
            if isinstance(node, tree.Comparison) and node.operator in ("<", ">")
        ]
        said = next(
            (
                found.group()
                for name in ("message", "name")
                if (found := _INCLUDES.search(getattr(one.rule, name, None) or ""))
            ),
            None,
        )
        if len(strict) != 1 or said is None:
            continue
        included = _including(one.lowered.checks[0].must, strict[0])
        changed = one.rule.model_copy(update={"must": write_formula(included)})
        goal = look.prover.record.term(look.prover.record.lowered(
            tree.Comparison("=", strict[0].left, strict[0].right)
        ))  # fmt: skip
        assert isinstance(goal, TruthTerm)
        answer = look.ask("F12", (one.rule.key,), goal.true, RuleAssumptions())
        finding = Finding(
            "F12",
            "doubtful",
            tr(
                "{name} says “{words}”, and refuses the bound itself.",
                name=look.name(one.rule.key),
                words=said,
            ),
            tr("Include the bound, or say it in other words."),
            (one.rule.key,),
            one.judged_by,
            answer.witness if isinstance(answer, Satisfiable) else None,
            fix=SuggestedFix(
                tr("{name} includes the bound.", name=look.name(one.rule.key)), rules=(changed,)
            ),
        )
        at_bound = traced(
            look.prover.record.lowered(tree.Comparison("=", strict[0].left, strict[0].right))
        )
        yield look.meant(finding, _is_true(at_bound))


def _is_true(condition: Callable[[Any], Any]) -> Callable[[Judgement], bool]:
    return lambda judged: condition(judged.settled.environment) is True


def _including(node: tree.Node, strict: tree.Comparison) -> tree.Node:
    if node == strict:
        return tree.Comparison("<=" if strict.operator == "<" else ">=", strict.left, strict.right)
    return rebuilt(node, lambda part: _including(part, strict))
