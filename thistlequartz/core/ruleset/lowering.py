"""From a rule as written to the one tree that every reader of rules understands.

Each kind of rule becomes conditions on its targets: a mandatory rule is “target has a value”, a
range is a comparison or a membership, and so on.
"""

from dataclasses import dataclass

from thistlequartz.core.expression import (
    FormulaError,
    Problem,
    Vocabulary,
    check_types,
    nearest,
    read_formula,
    tree,
)
from thistlequartz.core.expression.clauses import literal
from thistlequartz.core.formats import (
    NAMED_FORMATS,
    POSTAL_COUNTRIES,
    PatternError,
    compile_pattern,
)
from thistlequartz.core.values import DateType, Fault, NumberType, TextType, ValueType, read_value

from .document import AllowedValuesRule, Bound, CrossFieldRule, FormatRule, RangeRule, Rule


@dataclass(frozen=True, slots=True)
class Check:
    """One condition that must hold, and the targets its message belongs to."""

    targets: tuple[str, ...]
    must: tree.Node

    @property
    def needed(self) -> frozenset[str]:
        """The fields without whose values there is nothing to judge."""
        return tree.fields_read(self.must) - tree.fields_blank_tested(self.must)


@dataclass(frozen=True, slots=True)
class LoweredRule:
    """A rule whose formulas have been read and typed."""

    rule: Rule
    when: tree.Node | None
    checks: tuple[Check, ...]

    @property
    def reads(self) -> frozenset[str]:
        """Every field the rule targets or reads."""
        read = {key for check in self.checks for key in tree.fields_read(check.must)}
        return frozenset(read | set(self.rule.targets) | self.governors)

    @property
    def governors(self) -> frozenset[str]:
        """The fields that decide whether the rule applies."""
        return tree.fields_read(self.when) if self.when else frozenset()


def lower_rule(rule: Rule, vocabulary: Vocabulary) -> LoweredRule:
    """`rule` as trees. Raises FormulaError with every problem and its place in the rule."""
    problems = _target_problems(rule, vocabulary)
    when = _condition(rule.when, vocabulary, "when", problems) if rule.when else None
    checks: list[Check] = []
    if isinstance(rule, CrossFieldRule):
        must = _condition(rule.must, vocabulary, "must", problems)
        if must is not None:
            checks.append(Check(rule.targets, must))
    else:
        for target in rule.targets:
            if target in vocabulary:
                must = _must(rule, target, vocabulary, problems)
                if must is not None:
                    checks.append(Check((target,), must))
    if problems:
        raise FormulaError(dict.fromkeys(problems))
    return LoweredRule(rule, when, tuple(checks))


def _target_problems(rule: Rule, vocabulary: Vocabulary) -> list[Problem]:
    problems = []
    for position, target in enumerate(rule.targets):
        if target not in vocabulary:
            near = nearest(target, vocabulary)
            problems.append(
                Problem(
                    f"There is no field “{target}” in this form.",
                    f"Did you mean “{near}”?" if near else "Choose a field of this form.",
                    f"targets.{position}",
                )
            )
    return problems


def _condition(
    text: str, vocabulary: Vocabulary, place: str, problems: list[Problem]
) -> tree.Node | None:
    try:
        node = read_formula(text)
    except FormulaError as error:
        problems.extend(problem.inside(place) for problem in error.problems)
        return None
    found = check_types(node, vocabulary)
    problems.extend(problem.inside(place) for problem in found)
    return None if found else node


def _must(
    rule: Rule, target: str, vocabulary: Vocabulary, problems: list[Problem]
) -> tree.Node | None:
    subject = tree.Field(target)
    match rule:
        case RangeRule():
            return _range(rule, subject, vocabulary, problems)
        case FormatRule():
            return _format(rule, subject, vocabulary, problems)
        case AllowedValuesRule():
            return _allowed(rule, subject, vocabulary[target].type, problems)
        case _:
            return tree.Comparison("!=", subject, tree.Null())


