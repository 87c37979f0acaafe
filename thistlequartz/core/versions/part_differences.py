"""Differences between two versions of a form, in words and as changes to apply.

The two are RuleSets, as they are released; what other forms in them say does not count. Applied to
the first, a revision gives the second, exactly.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final, Literal

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.language import plain
from thistlequartz.core.ruleset import Form, RuleSet, rule_sentence
from thistlequartz.core.translation import tr

from .part_names import Detail, details, labels_of

Part = Literal[
    "form",
    "choice_lists",
    "sections",
    "layouts",
    "compounds",
    "fields",
    "conditions",
    "starters",
    "rules",
]
Act = Literal["added", "removed", "changed", "in another order"]
_LISTED: Final[tuple[Part, ...]] = (
    "sections",
    "layouts",
    "compounds",
    "fields",
    "conditions",
    "starters",
    "rules",
)
_Document = dict[str, Any]


@dataclass(frozen=True, slots=True)
class PartDifference:
    """What became of one part of the form, or of the order of its parts."""

    part: Part
    act: Act
    key: str
    name: str
    """What people call it."""
    says: str
    """Of a rule its sentence, as it is now or was."""
    details: tuple[Detail, ...]
    before: _Document | None
    after: _Document | None
    order: tuple[str, ...] = ()
    """The keys of all parts as they follow now, where that is not said by what came and went."""


def revision(before: RuleSet, after: RuleSet, key: str) -> tuple[PartDifference, ...]:
    """What is different in the form with this key, in the order in which a form is set up."""
    old, new = _Version(before, key), _Version(after, key)
    parts: tuple[Part, ...] = ("choice_lists", *_LISTED)
    return (
        *_settings(old, new),
        *(change for part in parts for change in _listed(part, old, new)),
    )


def apply(changes: Iterable[PartDifference], document: RuleSet, key: str) -> RuleSet:
    """The RuleSet with the changes made in its form with this key."""
    whole = document.model_dump(mode="json")
    form = next(one for one in whole["forms"] if one["key"] == key)
    for change in changes:
        if change.part == "form":
            form.update(change.after or {})
            continue
        holder = whole if change.part == "choice_lists" else form
        holder[change.part] = _applied(change, holder[change.part])
    return RuleSet.model_validate(whole)


def _applied(change: PartDifference, parts: list[_Document]) -> list[_Document]:
    if change.act == "in another order":
        by_key = {one["key"]: one for one in parts}
        return [by_key[one] for one in change.order]
    if change.before is None:
        assert change.after is not None
        return [*parts, change.after]
    if change.after is None:
        return [one for one in parts if one["key"] != change.key]
    return [change.after if one["key"] == change.key else one for one in parts]


class _Version:
    """One of the two, with the words for its parts."""

    def __init__(self, ruleset: RuleSet, key: str) -> None:
        self.ruleset = ruleset
        self.form: Form = ruleset.form(key)
        self.compiled: CompiledForm = compile_ruleset(ruleset, form=key)
        self.sentences = {
            one.rule.key: plain(
                rule_sentence(one.lowered, self.compiled.vocabulary, self.compiled.layouts)
            )
            for one in self.compiled.rules
        }
        self.names = {one.rule.key: one.rule.name for one in self.compiled.rules}
        self.labels = {one.key: one.label for one in ruleset.choice_lists}
        self.labels |= labels_of(self.compiled)

    def sentence(self, rule: Mapping[str, Any]) -> str:
        """What a rule of it says; blank where it is unfinished."""
        return self.sentences.get(str(rule["key"]), "")

    def parts(self, part: Part) -> dict[str, _Document]:
        """The parts of one kind as documents, by key, in their order."""
        owner = self.ruleset if part == "choice_lists" else self.form
        return {one.key: one.model_dump(mode="json") for one in getattr(owner, part)}

    def name(self, part: Part, document: _Document) -> str:
        """What people call a part."""
        key = str(document["key"])
        if part == "rules":
            return str(document["name"] or self.names.get(key) or tr("Unfinished rule"))
        return str(document.get("label") or document.get("name") or key)


def _settings(old: _Version, new: _Version) -> Iterator[PartDifference]:
    named = [name for name in Form.model_fields if name not in (*_LISTED, "key")]
    before = old.form.model_dump(mode="json", include=set(named))
    after = new.form.model_dump(mode="json", include=set(named))
    if before != after:
        told = tuple(details("form", before, after, old, new))
        yield PartDifference(
            "form", "changed", new.form.key, new.form.name, "", told, before, after
        )


def _listed(part: Part, old: _Version, new: _Version) -> Iterator[PartDifference]:
    before, after = old.parts(part), new.parts(part)
    for key, document in before.items():
        if key not in after:
            says = old.sentences.get(key, "") if part == "rules" else ""
            name = old.name(part, document)
            yield PartDifference(part, "removed", key, name, says, (), document, None)
    for key, document in after.items():
        name = new.name(part, document)
        says = new.sentences.get(key, "") if part == "rules" else ""
        if key not in before:
            yield PartDifference(part, "added", key, name, says, (), None, document)
        elif before[key] != document:
            told = tuple(details(part, before[key], document, old, new))
            yield PartDifference(part, "changed", key, name, says, told, before[key], document)
    stayed = [key for key in before if key in after]
    made = [*stayed, *(key for key in after if key not in before)]
    if made != list(after):
        moved = stayed != [key for key in after if key in before]
        name = part.replace("_", " ")
        told = (Detail("order", "", ""),) if moved else ()
        yield PartDifference(part, "in another order", "", name, "", told, None, None, tuple(after))
