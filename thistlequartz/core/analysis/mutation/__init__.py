"""Slips: small mistakes made in rules on purpose, to see whether a case notices."""

from thistlequartz.core.kinds.mutations import Variant, variants

from .mutants import Mutant, mutants_of
from .proving import SlipProved, prove_slips
from .search import MutantFound, SlipState, try_mutants

__all__ = [
    "Mutant",
    "MutantFound",
    "SlipProved",
    "SlipState",
    "Variant",
    "mutants_of",
    "prove_slips",
    "try_mutants",
    "variants",
]
