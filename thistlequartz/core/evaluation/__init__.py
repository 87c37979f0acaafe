"""Judging: from a form and the values of one record to a verdict for each moment."""

from .compilation import CompiledForm, compile_ruleset
from .verdict import FieldState, Mark, Message, Outcome, RuleResult, Status, Verdict

__all__ = [
    "CompiledForm",
    "FieldState",
    "Mark",
    "Message",
    "Outcome",
    "RuleResult",
    "Status",
    "Verdict",
    "compile_ruleset",
]
