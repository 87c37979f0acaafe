"""Compiling a form once, so that many records can be judged by it."""

from collections import OrderedDict
from collections.abc import Collection, Iterable, Mapping
from dataclasses import replace
from datetime import date, datetime
from typing import Unpack
from zoneinfo import ZoneInfo

from thistlequartz.core.engines.environment import again
from thistlequartz.core.expression import FormulaError, Problem
from thistlequartz.core.ruleset import (
    ChoosingField,
    EntryPoint,
    Form,
    LoweredRule,
    Moment,
    RuleSet,
    called,
    language_of,
    lower_rule,
    whole_form,
)
from thistlequartz.core.values import Stored, to_json

from .asking import Asking, circumstances_of
from .circumstances import Circumstances
from .dependencies import circle_problem, settling_order
from .entry import EntryReader, ReadRecord
from .findings import find_all
from .judging import BOTH_MOMENTS, Judged
from .lookup import Lookup
from .program import Outside, Program, build_program, touched_by_deriving
from .proposing import offers_of, proposals_of, values_applied
from .rules import CompiledRule, compile_rule
from .screening import Screener
from .settling import Settled, settle
from .structure import structural_problems
from .trace import Explanation
from .verdict import Proposal, Status, Verdict, Waiver

PROGRAMS_KEPT = 64
"""Circumstances for which the rules that count are kept laid out."""


def compile_ruleset(
    ruleset: RuleSet, *, form: str, like: "CompiledForm | None" = None
) -> "CompiledForm":
    """The form `form` of `ruleset`, ready to judge. Raises KeyError where there is no such form.

    Of an earlier compiled form that it is `like`, the rules are taken over that say the same in
    the same language, so that a form of many rules is compiled anew at the cost of what changed.

    A rule whose formulas cannot be used, or that goes round in a circle with others, is kept as
    unfinished: it says so and has no effect.
    """
    whole, problems = whole_form(ruleset, form)
    others = {one.key: whole_form(ruleset, one.key)[0] for one in ruleset.forms}
    return CompiledForm(whole, others, problems, like)


