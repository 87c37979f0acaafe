"""Expressions: one tree with many readers (formula text, builder clauses, words, types)."""

from .clauses import Clause, ClauseGroup, Operand, clauses_from_tree, tree_from_clauses
from .declared import Declaration, Vocabulary
from .feel import read_formula, write_formula
from .formula_words import condition_words, obligation_words, value_words
from .inference import check_types
from .operators import Operator, OperatorOffer
from .problems import FormulaError, Position, Problem, nearest
from .segments import Segment, plain
from .subjects import SubjectOffer, subjects

__all__ = [
    "Clause",
    "ClauseGroup",
    "Declaration",
    "FormulaError",
    "Operand",
    "Operator",
    "OperatorOffer",
    "Position",
    "Problem",
    "Segment",
    "SubjectOffer",
    "Vocabulary",
    "check_types",
    "clauses_from_tree",
    "condition_words",
    "nearest",
    "obligation_words",
    "plain",
    "read_formula",
    "subjects",
    "tree_from_clauses",
    "value_words",
    "write_formula",
]
