"""Impact: what a version of a form means for stored records."""

from .analysis import ImpactAnalysis, ImpactRecord
from .counts import NUMBERS_KEPT, DroppedField, Impact, RecordCount, RuleImpact

__all__ = [
    "NUMBERS_KEPT",
    "DroppedField",
    "Impact",
    "ImpactAnalysis",
    "ImpactRecord",
    "RecordCount",
    "RuleImpact",
]
