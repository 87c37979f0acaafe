"""A condition that is asked of a record by itself, outside any rule."""

from dataclasses import dataclass

from thistlequartz.core.engines.environment import Evaluator
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.kinds import Language
from thistlequartz.core.kinds.base.formulas import FormulaReader
from thistlequartz.core.language import FormulaError, Segment, condition_words

from .settled import Settled


@dataclass(frozen=True, slots=True)
class CompiledCondition:
    """A condition over the fields of a form, ready to be asked."""

    asked: Evaluator
    words: tuple[Segment, ...]
    """It, as people read it."""

    def met(self, settled: Settled) -> bool:
        """Whether a record meets it; what cannot be told of it is not met."""
        return self.asked(settled.environment) is True


def compile_condition(text: str, language: Language) -> CompiledCondition:
    """The formula `text` as a condition. Raises FormulaError, with places inside `condition`."""
    reader = FormulaReader(language)
    node = reader.condition(text, "condition")
    if node is None:
        raise FormulaError(dict.fromkeys(reader.problems))
    vocabulary = language.vocabulary
    words = tuple(condition_words(node, vocabulary))
    return CompiledCondition(interpret(node, vocabulary), words)
