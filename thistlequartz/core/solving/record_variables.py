"""Variables of the solver for one record: entries, stored values and circumstances."""

from collections import Counter
from collections.abc import Iterator
from datetime import date
from typing import Any, Final, get_args

import z3

from thistlequartz.core.engines.solver import CodesTerm, Term, TextTerms, TruthTerm, ValueTerm
from thistlequartz.core.engines.solver.terms import DAY, FALSE, all_of, any_of, none_of
from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.kernel import nodes
from thistlequartz.core.ruleset import EntryPoint, Event
from thistlequartz.core.types import ValueType

_LAST_DAY: Final = date.max.toordinal()
_AROUND_A_DAY: Final = (-DAY, 2 * DAY)
"""Between which moments of UTC a day of any zone lies, from its midnight."""
_EVENTS: Final[tuple[str, ...]] = get_args(Event)
_ENTRY_POINTS: Final[tuple[str, ...]] = get_args(EntryPoint)


class RecordVariables:
    """The variables, with what holds of them whatever the record."""

    def __init__(
        self, form: CompiledForm, today: date, texts: dict[str, int] | None = None
    ) -> None:
        self.form = form
        self.texts = TextTerms(texts)
        self.assumed: list[Any] = []
        self.part = ""
        """What is being said now: names are drawn for each part by itself, so that a change in one
        leaves those in others as they are.
        """
        self._made: Counter[str] = Counter()
        self.started = [
            key
            for key in form.fields
            if any(one.part == "starting" and key in one.rule.targets for one in form.rules)
        ]
        """The fields that a new record may begin with something in."""
        self.free_values = 0
        """Values that are computed in a way that cannot be said."""
        self._referred: dict[tuple[str, str, str], Any] = {}
        self._refers: dict[tuple[str, str], nodes.Refer] = {}
        self.others: dict[object, dict[str, Term]] = {}
        """What other records of the form hold, of which something is asked."""
        self._other_names: dict[object, str] = {}
        self.there: dict[object, Any] = {}
        """That there is such a record."""
        self._retired = {
            field.key: frozenset(one.code for one in getattr(field, "choices", ()) if one.retired)
            for field in form.form.fields
        }
        self.today = z3.Int("today")
        self.from_day = today
        self.assume(all_of((self.today >= today.toordinal(), self.today <= _LAST_DAY)))
        self.event = self._one_text_of("event", _EVENTS)
        self.entry_point = self._one_text_of("entry_point", _ENTRY_POINTS)
        self.role = ValueTerm("text", z3.Bool("role?"), z3.Int("role"))
        self.assume(all_of((self.role.at >= 0, self.role.at != self.texts.number(""))))
        self.layouts = (None, *form.layouts)
        self.layout = z3.Int("layout")
        self.assume(all_of((self.layout >= 0, self.layout < len(self.layouts))))
        self.now = z3.Int("now")
        midnight = (self.today - date(1970, 1, 1).toordinal()) * DAY
        before, after = _AROUND_A_DAY
        self.assume(all_of((self.now >= midnight + before, self.now <= midnight + after)))
        self.is_new = self.is_event("create")
        self.entered = {key: self.variable(key, one.type) for key, one in form.fields.items()}
        self.second = {
            key: self.variable(f"{key}.again", form.fields[key].type) for key in sorted(form.twice)
        }
        self.stored = {key: self._before(key, one.type) for key, one in form.fields.items()}
        for key, retired in self._retired.items():
            for code in sorted(retired):
                self._kept_only(key, code)

    def parts_of(self, term: Term) -> list[Any]:
        """The solver's terms under a value that is given."""
        match term:
            case TruthTerm(true, false):
                return [true, false]
            case CodesTerm(members):
                return list(members.values())
            case ValueTerm(_, blank, at):
                return [blank, at]
            case _:
                return []

    def assume(self, condition: Any) -> None:
        """Something that is so whatever the record."""
        if not z3.is_true(condition):
            self.assumed.append(condition)

    def fresh(self, sort: Any) -> Any:
        """Something of which nothing is known."""
        self._made[self.part] += 1
        return z3.Const(f"free {self._made[self.part]} {self.part}", sort)

    def _one_text_of(self, name: str, texts: tuple[str, ...]) -> ValueTerm:
        at = z3.Int(name)
        self.assume(any_of(at == self.texts.number(one) for one in texts))
        return ValueTerm("text", FALSE, at)

    def is_event(self, event: str) -> Any:
        """That the record is new, or changed."""
        return self.event.at == self.texts.number(event)

    def is_entry_point(self, entry_point: str) -> Any:
        """That it comes in that way."""
        return self.entry_point.at == self.texts.number(entry_point)

    def is_role(self, role: str) -> Any:
        """That it is sent in by somebody with that role."""
        return all_of((none_of(self.role.blank), self.role.at == self.texts.number(role)))

    def is_layout(self, layout: str) -> Any:
        """That it is seen on that layout."""
        return self.layout == self.layouts.index(layout)

    def circumstance(self, name: str) -> Term:
        """What a formula reads of the circumstances."""
        match name:
            case "today":
                return ValueTerm("date", FALSE, self.today)
            case "now":
                return ValueTerm("date_time", FALSE, self.now)
            case "event":
                return self.event
            case "entry_point":
                return self.entry_point
            case _:
                return self.role

    def variable(self, name: str, type_: ValueType) -> Term:
        """Anything that a field of a type can hold, or blank."""
        match type_.kind:
            case "boolean":
                truth = TruthTerm(z3.Bool(f"{name} yes"), z3.Bool(f"{name} no"))
                self.assume(none_of(all_of((truth.true, truth.false))))
                return truth
            case "list":
                return CodesTerm({code: z3.Bool(f"{name} {code}") for code in _codes(type_)})
            case _:
                return self._held(type_, z3.Int(name), z3.Bool(f"{name}?"))

    def _held(self, type_: ValueType, at: Any, blank: Any) -> ValueTerm:
        """What a field of a type holds where `at` is the whole number under it."""
        held = type_.solver_range()
        if held is None:
            if type_.answers() is not None:
                self.assume(any_of(at == self.texts.number(code) for code in _codes(type_)))
            else:
                # A text of nothing is blank.
                self.assume(all_of((at >= 0, at != self.texts.number(""))))
            return ValueTerm("text", blank, at)
        self._between(at, held.first, held.last)
        if held.step > 1:
            self.assume(at % held.step == 0)
        if type_.kind != "number":
            return ValueTerm(type_.kind, blank, at)
        number = at if held.digits == 0 else z3.ToReal(at) / 10**held.digits
        return ValueTerm("number", blank, number, held.digits)

    def _between(self, at: Any, low: int, high: int) -> None:
        self.assume(all_of((at >= low, at <= high)))

    def _before(self, key: str, type_: ValueType) -> Term:
        """What a field held before: nothing of a new record."""
        term = self.variable(f"stored.{key}", type_)
        self.assume(z3.Implies(self.is_new, term.blank))
        return term

    def _kept_only(self, key: str, code: str) -> None:
        """A choice that is not offered any more is held only where it was held before."""
        now, before = self.entered[key], self.stored[key]
        held, was = (self._holds(one, code) for one in (now, before))
        self.assume(z3.Implies(held, was))

    def _holds(self, term: Term, code: str) -> Any:
        match term:
            case CodesTerm(members):
                return members[code]
            case ValueTerm(_, blank, at):
                return all_of((none_of(blank), at == self.texts.number(code)))
            case _:
                return FALSE

    def referred(self, node: nodes.Refer, reference: Term) -> Term | None:
        """A field of a record that is referred to: one and the same for one reference."""
        declared = self.form.fields.get(node.key)
        known = (declared.fields or {}).get(node.name) if declared else None
        if known is None or not isinstance(reference, ValueTerm):
            return None
        self._refers.setdefault((node.form, node.name), node)
        name = f"{node.form}#{node.name}"
        there = none_of(reference.blank)

        def held(suffix: str, sort: Any) -> Any:
            part = (node.form, node.name, suffix)
            if part not in self._referred:
                self._referred[part] = z3.Function(f"{name}{suffix}", z3.IntSort(), sort)
            return self._referred[part](reference.at)

        match known.type.kind:
            case "boolean":
                yes, no = (held(one, z3.BoolSort()) for one in (" yes", " no"))
                self.assume(none_of(all_of((yes, no))))
                return TruthTerm(all_of((there, yes)), all_of((there, no)))
            case "list":
                return CodesTerm(
                    {
                        code: all_of((there, held(f" {code}", z3.BoolSort())))
                        for code in _codes(known.type)
                    }
                )
            case _:
                blank = any_of((reference.blank, held("?", z3.BoolSort())))
                return self._held(known.type, held("", z3.IntSort()), blank)

    def held_by_referred(self, form: str, at: Any) -> Iterator[tuple[str, Term, ValueType]]:
        """Return what a record of another form holds, as far as it is asked.

        The name of the field, its value, its type.
        """
        for (asked, name), node in list(self._refers.items()):
            known = (self.form.fields[node.key].fields or {}).get(name) if asked == form else None
            term = self.referred(node, ValueTerm("text", FALSE, at)) if known else None
            if known is not None and term is not None:
                yield name, term, known.type

    def other_record(self, which: object) -> dict[str, Term]:
        """What another record of the form holds; `which` tells one from another."""
        if which not in self.others:
            self._other_names[which] = name = f"other{len(self.others)}"
            self.others[which] = {
                key: self.variable(f"{name}.{key}", one.type)
                for key, one in self.form.fields.items()
            }
        return self.others[which]

    def other_name(self, which: object) -> str:
        """How the names of its fields begin."""
        return self._other_names[which]

    def is_there(self, which: object) -> Any:
        """That there is such another record."""
        self.other_record(which)
        return self.there.setdefault(which, self.fresh(z3.BoolSort()))


def _codes(type_: ValueType) -> list[str]:
    return [code for code, _ in type_.answers() or ()]
