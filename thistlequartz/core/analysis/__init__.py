"""Cases: running them, drafting them, and knowing how much they prove."""

from .baseline import Baseline, baseline_of, good_baseline
from .case_records import CaseRecords
from .changes import Change, JudgedTrial, changes_between
from .clearing import Way, way_of, ways_through
from .coverage import BoundProof, PartProof, Proof, RuleProof, Tally, prove
from .differences import differences
from .drafted import Drafted, Technique
from .drafting import drafted_cases, unlike
from .entries import entries_in_words
from .files import (
    CaseTrouble,
    cases_from_csv,
    cases_from_json,
    cases_to_csv,
    cases_to_json,
    refuse_unknown_fields,
)
from .mutation import Mutant, MutantFound, SlipProved, mutants_of, prove_slips, try_mutants
from .observing import Observed, Observer, circumstances_of, noon_of
from .parts_alone import PartAlone, open_parts, parts_alone, with_parts
from .report import junit_report
from .running import CaseRun, Runner

__all__ = [
    "Baseline",
    "BoundProof",
    "CaseRecords",
    "CaseRun",
    "CaseTrouble",
    "Change",
    "Drafted",
    "JudgedTrial",
    "Mutant",
    "MutantFound",
    "Observed",
    "Observer",
    "PartAlone",
    "PartProof",
    "Proof",
    "RuleProof",
    "Runner",
    "SlipProved",
    "Tally",
    "Technique",
    "Way",
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
