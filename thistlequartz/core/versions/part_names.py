"""What is different in one part of a form, property by property, and a rule by its sentence."""

from collections.abc import Iterator, Mapping
from typing import Any, Final, NamedTuple, Protocol

from pydantic import TypeAdapter, ValidationError

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import FormulaError, plain
from thistlequartz.core.ruleset import Rule, lower_rule, rule_sentence
from thistlequartz.core.translation import tr

Document = Mapping[str, Any]
_RULE: TypeAdapter[Rule] = TypeAdapter(Rule)

PROPERTY_WORDS: Final[Mapping[str, str]] = {
    "name": tr("name"),
    "label": tr("label"),
    "purpose": tr("purpose"),
    "zone": tr("time zone"),
    "derived_from": tr("form that it is derived from"),
    "hint": tr("hint"),
    "placeholder": tr("example shown in the empty box"),
    "label_shown": tr("label shown"),
    "emphasis": tr("stands out"),
    "helper": tr("helper"),
    "keep": tr("value kept while not asked"),
    "type": tr("what it takes"),
    "scale": tr("digits after the point"),
    "unit_first": tr("unit before the value"),
    "grouped": tr("marks of thousands"),
    "enabled": tr("in use"),
    "why": tr("why it is there"),
    "message": tr("message"),
    "confirmation": tr("what is said of a good value"),
    "placement": tr("where it is told"),
    "hold": tr("puts the record on hold"),
    "reason_required": tr("passes only with a reason"),
    "condition": tr("condition"),
    "form": tr("form referred to"),
    "held_allowed": tr("records on hold allowed"),
}
_NAMING: Final = frozenset(
    ("section", "layouts", "targets", "changed_fields", "parts", "choice_list", "values")
)
"""Properties that name other parts by their keys."""
_MOMENTS = {"entry": tr("while typing"), "save": tr("on saving"), "submit": tr("on submitting")}
_BLANK = "nothing"
_CALLED: Final = ("name", "label", "type", "text", "purpose", "why")


class Detail(NamedTuple):
    """One property of a part, as it was and as it is; a blank text where there was none."""

    what: str
    before: str
    after: str


class PartNames(Protocol):
    """How one version of a form calls its parts."""

    @property
    def labels(self) -> Mapping[str, str]:
        """By key, what people call sections, layouts, lists and fields."""

    def sentence(self, rule: Document) -> str:
        """What a rule of it says; blank where it is unfinished."""


class FormWords:
    """The words of a form as it is, for rules that may have been written for an earlier one."""

    def __init__(self, compiled: CompiledForm) -> None:
        self._compiled = compiled
        self.labels = labels_of(compiled)
        self.names = {rule.key: rule.name for rule in compiled.form.rules}

    def sentence(self, rule: Document) -> str:
        """What the rule says in this form; blank where it cannot be said."""
        form = self._compiled
        try:
            lowered = lower_rule(_RULE.validate_python(dict(rule)), form.language)
        except (FormulaError, ValidationError):
            return ""
        return plain(rule_sentence(lowered, form.vocabulary, form.layouts))


def labels_of(compiled: CompiledForm) -> dict[str, str]:
    """By key, what people call the parts of a form that others name."""
    labels = {one.key: one.label for one in compiled.form.sections}
    labels |= {one.key: one.label for one in compiled.form.layouts}
    return labels | {key: field.label for key, field in compiled.fields.items()}


def part_details(
    part: str, before: Document | None, after: Document | None, words: PartNames
) -> tuple[Detail, ...]:
    """The same for a part that was changed, came or went; then only what it is called and says."""
    if before is not None and after is not None:
        return tuple(details(part, before, after, words, words))
    whole = before or after or {}
    said = [(tr("what it says"), words.sentence(whole))] if part == "rules" else []
    said += [
        (PROPERTY_WORDS.get(name, name), _shown(whole[name], {}))
        for name in _CALLED
        if whole.get(name)
    ]
    return tuple(
        Detail(what, text, "") if after is None else Detail(what, "", text)
        for what, text in said
        if text
    )


def details(
    part: str, before: Document, after: Document, old: PartNames, new: PartNames
) -> Iterator[Detail]:
    """What is different in one part of a form, property by property."""
    told: set[str] = set()
    if part == "rules":
        was, now = old.sentence(before), new.sentence(after)
        if was != now:
            told |= set(before) - set(PROPERTY_WORDS)
            yield Detail(tr("what it says"), was or "unfinished", now or "unfinished")
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
        was, now = before.get(moment, "none"), after.get(moment, "none")
        if was != now:
            yield Detail(words, _severity(was), _severity(now))


def _severity(severity: str) -> str:
    return tr("says nothing") if severity == "none" else f"{severity}s"


def _choices(before: list[Document], after: list[Document]) -> Iterator[Detail]:
    was, now = ({one["code"]: one for one in some} for some in (before, after))
    for code in dict.fromkeys((*was, *now)):
        left, right = (_choice(some.get(code)) for some in (was, now))
        if left != right:
            yield Detail("choice", left, right)
    if [code for code in was if code in now] != [code for code in now if code in was]:
        order = (", ".join(one["label"] for one in some) for some in (before, after))
        yield Detail(tr("order of the choices"), *order)


def _choice(choice: Document | None) -> str:
    if choice is None:
        return ""
    label = str(choice["label"])
    return f"{label} (retired)" if choice["retired"] else label


def _shown(value: Any, labels: Mapping[str, str]) -> str:
    match value:
        case None | "" | [] | {}:
            return _BLANK
        case bool():
            return tr("yes") if value else tr("no")
        case str():
            return labels.get(value, value)
        case dict():
            return "; ".join(f"{labels.get(k, k)}: {_shown(one, {})}" for k, one in value.items())
        case list():
            return ", ".join(_shown(one, labels) for one in value)
        case _:
            return str(value)
