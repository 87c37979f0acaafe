"""Slips: small mistakes made in rules on purpose, to see whether a case notices."""

from thistlequartz.core.kinds.mutations import Variant, variants

from .mutants import Mutant, mutants_of
from .search import MutantFound, SlipState, try_mutants

__all__ = ["Mutant", "MutantFound", "SlipState", "Variant", "mutants_of", "try_mutants", "variants"]
