"""Compiling a form once, so that many records can be judged by it."""

from collections import OrderedDict
from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date, datetime
from functools import cached_property
from typing import Any
from zoneinfo import ZoneInfo

from thistlequartz.core.engines.environment import again
from thistlequartz.core.enumerations import Status
from thistlequartz.core.kernel import nodes
from thistlequartz.core.language import FormulaError, Problem
from thistlequartz.core.ruleset import (
    Form,
    LoweredRule,
    Moment,
    called,
    language_of,
    lower_rule,
)
from thistlequartz.core.types import read_value
from thistlequartz.core.values import Fault, Stored, to_entry, to_json

from .circumstances import Circumstances
from .compiling.compiled_rule import CompiledRule, compile_rule
from .compiling.dependencies import circle_problems, settling_order
from .compiling.generated_reading import ReadingSource
from .compiling.structure import structural_problems
from .entry_reader import EntryReader, ReadRecord
from .other_records.port import Lookup
from .program import Outside, Program, build_program
from .settled import Settled
from .settling import settle
from .verdicts.results import RuleAtMoment, speakers
from .wording.reason_wording import Phrases
from .wording.reasons import phrases as phrases_of
from .wording.reasons import sentences as sentences_of

PROGRAMS_KEPT = 64
"""Circumstances for which the rules that count are kept laid out."""


