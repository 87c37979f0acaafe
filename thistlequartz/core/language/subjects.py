"""What of a field a clause can speak of: its value, its length, its weekday, ..."""

from dataclasses import dataclass

from thistlequartz.core.translation import tr
from thistlequartz.core.types import (
    NumberType,
    ValueType,
)
from thistlequartz.core.types.base import FieldTypeName
from thistlequartz.core.values.month_names import MONTHS

from . import tree
from .declared import Declaration
from .operators import WEEKDAYS, OperatorOffer, measure_offers, offers

_FUNCTION_OF = {"length": "string length", "count": "count"}
_PART_OF = {function: part for part, function in _FUNCTION_OF.items()}
_WHOLE = NumberType(scale=0, grouped=False)
_DATE_PARTS = {
    "weekday": tr("its weekday"),
    "day": tr("its day of the month"),
    "month": tr("its month"),
    "year": tr("its year"),
}


@dataclass(frozen=True, slots=True)
class AnswerOption:
    """One of the values that a part can have."""

    value: str
    label: str


@dataclass(frozen=True, slots=True)
class SubjectOffer:
    """A part of a field, with the comparisons that fit it."""

    part: str
    words: str
    type: FieldTypeName
    operators: tuple[OperatorOffer, ...]
    answers: tuple[AnswerOption, ...] | None = None
    """The values it can have, where it has only some."""
    unit: str = ""
    """What follows the value: “characters”, “choices”."""


def subject_node(field: str, part: str) -> tree.Node:
    """The tree of a part of `field`."""
    match part:
        case "value":
            return tree.Field(field)
        case "before":
            return tree.StoredValue(field)
        case "other":
            return tree.OtherField(field)
        case "length" | "count":
            return tree.Call(_FUNCTION_OF[part], (tree.Field(field),))
        case _:
            return tree.Path(tree.Field(field), part.removeprefix("."))


def subject_of(node: tree.Node) -> tuple[str, str] | None:
    """The field and the part that `node` speaks of, or None where it is something else."""
    match node:
        case tree.Field(key):
            return key, "value"
        case tree.StoredValue(key):
            return key, "before"
        case tree.OtherField(key):
            return key, "other"
        case tree.Call(function, (tree.Field(key),), ()) if function in _PART_OF:
            return key, _PART_OF[function]
        case tree.Path(tree.Field(key), name):
            return key, f".{name}"
        case _:
            return None


def type_of_part(declared: Declaration, part: str) -> ValueType | None:
    """The type of a part of a field, or None where it has no such part."""
    if part in ("value", "before", "other"):
        return declared.type
    if part in _FUNCTION_OF:
        return _WHOLE
    name = part.removeprefix(".")
    if declared.type.part == "record":
        known = (declared.fields or {}).get(name)
        return known.type if known else None
    return _WHOLE if name in _DATE_PARTS else None


def subjects(declared: Declaration) -> tuple[SubjectOffer, ...]:
    """Every part of a field that a clause can speak of, its value first."""
    type_ = declared.type
    found = [_offer("value", "", type_)]
    match type_.part:
        case "length":
            found.append(_measure("length", tr("its length"), tr("characters")))
        case "count":
            found.append(_measure("count", tr("the number of choices"), tr("choices")))
        case "day":
            found += [_date_part(name, words) for name, words in _DATE_PARTS.items()]
        case "record":
            found += [
                _offer(f".{key}", tr("its {label}", label=one.label), one.type)
                for key, one in (declared.fields or {}).items()
            ]
        case None:
            pass
    found.append(_offer("before", tr("as it was before"), type_))
    return tuple(found)


def _offer(part: str, words: str, type_: ValueType) -> SubjectOffer:
    fitting = offers(type_)
    if part != "value":
        fitting = tuple(one for one in fitting if "changed" not in one.operator)
    return SubjectOffer(part, words, type_.name, fitting, _answers(type_))


def _answers(type_: ValueType) -> tuple[AnswerOption, ...] | None:
    answers = type_.answers()
    return None if answers is None else tuple(AnswerOption(*one) for one in answers)


def _measure(part: str, words: str, unit: str) -> SubjectOffer:
    return SubjectOffer(part, words, "number", measure_offers(), unit=unit)


def _date_part(name: str, words: str) -> SubjectOffer:
    names = {"weekday": WEEKDAYS, "month": MONTHS}.get(name)
    answers = (
        tuple(AnswerOption(str(n), said) for n, said in enumerate(names, 1)) if names else None
    )
    fitting = tuple(one for one in offers(_WHOLE) if "changed" not in one.operator)
    return SubjectOffer(f".{name}", words, "number", fitting, answers)
