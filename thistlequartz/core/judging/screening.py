"""The rules that count under some circumstances as one generated Python function.

Rules with the same condition stand under it together, so that the cost of a record grows with the
rules that apply to it. What the rules with an effect do is settled first, as for judging.
"""

from collections.abc import Callable, Iterator, Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any, NamedTuple

from thistlequartz.core.engines.environment import NOW, TODAY, Environment
from thistlequartz.core.engines.generated import Source, plain_pattern_asked
from thistlequartz.core.enumerations import OUTCOMES, hardness
from thistlequartz.core.formats import in_classes
from thistlequartz.core.language import tree
from thistlequartz.core.ruleset import Outcome, Severity

from .circumstances import Circumstances
from .compilation import Compilation
from .compiling.compiled_rule import CompiledCheck, CompiledRule, told
from .compiling.generated_reading import ReadingSource
from .compiling.messages import Message
from .entry_reader import ReadRecord
from .judge import judge_record
from .program import Program
from .request import JudgeRequest
from .settled import Settled
from .settling import is_readable, now_there, settle

_Function = Callable[[Any, Any], "Screened"]
_FunctionOfValues = Callable[[Mapping[str, object]], "Screened | None"]
_MARGIN = " " * 4
_SUBMIT_BITS = 4
"""A violation marks a bit for its severity on saving, and one so many on for submitting."""


class Violation(NamedTuple):
    """A check that is violated: what it tells, and how hard it speaks at both moments."""

    position: int
    """Its place in the order of the form."""
    rule: str
    message: Message
    save: Severity
    submit: Severity
    enters_hold: bool


class Screened(NamedTuple):
    """What happens to one record at both moments, with the checks it violates in order.

    Severities and outcomes are those of the verdicts; reasons that a warning may demand are not
    asked for here.
    """

    save: Outcome
    submit: Outcome
    violations: tuple[Violation, ...]
    faults: tuple[tuple[str, str], ...] = ()
    """The fields that cannot be read, with what is wrong; they block both moments."""


_Teller = Callable[[Environment], Violation]


class Screener:
    """Screens many records of one form under the same circumstances."""

    def __init__(self, form: Compilation, circumstances: Circumstances) -> None:
        self._form = form
        self._circumstances = circumstances
        self._program: Program = form.program(circumstances)
        self._builder = builder = _Builder(form, self._program, circumstances)
        self._function: _Function = builder.function()
        self._asks_fields_only = not (self._program.plans or builder.asks_environment)

    def screen(self, record: ReadRecord, settled: Settled | None = None) -> Screened:
        """Both outcomes and every violation of a record that was read. Never raises.

        `settled` is the record settled, where the caller has that already.
        """
        if record.faulty:
            return self._judged(record)
        if self._asks_fields_only:
            return self._function(record.base, ())
        environment: Any = record.base
        closed: Any = ()
        if self._program.plans:
            if settled is None:
                settled = settle(record, self._program, self._circumstances, self._form.fields)
            environment, closed = settled.environment, settled.closed
            if not is_readable(record, settled):
                return self._judged(record)
        else:
            environment = {**environment, **self._surroundings()}
        return self._function(environment, closed)

    def screen_values(self, values: Mapping[str, object]) -> Screened:
        """Screen a record that stands by itself, as typed or as JSON carries it.

        At the least cost, as nothing is kept of it.
        """
        found = None if self._of_values is None else self._of_values(values)
        return self.screen(self._form.read(values)) if found is None else found

    @cached_property
    def _of_values(self) -> _FunctionOfValues | None:
        """What screens given values; it answers None where one of them cannot be read."""
        reading = self._form.reading_source() if self._asks_fields_only else None
        return None if reading is None else self._builder.function_of_values(reading)

    def _surroundings(self) -> dict[str, Any]:
        circumstances = self._circumstances
        return {
            TODAY: circumstances.today,
            NOW: now_there(circumstances, self._program.zone),
            "event": circumstances.event,
            "entry_point": circumstances.entry_point,
            "role": circumstances.role,
        }

    def _judged(self, record: ReadRecord) -> Screened:
        judged = judge_record(self._form, JudgeRequest(record, self._circumstances))
        save, submit = judged.verdict("save"), judged.verdict("submit")
        severities = {one.rule: one for one in submit.results}
        violations: list[Violation] = []
        for position, result in enumerate(save.results):
            later = severities[result.rule]
            if result.is_violated or later.is_violated:
                messages = result.messages or later.messages
                enters_hold = result.enters_hold
                violations += [
                    Violation(
                        position, result.rule, one, result.severity, later.severity, enters_hold
                    )
                    for one in messages
                ]
        faults = tuple(
            (key, state.fault) for key, state in save.fields.items() if state.fault is not None
        )
        return Screened(save.outcome, submit.outcome, tuple(violations), faults)


