"""The records behind a count of an impact as a file: results and severities by the draft."""

from collections.abc import Iterator, Sequence
from typing import Any, Final

from django.utils import timezone

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.ruleset import Moment
from thistlequartz.core.values import CSV_MARK, csv_line
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.records.models import STATE_WORDS, Record, State

from .stored_neighbours import StoredNeighbours

HEADS: Final = ("No.", "Record", "State", "Rule", "Fields", "Reason", "On saving", "On submitting")
AT_A_TIME: Final = 200
_BOTH: Final[tuple[Moment, ...]] = ("save", "submit")


def lines_with_reasons(
    draft: DraftForm, compiled: CompiledForm, numbers: Sequence[int]
) -> Iterator[str]:
    """Yield the lines of a CSV file, its heads first: one for each message of each record.

    A record without a message has one line with a blank rule.
    """
    yield CSV_MARK + csv_line(list(HEADS))
    around = StoredNeighbours(draft.key, [compiled])
    for begin in range(0, len(numbers), AT_A_TIME):
        some = numbers[begin : begin + AT_A_TIME]
        for record in Record.objects.filter(form=draft, number__in=some).order_by("number"):
            begins = [str(record.number), record.title, STATE_WORDS[State(record.state)]]
            told = list(_told(record, compiled, around)) or [[""] * (len(HEADS) - len(begins))]
            yield from (csv_line([*begins, *cells]) for cells in told)


def _told(record: Record, compiled: CompiledForm, around: StoredNeighbours) -> Iterator[list[str]]:
    now = timezone.now()
    verdicts = compiled.judge_moments(
        compiled.as_entered(record.values),
        moments=_BOTH,
        today=compiled.today_at(now),
        now=now,
        event="update",
        role="clerk",
        stored=record.values,
        lookup=around.seen_by(record.pk, record.number),
    )
    save, submit = (verdicts[moment] for moment in _BOTH)
    for key, state in save.fields.items():
        if state.fault:
            yield ["", compiled.fields[key].label, state.fault, "block", "block"]
    names = {rule.key: rule.name for rule in compiled.form.rules}
    later = {one.rule: one for one in submit.results}
    for one in save.results:
        then = later[one.rule]
        if "violated" in (one.status, then.status):
            for message in one.messages or then.messages:
                labels = ", ".join(compiled.fields[key].label for key in message.fields)
                yield [names[one.rule], labels, message.text, _hard(one), _hard(then)]


def _hard(result: Any) -> str:
    return result.severity if result.status == "violated" and result.severity != "none" else ""
