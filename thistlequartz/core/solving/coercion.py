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
from thistlequartz.core.types import ValueType
from thistlequartz.core.values import PLAIN, normalised

from .record_variables import RecordVariables


class Coercion:
    """Coerces computed values of records of a world."""

    def __init__(self, world: RecordVariables) -> None:
        self._world = world

    def coerced(self, term: Term, declared: Declaration) -> Term:
        """A computed value as the field can hold it; blank where it cannot."""
        type_ = declared.type
        match term:
            case NullTerm():
                return term
            case TruthTerm() if type_.kind == "boolean":
                return term
            case CodesTerm() if type_.kind == "list":
                return term
            case ValueTerm("text") if type_.kind == "text":
                return self._text(term, declared)
            case ValueTerm("number") if type_.kind == "number":
                held = type_.solver_range()
                return self._rounded(term, held.digits if held else None)
            case ValueTerm(kind) if kind == type_.kind:
                return _on_grid(term, type_)
            case ListTerm(items) if type_.kind == "list":
                return self._codes(items, type_)
            case OpaqueTerm():
                return self._anything(type_)
            case ValueTerm("date_time") if type_.kind == "date":
                return self._anything(type_)
            case _:
                return NULL

    def _text(self, term: ValueTerm, declared: Declaration) -> Term:
        """A computed text as its field makes it: a code that it does not have is blank."""
        answers = declared.type.answers()
        if answers is not None:
            known = any_of(term.at == self._world.texts.number(code) for code, _ in answers)
            return ValueTerm("text", any_of((term.blank, none_of(known))), term.at)
        if declared.type.is_free_text and declared.settings != PLAIN:
            return self._normalised(term, declared)
        return term

    def _normalised(self, text: ValueTerm, declared: Declaration) -> Term:
        """A computed text as its field makes it: known where the text is."""
        known = self._world.texts.text(text.at.as_long()) if z3.is_int_value(text.at) else None
        if known is None:
            free = self._anything(declared.type)
            assert isinstance(free, ValueTerm)
            return ValueTerm("text", any_of((text.blank, free.blank)), free.at)
        number = self._world.texts.number(normalised(known, declared.settings))
        return ValueTerm("text", text.blank, z3.IntVal(number))

    def _codes(self, items: tuple[Term, ...], type_: ValueType) -> Term:
        texts = [one for one in items if isinstance(one, ValueTerm) and one.kind == "text"]
        if len(texts) != len(items):
            return self._anything(type_)
        return CodesTerm(
            {
                code: any_of(
                    all_of((none_of(one.blank), one.at == self._world.texts.number(code)))
                    for one in texts
                )
                for code, _ in type_.answers() or ()
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


def _on_grid(term: ValueTerm, type_: ValueType) -> Term:
    """A computed value, blank where the field cannot hold it."""
    held = type_.solver_range()
    if held is None or not held.step:
        return term
    inside = all_of((term.at >= held.first, term.at <= held.last))
    whole = all_of((inside, term.at % held.step == 0)) if held.step > 1 else inside
    return ValueTerm(term.kind, any_of((term.blank, none_of(whole))), term.at)
