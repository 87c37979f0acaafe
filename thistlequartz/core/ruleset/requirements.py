"""What a rule asks of one target, as a condition on it."""

from thistlequartz.core.expression import Problem, nearest, tree
from thistlequartz.core.expression.clauses import literal
from thistlequartz.core.formats import (
    NAMED_FORMATS,
    POSTAL_COUNTRIES,
    PatternError,
    can_match,
    compile_pattern,
)
from thistlequartz.core.values import (
    ChoicesType,
    ChoiceType,
    DateTimeType,
    DateType,
    Fault,
    NumberType,
    TextType,
    TimeType,
    ValueType,
    YesNoType,
    read_written,
)

from .formulas import FormulaReader
from .rules import (
    AllowedValuesRule,
    Bound,
    ConsentRule,
    EnteredTwiceRule,
    FormatRule,
    RangeRule,
    Rule,
)

_ORDERED = (NumberType, DateType, TimeType, DateTimeType)
_COUNTED = NumberType(scale=0)
_ORDERED_ONE = "a number, a date or a time, or say what is allowed"
_INSTEAD: dict[type[ValueType], str] = {
    ChoicesType: "“in number of choices”, or say what is allowed",
    TextType: "“in length”, or say what is allowed",
}
"""By type: what to choose where its value has no order."""
_Literal = tree.Number | tree.Date | tree.Time | tree.DateTime


def requirement(rule: Rule, target: str, reader: FormulaReader) -> tree.Node | None:
    """The condition that `rule` puts on the field `target`, or None with problems noted."""
    subject = tree.Field(target)
    match rule:
        case RangeRule():
            return _range(rule, subject, reader)
        case FormatRule():
            return _format(rule, subject, reader)
        case AllowedValuesRule():
            return _allowed(rule, subject, reader)
        case EnteredTwiceRule():
            return tree.EnteredTwice(target)
        case ConsentRule():
            return _consent(rule, subject, reader)
        case _:
            return tree.Comparison("!=", subject, tree.Null())


def _place(rule: Rule, subject: tree.Field) -> str:
    return f"targets.{rule.targets.index(subject.key)}"


def _consent(rule: ConsentRule, subject: tree.Field, reader: FormulaReader) -> tree.Node | None:
    declared = reader.language.vocabulary[subject.key]
    if not isinstance(declared.type, YesNoType):
        said = f"{declared.label} is not answered by yes or no, so it cannot give consent."
        reader.report(said, "Choose a field of yes or no.", _place(rule, subject))
        return None
    return tree.Comparison("=", subject, tree.Truth(True))


def _measured(
    rule: RangeRule, subject: tree.Field, reader: FormulaReader
) -> tuple[tree.Node, ValueType] | None:
    """What the bounds are held against, and its type."""
    declared = reader.language.vocabulary[subject.key]
    match rule.of, declared.type:
        case "value", type_ if isinstance(type_, _ORDERED):
            return subject, type_
        case "length", TextType():
            return tree.Call("string length", (subject,)), _COUNTED
        case "count", ChoicesType():
            return tree.Call("count", (subject,)), _COUNTED
    said, remedy = {
        "value": ("has no order, so it", _INSTEAD.get(type(declared.type), _ORDERED_ONE)),
        "length": ("is not a text, so its length", "a text field"),
        "count": ("does not take several choices, so their number", "a field of several choices"),
    }[rule.of]
    message = f"{declared.label} {said} cannot have a range."
    reader.report(message, f"Choose {remedy}.", _place(rule, subject))
    return None


def _range(rule: RangeRule, subject: tree.Field, reader: FormulaReader) -> tree.Node | None:
    measured = _measured(rule, subject, reader)
    if measured is None:
        return None
    value, type_ = measured
    low = _bound(rule.lower, "lower.value", type_, reader)
    high = _bound(rule.upper, "upper.value", type_, reader)
    if rule.lower is None and rule.upper is None:
        said = "A range needs a lowest value, a highest value, or both."
        reader.report(said, "Give one of them.", "lower.value")
    if low and high and rule.lower and rule.upper:
        if _wrong_way_round(low, high, rule):
            reader.report(
                "No value lies between these bounds.", "Swap or widen them.", "upper.value"
            )
            return None
        bounds = tree.Interval(low, high, rule.lower.inclusive, rule.upper.inclusive)
        return tree.Membership(value, (bounds,))
    if low and rule.lower:
        return tree.Comparison(">=" if rule.lower.inclusive else ">", value, low)
    if high and rule.upper:
        return tree.Comparison("<=" if rule.upper.inclusive else "<", value, high)
    return None


def _bound(
    bound: Bound | None, place: str, type_: ValueType, reader: FormulaReader
) -> tree.Node | None:
    if bound is None:
        return None
    if not bound.value:
        end = place.partition(".")[0].replace("upper", "highest").replace("lower", "lowest")
        said = f"The {end} value is not given."
        remedy = f"Give the {end} value, or choose “no {end}”."
        reader.report(said, remedy, place, unsaid=True)
        return None
    # A bound may be finer than the field, and is shown by the field's own unit.
    own = NumberType(unit=type_.unit) if isinstance(type_, NumberType) else type_
    plain = read_written(bound.value, own)
    if plain is not None and not isinstance(plain, Fault):
        return literal(plain)
    return reader.read(bound.value, place, wanted=type(type_))


