"""Messages: what people are told, with placeholders filled from the record."""

from collections.abc import Callable
from dataclasses import dataclass

from thistlequartz.core.engines.environment import TODAY as THE_DAY
from thistlequartz.core.engines.environment import Environment
from thistlequartz.core.engines.traced import interpret
from thistlequartz.core.functions.operations import UNREADABLE
from thistlequartz.core.kinds import KindPlaceholder
from thistlequartz.core.language import Vocabulary
from thistlequartz.core.ruleset import Check, Rule
from thistlequartz.core.ruleset.placeholders import (
    LABEL,
    TODAY,
    VALUE,
    Placeholder,
    of_kind,
    parts_of,
)
from thistlequartz.core.translation import listed, tr
from thistlequartz.core.types import show_value

Filler = Callable[[Environment], str]


@dataclass(frozen=True, slots=True)
class Message:
    """What people are told, and the fields it belongs to."""

    text: str
    fields: tuple[str, ...]


def filler(rule: Rule, check: Check, message: str, vocabulary: Vocabulary) -> Filler | None:
    """What fills the message from a record, or None where it is always the same."""
    parts = parts_of(message)
    if not any(isinstance(part, Placeholder) for part in parts):
        return None
    fillers = [
        _part(part.name, rule, check, vocabulary) if isinstance(part, Placeholder) else _text(part)
        for part in parts
    ]
    return lambda environment: "".join(one(environment) for one in fillers)


def plain_message(message: str) -> str:
    """A message without placeholders as people read it: each doubled brace is one."""
    return "".join(part for part in parts_of(message) if isinstance(part, str))


def _text(text: str) -> Filler:
    return lambda environment: text


def _part(name: str, rule: Rule, check: Check, vocabulary: Vocabulary) -> Filler:
    of_its_kind = of_kind(rule)
    match name:
        case _ if name == LABEL:
            return _text(listed(vocabulary[key].label for key in check.targets))
        case _ if name == VALUE:
            return _value(check.targets[0], vocabulary)
        case _ if name == TODAY:
            return lambda environment: show_value(environment[THE_DAY])
        case _ if name in of_its_kind:
            return _bound(of_its_kind[name], rule, check, vocabulary)
        case _ if name in vocabulary and not vocabulary[name].condition:
            return _value(name, vocabulary)
        case _:
            return _text(f"{{{name}}}")


def _value(key: str, vocabulary: Vocabulary) -> Filler:
    type_ = vocabulary[key].type

    def fill(environment: Environment) -> str:
        value = environment[key]
        return tr("unreadable") if value is UNREADABLE else show_value(value, type_)

    return fill


def _bound(
    placeholder: KindPlaceholder, rule: Rule, check: Check, vocabulary: Vocabulary
) -> Filler:
    node = placeholder.bound(check)
    if node is None:
        return _text(f"{{{placeholder.name}}}")
    bound = interpret(node)
    type_ = placeholder.shown_as(rule, vocabulary[check.targets[0]].type)

    def fill(environment: Environment) -> str:
        value = bound(environment)
        return tr("unreadable") if value is UNREADABLE else show_value(value, type_)

    return fill
