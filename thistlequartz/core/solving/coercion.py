"""Computed values in solver terms, as their fields can hold them."""

import z3

from thistlequartz.core.engines.solver import (
    CodesTerm,
    ListTerm,
    NullTerm,
    OpaqueTerm,
    Term,
    TruthTerm,
    ValueTerm,
)
from thistlequartz.core.engines.solver.terms import (
    NULL,
    all_of,
    any_of,
    none_of,
)
from thistlequartz.core.language import Declaration
from thistlequartz.core.types import (
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    NumberType,
    ReferenceType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
)
from thistlequartz.core.values import PLAIN, normalised

from .record_variables import RecordVariables


class Coercion:
    """Coerces computed values of records of a world."""

    def __init__(self, world: RecordVariables) -> None:
        self._world = world

    def coerced(self, term: Term, declared: Declaration) -> Term:
        """A computed value as the field can hold it; blank where it cannot."""
        type_ = declared.type
        match type_, term:
            case (_, NullTerm()) | (YesNoType(), TruthTerm()) | (ChoicesType(), CodesTerm()):
                return term
            case NumberType(scale), ValueTerm("number"):
                return self._rounded(term, scale)
            case DateType(), ValueTerm("date"):
                return term
            case TimeType(), ValueTerm("time"):
                return term
            case DateTimeType(), ValueTerm("date_time"):
                return term
            case ChoiceType(choices), ValueTerm("text"):
                known = any_of(term.at == self._world.texts.number(one.code) for one in choices)
                return ValueTerm("text", any_of((term.blank, none_of(known))), term.at)
            case TextType(), ValueTerm("text") if declared.settings != PLAIN:
                return self._normalised(term, declared)
            case ((TextType() | ReferenceType()), ValueTerm("text")):
                return term
            case ChoicesType(choices), ListTerm(items):
                return self._codes(items, [one.code for one in choices])
            case (_, OpaqueTerm()) | (DateType(), ValueTerm("date_time")):
                return self._anything(type_)
            case _:
                return NULL

    def _normalised(self, text: ValueTerm, declared: Declaration) -> Term:
        """A computed text as its field makes it: known where the text is."""
        known = self._world.texts.text(text.at.as_long()) if z3.is_int_value(text.at) else None
        if known is None:
            free = self._anything(declared.type)
            assert isinstance(free, ValueTerm)
            return ValueTerm("text", any_of((text.blank, free.blank)), free.at)
        number = self._world.texts.number(normalised(known, declared.settings))
        return ValueTerm("text", text.blank, z3.IntVal(number))

    def _codes(self, items: tuple[Term, ...], codes: list[str]) -> Term:
        texts = [one for one in items if isinstance(one, ValueTerm) and one.kind == "text"]
        if len(texts) != len(items):
            return self._anything(ChoicesType(()))
        return CodesTerm(
            {
                code: any_of(
                    all_of((none_of(one.blank), one.at == self._world.texts.number(code)))
                    for one in texts
                )
                for code in codes
            }
        )

    def _anything(self, type_: ValueType) -> Term:
        self._world.free_values += 1
        return self._world.variable(f"computed {self._world.free_values}", type_)

    def _rounded(self, number: ValueTerm, scale: int | None) -> ValueTerm:
        """Half to even, at the scale of its field."""
        if scale is None or (number.scale is not None and number.scale <= scale):
            return number
        units, sized = self._world.fresh(z3.IntSort()), number.at * 10**scale
        low, high = 2 * units - 1, 2 * units + 1
        self._world.assume(
            z3.Implies(
                none_of(number.blank),
                all_of(
                    (
                        low <= 2 * sized,
                        2 * sized <= high,
                        z3.Implies(any_of((2 * sized == low, 2 * sized == high)), units % 2 == 0),
                    )
                ),
            )
        )
        at = units if scale == 0 else z3.ToReal(units) / 10**scale
        return ValueTerm("number", number.blank, at, scale)
