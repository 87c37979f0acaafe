"""Numbers and days in what is said, beside those that rules have."""

import re
from collections.abc import Callable, Iterator
from datetime import date, timedelta
from decimal import Decimal
from typing import Any, Final

from thistlequartz.core.analysis.solving.asking import Found, Under
from thistlequartz.core.engines.solver import Truth
from thistlequartz.core.engines.traced import traced
from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.judging.judged import Judged
from thistlequartz.core.kernel import nodes
from thistlequartz.core.language import tree
from thistlequartz.core.language.feel import write_formula
from thistlequartz.core.language.rebuilding import rebuilt
from thistlequartz.core.values import PLAIN, DateType, Fault, Months, NumberType, read_value

from .finding import Finding, Mend
from .looking import Look

_MONTHS: Final = (
    "January|February|March|April|May|June|July|August|September|October|November|December"
)
_DAY: Final = re.compile(rf"\b\d{{1,2}} (?:{_MONTHS}) \d{{4}}\b|\b\d{{4}}-\d{{2}}-\d{{2}}\b")
_NUMBER: Final = re.compile(
    r"(?<![\w.,-])[-−]?\d{1,3}(?:[,\u00a0\u202f ]\d{3})+(?:\.\d+)?(?![\w])"
    r"|(?<![\w.,-])[-−]?\d+(?:\.\d+)?(?!\w|[.,]\d|-\d)"
)
_UNIT: Final = re.compile(r"\s?([A-Za-zµ°%]{1,4})\b")
_FACTORS: Final = {"k": Decimal(1000), "m": Decimal("0.001"), "c": Decimal("0.01"),
                   "µ": Decimal("0.000001"), "M": Decimal(1_000_000)}  # fmt: skip
_SAMPLES_NEEDED: Final = 20
_FAR: Final = Decimal(100)
Said = tuple[str, Any]
"""As it is written, and what it is."""


def numbers_said(look: Look) -> Iterator[Finding]:
    """F15: what is said speaks of a number or a day that the rule does not have."""
    for one in look.rules:
        has = _had_by(one)
        if not has or ("F15", one.rule.key) in look.explained:
            continue
        for name in ("message", "name", "why", "explanation", "title"):
            text = getattr(one.rule, name, None) or ""
            if name == "name" and not look.form.written[one.rule.key].name:
                continue
            odd = [said for said in _said_in(text, one, look) if not _is_had(said[1], has)]
            if not odd:
                continue
            written, _ = odd[0]
            where = {"message": "message", "name": "name"}.get(name, "text")
            yield Finding(
                "F15",
                "wrong",
                f"The {where} of {look.name(one.rule.key)} says {written}, and the rule has"
                f" {_listed(has, look, one)}.",
                f"Mend the {where}, or the rule.",
                (one.rule.key,),
                tuple(one.rule.targets),
                mend=_corrected(look, one, name, text, written, has),
            )
            break
        else:
            look.nothing("F15")


def _said_in(text: str, one: CompiledRule, look: Look) -> Iterator[Said]:
    for label in _labels(one, look):
        text = text.replace(label, " ")
    for found in _DAY.finditer(text):
        read = read_value(found.group(), DateType(), PLAIN)
        if isinstance(read, date):
            yield found.group(), read
    text = _DAY.sub(" ", text)
    for found in _NUMBER.finditer(text):
        plain = re.sub(r"[,\u00a0\u202f ]", "", found.group()).replace("−", "-")
        yield found.group(), Decimal(plain) * _factor(text[found.end() :], one, look)


def _labels(one: CompiledRule, look: Look) -> list[str]:
    """What may itself hold numbers: the labels of fields and choices."""
    labels = [declared.label for declared in look.form.fields.values()]
    for key in one.reads:
        type_ = look.form.fields[key].type
        labels += [choice.label for choice in getattr(type_, "choices", ())]
    return sorted((one for one in labels if re.search(r"\d", one)), key=len, reverse=True)


def _factor(after: str, one: CompiledRule, look: Look) -> Decimal:
    """What a number is to be multiplied by, where another unit is said than the field's."""
    found = _UNIT.match(after)
    if found is None:
        return Decimal(1)
    said = found.group(1)
    for key in one.reads:
        unit = getattr(look.form.fields[key].type, "unit", None)
        if unit and said == unit:
            return Decimal(1)
        if unit and said[:1] in _FACTORS and said[1:] == unit:
            return _FACTORS[said[0]]
        if unit and unit[:1] in _FACTORS and unit[1:] == said:
            return 1 / _FACTORS[unit[0]]
    return Decimal(1)


def _had_by(one: CompiledRule) -> list[Any]:
    """The numbers and days of a rule."""
    asked = [check.holds for check in one.lowered.checks]
    if one.lowered.applies is not None:
        asked.append(one.lowered.applies)
    found: dict[Any, None] = {}
    for node in asked:
        for part in nodes.walk(node):
            given: tuple[Any, ...] = ()
            if isinstance(part, nodes.Constant):
                given = (part.value,)
            elif isinstance(part, nodes.Among | nodes.EachAmong):
                given = part.constants
            for value in given:
                found.update(dict.fromkeys(_as_numbers(value)))
    for _, given_value in one.lowered.values:
        for written in tree.walk(given_value):
            if isinstance(written, tree.Number | tree.Date | tree.Duration):
                found.update(dict.fromkeys(_as_numbers(written.value)))
    return list(found)


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


