"""JSON as it is read everywhere: RFC 8259, with the unambiguous rules of I-JSON (RFC 7493).

No name twice in one object, no half characters (lone surrogates), no NUL, no NaN or Infinity, no
number beyond what can be carried, nothing inside one another without end.
"""

import json
import re
from typing import Any, Final

from thistlequartz.core.translation import tr

MAX_DIGITS: Final = 1_000
"""Digits of a whole number; no field takes more than 34."""
_SHOWN = 60
_HALF = re.compile("[\ud800-\udfff]")
_UNSOUND_ESCAPE = re.compile(r"\\u(?:0000|d[89a-f])", re.IGNORECASE)


class BrokenJson(ValueError):
    """An error in a JSON text: `message`, `place`, and `line` and `column` from 1 if known."""

    def __init__(
        self, message: str, place: str = "", line: int | None = None, column: int | None = None
    ) -> None:
        super().__init__(f"{place}: {message}" if place else message)
        self.message = message
        self.place = place
        self.line = line
        self.column = column


def read_json(text: str) -> Any:
    """The value that `text` writes. Raises BrokenJson."""
    try:
        value = json.loads(
            text,
            parse_constant=_no_constant,
            parse_float=_float,
            parse_int=_whole,
            object_pairs_hook=_no_name_twice,
        )
        if _UNSOUND_ESCAPE.search(text):
            _refuse_unsound(value)
    except json.JSONDecodeError as error:
        message = f"{error.msg[:1].upper()}{error.msg[1:]}."
        place = tr("line {line}, column {column}", line=error.lineno, column=error.colno)
        raise BrokenJson(message, place, error.lineno, error.colno) from None
    except RecursionError:
        raise BrokenJson(tr("There are too many lists or objects inside one another.")) from None
    return value


def _no_constant(name: str) -> None:
    raise BrokenJson(tr("{name} is not a JSON value.", name=name))


def _whole(digits: str) -> int:
    if len(digits) > MAX_DIGITS:
        raise BrokenJson(
            tr(
                "The number {digits}… has more than {max_digits:,} digits.",
                digits=digits[:20],
                max_digits=MAX_DIGITS,
            )
        )
    return int(digits)


def _float(written: str) -> float:
    value = float(written)
    if value in (float("inf"), float("-inf")):
        raise BrokenJson(
            tr("The number {written} is beyond what can be carried.", written=written[:_SHOWN])
        )
    return value


def _no_name_twice(pairs: list[tuple[str, Any]]) -> dict[str, Any]:
    result = dict(pairs)
    if len(result) < len(pairs):
        seen: set[str] = set()
        twice = next(name for name, _ in pairs if name in seen or seen.add(name))  # type: ignore[func-returns-value]
        raise BrokenJson(tr("The name “{twice}” stands twice in one object.", twice=_shown(twice)))
    return result


def _refuse_unsound(value: Any) -> None:
    """Raise BrokenJson at the first text that cannot be stored; in linear time, however deep."""
    path: list[str] = []

    def look(one: Any) -> None:
        match one:
            case str() if unsound := _unsound(one):
                raise BrokenJson(unsound, ".".join(path))
            case list():
                for number, item in enumerate(one):
                    path.append(str(number))
                    look(item)
                    path.pop()
            case dict():
                for name, item in one.items():
                    path.append(_shown(name))
                    look(name)
                    look(item)
                    path.pop()

    look(value)


def _unsound(text: str) -> str:
    if "\x00" in text:
        return tr("A character in this text cannot be stored (NUL).")
    if _HALF.search(text):
        return tr("This text has half a character (a lone surrogate).")
    return ""


def _shown(name: str) -> str:
    return name[:_SHOWN].encode("utf-8", "replace").decode()
