"""The reading of a form's records as one generated Python function.

Each field has a test for the spelling that most of its values have; whatever fails it is read as
anywhere else. Fields of one spelling are tested together, in one look at all of their texts.
"""

from collections.abc import Callable, Iterator, Mapping
from itertools import chain
from typing import Any, Final

import re2

from thistlequartz.core.engines.generated import local_names
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.types import MAX_TEXT, PRINTABLE
from thistlequartz.core.values import Fault, Reading

ReadField = Callable[[str, object], Reading]
ReadFields = Callable[[Mapping[str, object]], tuple[dict[str, Reading], bool, bool]]
"""From what was given to the reading of every field in the order of the form, whether any of them
is a fault, and whether something was given for what is no field.
"""
TOGETHER: Final = 3
"""Fields of one spelling from which on they are tested together."""
_END: Final = "|"
"""Stands behind every text of those that are looked at together; no number and no day has it."""
_MARGIN: Final = " " * 4


def generated_reading(fields: Vocabulary, read_field: ReadField) -> ReadFields:
    """`read_field` reads what is not None and not of the usual spelling."""
    source = ReadingSource(fields, read_field)
    readings = ", ".join(f"{key!r}: {place}" for key, place in source.places.items())
    lines = [*source.lines(), f"return {{{readings}}}, faulty, unknown"]
    text = "\n".join(["def read_fields(values):", *(_MARGIN + line for line in lines)])
    exec(compile(text, "<fields of a form>", "exec"), source.names)  # noqa: S102 - our own source
    function: ReadFields = source.names["read_fields"]
    return function


class ReadingSource:
    """Statements that read the values of a record in a generated function.

    Every field gets its local name (`places`); `faulty` says whether any value cannot be read,
    `unknown` whether a name is no field.
    """

    def __init__(self, fields: Vocabulary, read_field: ReadField) -> None:
        self.places = local_names(fields)
        self.names: dict[str, Any] = {
            "read_field": read_field,
            "Fault": Fault,
            "blank": dict.fromkeys(fields),
        }
        """What the statements name, apart from local names."""
        self._usual = {key: one.type.usual_spelling(one.settings) for key, one in fields.items()}

    def lines(self) -> Iterator[str]:
        """The statements."""
        alike: dict[str, list[str]] = {}
        for key, usual in self._usual.items():
            if usual is not None and usual.pattern is not None:
                alike.setdefault(usual.pattern, []).append(key)
        groups = {pattern: keys for pattern, keys in alike.items() if len(keys) >= TOGETHER}
        grouped = frozenset(chain.from_iterable(groups.values()))
        yield "given = {**blank, **values}"
        yield f"unknown = len(given) > {len(self.places)}"
        yield f"[{''.join(f'{place}, ' for place in self.places.values())}*_] = given.values()"
        yield "faulty = False"
        for pattern, keys in groups.items():
            yield from self._together(pattern, keys)
        for key in self.places:
            if key not in grouped:
                yield from self._one(key)

    def _together(self, pattern: str, keys: list[str]) -> Iterator[str]:
        given = ", ".join(f"'' if {p} is None else {p}" for p in map(self.places.get, keys))
        yield "try:"
        yield f"{_MARGIN}texts = {_END!r}.join(('', {given}, ''))"
        yield "except TypeError:"  # one of them is none
        yield f"{_MARGIN}texts = None"
        short = f"texts is not None and texts.isascii() and len(texts) < {MAX_TEXT}"
        yield f"if {short} and {self._fitting(pattern, len(keys))}:"
        for key in keys:
            usual, place = self._usual[key], self.places[key]
            assert usual is not None
            if usual.matched == "given":
                yield f"{_MARGIN}if {place} == '': {place} = None"
            else:
                value = self._filled_in(key, usual.matched)
                yield f"{_MARGIN}{place} = {value} if {place} else None"
        yield "else:"
        yield from (_MARGIN + line for key in keys for line in self._one(key))

    def _fitting(self, pattern: str, count: int) -> str:
        if pattern == PRINTABLE:  # here Python is twice as fast
            return f"texts.isprintable() and '{_END} ' not in texts and ' {_END}' not in texts"
        fits = self._bound(re2.compile(rf"\{_END}(?:(?:{pattern})?\{_END})*").fullmatch)
        # A text with the mark of an end in it would pass for two.
        return f"texts.count({_END!r}) == {count + 1} and {fits}(texts)"

    def _one(self, key: str) -> Iterator[str]:
        place, usual = self.places[key], self._usual[key]
        kindly = f"{place} = read_field({key!r}, {place}); faulty |= type({place}) is Fault"
        yield f"if {place} is not None:"
        if usual is None:
            yield _MARGIN + kindly
            return
        test = self._filled_in(key, usual.test)
        if usual.value == "given":
            yield f"{_MARGIN}if not ({test}): {kindly}"
        else:
            value = self._filled_in(key, usual.value)
            yield f"{_MARGIN}if {test}: {place} = {value}"
            yield f"{_MARGIN}else: {kindly}"

    def _filled_in(self, key: str, source: str) -> str:
        usual, place = self._usual[key], self.places[key]
        assert usual is not None
        names = {name: f"{name}_{place}" for name in usual.names}
        self.names |= {names[name]: value for name, value in usual.names.items()}
        return source.replace("given", place).format(**names)

    def _bound(self, value: Any) -> str:
        name = f"fits{len(self.names)}"
        self.names[name] = value
        return name
