"""Records as a file for people: CSV by RFC 4180, with the labels of fields and choices.

Values stand in canonical form (plain decimals, ISO 8601), so that whatever reads the file reads
what is stored; no cell is taken for a formula.
"""

from collections.abc import Iterator

from django.db.models import QuerySet

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.values import CSV_MARK, Choosing, ValueType, csv_line

from .models import STATE_WORDS, Record, State

AT_A_TIME = 500
"""Records read together."""


def csv_lines(records: QuerySet[Record], compiled: CompiledForm) -> Iterator[str]:
    """The lines of the file, its heads first, read as they are sent."""
    fields = {key: one for key, one in compiled.fields.items() if not one.condition}
    labels = [one.label for one in fields.values()]
    heads = [
        f"{one.label} ({key})" if labels.count(one.label) > 1 else one.label
        for key, one in fields.items()
    ]
    yield CSV_MARK + csv_line(["No.", "State", "On hold", "Outcome", *heads])
    # Their keys are few bytes each; what they hold is fetched piece by piece.
    keys = list(records.values_list("pk", flat=True))
    for begin in range(0, len(keys), AT_A_TIME):
        some = keys[begin : begin + AT_A_TIME]
        found = Record.objects.in_bulk(some)
        for record in (found[key] for key in some if key in found):
            cells = (_cell(record.values.get(key), one.type) for key, one in fields.items())
            words, held = STATE_WORDS[State(record.state)], "yes" if record.on_hold else "no"
            yield csv_line([str(record.number), words, held, record.outcome, *cells])


def _cell(stored: object, type_: ValueType) -> str:
    match stored:
        case None:
            return ""
        case bool():
            return "yes" if stored else "no"
        case list():
            return "; ".join(_cell(one, type_) for one in stored)
        case str() if isinstance(type_, Choosing):
            return type_.label_of(stored)
        case _:
            return str(stored)
