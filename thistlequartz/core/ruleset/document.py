"""The documents: immutable, complete in themselves, and readable as JSON.

Formulas and conditions stand in them as FEEL text. A document that breaks the shape given here
is refused with the place of each fault; whether its formulas make sense is asked of `lowering`.
"""

from typing import Annotated, Any, Literal, Self

from pydantic import AfterValidator, model_validator
from pydantic import Field as Setting

from thistlequartz.core.documents import (
    MAX_TARGETS,
    Clean,
    Document,
    Formula,
    Key,
    Label,
    Prose,
    refuse_same_keys,
)
from thistlequartz.core.formats import time_zones
from thistlequartz.core.kinds import Rule
from thistlequartz.core.translation import tr

from .fields import ChoiceList, Field
from .upgrading import upgraded_ruleset

MAX_FIELDS = 500
MAX_RULES = 5_000
MAX_CONDITIONS = 500
MAX_FORMS = 200


def _known_zone(zone: str) -> str:
    if zone not in time_zones():
        raise ValueError(
            tr("“{zone}” is not an IANA time zone: write one such as Europe/Paris.", zone=zone[:60])
        )
    return zone


class Section(Document):
    """A part of a form with a heading and a state of its own."""

    key: Key
    label: Label


class Layout(Document):
    """One way of laying the form out: at the desk, on a hand-held, say."""

    key: Key
    label: Label


class Compound(Document):
    """Fields that are asked as one: a name in its parts."""

    key: Key
    label: Label
    parts: Annotated[tuple[Key, ...], Setting(min_length=2, max_length=20)]


class NamedCondition(Document):
    """A condition that several rules share, called by its key."""

    key: Key
    name: Label
    condition: Formula


class Starter(Document):
    """A set of values that fills several fields of a new record at once."""

    key: Key
    label: Label
    values: Annotated[dict[Key, str], Setting(min_length=1, max_length=MAX_TARGETS)]
    """By field, as people type them."""


class Form(Document):
    """What is asked, and what must hold."""

    key: Key
    name: Label
    purpose: Prose = ""
    zone: Annotated[str, Clean, AfterValidator(_known_zone)] = "UTC"
    """The IANA zone in which `today` and the days of date-times are taken."""
    derived_from: Key | None = None
    """Another form of the RuleSet, whose fields come first and whose shared rules count here."""
    sections: Annotated[tuple[Section, ...], Setting(max_length=100)] = ()
    layouts: Annotated[tuple[Layout, ...], Setting(max_length=50)] = ()
    compounds: Annotated[tuple[Compound, ...], Setting(max_length=100)] = ()
    fields: Annotated[tuple[Field, ...], Setting(max_length=MAX_FIELDS)] = ()
    conditions: Annotated[tuple[NamedCondition, ...], Setting(max_length=MAX_CONDITIONS)] = ()
    starters: Annotated[tuple[Starter, ...], Setting(max_length=100)] = ()
    rules: Annotated[tuple[Rule, ...], Setting(max_length=MAX_RULES)] = ()

    def referred_forms(self) -> set[str]:
        """Return the forms whose records its fields refer to, by key."""
        types = (one.value_type(self.zone) for one in self.fields)
        return {form for one in types if (form := one.referred_form)}

    @model_validator(mode="after")
    def _keys_differ(self) -> Self:
        refuse_same_keys("section", self.sections)
        refuse_same_keys("layout", self.layouts)
        refuse_same_keys("compound", self.compounds)
        refuse_same_keys("starter", self.starters)
        refuse_same_keys("rule", self.rules)
        refuse_same_keys("field", self.fields)
        refuse_same_keys(tr("field or named condition"), (*self.fields, *self.conditions))
        return self


class RuleSet(Document):
    """One or more forms, as they are released or exchanged."""

    version: Literal[2] = 2
    """The version of the format; documents of version 1 are upgraded as they are read."""
    choice_lists: Annotated[tuple[ChoiceList, ...], Setting(max_length=200)] = ()
    forms: Annotated[tuple[Form, ...], Setting(min_length=1, max_length=MAX_FORMS)]

    @model_validator(mode="before")
    @classmethod
    def _upgraded(cls, document: Any) -> Any:
        return upgraded_ruleset(document)

    @model_validator(mode="after")
    def _keys_differ(self) -> Self:
        refuse_same_keys("form", self.forms)
        refuse_same_keys(tr("list of choices"), self.choice_lists)
        return self

    def form(self, key: str) -> Form:
        """The form with `key`, as written; raises KeyError where there is none."""
        for form in self.forms:
            if form.key == key:
                return form
        raise KeyError(key)
