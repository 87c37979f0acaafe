"""Texts as numbers: each known text has its own, any other number is an unknown text.

What is asked of a text (its length, whether it fits a pattern) is a function of its number, which
is fixed for every known text.
"""

from collections.abc import Callable, Iterator
from typing import Any

import z3

_Facts = Callable[[str], Any]


class TextTerms:
    """The texts that are known, and what is asked of texts.

    With `numbers`, the texts that were known before keep theirs; it takes in those that come to be
    known.
    """

    def __init__(self, numbers: dict[str, int] | None = None) -> None:
        self._numbers: dict[str, int] = {} if numbers is None else numbers
        self._asked: dict[tuple[object, ...], tuple[Any, _Facts]] = {}
        self._facts: list[Any] = []

    def number(self, text: str) -> int:
        """The number of a text, which is known from now on."""
        if text not in self._numbers:
            self._numbers[text] = len(self._numbers)
            for function, fact in self._asked.values():
                self._note(function, fact, text)
        return self._numbers[text]

    def is_known(self, text: str) -> bool:
        """Whether a text has a number."""
        return text in self._numbers

    def text(self, number: int) -> str | None:
        """The known text with a number."""
        return next((text for text, one in self._numbers.items() if one == number), None)

    @property
    def known(self) -> int:
        """How many texts are known; their numbers are below that."""
        return len(self._numbers)

    def asked(self, name: tuple[object, ...], gives: Any, fact: _Facts) -> Any:
        """Return the named function of a text's number.

        `gives` is the sort of its value; `fact` gives the value for a text, or None for none.
        """
        if name not in self._asked:
            function = z3.Function("|".join(map(str, name)), z3.IntSort(), gives)
            self._asked[name] = function, fact
            for text in list(self._numbers):
                self._note(function, fact, text)
        return self._asked[name][0]

    def questions(self) -> Iterator[tuple[tuple[object, ...], Any, Callable[[str], Any]]]:
        """Return every function of texts with its name and its value for a text as a term.

        The value is None where there is none.
        """
        for name, (function, fact) in list(self._asked.items()):
            yield name, function, fact

    def known_question(self, name: tuple[object, ...]) -> Any | None:
        """The function of a text's number by that name, if it was ever asked."""
        found = self._asked.get(name)
        return found[0] if found else None

    def _note(self, function: Any, fact: _Facts, text: str) -> None:
        told = fact(text)
        if told is not None:
            self._facts.append(function(z3.IntVal(self._numbers[text])) == told)

    def new_facts(self) -> list[Any]:
        """What has become known of texts since this was last asked."""
        told, self._facts = self._facts, []
        return told