class CompiledForm:
    """A form whose rules have been read, typed and turned into functions."""

    def __init__(
        self,
        form: Form,
        forms: Mapping[str, Form] | None = None,
        problems: tuple[Problem, ...] = (),
        like: "CompiledForm | None" = None,
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
        self._order, circles = settling_order(one for one in lowered if one.rule.on)
        names = {rule.key: rule.name for rule in self.form.rules}
        for circle in circles:
            for key in circle.rules:
                self.problems[key] = (circle_problem(circle, names, self.fields),)
        self._rules: dict[str, CompiledRule] = {
            one.rule.key: compiled
            if kept and (compiled := kept._rules.get(one.rule.key)) and compiled.lowered is one
            else compile_rule(one, self.language)
            for one in lowered
            if one.rule.key not in self.problems
        }
        self.twice = self._twice()
        """The fields that some rule has entered twice."""
        self._reader = EntryReader(
            self.fields, self.twice, self._held_barred(), _retired_choices(form)
        )
        self._programs: OrderedDict[Circumstances, Program] = OrderedDict()

    def _lowered(self, kept: "CompiledForm | None") -> list[LoweredRule]:
        lowered = []
        for key, rule in self.written.items():
            before = kept._rules.get(key) if kept else None
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
            for one in self._rules.values()
            if one.rule.kind == "entered_twice"
            for key in one.rule.targets
        )

    def _held_barred(self) -> frozenset[str]:
        return frozenset(
            one.key for one in self.form.fields if one.type == "reference" and not one.held_allowed
        )

    @property
    def entries(self) -> frozenset[str]:
        """Under which names something can be entered: the fields, and second entries."""
        return frozenset((*self.fields, *map(again, self.twice)))

    @property
    def rules(self) -> tuple[CompiledRule, ...]:
        """The rules that can be used, in the order of the form."""
        return tuple(self._rules.values())

    def today_at(self, now: datetime) -> date:
        """The day at `now` (with an offset) in the form's zone."""
        return now.astimezone(ZoneInfo(self.form.zone)).date()

    def rewritten(self, form: Form) -> "CompiledForm":
        """`form`, another writing of this whole form, compiled at the cost of what differs."""
        return CompiledForm(form, self._forms, like=self)

    def read(
        self,
        values: Mapping[str, object],
        *,
        stored: Mapping[str, object] | None = None,
        lookup: Lookup | None = None,
    ) -> ReadRecord:
        """Read a record once: `values` go by field key, as people typed them or as JSON carries
        them; `stored` are the values before an update. Never raises for any values: what cannot
        be read is a fault of its field, what is unknown is ignored and said.
        """
        return self._reader.read(values, stored, lookup)

    def changed(self, record: ReadRecord, changes: Mapping[str, object]) -> ReadRecord:
        """A record that was read with some of its entries changed, as `read` would read it."""
        return self._reader.changed(record, changes)

    def starting_values(
        self,
        *,
        today: date,
        now: datetime | None = None,
        entry_point: EntryPoint = "desk",
        role: str | None = None,
        starter: str | None = None,
    ) -> dict[str, Stored]:
        """What a new record begins with, by field, as JSON carries it; a starter's values count
        before those of starting rules. Raises KeyError where there is no such starter.
        """
        given: Mapping[str, object] = {}
        if starter is not None:
            given = {one.key: one.values for one in self.form.starters}[starter]
        circumstances = Circumstances(today, now, "create", entry_point, None, role)
        record = self._reader.read_as_written(given)
        settled = settle(record, self.program(circumstances), circumstances, self.fields)
        values = {key: settled.value_of(key) for key in self.fields if key not in settled.derived}
        return {key: to_json(value) for key, value in values.items() if value is not None}

    def judge(
        self,
        values: Mapping[str, object] | ReadRecord,
        *,
        moment: Moment,
        **asking: Unpack[Asking],
    ) -> Verdict:
        """The verdict of one moment on a record; see `judge_moments`."""
        return self._judged(values, asking).verdict(moment)

    def judge_moments(
        self,
        values: Mapping[str, object] | ReadRecord,
        *,
        moments: Iterable[Moment] = BOTH_MOMENTS,
        **asking: Unpack[Asking],
    ) -> dict[Moment, Verdict]:
        """The verdicts of several moments on one record, with the values judged once.

        `values` as for `read`, or a record that was read already (then `stored` and `lookup`
        belong to that reading).
        """
        judged = self._judged(values, asking)
        return {moment: judged.verdict(moment) for moment in moments}

    def explain(
        self, rule: str, values: Mapping[str, object] | ReadRecord, **asking: Unpack[Asking]
    ) -> Explanation:
        """How the rule with the key `rule` comes to its status for one record: its conditions
        part by part, with their values and those of the fields. Raises KeyError for no such rule.
        """
        return self._judged(values, asking).explain(rule)

    def _judged(self, values: Mapping[str, object] | ReadRecord, asking: Asking) -> Judged:
        record = values
        if not isinstance(record, ReadRecord):
            record = self.read(record, stored=asking.get("stored"), lookup=asking.get("lookup"))
        return self.judged(
            record,
            circumstances_of(asking),
            touched=frozenset(asking.get("touched", ())),
            waivers=asking.get("reasons"),
            applied=asking.get("proposals_applied", ()),
            held=asking.get("held", False),
        )

    def judged(
        self,
        record: ReadRecord,
        circumstances: Circumstances,
        *,
        touched: frozenset[str] = frozenset(),
        waivers: Mapping[str, Waiver | str] | None = None,
        applied: Collection[str] = (),
        held: bool = False,
    ) -> Judged:
        """One record judged, before any moment is looked at."""
        program = self.program(circumstances)
        settled = settle(record, program, circumstances, self.fields)
        if touched:
            touched |= touched_by_deriving(touched, program)
        proposals: tuple[Proposal, ...] = ()
        if program.proposing:
            offers = offers_of(program, settled, self.fields)
            values = values_applied(offers, applied, self.fields)
            if values:
                settled = settle(record, program, circumstances, self.fields, values)
            proposals = proposals_of(program, offers, applied, settled)
        return Judged(
            form=self.form,
            rules=self._rules,
            program=program,
            record=record,
            settled=settled,
            findings=find_all(program, settled, self.fields, circumstances.event),
            vocabulary=self.vocabulary,
            layout=circumstances.layout,
            proposals=proposals,
            touched=touched,
            waivers=waivers,
            held=held,
        )

    def screener(self, **asking: Unpack[Asking]) -> Screener:
        """What screens many records under the same circumstances: both outcomes, every violation.

        It takes longer to make than one record takes to judge; keep it for a whole job. What
        belongs to one record (`stored`, `touched`, `reasons`, ...) does not count here.
        """
        return self.screener_of(circumstances_of(asking))

    def screener_of(self, circumstances: Circumstances) -> Screener:
        """The same, where the circumstances are known as a whole."""
        return Screener(self, circumstances)

    def offered(self, settled: Settled, circumstances: Circumstances) -> tuple[Proposal, ...]:
        """The proposals that are offered for a record that is settled."""
        program = self.program(circumstances)
        if not program.proposing:
            return ()
        offers = offers_of(program, settled, self.fields)
        return proposals_of(program, offers, (), settled)

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
            program = build_program(self.rules, self._unusable(), self._order, known)
            self._programs[known] = program
            if len(self._programs) > PROGRAMS_KEPT:
                self._programs.popitem(last=False)
        return program

    def _unusable(self) -> Outside:
        unfinished: Status = "unfinished"
        return {
            key: (unfinished, f"{found[0].message} {found[0].remedy}")
            for key, found in self.problems.items()
        }


def _retired_choices(form: Form) -> dict[str, frozenset[str]]:
    retired = {
        field.key: frozenset(choice.code for choice in field.choices if choice.retired)
        for field in form.fields
        if isinstance(field, ChoosingField)
    }
    return {key: codes for key, codes in retired.items() if codes}
