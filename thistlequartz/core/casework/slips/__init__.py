"""Slips: small mistakes made in rules on purpose, to see whether a case notices."""

from .conditions import Variant, variants
from .hunting import SlipFound, SlipState, hunt
from .making import Slip, slips_of

__all__ = ["Slip", "SlipFound", "SlipState", "Variant", "hunt", "slips_of", "variants"]
