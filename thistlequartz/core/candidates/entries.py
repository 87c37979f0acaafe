"""Entries worth trying in a field: what the rules' own bounds, choices and texts tell apart."""

from collections.abc import Iterable, Mapping
from dataclasses import replace
from datetime import date, timedelta
from functools import cached_property

from thistlequartz.core.engines.environment import again
from thistlequartz.core.judging import CompiledForm, CompiledRule
from thistlequartz.core.language import tree
from thistlequartz.core.sweep import RecordContext, choices_of, entries_of

from .texts import texts_for

MOST_ENTRIES = 40
"""In one field; the nearest to the middle are kept."""
MOST_CHOICES = 80
MONTHS = 12
PLAIN_NUMBERS = ("1", "2")
"""Where only a formula reads a number, nought would hide what it does with it."""
UNLIKE = "Something else"
"""A second entry that differs from the first."""
DAYS_A_WEEK = 7

Seen = Mapping[str, Iterable[object]]
"""By field: entries that are known to make sense, such as those of cases and stored records."""


def conditions_of(one: CompiledRule) -> Iterable[tree.Node]:
    """Every condition that a rule asks, and every value it gives."""
    yield from one.conditions
    yield from (node for _, node in one.lowered.values)


class Candidates:
    """The entries worth trying around one record."""

    def __init__(self, around: RecordContext, seen: Seen | None = None) -> None:
        self.around = around
        self._seen = seen or {}
        self._found: dict[str, tuple[object, ...]] = {}
        self._places: dict[str, tuple[object, ...]] = {}

    @cached_property
    def _conditions(self) -> list[tree.Node]:
        program = self.around.form.program(self.around.circumstances)
        rules = (*program.checks, *program.effects)
        return [node for one in rules for node in conditions_of(one)]

    def of(self, key: str) -> tuple[object, ...]:
        """The entries for the field `key`, or for a second entry, blank last."""
        if key not in self.around.form.fields:
            return (UNLIKE, None)
        if key not in self._found:
            self._found[key] = self._look(key)
        return self._found[key]

    def _look(self, key: str) -> tuple[object, ...]:
        type_ = self.around.form.fields[key].type
        seen = [*list(self._seen.get(key, ()))[:MOST_ENTRIES], *self._of_peers(key)]
        found: list[object]
        match type_.part:
            case "length":
                found = [*texts_for(key, self._conditions), *self._lengths(key)]
            case "record":
                found = []
            case _:
                found = choices_of(type_)[:MOST_CHOICES] or list(self._ordered(key))
                if type_.part == "day":
                    found += self._days(key)
                if type_.kind == "number":
                    found += PLAIN_NUMBERS
        entries = [one for one in (*found, *seen) if one not in (None, "")]
        kept = [one for place, one in enumerate(entries) if one not in entries[:place]]
        return (*kept[:MOST_CHOICES], None)

    def _ordered(self, key: str) -> tuple[object, ...]:
        if key not in self._places:
            beside = self._beside_filled(key)
            self._places[key] = (*beside, *entries_of(self.around, key))
        return self._places[key]

    def _beside_filled(self, key: str) -> tuple[object, ...]:
        """What is worth trying where the blank fields that a formula reads beside this one hold a
        usual value, and that value first: so that two or three of them, filled together, meet.
        """
        usual = {one: self._usual(one) for one in (key, *sorted(self._read_beside(key)))}
        values = self.around.values
        blank = {one: entry for one, entry in usual.items() if values.get(one) in (None, "")}
        others = {one: entry for one, entry in blank.items() if one != key and entry is not None}
        if not others:
            return ()
        filled = replace(self.around, values={**values, **others})
        return (usual[key], *entries_of(filled, key))

    def _read_beside(self, key: str) -> set[str]:
        """The fields that some formula reads together with this one."""
        return {
            other
            for condition in self._conditions
            if key in (read := tree.fields_read(condition))
            for other in read - {key}
            if other in self.around.form.fields
        }

    def _usual(self, key: str) -> object:
        """An entry that nobody would find odd, in a field of an order; None elsewhere."""
        today = self.around.circumstances.today
        return self.around.form.fields[key].type.usual_entry(today)

    def _of_peers(self, key: str) -> list[object]:
        """What is worth trying in fields that a condition holds this one against, and something
        before it, so that either can come first.
        """
        fields = self.around.form.fields
        type_ = fields[key].type
        if not type_.is_ordered:
            return []
        peers = {
            other
            for condition in self._conditions
            for node in tree.walk(condition)
            if isinstance(node, tree.Comparison | tree.Membership)
            and key in (read := tree.fields_read(node))
            for other in read - {key}
            if type(fields[other].type) is type(type_)
        }
        found = [one for peer in sorted(peers) for one in self._ordered(peer)]
        today = self.around.circumstances.today
        if peers and type_.kind == "date":
            found += [(today - timedelta(days=days)).isoformat() for days in (DAYS_A_WEEK, 0)]
        return found

    def _days(self, key: str) -> list[object]:
        """Days of every month and of every weekday, where a rule asks for a part of the date."""
        parts = [
            node
            for condition in self._conditions
            for node in tree.walk(condition)
            if isinstance(node, tree.Path | tree.Call) and key in tree.fields_read(node)
        ]
        if not parts:
            return []
        year = self.around.circumstances.today.year - 1
        firsts = [date(year, month, 1) for month in range(1, MONTHS + 1)]
        lasts = [one - timedelta(days=1) for one in firsts]
        week = [date(year, 1, 1) + timedelta(days=days) for days in range(1, DAYS_A_WEEK)]
        return [one.isoformat() for one in (*firsts, *lasts, *week)]

    def _lengths(self, key: str) -> list[object]:
        """Texts of the lengths that a rule tells apart."""
        counted = tree.Call("string length", (tree.Field(key),))
        if not any(counted in tree.walk(node) for node in self._conditions):
            return []
        return [one for one in entries_of(self.around, key) if one != ""][:MOST_ENTRIES]


def enterable(form: CompiledForm) -> frozenset[str]:
    """The fields that people can fill in: all but the derived."""
    derived = {
        key
        for one in form.rules
        if one.part == "deriving" and one.rule.enabled
        for key in one.rule.targets
    }
    return frozenset(form.fields.keys() - derived)


def with_second_entries(form: CompiledForm, changes: Mapping[str, object]) -> dict[str, object]:
    """`changes`, with the second entries of fields that are entered twice alike."""
    seconds = {again(key): value for key, value in changes.items() if key in form.twice}
    return {**seconds, **changes}


def deciding_fields(form: CompiledForm, rules: Iterable[CompiledRule]) -> tuple[str, ...]:
    """The fields that people can fill in and that bear on what `rules` say, nearest first.

    First what the rules target or read, then what decides the state or the value of those.
    """
    sources: dict[str, set[str]] = {}
    for one in form.rules:
        if one.rule.enabled and one.is_effect and one.part != "proposing":
            for key in one.rule.targets:
                sources.setdefault(key, set()).update(set(one.reads) - {key})
    found: dict[str, None] = {}
    rules = list(rules)
    waiting = [key for one in rules for key in one.reads]
    while waiting:
        key = waiting.pop(0)
        if key not in found:
            found[key] = None
            waiting.extend(sorted(sources.get(key, ())))
    can = enterable(form)
    seconds = [
        again(key)
        for one in rules
        if one.check_kind and one.check_kind.second_entry
        for key in one.rule.targets
    ]
    return (*(key for key in found if key in can), *dict.fromkeys(seconds))