@dataclass(frozen=True, slots=True)
class _Block:
    """Checks that stand under one condition; blank: they always apply."""

    condition: str
    governors: frozenset[str]
    reads: frozenset[str]
    lines: tuple[str, ...]


class _Builder:
    """Writes the function of one program."""

    def __init__(self, form: Compilation, program: Program, circumstances: Circumstances) -> None:
        closable = frozenset(key for key, plan in program.plans.items() if plan.is_closable)
        self._source = Source(form.fields, circumstances.today, closable)
        places = {rule.key: place for place, rule in enumerate(form.form.rules)}
        groups: dict[Any, list[tuple[int, CompiledRule]]] = {}
        self._tellers: dict[int, Violation | _Teller] = {}
        """By the number of a check, in the order of the form: what tells of it."""
        self._numbers: dict[int, int] = {}
        """By the place of a rule, the number of its first check."""
        checks = 0
        for compiled in sorted(program.checks, key=lambda one: places[one.rule.key]):
            rule = compiled.rule
            self._numbers[places[rule.key]] = checks
            checks += len(compiled.checks)
            if compiled.severities["save"] != "none" or compiled.severities["submit"] != "none":
                group = groups.setdefault(compiled.lowered.applies, [])
                group.append((places[rule.key], compiled))
        self._blocks = [self._block(rules) for rules in groups.values()]

    @property
    def asks_environment(self) -> bool:
        """Whether more than the fields is required."""
        return self._source.asks_environment

    def function(self) -> _Function:
        """The function of an environment and of the fields that are closed."""
        lines = ["def screen(env, closed):", *(_MARGIN + line for line in self._lines())]
        function: _Function = self._made(lines, "screen")
        return function

    def function_of_values(self, reading: ReadingSource) -> _FunctionOfValues:
        """The function of what was given for the fields, where no more is asked."""
        lines = [
            *reading.lines(),
            "if faulty: return None",
            "env = None",
            *self._lines(loads=False),
        ]
        self._source.names |= reading.names
        head = "def screen_values(values):"
        lines = [head, *(_MARGIN + line for line in lines)]
        function: _FunctionOfValues = self._made(lines, "screen_values")
        return function

    def _made(self, lines: list[str], name: str) -> Any:
        names = self._source.names
        exec(compile("\n".join(lines), "<rules of a form>", "exec"), names)  # noqa: S102 - our own source
        return names[name]

    def _lines(self, *, loads: bool = True) -> Iterator[str]:
        """The statements; without loads, the fields have their local names already."""
        blocks = self._blocks
        shared = frozenset(
            key for block in blocks for key in (block.governors if block.condition else block.reads)
        )
        yield "violated = []"
        yield "marks = 0"
        if loads:
            yield from self._source.loads(shared)
        for block in blocks:
            margin = ""
            if block.condition:
                yield f"if {block.condition}:"
                margin = _MARGIN
            if loads:
                yield from (margin + line for line in self._source.loads(block.reads - shared))
            yield from (margin + line for line in block.lines)
        clean, told_all = self._source.bound(_CLEAN), self._source.bound(self._telling_all())
        yield f"return {told_all}(violated, marks, env) if violated else {clean}"

    def _block(self, rules: list[tuple[int, CompiledRule]]) -> _Block:
        (_, first), *_ = rules
        applies = first.lowered.applies
        self._source.used.clear()
        condition = "" if applies is None else self._source.is_true(applies)
        governors = frozenset(self._source.used)
        self._source.used.clear()
        lines = tuple(self._checks(rules))
        reads = frozenset(self._source.used)
        return _Block(condition, governors, reads, lines or ("pass",))

    def _checks(self, rules: list[tuple[int, CompiledRule]]) -> Iterator[str]:
        """The checks one by one; those of plain patterns stand under one look at all of them."""
        checks = [(place, rule, check) for place, rule in rules for check in rule.checks]
        asked = [(plain_pattern_asked(one[2].check.satisfied), one) for one in checks]
        plain = [(*of, one) for of, one in asked if of is not None]
        together = in_classes([pattern for _, pattern, _ in plain]) if len(plain) > 1 else None
        for of, one in asked:
            if together is None or of is None:
                yield from self._check(*one)
        if together is not None:
            yield f"if {self._source.one_unfit([key for key, _, _ in plain], together)}:"
            for _, _, one in plain:
                yield from (_MARGIN + line for line in self._check(*one))

    def _check(self, place: int, compiled: CompiledRule, check: CompiledCheck) -> Iterator[str]:
        save, submit = compiled.severities["save"], compiled.severities["submit"]
        enters_hold = compiled.check_rule.hold
        violation = Violation(place, compiled.rule.key, check.message, save, submit, enters_hold)
        number = self._numbers[place] + compiled.checks.index(check)
        self._tellers[number] = self._telling(compiled, check, violation)
        yield f"if {self._source.is_false(check.check.satisfied)}:"
        yield f"{_MARGIN}violated.append({number})"
        yield f"{_MARGIN}marks |= {_marks(save, submit)}"

    def _telling(
        self, compiled: CompiledRule, check: CompiledCheck, violation: Violation
    ) -> Violation | _Teller:
        worded = compiled.check_rule.message is not None
        varies = check.fill is not None
        if not varies and (worded or not isinstance(check.check.must, tree.MatchesFormat)):
            return violation

        def tell(environment: Environment) -> Violation:
            return violation._replace(message=told(compiled, check, environment))

        self._source.asks_environment |= varies
        return tell

    def _telling_all(self) -> Callable[[list[int], int, Environment], Screened]:
        """What turns the numbers of violated checks, and their marks, into an answer."""
        tellers = self._tellers
        fixed = {number: one for number, one in tellers.items() if isinstance(one, Violation)}
        told_of, new = fixed.__getitem__, tuple.__new__

        def all_fixed(violated: list[int], marks: int, environment: Environment) -> Screened:
            violated.sort()
            return new(Screened, (*_OUTCOMES[marks], tuple(map(told_of, violated)), ()))

        def some_vary(violated: list[int], marks: int, environment: Environment) -> Screened:
            violated.sort()
            violations = tuple(
                one if isinstance(one, Violation) else one(environment)
                for one in map(tellers.__getitem__, violated)
            )
            return Screened(*_OUTCOMES[marks], violations)

        return all_fixed if len(fixed) == len(tellers) else some_vary


def _marks(save: Severity, submit: Severity) -> int:
    return (1 << hardness(save)) | (1 << (hardness(submit) + _SUBMIT_BITS))


def _outcomes() -> tuple[tuple[Outcome, Outcome], ...]:
    """The outcomes of saving and submitting for every combination of marks."""

    def outcome(marks: int) -> Outcome:
        return OUTCOMES[max(marks.bit_length() - 1, 0)]

    low = (1 << _SUBMIT_BITS) - 1
    return tuple(
        (outcome(marks & low), outcome(marks >> _SUBMIT_BITS)) for marks in range((low + 1) ** 2)
    )


_OUTCOMES = _outcomes()
_CLEAN = Screened("clear", "clear", ())
