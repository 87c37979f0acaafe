"""Slips: small mistakes made in rules on purpose, to see whether a case notices."""

from thistlequartz.core.kinds.base.mutations import Variant, variants

from .mutations import Mutation, mutants_of
from .proof import MutationProof, prove_slips
from .search import MutationResult, SlipState, try_mutants

__all__ = [
    "Mutation",
    "MutationProof",
    "MutationResult",
    "SlipState",
    "Variant",
    "mutants_of",
    "prove_slips",
    "try_mutants",
    "variants",
]