def _wrong_way_round(low: tree.Node, high: tree.Node, rule: RangeRule) -> bool:
    if not isinstance(low, _Literal) or not isinstance(high, _Literal):
        return False
    closed = rule.lower and rule.lower.inclusive and rule.upper and rule.upper.inclusive
    a, b = low.value, high.value
    return bool(a > b or (a == b and not closed))  # type: ignore[operator]


def _format(rule: FormatRule, subject: tree.Field, reader: FormulaReader) -> tree.Node | None:
    declared = reader.language.vocabulary[subject.key]
    found: Problem | None
    if not isinstance(declared.type, TextType):
        found = Problem(
            f"{declared.label} is not a text, so it cannot have a format.",
            "Choose a text field, or say a range.",
            f"targets.{rule.targets.index(subject.key)}",
        )
    elif rule.pattern is not None:
        found = _pattern_problem(rule.pattern)
        if not found:
            return tree.FitsPattern(subject, rule.pattern, rule.described)
    else:
        found = _named_problem(rule)
        if not found and rule.format:
            return tree.Fits(subject, rule.format, rule.country)
    if found:
        reader.problems.append(found)
    return None


def _pattern_problem(pattern: str) -> Problem | None:
    if not pattern:
        said = "The pattern is empty."
        return Problem(said, "Write one, such as [0-9]{10}.", "pattern", unsaid=True)
    try:
        compile_pattern(pattern)
    except PatternError as error:
        remedy = "Mend it. Looking ahead or back, and repeating what was found, cannot be had."
        return Problem(str(error), remedy, "pattern")
    if not can_match(pattern):
        said = "No text can ever fit this pattern."
        remedy = "Look for a “^” or “$” in its midst, or a class that leaves no character."
        return Problem(said, remedy, "pattern")
    return None


def _named_problem(rule: FormatRule) -> Problem | None:
    if not rule.format:
        said = "No format is chosen."
        return Problem(said, "Choose one, or write a pattern.", "format", unsaid=True)
    named = NAMED_FORMATS.get(rule.format)
    if named is None:
        near = nearest(rule.format, NAMED_FORMATS)
        remedy = f"Did you mean “{near}”?" if near else "Choose one of the formats."
        return Problem(f"There is no format “{rule.format[:40]}”.", remedy, "format")
    if not named.needs_country:
        return None
    if rule.country is None:
        return Problem(
            f"{named.label.capitalize()}s differ from country to country.",
            "Say which country, such as GB.",
            "country",
            unsaid=True,
        )
    known = POSTAL_COUNTRIES if named.key == "postal_code" else None
    if NAMED_FORMATS["country"].why_not(rule.country, None) or (
        known and rule.country not in known
    ):
        said = f"The {named.label}s of {rule.country} are not known here."
        return Problem(said, "Choose another country, or write a pattern.", "country")
    return None


def _allowed(
    rule: AllowedValuesRule, subject: tree.Field, reader: FormulaReader
) -> tree.Node | None:
    declared = reader.language.vocabulary[subject.key]
    several = isinstance(declared.type, ChoicesType)
    if rule.governor is None:
        if not rule.values:
            said = "No value is allowed yet."
            remedy = "Say which values are allowed, or which field they depend on."
            reader.report(said, remedy, "values", unsaid=True)
            return None
        tests = _tests(rule.values, declared.type, "values", reader)
        if several:
            return tree.AllAmong(subject, tests)
        ignore_case = rule.ignore_case and isinstance(declared.type, TextType)
        return tree.Membership(subject, tests, ignore_case) if tests else None
    if not reader.known(rule.governor, "governor"):
        return None
    governing = reader.language.vocabulary[rule.governor]
    if not rule.rows:
        said = f"No value goes with an answer to {governing.label} yet."
        reader.report(said, "Say which values go with which answer.", "rows", unsaid=True)
        return None
    if isinstance(governing.type, ChoicesType):
        said = f"{governing.label} can have several answers at once, so none of them can govern."
        reader.report(said, "Choose a field with one answer.", "governor")
        return None
    rows = []
    for position, row in enumerate(rule.rows):
        place = f"rows.{position}"
        answer = _tests((row.answer,), governing.type, f"{place}.answer", reader)
        tests = _tests(row.values, declared.type, f"{place}.values", reader)
        if answer and tests:
            rows.append(tree.Row(answer[0], tests))
    return tree.Goes(subject, tree.Field(rule.governor), tuple(rows)) if rows else None


def _tests(
    texts: tuple[str, ...], type_: ValueType, place: str, reader: FormulaReader
) -> tuple[tree.Node, ...]:
    """The literals of values as people type them; empty, with problems noted, where one fails."""
    single = ChoiceType(type_.choices) if isinstance(type_, ChoicesType) else type_
    tests: list[tree.Node] = []
    for position, text in enumerate(texts):
        value = read_written(text, single)
        if value is None or isinstance(value, Fault):
            message = value.message if value else "This value is blank."
            where = place if place.endswith("answer") else f"{place}.{position}"
            reader.report(message, "Mend it or take it off the list.", where)
        else:
            tests.append(literal(value))
    return tuple(tests) if len(tests) == len(texts) else ()
