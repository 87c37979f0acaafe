"""A rule with its formulas read: the trees people write, and the kernel under them."""

from dataclasses import dataclass
from typing import Generic, TypeVar

from thistlequartz.core.kernel import lower, nodes
from thistlequartz.core.kernel.lowering import all_of, any_of, unless_blank, wherever
from thistlequartz.core.language import tree

from .common import RuleBase
from .form_language import Language

RuleT_co = TypeVar("RuleT_co", bound=RuleBase, covariant=True)


@dataclass(frozen=True, slots=True)
class Check:
    """One condition that must hold, and the targets its message belongs to."""

    targets: tuple[str, ...]
    must: tree.Node
    satisfied: nodes.Node
    """In the kernel: true where it is satisfied, false where it is violated, null where there is
    nothing to check."""
    reads: frozenset[str]
    """The fields that it reads."""
    needed: frozenset[str]
    """The fields without whose values there is nothing to check."""


@dataclass(frozen=True, slots=True)
class Effect:
    """What a rule with an effect gives."""

    values: tuple[tuple[str, tree.Node], ...] = ()
    """Of a rule that derives, starts or proposes: the fields with their values."""
    until: tree.Node | None = None
    """Of a rule that lets its targets wait: what they wait for."""


@dataclass(frozen=True, slots=True)
class Lowered(Generic[RuleT_co]):
    """A rule whose formulas have been read and typed."""

    rule: RuleT_co
    when: tree.Node | None
    applies: nodes.Node | None = None
    """In the kernel: true where it applies; None where it always does."""
    governors: frozenset[str] = frozenset()
    """The fields that decide whether it applies."""
    checks: tuple[Check, ...] = ()
    effect: Effect = Effect()

    @property
    def values(self) -> tuple[tuple[str, tree.Node], ...]:
        """The fields that it gives a value, with the value."""
        return self.effect.values

    @property
    def until(self) -> tree.Node | None:
        """What its targets wait for."""
        return self.effect.until

    @property
    def reads(self) -> frozenset[str]:
        """Every field it targets or reads."""
        read = {key for check in self.checks for key in check.reads}
        read.update(key for _, node in self.values for key in tree.fields_read(node))
        if self.until is not None:
            read |= tree.fields_read(self.until)
        return frozenset(read | set(self.rule.targets) | self.governors)


def condition_of(rule: RuleBase, when: tree.Node | None, language: Language) -> nodes.Node | None:
    """In the kernel: its condition is true, and one of the fields it watches was changed."""
    parts = [] if when is None else [lower(when, language.vocabulary)]
    watched = [lower(tree.ChangedField(key), language.vocabulary) for key in rule.changed_fields]
    if watched:
        parts.append(any_of(tuple(watched)))
    return all_of(tuple(parts)) if parts else None


def check_of(
    targets: tuple[str, ...], must: tree.Node, judges_blanks: bool, language: Language
) -> Check:
    """Return a check: what must be true, and when there is nothing to check.

    Nothing to check: a required value is blank, or none of its targets is relevant.
    """
    vocabulary = language.vocabulary
    reads = tree.fields_read(must)
    needed = frozenset() if judges_blanks else reads - tree.fields_blank_tested(must)
    read = (lower(tree.Field(key), vocabulary) for key in language.fields if key in needed)
    satisfied = unless_blank(tuple(read), lower(must, vocabulary))
    if needed.isdisjoint(targets):
        there = nodes.Relevant(targets, kind="boolean", blankable=False)
        satisfied = wherever(there, satisfied)
    return Check(targets, must, satisfied, reads, needed)
