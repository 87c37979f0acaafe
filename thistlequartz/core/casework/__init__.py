"""Cases: running them, drafting them, and knowing how much they prove."""

from .base import Ground, good_ground, ground_of
from .changes import Change, Try, changes_between
from .clearing import Way, ways_through
from .coverage import BoundProof, PartProof, Proof, RuleProof, Tally, prove
from .differences import differences
from .drafted import Drafted, Technique
from .drafting import drafted_cases
from .entries import entries_in_words
from .files import (
    CaseTrouble,
    cases_from_csv,
    cases_from_json,
    cases_to_csv,
    cases_to_json,
    refuse_unknown_fields,
)
from .known import CaseRecords
from .observing import Observed, Observer, circumstances_of, noon_of
from .report import junit_report
from .running import CaseRun, Runner
from .slips import Slip, SlipFound, hunt, slips_of

__all__ = [
    "BoundProof",
    "CaseRecords",
    "CaseRun",
    "CaseTrouble",
    "Change",
    "Drafted",
    "Ground",
    "Observed",
    "Observer",
    "PartProof",
    "Proof",
    "RuleProof",
    "Runner",
    "Slip",
    "SlipFound",
    "Tally",
    "Technique",
    "Try",
    "Way",
    "cases_from_csv",
    "cases_from_json",
    "cases_to_csv",
    "cases_to_json",
    "changes_between",
    "circumstances_of",
    "differences",
    "drafted_cases",
    "entries_in_words",
    "good_ground",
    "ground_of",
    "hunt",
    "junit_report",
    "noon_of",
    "prove",
    "refuse_unknown_fields",
    "slips_of",
    "ways_through",
]
