"""Records as a file: CSV, XLSX or JSON Lines, with labels for people or with keys and codes.

Values stand in canonical form (plain decimals, ISO 8601), so that whatever reads the file reads
what is stored; no cell is taken for a formula.
"""

from collections.abc import Iterator
from typing import Literal

from django.db.models import QuerySet

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.tables import BESIDE, FileKindName, WrittenRow, written

from .models import STATE_WORDS, Record, State

AT_A_TIME = 500
"""Records read together."""
Naming = Literal["labels", "codes"]


def record_file(
    records: QuerySet[Record], compiled: CompiledForm, kind: FileKindName, naming: Naming
) -> Iterator[bytes]:
    """The file, piece by piece, read as it is sent."""
    fields = {key: one for key, one in compiled.fields.items() if not one.condition}
    labels = [one.label for one in fields.values()]
    heads = {
        key: f"{one.label} ({key})" if labels.count(one.label) > 1 else one.label
        for key, one in fields.items()
    }
    if naming == "codes":
        heads = {key: key for key in fields}

    def row(record: Record) -> WrittenRow:
        beside = (
            record.number,
            STATE_WORDS[State(record.state)],
            record.on_hold,
            record.outcome,
        )
        # What JSON carries is canonical, so it is read back as the same.
        said: Naming = "codes" if kind == "jsonl" else naming
        cells = {
            head: fields[key].type.to_cell(record.values.get(key), labels=said == "labels")
            for key, head in heads.items()
        }
        return WrittenRow({**dict(zip(BESIDE, beside, strict=True)), **cells})

    return written(kind, (*BESIDE, *heads.values()), map(row, _read(records)))


def _read(records: QuerySet[Record]) -> Iterator[Record]:
    # Their keys are few bytes each; what they hold is fetched piece by piece.
    keys = list(records.values_list("pk", flat=True))
    for begin in range(0, len(keys), AT_A_TIME):
        some = keys[begin : begin + AT_A_TIME]
        found = Record.objects.in_bulk(some)
        yield from (found[key] for key in some if key in found)
