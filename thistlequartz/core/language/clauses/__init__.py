"""The builder's spelling of a condition: clauses joined by “and” or “or”, nested.

A second spelling of the same tree as the formula; whatever clauses can say is shown as
clauses, whoever wrote it.
"""

from .reading import literal, tree_from_clauses
from .shapes import Clause, ClauseGroup, Operand
from .writing import clauses_from_tree

__all__ = ["Clause", "ClauseGroup", "Operand", "clauses_from_tree", "literal", "tree_from_clauses"]
