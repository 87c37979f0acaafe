"""Texts worth trying in a field: those its rules name, and some that fit or do not."""

import random
import re
from collections.abc import Iterable, Iterator

import rstr

from thistlequartz.core.formats import NAMED_FORMATS, compile_pattern
from thistlequartz.core.language import tree

PLAIN_TEXTS = ("Sample", "Another sample")
MOST_TEXTS = 12
_PARTS = ("starts with", "ends with", "contains", "substring before", "substring after")
"""Functions that look for a text in another."""
_LONGEST = 60
_SEED = 4
_TRIES = 6


def texts_for(key: str, nodes: Iterable[tree.Node]) -> list[str]:
    """Texts for the field `key` that the conditions `nodes` may tell apart."""
    found: dict[str, None] = {}
    for node in nodes:
        for part in tree.walk(node):
            found.update(dict.fromkeys(_told_apart(key, part)))
    found.update(dict.fromkeys(PLAIN_TEXTS))
    return list(found)[:MOST_TEXTS]


def _told_apart(key: str, node: tree.Node) -> Iterator[str]:
    match node:
        case tree.Comparison(_, left, right) if key in tree.fields_read(node):
            for text in _literals((left, right)):
                yield text
                if tree.Field(key) not in (left, right):
                    yield f"{text}1"
        case tree.Membership(value, tests) if key in tree.fields_read(value):
            yield from _literals(tests)
        case tree.Call(function, (subject, tree.Text(text), *_)) if (
            function in _PARTS and text and key in tree.fields_read(subject)
        ):
            yield from (one for one in (f"{text}1", f"1{text}", text) if one == one.strip())
        case tree.ValueByAnswer(value, _, rows) if value == tree.Field(key):
            for row in rows:
                yield from _literals(tree.children(row))
        case tree.MatchesFormat(value, format_, country) if value == tree.Field(key):
            yield from _of_format(format_, country)
        case tree.MatchesPattern(value, pattern) if value == tree.Field(key):
            yield from _of_pattern(pattern)
        case tree.Call("matches", (subject, tree.Text(pattern), *_)) if subject == tree.Field(key):
            yield from _of_pattern(pattern)


def _literals(nodes: Iterable[tree.Node]) -> Iterator[str]:
    for node in nodes:
        if isinstance(node, tree.Text) and node.value.strip():
            yield node.value


def _of_format(key: str, country: str | None) -> Iterator[str]:
    named = NAMED_FORMATS[key]
    example = named.example_in(country)
    if named.why_not(example, country) is None:
        yield example
        yield example[:-1]


def _of_pattern(pattern: str) -> Iterator[str]:
    """Two texts that fit from end to end, and one with a character more and one fewer."""
    try:
        maker = rstr.Rstr(random.Random(_SEED))  # noqa: S311 - no secret
        made = [maker.xeger(pattern)[:_LONGEST] for _ in range(_TRIES)]
    except (re.error, KeyError, TypeError, ValueError, NotImplementedError):
        return
    fitting = [
        one for one in made if one == one.strip() and compile_pattern(pattern).fullmatch(one)
    ]
    if not any(fitting):
        return
    fits = max(fitting, key=len)
    yield fits
    yield next((one for one in fitting if one != fits), fits)
    yield f"{fits}{fits[-1]}"
    if len(fits) > 1:
        yield fits[:-1]
