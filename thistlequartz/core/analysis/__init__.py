"""Cases: running them, drafting them, and knowing how much they prove."""

from .baseline import Baseline, baseline_of, good_baseline
from .case_records import CaseRecords
from .changes import JudgedRequest, VerdictChange, changes_between
from .clearing import Correction, way_of, ways_through
from .coverage import BoundProof, PartProof, Proof, RuleProof, Tally, prove
from .differences import differences
from .drafted import DraftedCase, Technique
from .drafting import drafted_cases, unlike
from .entries import entries_in_words
from .files import (
    CaseFileError,
    cases_from_csv,
    cases_from_json,
    cases_to_csv,
    cases_to_json,
    refuse_unknown_fields,
)
from .mutation import Mutation, MutationProof, MutationResult, mutants_of, prove_slips, try_mutants
from .observing import Observed, Observer, circumstances_of, noon_of
from .parts_alone import PartAlone, open_parts, parts_alone, with_parts
from .report import junit_report
from .running import CaseRun, Runner

__all__ = [
    "Baseline",
    "BoundProof",
    "CaseFileError",
    "CaseRecords",
    "CaseRun",
    "Correction",
    "DraftedCase",
    "JudgedRequest",
    "Mutation",
    "MutationProof",
    "MutationResult",
    "Observed",
    "Observer",
    "PartAlone",
    "PartProof",
    "Proof",
    "RuleProof",
    "Runner",
    "Tally",
    "Technique",
    "VerdictChange",
    "baseline_of",
    "cases_from_csv",
    "cases_from_json",
    "cases_to_csv",
    "cases_to_json",
    "changes_between",
    "circumstances_of",
    "differences",
    "drafted_cases",
    "entries_in_words",
    "good_baseline",
    "junit_report",
    "mutants_of",
    "noon_of",
    "open_parts",
    "parts_alone",
    "prove",
    "prove_slips",
    "refuse_unknown_fields",
    "try_mutants",
    "unlike",
    "way_of",
    "ways_through",
    "with_parts",
]
