"""The records behind a count of an impact as a file: results and severities by the draft."""

from collections import defaultdict
from collections.abc import Collection, Iterator, Mapping, Sequence
from typing import Final

from django.utils import timezone

from thistlequartz.core.enumerations import STORING_MOMENTS, Moment
from thistlequartz.core.judging import CompiledForm, RuleResult, Verdict
from thistlequartz.core.values import CSV_MARK, csv_line
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.models import STATE_WORDS, Record, State

from .stored_neighbours import StoredNeighbours, roles_of_keepers

HEADS: Final = (
    "No.",
    "Record",
    "State",
    "Rule",
    "Fields",
    "Reason",
    "On saving",
    "On submitting",
)
AT_A_TIME: Final = 200


def lines_with_reasons(
    draft: DraftForm, compiled: CompiledForm, numbers: Sequence[int]
) -> Iterator[str]:
    """Yield the lines of a CSV file, its heads first: one for each message of each record.

    A record without a message has one line with a blank rule.
    """
    role_of = roles_of_keepers(draft.key)
    yield CSV_MARK + csv_line(list(HEADS))
    around = StoredNeighbours(draft.key, [compiled])
    for begin in range(0, len(numbers), AT_A_TIME):
        some = numbers[begin : begin + AT_A_TIME]
        for record in Record.objects.filter(form=draft, number__in=some).order_by("number"):
            begins = [str(record.number), record.title, STATE_WORDS[State(record.state)]]
            role = role_of(record.keeper_id, record.changed_by_id)
            told = list(_told(record, compiled, around, role)) or [
                [""] * (len(HEADS) - len(begins))
            ]
            yield from (csv_line([*begins, *cells]) for cells in told)


def _told(
    record: Record, compiled: CompiledForm, around: StoredNeighbours, role: str
) -> Iterator[list[str]]:
    verdicts = _verdicts(record, compiled, around, role)
    for key, state in verdicts["save"].fields.items():
        if state.fault:
            yield ["", compiled.fields[key].label, state.fault, "block", "block"]
    yield from _lines_of_rules(compiled, verdicts)
    # Rules for other roles are judged by these, as the impact counts them.
    by_role: defaultdict[str, set[str]] = defaultdict(set)
    for one in compiled.form.rules:
        if one.scope.roles and role not in one.scope.roles:
            by_role[one.scope.roles[0]].add(one.key)
    for other, rules in by_role.items():
        yield from _lines_of_rules(compiled, _verdicts(record, compiled, around, other), rules)


def _verdicts(
    record: Record, compiled: CompiledForm, around: StoredNeighbours, role: str
) -> Mapping[Moment, Verdict]:
    now = timezone.now()
    return compiled.judge_moments(
        compiled.as_entered(record.values),
        moments=STORING_MOMENTS,
        today=compiled.today_at(now),
        now=now,
        event="update",
        role=role,
        stored=record.values,
        lookup=around.seen_by(record.pk, record.number),
    )


def _lines_of_rules(
    compiled: CompiledForm,
    verdicts: Mapping[Moment, Verdict],
    rules: Collection[str] | None = None,
) -> Iterator[list[str]]:
    names = {
        rule.key: rule.name for rule in compiled.form.rules if rules is None or rule.key in rules
    }
    later = {one.rule: one for one in verdicts["submit"].results}
    for one in verdicts["save"].results:
        then = later[one.rule]
        if one.rule in names and (one.is_violated or then.is_violated):
            for message in one.messages or then.messages:
                labels = ", ".join(compiled.fields[key].label for key in message.fields)
                yield [names[one.rule], labels, message.text, _hard(one), _hard(then)]


def _hard(result: RuleResult) -> str:
    return result.severity if result.is_violated and result.severity != "none" else ""
