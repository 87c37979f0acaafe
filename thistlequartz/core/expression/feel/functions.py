"""The built-in functions of FEEL: their parameters and what they give (DMN 1.4, clause 10.3.4).

Only shapes stand here; what they compute stands beside the evaluation.
"""
# ruff: noqa: E501 - a table, one function a line

from dataclasses import dataclass
from typing import Literal

Shape = Literal[
    "any",
    "boolean",
    "text",
    "number",
    "date",
    "time",
    "date and time",
    "days duration",
    "months duration",
    "temporal",
    "list",
    "range",
    "context",
    "same",
]
"""What a parameter takes. `temporal` is a date, time or date-time; `same` is the list's own items."""


@dataclass(frozen=True, slots=True)
class Parameter:
    """One parameter; a trailing one may be optional, and the last may take any number."""

    name: str
    shape: Shape
    optional: bool = False
    repeated: bool = False


@dataclass(frozen=True, slots=True)
class Function:
    """A built-in function, with one set of parameters for each way of calling it."""

    name: str
    ways: tuple[tuple[Parameter, ...], ...]
    result: Shape
    says: str


def _way(signature: str) -> tuple[Parameter, ...]:
    """`name: shape, name?: shape, name*: shape` as parameters."""
    parameters = []
    for part in filter(None, signature.split(", ")):
        name, _, shape = part.partition(": ")
        parameters.append(
            Parameter(
                name.rstrip("?*"),
                shape,  # type: ignore[arg-type]
                optional=name.endswith("?"),
                repeated=name.endswith("*"),
            )
        )
    return tuple(parameters)


def _function(name: str, ways: str, result: Shape, says: str) -> Function:
    return Function(name, tuple(_way(way) for way in ways.split(" | ")), result, says)


_TABLE = (
    # conversion
    _function("number", "from: any, grouping separator?: text, decimal separator?: text", "number",
              "a text as a number"),
    _function("string", "from: any", "text", "a value as text"),
    _function("date", "from: any | year: number, month: number, day: number", "date",
              "a text, a date-time or three numbers as a date"),
    _function("time", "from: any | hour: number, minute: number, second: number, offset?: days duration",
              "time", "a text, a date-time or numbers as a time"),
    _function("date and time", "from: any | date: temporal, time: time", "date and time",
              "a text, or a date and a time, as a date-time"),
    _function("duration", "from: text", "any", "a text such as P1D or P1Y8M as a duration"),
    _function("years and months duration", "from: temporal, to: temporal", "months duration",
              "whole years and months between two days"),
    # boolean
    _function("not", "negand: boolean", "boolean", "true when the condition is false"),
    # text
    _function("substring", "string: text, start position: number, length?: number", "text",
              "a part of a text; positions count from 1, or from the end when negative"),
    _function("string length", "string: text", "number", "how many characters a text has"),
    _function("upper case", "string: text", "text", "a text in capitals"),
    _function("lower case", "string: text", "text", "a text in small letters"),
    _function("substring before", "string: text, match: text", "text", "what stands before a text"),
    _function("substring after", "string: text, match: text", "text", "what stands after a text"),
    _function("contains", "string: text, match: text", "boolean", "whether a text contains another"),
    _function("starts with", "string: text, match: text", "boolean", "whether a text begins with another"),
    _function("ends with", "string: text, match: text", "boolean", "whether a text ends with another"),
    _function("matches", "input: text, pattern: text, flags?: text", "boolean",
              "whether something in a text fits a pattern"),
    _function("replace", "input: text, pattern: text, replacement: text, flags?: text", "text",
              "a text with what fits a pattern replaced"),
    _function("split", "string: text, delimiter: text", "list", "the parts between delimiters"),
    _function("string join", "list: list, delimiter?: text", "text", "texts joined into one"),
    # numbers
    _function("decimal", "n: number, scale: number", "number", "rounded half to even at a scale"),
    _function("floor", "n: number, scale?: number", "number", "rounded down"),
    _function("ceiling", "n: number, scale?: number", "number", "rounded up"),
    _function("round up", "n: number, scale: number", "number", "rounded away from zero"),
    _function("round down", "n: number, scale: number", "number", "rounded towards zero"),
    _function("round half up", "n: number, scale: number", "number", "rounded, halves away from zero"),
    _function("round half down", "n: number, scale: number", "number", "rounded, halves towards zero"),
    _function("abs", "n: any", "same", "without its sign"),
    _function("modulo", "dividend: number, divisor: number", "number",
              "the remainder, with the sign of the divisor"),
    _function("sqrt", "number: number", "number", "the square root"),
    _function("log", "number: number", "number", "the natural logarithm"),
    _function("exp", "number: number", "number", "e to the power of a number"),
    _function("odd", "number: number", "boolean", "whether a number is odd"),
    _function("even", "number: number", "boolean", "whether a number is even"),
    # lists
    _function("list contains", "list: list, element: any", "boolean", "whether a list contains a value"),
    _function("count", "list: list", "number", "how many values that are not blank"),
    _function("min", "list: list | value: any, more*: any", "same", "the smallest value"),
    _function("max", "list: list | value: any, more*: any", "same", "the largest value"),
    _function("sum", "list: list | value: any, more*: any", "number", "the sum of the values"),
    _function("mean", "list: list | value: any, more*: any", "number", "the mean of the values"),
    _function("median", "list: list | value: any, more*: any", "number", "the middle value"),
    _function("product", "list: list | value: any, more*: any", "number", "the product of the values"),
    _function("stddev", "list: list | value: any, more*: any", "number", "the sample standard deviation"),
    _function("mode", "list: list | value: any, more*: any", "list", "the commonest values, smallest first"),
    _function("all", "list: list | value: any, more*: any", "boolean", "whether all are true"),
    _function("any", "list: list | value: any, more*: any", "boolean", "whether any is true"),
    _function("sublist", "list: list, start position: number, length?: number", "list", "a part of a list"),
    _function("append", "list: list, item*: any", "list", "a list with values added"),
    _function("concatenate", "list: list, more*: list", "list", "lists one after another"),
    _function("insert before", "list: list, position: number, newItem: any", "list",
              "a list with a value put in before a position"),
    _function("remove", "list: list, position: number", "list", "a list without one position"),
    _function("reverse", "list: list", "list", "a list backwards"),
    _function("index of", "list: list, match: any", "list", "the positions of a value"),
    _function("union", "list: list, more*: list", "list", "the different values of several lists"),
    _function("distinct values", "list: list", "list", "each different value once"),
    _function("flatten", "list: list", "list", "lists in lists laid out in one"),
    # dates and times
    _function("is", "value1: any, value2: any", "boolean", "whether two values are identical"),
    _function("day of year", "date: temporal", "number", "which day of the year, from 1"),
    _function("day of week", "date: temporal", "text", "the name of the weekday, such as Tuesday"),
    _function("month of year", "date: temporal", "text", "the name of the month, such as September"),
    _function("week of year", "date: temporal", "number", "which week of the year, by ISO 8601"),
    # ranges
    *(
        _function(name, "range1: any, range2: any", "boolean", f"whether the first {name} the second")
        for name in (
            "before", "after", "meets", "met by", "overlaps", "overlaps before", "overlaps after",
            "finishes", "finished by", "includes", "during", "starts", "started by", "coincides",
        )
    ),
    # contexts
    _function("get value", "m: context, key: text", "any", "the value of an entry"),
    _function("get entries", "m: context", "list", "the entries as a list"),
)  # fmt: skip

FUNCTIONS: dict[str, Function] = {function.name: function for function in _TABLE}
