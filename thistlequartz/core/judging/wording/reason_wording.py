"""Reasons of one rule for one record, put into words when asked for, once."""

from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

from thistlequartz.core.judging.settled import Settled
from thistlequartz.core.language import Vocabulary

Phrases = Mapping[str, Callable[[Any], str]]
"""By field, what says its value."""


class StatusReason(NamedTuple):
    """Why a rule has its status: what puts that into words, and of what it speaks."""

    find: Callable[[Any, "ReasonWording"], str]
    about: Any


class ReasonWording:
    """The reasons of one record in words."""

    __slots__ = ("found", "phrases", "said", "sentences", "settled", "vocabulary")

    def __init__(
        self,
        settled: Settled,
        vocabulary: Vocabulary,
        phrases: Phrases,
        sentences: Phrases,
    ) -> None:
        self.settled = settled
        self.vocabulary = vocabulary
        self.phrases = phrases
        self.sentences = sentences
        self.said: dict[str | tuple[str, ...], str] = {}
        """What is said of the value of a field, or of several, once it has been put into words."""
        self.found: dict[str, str] = {}
        """By rule, the reasons that have been put into words."""

    def __eq__(self, other: object) -> bool:
        return isinstance(other, ReasonWording) and self.settled == other.settled

    __hash__ = None  # type: ignore[assignment]

    def of(self, rule: str, reason: StatusReason) -> str:
        """Why the rule with the key `rule` has its status, in words and values."""
        found = self.found.get(rule)
        if found is None:
            found = self.found[rule] = reason.find(reason.about, self)
        return found


def as_it_is(said: str, words: ReasonWording) -> str:
    """Words that do not hang on the record."""
    return said
