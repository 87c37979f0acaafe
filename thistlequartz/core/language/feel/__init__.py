"""FEEL, the expression language of DMN 1.4 by the OMG, as formula text."""

from .keys import KEY_PATTERN, key_problem
from .read import read_formula
from .write import write_formula

__all__ = ["KEY_PATTERN", "key_problem", "read_formula", "write_formula"]
