"""The words in which a form speaks: of the wrong field, misspelt, or scolding."""

import re
from collections import Counter
from collections.abc import Iterator
from functools import cache
from typing import Any, Final

from spellchecker import SpellChecker

from .finding import Finding
from .looking import Look

_WORD: Final = re.compile(r"[A-Za-zÀ-ÿ]+(?:['’][a-z]+)?")
_SHORTEST: Final = 5
_SHORTEST_LABEL: Final = 4
_SURE: Final = 1e-7
"""How common what was probably meant has to be, as a share of all words."""
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


def another_field(look: Look) -> Iterator[Finding]:
    """F16: a message, name or reason speaks of another field than the rule tests."""
    labels = {key: declared.label for key, declared in look.form.fields.items()}
    for one in look.rules:
        own = {*one.rule.targets, *one.judged_by, *(key for key, _ in one.lowered.values)}
        around = own | set(one.reads)
        for name in ("message", "name", "why"):
            text = getattr(look.form.written[one.rule.key], name, None) or ""
            spoken = _spoken_of(text, labels)
            strange = [key for key in spoken if key not in around]
            if strange and not set(spoken) & own and not _speaks_of(text, own, labels):
                where = {"message": "message", "name": "name"}.get(name, "reason")
                yield Finding(
                    "F16",
                    "doubtful",
                    f"The {where} of {look.name(one.rule.key)} speaks of"
                    f" {look.labels(tuple(strange[:1]))}, and the rule is about"
                    f" {look.labels(tuple(one.rule.targets))}.",
                    f"Mend the {where}, or what the rule is about.",
                    (one.rule.key,),
                    (strange[0], *one.rule.targets),
                )
                break
        else:
            look.nothing("F16")


def _speaks_of(text: str, own: set[str], labels: dict[str, str]) -> bool:
    """Whether a word of one of the fields' labels stands in a text."""
    said = {word.casefold() for word in _WORD.findall(text)}
    words = {word.casefold() for key in own for word in _WORD.findall(labels.get(key, ""))}
    return any(len(word) >= _SHORTEST_LABEL and word in said for word in words)


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


def misspelt(look: Look) -> Iterator[Finding]:
    """F30: misspelt or scolding labels, hints and messages."""
    texts = list(_texts(look))
    own = Counter(word.casefold() for _, _, text in texts for word in _WORD.findall(text))
    for rules, fields, text in texts:
        for word in _WORD.findall(text):
            meant = _meant(word, own)
            if meant is not None:
                yield Finding(
                    "F30", "doubtful",
                    f"“{word}” in “{text}” is perhaps misspelt: “{meant}” may be meant.",
                    "Mend the word, or set this aside.", rules, fields,
                )  # fmt: skip
                break
    for one in look.rules:
        message = getattr(one.rule, "message", None) or ""
        found = _SCOLDING.search(message)
        if found:
            yield Finding(
                "F30", "doubtful",
                f"The message of {look.name(one.rule.key)} scolds: “{found.group()}”.",
                "Say what to do instead: which value is wanted, and where.",
                (one.rule.key,), tuple(one.rule.targets),
            )  # fmt: skip


def _texts(look: Look) -> Iterator[tuple[tuple[str, ...], tuple[str, ...], str]]:
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
