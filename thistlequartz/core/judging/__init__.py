"""Judging: from a form and the values of one record to a verdict for each moment."""

from thistlequartz.core.enumerations import Status

from .circumstances import AT_A_SCREEN, Circumstances
from .compiled_form import (
    CompiledForm,
    UnfinishedRules,
    all_problems,
    compile_ruleset,
    settles_like,
)
from .compiling.compiled_rule import CompiledRule, compile_rule
from .compiling.dependencies import circle_words
from .compiling.messages import Message
from .conditions import CompiledCondition
from .entry_reader import GENERATED_FROM, ReadRecord
from .other_records.known_records import KnownRecords
from .other_records.port import NUMBER, Lookup, ReferredRecord
from .other_records.records import Records, for_conditions
from .other_records.settled_records import RecordSettling, SettledRecords, settled_by
from .other_records.unique_key import folded_key, stored_key, unique_key
from .other_records.value_index import ValueIndex, equality_in
from .program import Program
from .proposing import matching
from .request import JudgeRequest, circumstances_of
from .screening import Screened, Screener, Violation
from .settled import Settled
from .settling import is_readable
from .unfinished import lowered_in, problems_in
from .verdicts.explanation import CheckTrace, Explanation, TraceStep
from .verdicts.judgement import Judgement
from .verdicts.verdict import (
    FieldMark,
    FieldState,
    Obstacle,
    Proposal,
    RuleResult,
    SectionState,
    Verdict,
    Waiver,
)
from .wording.reasons import TOO_MUCH_WORK

__all__ = [
    "AT_A_SCREEN",
    "GENERATED_FROM",
    "NUMBER",
    "TOO_MUCH_WORK",
    "CheckTrace",
    "Circumstances",
    "CompiledCondition",
    "CompiledForm",
    "CompiledRule",
    "Explanation",
    "FieldMark",
    "FieldState",
    "JudgeRequest",
    "Judgement",
    "KnownRecords",
    "Lookup",
    "Message",
    "Obstacle",
    "Program",
    "Proposal",
    "ReadRecord",
    "RecordSettling",
    "Records",
    "ReferredRecord",
    "RuleResult",
    "Screened",
    "Screener",
    "SectionState",
    "Settled",
    "SettledRecords",
    "Status",
    "TraceStep",
    "UnfinishedRules",
    "ValueIndex",
    "Verdict",
    "Violation",
    "Waiver",
    "all_problems",
    "circle_words",
    "circumstances_of",
    "compile_rule",
    "compile_ruleset",
    "equality_in",
    "folded_key",
    "for_conditions",
    "is_readable",
    "lowered_in",
    "matching",
    "problems_in",
    "settled_by",
    "settles_like",
    "stored_key",
    "unique_key",
]
