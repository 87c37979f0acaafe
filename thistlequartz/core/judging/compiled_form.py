"""The public interface: a form compiled once, by which any number of records is judged."""

from collections.abc import Iterable, Iterator, Mapping, Sequence
from datetime import date, datetime
from functools import cached_property
from typing import Any, Self, Unpack

from thistlequartz.core.enumerations import STORING_MOMENTS
from thistlequartz.core.language import Problem
from thistlequartz.core.ruleset import EntryPoint, Form, Moment, RuleSet, whole_form
from thistlequartz.core.translation import tr
from thistlequartz.core.values import Stored, to_entry

from .circumstances import Circumstances
from .compilation import Compilation
from .conditions import CompiledCondition, compile_condition
from .entry_reader import ReadRecord
from .judge import judge_record
from .proposing import offers_of, proposals_of
from .request import JudgeOptions, JudgeRequest, circumstances_of, request_of
from .screening import Screener
from .settled import Settled
from .settling import settle
from .verdicts.explanation import Explanation
from .verdicts.judgement import Judgement
from .verdicts.verdict import Proposal, Verdict


class CompiledForm(Compilation):
    """A form that judges, explains and screens records."""

    def rewritten(self, form: Form) -> Self:
        """`form`, another writing of this whole form, compiled at the cost of what differs."""
        return type(self)(form, self._forms, like=self)

    @cached_property
    def without_others(self) -> Self:
        """The same without the rules that look at other records."""
        others = {one.rule.key for one in self.rules if one.looks_at_others}
        if not others:
            return self
        rules = tuple(rule for rule in self.form.rules if rule.key not in others)
        return self.rewritten(self.form.model_copy(update={"rules": rules}))

    def condition(self, text: str) -> CompiledCondition:
        """A condition over its fields, outside any rule. Raises FormulaError."""
        return compile_condition(text, self.language)

    def starting_values(
        self,
        *,
        today: date,
        now: datetime | None = None,
        entry_point: EntryPoint = "desk",
        role: str | None = None,
        starter: str | None = None,
    ) -> dict[str, Stored]:
        """Return the values of a new record, by field, as entered.

        A starter's values take precedence over starting rules. Raises KeyError for an unknown
        starter.
        """
        given: Mapping[str, object] = {}
        if starter is not None:
            given = {one.key: one.values for one in self.form.starters}[starter]
        circumstances = Circumstances(today, now, "create", entry_point, None, role)
        record = self._reader.read_as_written(given)
        settled = settle(record, self.program(circumstances), circumstances, self.fields)
        values = {key: settled.value_of(key) for key in self.fields if key not in settled.derived}
        return {
            key: to_entry(value, self.fields[key].settings)
            for key, value in values.items()
            if value is not None
        }

    def judged(self, request: JudgeRequest) -> Judgement:
        """Judge one record; the judgement gives the verdict of any moment."""
        return judge_record(self, request)

    def verdicts(
        self, request: JudgeRequest, moments: Iterable[Moment] = STORING_MOMENTS
    ) -> dict[Moment, Verdict]:
        """Return the verdicts of several moments, with the values judged once."""
        judged = self.judged(request)
        return {moment: judged.verdict(moment) for moment in moments}

    def judge(
        self,
        values: Mapping[str, object] | ReadRecord,
        *,
        moment: Moment,
        **options: Unpack[JudgeOptions],
    ) -> Verdict:
        """Return the verdict of one moment, with the request by keywords."""
        return self.judged(request_of(values, options)).verdict(moment)

    def judge_moments(
        self,
        values: Mapping[str, object] | ReadRecord,
        *,
        moments: Iterable[Moment] = STORING_MOMENTS,
        **options: Unpack[JudgeOptions],
    ) -> dict[Moment, Verdict]:
        """Return the verdicts of several moments, with the request by keywords."""
        return self.verdicts(request_of(values, options), moments)

    def explain(
        self, rule: str, values: Mapping[str, object] | ReadRecord, **options: Unpack[JudgeOptions]
    ) -> Explanation:
        """Return how the rule with the key `rule` comes to its status for one record.

        Conditions part by part, with their values and those of the fields. Raises KeyError for an
        unknown rule.
        """
        return self.judged(request_of(values, options)).explain(rule)

    def screener(self, **options: Unpack[JudgeOptions]) -> Screener:
        """What screens many records under the same circumstances: both outcomes, every violation.

        It takes longer to make than one record takes to judge; keep it for a whole job. What
        belongs to one record (`stored`, `touched`, `reasons`, ...) is out of scope.
        """
        return self.screener_of(circumstances_of(options))

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


class UnfinishedRules(ValueError):
    """Rules or parts of a form that cannot be used: what is wrong in each, and where."""

    def __init__(self, form: str, problems: Sequence[Problem]) -> None:
        self.problems = tuple(problems)
        first = self.problems[0]
        more = tr(" ({count} more)", count=len(problems) - 1) if len(problems) > 1 else ""
        super().__init__(f"{form}, {first.place}: {first.message} {first.remedy}{more}")


def compile_ruleset(
    ruleset: RuleSet, *, form: str, like: CompiledForm | None = None, strict: bool = False
) -> CompiledForm:
    """The form `form` of `ruleset`, ready to judge. Raises KeyError where there is no such form.

    Of an earlier compiled form that it is `like`, the rules are taken over that say the same in
    the same language, so that a form of many rules is compiled anew at the cost of what changed.

    A rule whose formulas cannot be used, or that goes round in a circle with others, is kept as
    unfinished: it has no effect, every verdict says so, and `problems` of the compiled form tells
    why, by the key of the rule: each with its place, what is wrong and a remedy. `form_problems`
    tells the same of the form's other parts. Where it is `strict`, UnfinishedRules is raised
    instead, with all of them.
    """
    whole, problems = whole_form(ruleset, form)
    others = {one.key: whole_form(ruleset, one.key)[0] for one in ruleset.forms}
    compiled = CompiledForm(whole, others, problems, like)
    if strict and (compiled.form_problems or compiled.problems):
        raise UnfinishedRules(form, list(all_problems(compiled)))
    return compiled


def all_problems(compiled: CompiledForm) -> Iterator[Problem]:
    """What is wrong in the form and in its rules, each with the place in the form's document."""
    yield from compiled.form_problems
    for key, found in compiled.problems.items():
        yield from (one.inside(f"rules.{key}") for one in found)


def settles_like(form: CompiledForm, other: CompiledForm) -> bool:
    """Whether two versions of a form settle every record alike, as far as their rules tell."""
    return _settling_parts(form) == _settling_parts(other)


def _settling_parts(form: CompiledForm) -> tuple[Any, ...]:
    effects = tuple(one.rule for one in form.rules if one.is_effect and one.part != "proposing")
    return effects, form.fields, form.form.conditions, form.form.zone
