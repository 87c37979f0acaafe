"""From a rule as written to the trees that every reader of rules understands.

Each kind of check becomes conditions on its targets: a mandatory rule is “target has a value”, a
range is a comparison or a membership, and so on. Effects keep the formulas they have.
"""

from dataclasses import dataclass

from thistlequartz.core.expression import FormulaError, tree
from thistlequartz.core.expression.clauses import literal
from thistlequartz.core.kernel import lower, nodes
from thistlequartz.core.kernel.lowering import all_of, any_of, unless_blank, wherever
from thistlequartz.core.values import Fault, read_written

from .formulas import FormulaReader
from .language import Language
from .requirements import requirement
from .rules import (
    CrossFieldRule,
    DeriveRule,
    EffectRule,
    ElsewhereRule,
    GroupRule,
    ProposeRule,
    Rule,
    StartRule,
    UniqueRule,
    WaitRule,
)

_BLANKS_COUNT = ("mandatory", "group", "entered_twice", "consent")
"""The kinds whose business missing values are."""


@dataclass(frozen=True, slots=True)
class Check:
    """One condition that must hold, and the targets its message belongs to."""

    targets: tuple[str, ...]
    must: tree.Node
    holds: nodes.Node
    """In the kernel: true where it is satisfied, false where it is violated, null where there is
    nothing to judge."""
    reads: frozenset[str]
    """The fields that it reads."""
    needed: frozenset[str]
    """The fields without whose values there is nothing to judge."""


@dataclass(frozen=True, slots=True)
class LoweredRule:
    """A rule whose formulas have been read and typed."""

    rule: Rule
    when: tree.Node | None
    applies: nodes.Node | None = None
    """In the kernel: true where it applies; None where it always does."""
    governors: frozenset[str] = frozenset()
    """The fields that decide whether it applies."""
    checks: tuple[Check, ...] = ()
    until: tree.Node | None = None
    """Of a rule that lets its targets wait: what they wait for."""
    values: tuple[tuple[str, tree.Node], ...] = ()
    """Of a rule that derives, starts or proposes: the fields with their values."""

    @property
    def reads(self) -> frozenset[str]:
        """Every field it targets or reads."""
        read = {key for check in self.checks for key in check.reads}
        read.update(key for _, node in self.values for key in tree.fields_read(node))
        if self.until is not None:
            read |= tree.fields_read(self.until)
        return frozenset(read | set(self.rule.targets) | self.governors)


def lower_rule(rule: Rule, language: Language) -> LoweredRule:
    """`rule` as trees. Raises FormulaError with every problem and its place in the rule."""
    reader = FormulaReader(language)
    if not rule.targets:
        said = "It names no field that it is about."
        reader.report(said, "Choose the field, or several.", "targets", unsaid=True)
    for name in ("targets", "changed_fields"):
        for position, key in enumerate(getattr(rule, name)):
            reader.known(key, f"{name}.{position}")
    when = None if rule.when is None else reader.condition(rule.when, "when")
    if isinstance(rule, StartRule) and when and tree.fields_read(when):
        _refuse_fields(reader, "when")
    until = reader.condition(rule.until, "until") if isinstance(rule, WaitRule) else None
    effect = isinstance(rule, EffectRule)
    checks = () if effect else _checks(rule, reader)
    values = _values(rule, reader) if effect else ()
    if reader.problems:
        raise FormulaError(dict.fromkeys(reader.problems))
    governors = frozenset(rule.changed_fields) | (tree.fields_read(when) if when else set())
    applies = _applies(rule, when, reader.language)
    return LoweredRule(rule, when, applies, governors, checks, until, values)


def _applies(rule: Rule, when: tree.Node | None, language: Language) -> nodes.Node | None:
    """Its condition is true, and one of the fields it watches was changed."""
    parts = [] if when is None else [lower(when, language.vocabulary)]
    watched = [lower(tree.Changed(key), language.vocabulary) for key in rule.changed_fields]
    if watched:
        parts.append(any_of(tuple(watched)))
    return all_of(tuple(parts)) if parts else None


def _checks(rule: Rule, reader: FormulaReader) -> tuple[Check, ...]:
    blanks_count = rule.kind in _BLANKS_COUNT
    match rule:
        case CrossFieldRule():
            must = reader.condition(rule.must, "must")
        case ElsewhereRule():
            inner = reader.condition(rule.no_other, "no_other", others=True)
            must = tree.NoOther(inner) if inner else None
        case GroupRule():
            if len(rule.targets) < 2:
                said = "A group has one field only, so there is nothing to choose among."
                reader.report(said, "Name at least two fields.", "targets", unsaid=True)
            must = tree.Filled(rule.quantity, rule.targets)
        case UniqueRule():
            must = tree.Unique(rule.targets)
        case _:
            known = [key for key in rule.targets if key in reader.language.fields]
            musts = [(key, requirement(rule, key, reader)) for key in known]
            found = [((key,), one) for key, one in musts if one]
            return tuple(_check(*one, blanks_count, reader.language) for one in found)
    return (_check(rule.targets, must, blanks_count, reader.language),) if must else ()


def _check(
    targets: tuple[str, ...], must: tree.Node, blanks_count: bool, language: Language
) -> Check:
    """What must hold, with what leaves nothing to judge: a blank among what it needs, or that none
    of its targets is in play.
    """
    vocabulary = language.vocabulary
    reads = tree.fields_read(must)
    needed = frozenset() if blanks_count else reads - tree.fields_blank_tested(must)
    read = (lower(tree.Field(key), vocabulary) for key in language.fields if key in needed)
    holds = unless_blank(tuple(read), lower(must, vocabulary))
    if needed.isdisjoint(targets):
        there = nodes.InPlay(targets, kind="boolean", blankable=False)
        holds = wherever(there, holds)
    return Check(targets, must, holds, reads, needed)


def _values(rule: Rule, reader: FormulaReader) -> tuple[tuple[str, tree.Node], ...]:
    """The values an effect gives, by field."""
    given: list[tuple[str, tree.Node | None]] = []
    match rule:
        case DeriveRule():
            given = [(key, reader.value_for(key, rule.value, "value")) for key in rule.targets]
        case ProposeRule():
            if not rule.title:
                said = "The proposal has no title."
                reader.report(said, "Say what it is called.", "title", unsaid=True)
            given = [
                (one.field, reader.value_for(one.field, one.value, f"sets.{position}.value"))
                for position, one in enumerate(rule.sets)
            ]
        case StartRule():
            given = [(key, _start(rule, key, reader)) for key in rule.targets]
    return tuple((key, node) for key, node in given if node is not None)


def _start(rule: StartRule, key: str, reader: FormulaReader) -> tree.Node | None:
    if rule.formula is not None:
        node = reader.value_for(key, rule.formula, "formula")
        if node and tree.fields_read(node):
            _refuse_fields(reader, "formula")
        return node
    declared = reader.language.fields.get(key)
    if declared is None:
        return None
    value = read_written(rule.value, declared.type, declared.manner)
    if value is None:
        said = "There is nothing to start with."
        reader.report(said, "Give the value it starts as.", "value", unsaid=True)
        return None
    if isinstance(value, Fault):
        reader.report(value.message, "Mend the value, or remove the rule.", "value")
        return None
    return literal(value)


def _refuse_fields(reader: FormulaReader, place: str) -> None:
    reader.report(
        "A starting value is given before any field is filled, so it cannot read one.",
        "Derive the field, propose a value, or read today, now, role or entry_point only.",
        place,
    )
