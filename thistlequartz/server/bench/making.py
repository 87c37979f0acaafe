"""A rule as it is being written, before it is stored."""

from typing import Final

from thistlequartz.core.language import FormulaError
from thistlequartz.core.ruleset import Rule
from thistlequartz.server.forms.drafts import compiled_draft
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.rule_changes import with_clauses

from .rule_shapes import RuleDraftBody

BEING_WRITTEN: Final = "rule_being_written"


def in_the_making(draft: DraftForm, body: RuleDraftBody) -> Rule:
    """The rule with its clauses as formulas, under the key of the one it replaces."""
    rule = body.rule.model_copy(update={"key": body.replaces or BEING_WRITTEN})
    try:
        return with_clauses(rule, body.clauses, compiled_draft(draft))
    except FormulaError:
        return rule.model_copy(update={"targets": ()})  # unfinished: it says nothing yet
