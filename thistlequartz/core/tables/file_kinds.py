"""The kinds of files that hold tables."""

from dataclasses import dataclass
from typing import Final, Literal

from thistlequartz.core.translation import tr

FileKindName = Literal["csv", "xlsx", "jsonl"]


@dataclass(frozen=True, slots=True)
class FileKind:
    """One kind: what it is called, how its names end, and what it says it is (RFC 6838)."""

    name: FileKindName
    label: str
    ending: str
    media_type: str


KINDS: Final[dict[FileKindName, FileKind]] = {
    one.name: one
    for one in (
        FileKind("csv", "CSV", ".csv", "text/csv; charset=utf-8"),
        FileKind(
            "xlsx",
            "XLSX",
            ".xlsx",
            "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet",
        ),
        FileKind("jsonl", tr("JSON Lines"), ".jsonl", "application/jsonl; charset=utf-8"),
    )
}
_ZIP: Final = b"PK\x03\x04"
_BYTE_ORDER_MARKS: Final = (b"\xef\xbb\xbf", b"\xff\xfe", b"\xfe\xff")


def kind_of(beginning: bytes) -> FileKindName:
    """The kind of a file by what it begins with, whatever its name says."""
    if beginning.startswith(_ZIP):
        return "xlsx"
    for mark in _BYTE_ORDER_MARKS:
        beginning = beginning.removeprefix(mark)
    # Of UTF-16 every other byte is NUL.
    return "jsonl" if beginning.replace(b"\0", b"").lstrip()[:1] == b"{" else "csv"