class Compilation:
    """A form whose rules have been read, typed and turned into functions."""

    def __init__(
        self,
        form: Form,
        forms: Mapping[str, Form] | None = None,
        problems: tuple[Problem, ...] = (),
        like: "Compilation | None" = None,
    ) -> None:
        self.written = {rule.key: rule for rule in form.rules}
        """The rules by key, as they are written."""
        self._forms = forms
        self.language = language_of(form, forms)
        self.layouts = {layout.key: layout.label for layout in form.layouts}
        """The labels of the layouts, by key."""
        same = like is not None and like.language == self.language and like.layouts == self.layouts
        kept = like if same else None
        self.vocabulary = self.language.vocabulary
        self.fields = self.language.fields
        self.form_problems: tuple[Problem, ...] = (
            *problems,
            *(one for found in self.language.problems.values() for one in found),
            *structural_problems(form, self.language),
        )
        """What is wrong with the form outside its rules."""
        self.problems: dict[str, tuple[Problem, ...]] = {}
        """What is wrong with its rules, by key."""
        lowered = self._lowered(kept)
        self.form = self._named(form, lowered)
        """The form with a name for every rule: one that nobody named is called by its sentence."""
        self.order, circles = settling_order(one for one in lowered if one.rule.enabled)
        self.circles = tuple(circles)
        """Of fields that decide about one another; the rules of a circle cannot be used."""
        names = {rule.key: rule.name for rule in self.form.rules}
        for circle in circles:
            for key, problem in circle_problems(circle, names, self.fields):
                self.problems[key] = (problem,)
        self.usable: dict[str, CompiledRule] = {
            one.rule.key: compiled
            if kept and (compiled := kept.usable.get(one.rule.key)) and compiled.lowered is one
            else compile_rule(one, self.language)
            for one in lowered
            if one.rule.key not in self.problems
        }
        self.twice = self._twice()
        """The fields that some rule has entered twice."""
        self._reader = EntryReader(
            self.fields, self.twice, self._held_barred(), _retired_choices(form)
        )
        self._with_comma = frozenset(
            key for key, one in self.fields.items() if one.settings.decimal_mark == "comma"
        )
        """The fields whose entries have another decimal mark than what is stored."""
        self._codes = {
            key: frozenset(code for code, _ in one.type.answers() or ())
            for key, one in self.fields.items()
            if one.type.kind in ("text", "list") and one.type.answers() is not None
        }
        self._programs: OrderedDict[Circumstances, Program] = OrderedDict()

    def _lowered(self, kept: "Compilation | None") -> list[LoweredRule]:
        lowered = []
        for key, rule in self.written.items():
            before = kept.usable.get(key) if kept else None
            if before is not None and kept and rule in (kept.written[key], before.rule):
                lowered.append(before.lowered)
                continue
            try:
                one = lower_rule(rule, self.language)
            except FormulaError as error:
                self.problems[key] = error.problems
                continue
            name = called(rule, one, self.vocabulary, self.layouts)
            if name != rule.name:
                one = replace(one, rule=rule.model_copy(update={"name": name}))
            lowered.append(one)
        return lowered

    def _named(self, form: Form, lowered: Iterable[LoweredRule]) -> Form:
        if all(rule.name for rule in form.rules):
            return form
        usable = {one.rule.key: one.rule for one in lowered}
        rules = tuple(
            usable.get(rule.key)
            or rule.model_copy(update={"name": called(rule, None, self.vocabulary, self.layouts)})
            for rule in form.rules
        )
        return form.model_copy(update={"rules": rules})

    def _twice(self) -> frozenset[str]:
        return frozenset(
            key
            for one in self.usable.values()
            if one.check_kind and one.check_kind.second_entry
            for key in one.rule.targets
        )

    def _held_barred(self) -> frozenset[str]:
        return frozenset(
            one.key for one in self.form.fields if not getattr(one, "held_allowed", True)
        )

    @property
    def entries(self) -> frozenset[str]:
        """Under which names something can be entered: the fields, and second entries."""
        return frozenset((*self.fields, *map(again, self.twice)))

    @cached_property
    def read_of_others(self) -> frozenset[str]:
        """The fields that its rules read of other records of the form."""
        checks = (check for one in self.usable.values() for check in one.lowered.checks)
        read = (one for check in checks for one in nodes.walk(check.satisfied))
        return frozenset(
            one.key for one in read if isinstance(one, nodes.Read) and one.source == "other"
        )

    @property
    def rules(self) -> tuple[CompiledRule, ...]:
        """The rules that can be used, in the order of the form."""
        return tuple(self.usable.values())

    def today_at(self, now: datetime) -> date:
        """The day at `now` (with an offset) in the form's zone."""
        return now.astimezone(ZoneInfo(self.form.zone)).date()

    def read(
        self,
        values: Mapping[str, object],
        *,
        stored: Mapping[str, object] | None = None,
        lookup: Lookup | None = None,
    ) -> ReadRecord:
        """Read a record once.

        `values` go by field key, as typed or as JSON carries them; `stored` are the values before
        an update. Never raises: what cannot be read is a fault of its field, an unknown name is
        reported.
        """
        return self._reader.read(values, stored, lookup)

    def reading_source(self) -> ReadingSource | None:
        """Return the source that reads a record in a generated function.

        None where conditions see other values than those that are read.
        """
        reader = self._reader
        return ReadingSource(self.fields, reader.read_one) if reader.as_read else None

    def canonical(self, values: Mapping[str, object]) -> dict[str, Stored]:
        """What people typed, as it is stored; what cannot be read is left out."""
        readings = self._reader.read(values).readings
        return {
            key: to_json(reading)
            for key, reading in readings.items()
            if key in values and not isinstance(reading, Fault)
        }

    def as_entered(self, stored: Mapping[str, object]) -> dict[str, Any]:
        """Canonical values, as they are entered: what is given out so can be sent back as it is."""
        entered = dict(stored)
        for key in (self._with_comma & stored.keys()) | self._said_otherwise(stored):
            declared = self.fields[key]
            read = read_value(stored[key], declared.type, declared.settings.as_stored())
            if not isinstance(read, Fault):
                entered[key] = to_entry(read, declared.settings)
        return entered

    def _said_otherwise(self, stored: Mapping[str, object]) -> set[str]:
        """The fields that hold a choice otherwise than by its code, as one does that was a text."""
        return {
            key
            for key, codes in self._codes.items()
            if (held := stored.get(key)) is not None
            and not codes.issuperset(held if isinstance(held, list | tuple) else [held])
        }

    def changed(self, record: ReadRecord, changes: Mapping[str, object]) -> ReadRecord:
        """A record that was read with some of its entries changed, as `read` would read it."""
        return self._reader.changed(record, changes)

    def settled(self, record: ReadRecord, circumstances: Circumstances) -> Settled:
        """The states and values of the fields alone."""
        return settle(record, self.program(circumstances), circumstances, self.fields)

    def program(self, circumstances: Circumstances) -> Program:
        """The rules that count under `circumstances`, laid out for evaluation."""
        known = Circumstances(
            circumstances.today,
            None,
            circumstances.event,
            circumstances.entry_point,
            circumstances.layout,
            circumstances.role,
        )
        program = self._programs.get(known)
        if program is None:
            helpers = tuple(field.key for field in self.form.fields if field.helper)
            program = build_program(
                self.rules,
                self._unusable(),
                self.order,
                known,
                self.vocabulary,
                helpers,
                self.form.zone,
            )
            self._programs[known] = program
            if len(self._programs) > PROGRAMS_KEPT:
                self._programs.popitem(last=False)
        return program

    @cached_property
    def phrases(self) -> Phrases:
        """By field, what says its value."""
        return phrases_of(self.vocabulary)

    @cached_property
    def sentences(self) -> Phrases:
        """The same, as a sentence begins."""
        return sentences_of(self.vocabulary)

    @cached_property
    def speaking(self) -> dict[Moment, tuple[RuleAtMoment, ...]]:
        """How every rule speaks at every moment."""
        return speakers(self.form.rules, self.usable, self.vocabulary)

    def _unusable(self) -> Outside:
        unfinished: Status = "unfinished"
        return {
            key: (unfinished, f"{found[0].message} {found[0].remedy}")
            for key, found in self.problems.items()
        }


def _retired_choices(form: Form) -> dict[str, frozenset[str]]:
    retired = {
        field.key: frozenset(one.code for one in getattr(field, "choices", ()) if one.retired)
        for field in form.fields
    }
    return {key: codes for key, codes in retired.items() if codes}
