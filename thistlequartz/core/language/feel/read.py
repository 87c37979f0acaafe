"""Reading formula text into a tree."""

from functools import cache, lru_cache
from pathlib import Path

from lark import Lark
from lark.exceptions import (
    UnexpectedCharacters,
    UnexpectedEOF,
    UnexpectedInput,
    UnexpectedToken,
    VisitError,
)

from thistlequartz.core.functions import FUNCTIONS
from thistlequartz.core.language import tree
from thistlequartz.core.language.mistakes import sign_problem, syntax_problem
from thistlequartz.core.language.problems import FormulaError, Position, Problem
from thistlequartz.core.translation import listed, tr

from .build import Builder, refusal
from .nesting import longest_chain, nested_depth
from .scoping import scoped

MAX_LENGTH = 10_000
"""Characters in one formula."""
MAX_TERMS = 120
"""Terms of one sum or product: a chain is one level."""
MAX_DEPTH = 60
"""Levels of parts within parts in one formula."""

_NAMES = {
    "NUMBER": "a number",
    "STRING": "a text",
    "NAME": "a field",
    "AND": "“and”",
    "OR": "“or”",
    "IN": "“in”",
    "COMPARATOR": "a comparison",
    "LPAR": "“(”",
    "RPAR": "“)”",
    "RSQB": "“]”",
    "COMMA": "“,”",
    "$END": tr("the end"),
}
FORMULAS_KEPT = 2_048


@lru_cache(maxsize=FORMULAS_KEPT)
def read_formula(text: str) -> tree.Node:
    """The tree of `text`. Raises FormulaError with the line, the column and what was expected.

    Trees never change, so those read last are kept: many rules of a form share a condition.
    """
    if len(text) > MAX_LENGTH:
        raise refusal(
            tr("The formula has {count:,} characters.", count=len(text)),
            tr(
                "Shorten it to {max_length:,}, or split it into several rules.",
                max_length=MAX_LENGTH,
            ),
        )
    if not text.strip():
        raise refusal(
            tr("The formula is empty."), tr("Write a condition, such as: type_status = null")
        )
    try:
        read = Builder().transform(_parser().parse(text))
    except UnexpectedInput as error:
        raise FormulaError([_describe(error, text)]) from None
    except VisitError as error:
        raise error.orig_exc from None
    if longest_chain(read) > MAX_TERMS:
        raise refusal(
            tr(
                "One chain of sums or products has more than {max_terms} terms.",
                max_terms=MAX_TERMS,
            ),
            tr("Put some of them in a list, as in sum([a, b, c]), or split it into several rules."),
        )
    if nested_depth(read) > MAX_DEPTH:
        raise refusal(
            tr(
                "The formula has more than {max_depth} levels of parts within parts.",
                max_depth=MAX_DEPTH,
            ),
            tr("Split it into several rules."),
        )
    return scoped(read)


def _describe(error: UnexpectedInput, text: str) -> Problem:
    at = Position(max(error.line, 1), max(error.column, 1))
    if isinstance(error, UnexpectedCharacters):
        if error.char == '"':
            return Problem(
                tr("This text has no closing quotation mark."), tr('Close it with ".'), position=at
            )
        unknown = tr("“{char}” has no meaning in a formula.", char=error.char)
        return sign_problem(error.char, at) or Problem(unknown, tr("Remove it."), position=at)
    at_end = isinstance(error, UnexpectedEOF)
    expected: set[str] = set(getattr(error, "accepts", ()) or getattr(error, "expected", ()) or ())
    if isinstance(error, UnexpectedToken):
        at_end = error.token.type == "$END"
    if meant := syntax_problem(text, None if at_end else at):
        return meant
    found = (
        tr("ends too early")
        if at_end
        else tr("goes wrong at “{token}”", token=getattr(error, "token", ""))
    )
    wanted = listed((name for token, name in _NAMES.items() if token in expected), "or")
    return Problem(
        tr("The formula {found}.", found=found),
        tr("Expected here: {wanted}.", wanted=wanted)
        if wanted
        else tr("Remove it, or complete what stands before."),
        position=None if at_end else at,
    )


@cache
def _parser() -> Lark:
    grammar = (Path(__file__).parent / "grammar.lark").read_text(encoding="utf-8")
    names = sorted(FUNCTIONS, key=len, reverse=True)
    spelled = "|".join(name.replace(" ", r"\s+") for name in names)
    functions = f"FUNCTION.5: /({spelled})(?=\\s*\\()/"
    in_words = {
        parameter.name
        for one in FUNCTIONS.values()
        for way in one.ways
        for parameter in way
        if " " in parameter.name
    }
    parameters = f"PARAMETER.4: /({'|'.join(sorted(in_words))})(?=\\s*:)/"
    return Lark(f"{grammar}\n{functions}\n{parameters}\n", parser="lalr", propagate_positions=True)