def _is_had(said: Any, has: list[Any]) -> bool:
    if isinstance(said, date):
        return said in has or not any(isinstance(one, date) for one in has)
    numbers = [one for one in has if isinstance(one, Decimal)]
    if not numbers:
        return True
    near = {said, said * 100, said / 100, said + 1, said - 1, -said}
    return any(one in near for one in numbers)


def _listed(has: list[Any], look: Look, one: CompiledRule) -> str:
    shown = [
        f"{value:f}" if isinstance(value, Decimal) else f"{value}" for value in has if value != 0
    ]
    return " and ".join(shown[:3])


def _corrected(
    look: Look, one: CompiledRule, name: str, text: str, written: str, has: list[Any]
) -> Mend | None:
    """The text with the one number that the rule has in the place of the one said."""
    numbers = [value for value in has if isinstance(value, Decimal)]
    if len(numbers) != 1 or text.count(written) != 1 or _DAY.fullmatch(written):
        return None
    mended = text.replace(written, f"{numbers[0]:f}")
    changed = one.rule.model_copy(update={name: mended})
    return Mend(f"{look.name(one.rule.key)} says: {mended}", rules=(changed,))


def noughts(look: Look) -> Iterator[Finding]:
    """F29: a bound with a nought too many or too few, beside what is said, the field's other
    bounds, or what is stored.
    """
    bounds = _bounds(look)
    for key, found in bounds.items():
        for one, bound in found:
            others = [other for rule, other in found if rule is not one]
            said = [
                value
                for _, value in _said_in(getattr(one.rule, "message", None) or "", one, look)
                if isinstance(value, Decimal)
            ]
            beside = next((v for v in (*said, *others) if _by_noughts(bound, v)), None)
            if beside is not None and bound not in said:
                look.explained.add(("F15", one.rule.key))
                yield _nought(look, one, key, bound, f"beside {beside:f}")
            elif _far_from_samples(bound, look.samples.get(key, ())):
                yield _nought(look, one, key, bound, "beside what is stored")
            else:
                look.nothing("F29")


def _bounds(look: Look) -> dict[str, list[tuple[CompiledRule, Decimal]]]:
    """By field: the numbers by which rules bound it."""
    found: dict[str, list[tuple[CompiledRule, Decimal]]] = {}
    for one in look.checks:
        if getattr(one.rule, "of", "") != "value":
            continue
        for key in one.rule.targets:
            if not isinstance(look.form.fields[key].type, NumberType):
                continue
            for end in (getattr(one.rule, "lower", None), getattr(one.rule, "upper", None)):
                read = read_value(end.value, NumberType(), PLAIN) if end else None
                if isinstance(read, Decimal) and not isinstance(read, Fault) and read != 0:
                    found.setdefault(key, []).append((one, read))
    return found


def _by_noughts(bound: Decimal, other: Decimal) -> bool:
    """Whether one is the other with noughts added or left out."""
    if other == 0 or (bound > 0) != (other > 0) or bound == other or abs(bound) < 10:
        return False
    ratio = bound / other if abs(bound) > abs(other) else other / bound
    digits = ratio.normalize().as_tuple()
    return digits.digits == (1,) and isinstance(digits.exponent, int) and digits.exponent > 0


def _far_from_samples(bound: Decimal, samples: tuple[Any, ...]) -> bool:
    numbers = [abs(one) for one in samples if isinstance(one, Decimal)]
    if len(numbers) < _SAMPLES_NEEDED or bound <= 0 or bound % 10 != 0:
        return False  # what ends in no nought has none too many
    return bound > _FAR * max(numbers) > 0


def _nought(look: Look, one: CompiledRule, key: str, bound: Decimal, beside: str) -> Finding:
    return Finding(
        "F29",
        "doubtful",
        f"The bound {bound:f} of {look.name(one.rule.key)} seems to have a nought too many or too"
        f" few {beside}.",
        "Count its noughts.",
        (one.rule.key,),
        (key,),
    )


_INCLUDES: Final = re.compile(
    r"\b(or (?:after|before|later|earlier|more|less|fewer|above|below|equal|the same|on)|"
    r"at least|at most|no (?:later|earlier|more|less) than|not (?:before|after)|up to|inclusive)\b",
    re.IGNORECASE,
)


def bound_left_out(look: Look) -> Iterator[Finding]:
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
        assert isinstance(goal, Truth)
        answer = look.ask("F12", (one.rule.key,), goal.true, Under())
        finding = Finding(
            "F12",
            "doubtful",
            f"{look.name(one.rule.key)} says “{said}”, and refuses the bound itself.",
            "Include the bound, or say it in other words.",
            (one.rule.key,),
            one.judged_by,
            answer.witness if isinstance(answer, Found) else None,
            mend=Mend(f"{look.name(one.rule.key)} includes the bound.", rules=(changed,)),
        )
        at_bound = traced(
            look.prover.record.lowered(tree.Comparison("=", strict[0].left, strict[0].right))
        )
        yield look.meant(finding, _is_true(at_bound))


def _is_true(condition: Callable[[Any], Any]) -> Callable[[Judged], bool]:
    return lambda judged: condition(judged.settled.environment) is True


def _including(node: tree.Node, strict: tree.Comparison) -> tree.Node:
    if node == strict:
        return tree.Comparison("<=" if strict.operator == "<" else ">=", strict.left, strict.right)
    return rebuilt(node, lambda part: _including(part, strict))
