"""Placeholders in messages: “{label} is {value}; {highest} is the most.”

A brace that is doubled stands for itself.
"""

from collections.abc import Iterable
from dataclasses import dataclass

from thistlequartz.core.kinds import CHECK_KINDS, KindPlaceholder, Rule
from thistlequartz.core.language import Problem, Vocabulary, nearest
from thistlequartz.core.language.feel import key_problem
from thistlequartz.core.translation import tr

LABEL, VALUE, TODAY = "label", "value", "today"


@dataclass(frozen=True, slots=True)
class PlaceholderOffer:
    """A placeholder that a message may hold, and what is put in its place."""

    name: str
    says: str


@dataclass(frozen=True, slots=True)
class Placeholder:
    """A place in a message, by its name."""

    name: str


def offered(rule: Rule, vocabulary: Vocabulary) -> tuple[PlaceholderOffer, ...]:
    """The placeholders that the message of `rule` may hold."""
    own = [
        PlaceholderOffer(LABEL, tr("the label of the field")),
        PlaceholderOffer(VALUE, tr("what was entered")),
        PlaceholderOffer(TODAY, tr("the day of the check")),
    ]
    own += [PlaceholderOffer(one.name, one.says) for one in of_kind(rule).values()]
    taken = {one.name for one in own}
    fields = [
        PlaceholderOffer(key, tr("the value of {label}", label=declared.label))
        for key, declared in vocabulary.items()
        if key not in taken and not declared.condition
    ]
    return (*own, *fields)


def parts_of(message: str) -> tuple[str | Placeholder, ...]:
    """The message as runs of text and placeholders. What is no name in braces stays text."""
    parts: list[str | Placeholder] = []
    text, rest = "", message
    while rest:
        begin, brace, rest = rest.partition("{")
        text += begin.replace("}}", "}")
        if not brace:
            break
        if rest.startswith("{"):
            text, rest = text + "{", rest[1:]
            continue
        name, closed, after = rest.partition("}")
        if closed and "{" not in name:
            parts += [text, Placeholder(name.strip())]
            text, rest = "", after
        else:
            text += "{"
    return tuple(part for part in (*parts, text) if part)


def message_problems(rule: Rule, vocabulary: Vocabulary) -> tuple[Problem, ...]:
    """The placeholders of the rule's message that nothing is put in the place of."""
    known = {one.name for one in offered(rule, vocabulary)}
    return tuple(
        Problem(
            tr("Nothing can be put in the place of “{{{name}}}”.", name=name[:40]),
            _remedy(name, known),
            "message",
        )
        for name in _names(parts_of(getattr(rule, "message", None) or ""))
        if name not in known
    )


def of_kind(rule: Rule) -> dict[str, KindPlaceholder]:
    """The placeholders that only rules of its kind have, by name."""
    kind = CHECK_KINDS.get(rule.kind)
    return {one.name: one for one in kind.placeholders(rule)} if kind else {}


def _names(parts: Iterable[str | Placeholder]) -> list[str]:
    return [part.name for part in parts if isinstance(part, Placeholder)]


def _remedy(name: str, known: set[str]) -> str:
    near = nearest(name, known)
    if near:
        return tr("Did you mean “{{{near}}}”?", near=near)
    if key_problem(name):
        return tr("Double the brace, “{{”, to write one.")
    return tr("Use {label}, {value}, or the key of a field.")
