"""Which engine answers the checks: first one that is ready at once, then one that is faster."""

from collections.abc import Container, Sequence
from datetime import date
from typing import Any

from thistlequartz.core.engines import generated, traced
from thistlequartz.core.engines.answers import Answer, Answers, CheckQuery
from thistlequartz.core.language import Vocabulary

RECORDS_BEFORE_GENERATING = 8
"""Records after which it pays to have source generated, which takes longer than tracing some."""


class CheckRunner:
    """Answers the checks of rules for one record after another, under the same circumstances."""

    def __init__(
        self,
        questions: Sequence[CheckQuery],
        vocabulary: Vocabulary,
        today: date,
        closable: frozenset[str],
    ) -> None:
        self._questions = questions
        self._about = vocabulary, today, closable
        self._traced: Answers | None = None
        self._generated: Answers | None = None
        self._answered = 0

    def __call__(
        self, environment: Any, closed: Container[str], *, readable: bool
    ) -> list[tuple[Answer, ...]]:
        """The answers for a record; `readable`, where every value of it can be read."""
        if readable:
            if self._generated is not None:
                return self._generated(environment, closed)
            self._answered += 1
            if self._answered > RECORDS_BEFORE_GENERATING:
                self._generated = generated.answering(self._questions, *self._about)
                return self._generated(environment, closed)
        if self._traced is None:
            self._traced = traced.answering(self._questions)
        return self._traced(environment, closed)
