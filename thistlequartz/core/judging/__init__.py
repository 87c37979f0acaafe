"""Judging: from a form and the values of one record to a verdict for each moment."""

from thistlequartz.core.documents import Status

from .circumstances import Circumstances
from .compiled_form import CompiledForm, UnfinishedRules, all_problems, compile_ruleset
from .conditions import CompiledCondition
from .entry_reader import ReadRecord
from .known_records import KnownRecords
from .lookup import Lookup, ReferredRecord, folded_key
from .reasons import TOO_MUCH_WORK
from .rules import CompiledRule
from .screening import Screened, Screener, Violation
from .trace import CheckTrace, Explanation, TraceStep
from .unfinished import lowered_in, problems_in
from .verdict import (
    FieldMark,
    FieldState,
    Message,
    Proposal,
    RuleResult,
    SectionState,
    Verdict,
    Waiver,
)

__all__ = [
    "TOO_MUCH_WORK",
    "CheckTrace",
    "Circumstances",
    "CompiledCondition",
    "CompiledForm",
    "CompiledRule",
    "Explanation",
    "FieldMark",
    "FieldState",
    "KnownRecords",
    "Lookup",
    "Message",
    "Proposal",
    "ReadRecord",
    "ReferredRecord",
    "RuleResult",
    "Screened",
    "Screener",
    "SectionState",
    "Status",
    "TraceStep",
    "UnfinishedRules",
    "Verdict",
    "Violation",
    "Waiver",
    "all_problems",
    "compile_ruleset",
    "folded_key",
    "lowered_in",
    "problems_in",
]