def _range(
    rule: RangeRule, subject: tree.Field, vocabulary: Vocabulary, problems: list[Problem]
) -> tree.Node | None:
    declared = vocabulary[subject.key]
    if not isinstance(declared.type, NumberType | DateType):
        problems.append(
            Problem(
                f"{declared.label} has no order, so it cannot have a range.",
                "Choose a number or a date, or say which values are allowed.",
                f"targets.{rule.targets.index(subject.key)}",
            )
        )
        return None
    wanted = type(declared.type)
    low = _bound(rule.lower, "lower.value", wanted, vocabulary, problems)
    high = _bound(rule.upper, "upper.value", wanted, vocabulary, problems)
    if low and high and rule.lower and rule.upper:
        if _wrong_way_round(low, high, rule):
            problems.append(
                Problem("No value lies between these bounds.", "Swap or widen them.", "upper.value")
            )
            return None
        bounds = tree.Interval(low, high, rule.lower.inclusive, rule.upper.inclusive)
        return tree.Membership(subject, (bounds,))
    if low and rule.lower:
        return tree.Comparison(">=" if rule.lower.inclusive else ">", subject, low)
    if high and rule.upper:
        return tree.Comparison("<=" if rule.upper.inclusive else "<", subject, high)
    return None


def _bound(
    bound: Bound | None,
    place: str,
    wanted: type[NumberType] | type[DateType],
    vocabulary: Vocabulary,
    problems: list[Problem],
) -> tree.Node | None:
    if bound is None:
        return None
    plain = read_value(bound.value, wanted())
    if plain is not None and not isinstance(plain, Fault):
        return literal(plain)
    try:
        node = read_formula(bound.value)
    except FormulaError as error:
        problems.extend(problem.inside(place) for problem in error.problems)
        return None
    found = check_types(node, vocabulary, wanted=wanted)
    problems.extend(problem.inside(place) for problem in found)
    return None if found else node


def _wrong_way_round(low: tree.Node, high: tree.Node, rule: RangeRule) -> bool:
    match low, high:
        case (tree.Number(a), tree.Number(b)) | (tree.Date(a), tree.Date(b)):
            closed = rule.lower and rule.lower.inclusive and rule.upper and rule.upper.inclusive
            return bool(a > b or (a == b and not closed))  # type: ignore[operator]
        case _:
            return False


def _format(
    rule: FormatRule, subject: tree.Field, vocabulary: Vocabulary, problems: list[Problem]
) -> tree.Node | None:
    declared = vocabulary[subject.key]
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
        problems.append(found)
    return None


def _pattern_problem(pattern: str) -> Problem | None:
    if not pattern:
        return Problem("The pattern is empty.", "Write one, such as [0-9]{10}.", "pattern")
    try:
        compile_pattern(pattern)
    except PatternError as error:
        remedy = "Mend it. Looking ahead or back, and repeating what was found, cannot be had."
        return Problem(str(error), remedy, "pattern")
    return None


def _named_problem(rule: FormatRule) -> Problem | None:
    if not rule.format:
        return Problem("No format is chosen yet.", "Choose one, or write a pattern.", "format")
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
        )
    known = POSTAL_COUNTRIES if named.key == "postal_code" else None
    if NAMED_FORMATS["country"].why_not(rule.country, None) or (
        known and rule.country not in known
    ):
        said = f"The {named.label}s of {rule.country} are not known here."
        return Problem(said, "Choose another country, or write a pattern.", "country")
    return None


def _allowed(
    rule: AllowedValuesRule, subject: tree.Field, type_: ValueType, problems: list[Problem]
) -> tree.Node | None:
    tests: list[tree.Node] = []
    for position, text in enumerate(rule.values):
        value = read_value(text, type_)
        if value is None or isinstance(value, Fault):
            message = value.message if value else "This value is blank."
            problems.append(
                Problem(message, "Mend it or take it off the list.", f"values.{position}")
            )
        else:
            tests.append(literal(value))
    if len(tests) < len(rule.values):
        return None
    return tree.Membership(subject, tuple(tests), rule.ignore_case and type_ == TextType())
