"""The words in which a form speaks: of the wrong field, misspelt, or scolding."""

import re
from collections import Counter
from collections.abc import Iterator
from functools import cache
from typing import Any, Final

from spellchecker import SpellChecker

from thistlequartz.core.judging import CompiledRule
from thistlequartz.core.ruleset.placeholders import parts_of
from thistlequartz.core.translation import LAST, tr
from thistlequartz.core.types import Choice
from thistlequartz.core.values import folded

from .context import SearchContext
from .finding import Finding

_WORD: Final = re.compile(r"[A-Za-zÀ-ÿ]+(?:['’][a-z]+)?")
_SHORTEST: Final = 5
_SHORTEST_LABEL: Final = 4
_SURE: Final = 1e-7
"""How common what was probably meant has to be, as a share of all words."""
_TEXTS: Final = {
    "message": "message", "name": "name", "why": "reason", "explanation": "explanation",
    "title": "title",
}  # fmt: skip
_COMPARED: Final = re.compile(
    r"\b(?:before|after|than|earlier than|later than|equals?|same as|exceeds?|at (?:least|most)|"
    r"up to|with|from|until)\s+(?:the |its |their |of )?[“\"']?\Z",
    re.IGNORECASE,
)
"""What stands before a field that another is held against."""
_BRITISH: Final = (
    ("our", "or"), ("ise", "ize"), ("isa", "iza"), ("yse", "yze"), ("tre", "ter"), ("ogue", "og"),
    ("ence", "ense"), ("ll", "l"), ("ae", "e"), ("oe", "e"), ("gement", "gment"), ("mme", "m"),
    ("isi", "izi"), ("grey", "gray"), ("mould", "mold"), ("eque", "eck"),
)  # fmt: skip
_SCOLDING: Final = re.compile(
    r"\b(invalid|illegal|wrong|bad|stupid|forbidden|failed|failure|error|incorrect|fatal|"
    r"abort(?:ed)?|you must|must not|cannot be empty|nonsense|obviously)\b|!",
    re.IGNORECASE,
)


def another_field(look: SearchContext) -> Iterator[Finding]:
    """F16: a message, name or reason speaks of another field than the rule tests."""
    labels = {key: declared.label for key, declared in look.form.fields.items()}
    for one in look.rules:
        own = {*one.rule.targets, *one.judged_by, *(key for key, _ in one.lowered.values)}
        around = look.behind(own | set(one.reads))
        strange = {
            where: key
            for where, text in _texts_of(look, one)
            if (key := _strange_in(text, own, around, labels)) is not None
        }
        if not strange:
            look.nothing("F16")
            continue
        told = [
            tr("the {where} speaks of {label}", where=where, label=look.label(key))
            for where, key in strange.items()
        ]
        yield Finding(
            "F16",
            "doubtful",
            tr(
                "Of {name} {texts}, and the rule is about {fields}.",
                name=look.name(one.rule.key),
                texts=LAST["and"].join(told),
                fields=look.labels(tuple(one.rule.targets)),
            ),
            tr("Correct the text, or what the rule is about."),
            (one.rule.key,),
            (*dict.fromkeys(strange.values()), *one.rule.targets),
        )


def _texts_of(look: SearchContext, one: CompiledRule) -> Iterator[tuple[str, str]]:
    """The texts of a rule that somebody wrote, by what people call them. A placeholder stands for
    the field that fills it.
    """
    written = look.form.written[one.rule.key]
    for name, where in _TEXTS.items():
        parts = parts_of(getattr(written, name, None) or "")
        said = (part if isinstance(part, str) else look.label(part.name) for part in parts)
        if text := "".join(said):
            yield where, text


def _strange_in(text: str, own: set[str], around: set[str], labels: dict[str, str]) -> str | None:
    """A field that a text speaks of as if it were tested: one that the rule does not read, where
    the text speaks of none that it tests, or holds what it tests against the other.
    """
    spoken = _spoken_of(text, labels)
    strange = [key for key in spoken if key not in around]
    if not strange:
        return None
    if not set(spoken) & own and not _speaks_of(text, own, labels, strange):
        return strange[0]
    compared = (key for key in strange if _COMPARED.search(text[: _place_of(text, labels[key])]))
    return next(compared, None)


def _place_of(text: str, label: str) -> int:
    return max(text.casefold().find(label.casefold()), 0)


def _speaks_of(text: str, own: set[str], labels: dict[str, str], strange: list[str]) -> bool:
    """Whether a word of one of the fields' labels stands in a text. A word that both share does not
    count where the text has the whole label of the strange one, of several words, as it is written.
    """

    def words(some: str) -> set[str]:
        return {word.casefold() for word in _WORD.findall(some) if len(word) >= _SHORTEST_LABEL}

    mine = {word for key in own for word in words(labels.get(key, ""))}
    for label in (labels[key] for key in strange):
        if " " in label and label in text:
            mine -= words(label)
    return bool(mine & words(text))


