"""What is different between two versions of a form, in words and as a change that can be applied.

The two are RuleSets, as they are released; what other forms in them say does not count. Applied to
the first, a revision gives the second, exactly.
"""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass
from typing import Any, Final, Literal, NamedTuple

from thistlequartz.core.judging import CompiledForm, compile_ruleset
from thistlequartz.core.language import plain
from thistlequartz.core.ruleset import Form, RuleSet, rule_sentence

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
Act = Literal["added", "taken out", "changed", "in another order"]
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

PROPERTY_WORDS: Final[Mapping[str, str]] = {
    "name": "name",
    "label": "label",
    "purpose": "purpose",
    "zone": "time zone",
    "derived_from": "form that it is derived from",
    "hint": "hint",
    "placeholder": "example shown in the empty box",
    "label_shown": "label shown",
    "emphasis": "stands out",
    "helper": "helper",
    "keep": "value kept while not asked",
    "type": "what it takes",
    "scale": "digits after the point",
    "unit_first": "unit before the value",
    "grouped": "marks of thousands",
    "on": "in use",
    "why": "why there is this rule",
    "message": "message",
    "acknowledged": "what is said of a good value",
    "placement": "where it is told",
    "hold": "puts the record on hold",
    "reason_demanded": "passes only with a reason",
    "condition": "condition",
    "form": "form referred to",
    "held_allowed": "records on hold allowed",
}
_NAMING: Final = frozenset(
    ("section", "layouts", "targets", "changed_fields", "parts", "choice_list", "values")
)
"""Properties that name other parts by their keys."""
_MOMENTS = {"entry": "while typing", "save": "on saving", "submit": "on submitting"}
_BLANK = "nothing"


class Detail(NamedTuple):
    """One property of a part, as it was and as it is; a blank text where there was none."""

    what: str
    before: str
    after: str


@dataclass(frozen=True, slots=True)
class Change:
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


def revision(before: RuleSet, after: RuleSet, key: str) -> tuple[Change, ...]:
    """What is different in the form with this key, in the order in which a form is set up."""
    old, new = _Version(before, key), _Version(after, key)
    parts: tuple[Part, ...] = ("choice_lists", *_LISTED)
    return (
        *_settings(old, new),
        *(change for part in parts for change in _listed(part, old, new)),
    )


def apply(changes: Iterable[Change], document: RuleSet, key: str) -> RuleSet:
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


def _applied(change: Change, parts: list[_Document]) -> list[_Document]:
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
        self.labels = {one.key: one.label for one in self.form.sections}
        self.labels |= {one.key: one.label for one in self.form.layouts}
        self.labels |= {one.key: one.label for one in ruleset.choice_lists}
        self.labels |= {name: field.label for name, field in self.compiled.fields.items()}

    def parts(self, part: Part) -> dict[str, _Document]:
        """The parts of one kind as documents, by key, in their order."""
        owner = self.ruleset if part == "choice_lists" else self.form
        return {one.key: one.model_dump(mode="json") for one in getattr(owner, part)}

    def name(self, part: Part, document: _Document) -> str:
        """What people call a part."""
        key = str(document["key"])
        if part == "rules":
            return str(document["name"] or self.names.get(key) or "Unfinished rule")
        return str(document.get("label") or document.get("name") or key)


def _settings(old: _Version, new: _Version) -> Iterator[Change]:
    named = [name for name in Form.model_fields if name not in (*_LISTED, "key")]
    before = old.form.model_dump(mode="json", include=set(named))
    after = new.form.model_dump(mode="json", include=set(named))
    if before != after:
        details = tuple(_details("form", before, after, old, new))
        yield Change("form", "changed", new.form.key, new.form.name, "", details, before, after)


def _listed(part: Part, old: _Version, new: _Version) -> Iterator[Change]:
    before, after = old.parts(part), new.parts(part)
    for key, document in before.items():
        if key not in after:
            says = old.sentences.get(key, "") if part == "rules" else ""
            name = old.name(part, document)
            yield Change(part, "taken out", key, name, says, (), document, None)
    for key, document in after.items():
        name = new.name(part, document)
        says = new.sentences.get(key, "") if part == "rules" else ""
        if key not in before:
            yield Change(part, "added", key, name, says, (), None, document)
        elif before[key] != document:
            details = tuple(_details(part, before[key], document, old, new))
            yield Change(part, "changed", key, name, says, details, before[key], document)
    stayed = [key for key in before if key in after]
    made = [*stayed, *(key for key in after if key not in before)]
    if made != list(after):
        moved = stayed != [key for key in after if key in before]
        name = part.replace("_", " ")
        details = (Detail("order", "", ""),) if moved else ()
        yield Change(part, "in another order", "", name, "", details, None, None, tuple(after))


def _details(
    part: Part, before: _Document, after: _Document, old: _Version, new: _Version
) -> Iterator[Detail]:
    told: set[str] = set()
    if part == "rules":
        key = str(after["key"])
        was, now = old.sentences.get(key, ""), new.sentences.get(key, "")
        if was != now:
            told |= set(before) - set(PROPERTY_WORDS)
            yield Detail("what it says", was or "unfinished", now or "unfinished")
        if before.get("severity") != after.get("severity"):
            yield from _severities(before.get("severity") or {}, after.get("severity") or {})
        told.add("severity")
    if before.get("choices") != after.get("choices"):
        yield from _choices(before.get("choices") or [], after.get("choices") or [])
        told.add("choices")
    for name in dict.fromkeys((*before, *after)):
        left, right = before.get(name), after.get(name)
        if name in told or left == right:
            continue
        what = PROPERTY_WORDS.get(name, name.replace("_", " "))
        shown = (
            _shown(value, version.labels if name in _NAMING else {})
            for value, version in ((left, old), (right, new))
        )
        yield Detail(what, *shown)


def _severities(before: Mapping[str, str], after: Mapping[str, str]) -> Iterator[Detail]:
    for moment, words in _MOMENTS.items():
        was, now = before.get(moment, "off"), after.get(moment, "off")
        if was != now:
            yield Detail(words, _severity(was), _severity(now))


def _severity(severity: str) -> str:
    return "says nothing" if severity == "off" else f"{severity}s"


def _choices(before: list[_Document], after: list[_Document]) -> Iterator[Detail]:
    was, now = ({one["code"]: one for one in some} for some in (before, after))
    for code in dict.fromkeys((*was, *now)):
        left, right = (_choice(some.get(code)) for some in (was, now))
        if left != right:
            yield Detail("choice", left, right)
    if [code for code in was if code in now] != [code for code in now if code in was]:
        order = (", ".join(one["label"] for one in some) for some in (before, after))
        yield Detail("order of the choices", *order)


def _choice(choice: _Document | None) -> str:
    if choice is None:
        return ""
    label = str(choice["label"])
    return f"{label} (retired)" if choice["retired"] else label


def _shown(value: Any, labels: Mapping[str, str]) -> str:
    match value:
        case None | "" | [] | {}:
            return _BLANK
        case bool():
            return "yes" if value else "no"
        case str():
            return labels.get(value, value)
        case dict():
            return "; ".join(f"{labels.get(k, k)}: {_shown(one, {})}" for k, one in value.items())
        case list():
            return ", ".join(_shown(one, labels) for one in value)
        case _:
            return str(value)
