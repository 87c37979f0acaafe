"""The history as CSV (RFC 4180), with its hashes, so that it can be checked elsewhere."""

from collections.abc import Iterator

from django.db.models import QuerySet
from django.http import StreamingHttpResponse

from thistlequartz.core.values import CSV_MARK, WritingStyle, csv_line
from thistlequartz.server.long_answers import sent_as_file
from thistlequartz.server.pieces import in_pieces

from .descriptions import NameCache, told
from .models import AuditEntry
from .search import acts
from .shapes import HistoryFilter

HEADS = ("Place", "When (UTC)", "Who", "Act", "Of", "Why", "What changed", "Hash")


def history_file(form_key: str, asked: HistoryFilter, style: WritingStyle) -> StreamingHttpResponse:
    """The answer that carries the file."""
    lines = history_lines(acts(asked.of(form_key)), style)
    return sent_as_file(lines, "text/csv; charset=utf-8", f"history-{form_key or 'people'}.csv")


def history_lines(found: QuerySet[AuditEntry], style: WritingStyle) -> Iterator[str]:
    """The lines of the file, its heads first, the newest act first."""
    yield CSV_MARK + csv_line(HEADS)
    known = NameCache()
    for one in in_pieces(found, by="-id"):
        changed = "; ".join(
            f"{detail.what}: {detail.before or '-'} > {detail.after or '-'}"
            for detail in told(one, style, known)
        )
        when = one.at.isoformat(timespec="microseconds")
        cells = (str(one.place), when, one.who, one.act, one.subject, one.note, changed, one.hash)
        yield csv_line(cells)