def _spoken_of(text: str, labels: dict[str, str]) -> list[str]:
    """The fields whose labels stand in a text, the longest first; what stood for one of them does
    not stand for another.
    """
    left, found = text.casefold(), []
    for key, label in sorted(labels.items(), key=lambda item: -len(item[1])):
        said = label.casefold()
        if len(said) < _SHORTEST_LABEL:
            continue
        pattern = re.compile(rf"(?<!\w){re.escape(said)}(?!\w)")
        if pattern.search(left):
            found.append(key)
            left = pattern.sub(" ", left)
    return found


def choices_alike(look: SearchContext) -> Iterator[Finding]:
    """F38: choices of a field that read alike.

    A label is the code of another, or two labels differ in capitals alone.
    """
    for key, declared in look.form.fields.items():
        choices = getattr(declared.type, "choices", ())
        codes = {one.code: one for one in choices}
        folds: dict[str, list[Choice]] = {}
        for one in choices:
            folds.setdefault(folded(one.label), []).append(one)
        said = [
            tr(
                "“{label}” is read as {other}, whose code it is",
                label=one.label,
                other=codes[one.label].label,
            )
            for one in choices
            if one.label in codes and codes[one.label] is not one
        ]
        said += [
            tr(
                "{choices} differ in capitals alone",
                choices=LAST["and"].join(f"“{one.label}”" for one in some),
            )
            for some in folds.values()
            if len(some) > 1
        ]
        if said:
            yield Finding(
                "F38",
                "doubtful",
                tr(
                    "Of the choices of {field} not all are told apart where people write them, "
                    "as in a file: {doubles}.",
                    field=look.label(key),
                    doubles="; ".join(said),
                ),
                tr("Give one of them another label, or another code."),
                (),
                (key,),
            )
        elif choices:
            look.nothing("F38")


def misspelt(look: SearchContext) -> Iterator[Finding]:
    """F30: misspelt or scolding labels, hints and messages."""
    texts = list(_texts(look))
    own = Counter(word.casefold() for _, _, text in texts for word in _WORD.findall(text))
    for rules, fields, text in texts:
        for word in _WORD.findall(text):
            meant = _meant(word, own)
            if meant is not None:
                yield Finding(
                    "F30",
                    "doubtful",
                    tr(
                        "“{word}” in “{text}” is perhaps misspelt: “{meant}” may be meant.",
                        word=word,
                        text=text,
                        meant=meant,
                    ),
                    tr("Correct the word, or dismiss this."),
                    rules,
                    fields,
                )
                break
    for one in look.rules:
        message = getattr(one.rule, "message", None) or ""
        found = _SCOLDING.search(message)
        if found:
            yield Finding(
                "F30",
                "doubtful",
                tr(
                    "The message of {name} scolds: “{group}”.",
                    name=look.name(one.rule.key),
                    group=found.group(),
                ),
                tr("Say what to do instead: which value is wanted, and where."),
                (one.rule.key,),
                tuple(one.rule.targets),
            )


def _texts(look: SearchContext) -> Iterator[tuple[tuple[str, ...], tuple[str, ...], str]]:
    for field in look.form.form.fields:
        for text in (field.label, field.hint, field.placeholder):
            if text:
                yield (), (field.key,), text
    for one in look.rules:
        written = look.form.written[one.rule.key]
        for name in ("name", "message", "title", "explanation", "why"):
            said: str = getattr(written, name, None) or ""
            if said:
                yield (one.rule.key,), tuple(one.rule.targets), said


def _meant(word: str, own: Counter[str]) -> str | None:
    """What was probably meant by a word that no dictionary has; None where it may be right."""
    bare = word.casefold().replace("’", "'").removesuffix("'s").rstrip("'")
    if len(bare) < _SHORTEST or own[word.casefold()] > 1 or word[1:] != word[1:].lower():
        return None
    if not bare.isascii() or _is_word(bare):
        return None
    speller = _speller()
    near = [one for one in speller.known(speller.edit_distance_1(bare)) if one != bare]
    likely: str | None = max(near, key=speller.word_usage_frequency, default=None)
    if likely is None or speller.word_usage_frequency(likely) < _SURE:
        return None
    return likely


def _is_word(word: str) -> bool:
    speller = _speller()
    forms = {word}
    for british, american in _BRITISH:
        forms |= {one.replace(british, american) for one in set(forms) if british in one}
    for ending in ("s", "es", "ed", "d", "ing", "ly", "er", "ers", "able", "al", "ally", "ness"):
        forms |= {one.removesuffix(ending) for one in set(forms) if len(one) > len(ending) + 3}
        forms |= {f"{one.removesuffix(ending)}e" for one in set(forms) if one.endswith(ending)}
    return bool(speller.known(forms))


@cache
def _speller() -> Any:
    return SpellChecker(language="en", distance=1)
