"""Every message of the product, read against docs/glossary.md: one word, one thing."""

import json
import re
from pathlib import Path

import pytest
from babel.messages.pofile import read_po

from scripts.collect_texts import TEMPLATE

ROOT = Path(__file__).resolve().parents[2]


def forbidden() -> dict[str, str]:
    """By word that is not used: the word that is."""
    rows = re.findall(
        r"^\| .+? \| (.+?) \| .+? \| (.+?) \|$", (ROOT / "docs/glossary.md").read_text(), re.M
    )
    return {word: row[0] for row in rows if row[1] != "not" for word in row[1].split(", ")}


def catalogue() -> list[tuple[str, str]]:
    """The texts of the core and the server, then of the screens, with the files they stand in."""
    messages = []
    for one in read_po(TEMPLATE.open("rb")):
        texts = one.id if isinstance(one.id, tuple) else (one.id,)
        messages += [(one.locations[0][0], text) for text in texts[-1:] if text]
        COUNTED.update(texts[1:])
    for path in sorted((ROOT / "web/src/words/en").glob("*.json")):
        messages += [(path.name, one) for one in json.loads(path.read_text()).values()]
    return messages


COUNTED: set[str] = set()
"""Plurals that have a singular beside them."""
CATALOGUE = catalogue()


def test_the_catalogue_has_the_messages_of_both_sides():
    said = {message for _, message in CATALOGUE}
    assert any("Correct what is named at the fields" in one for one in said)
    assert any("Nothing visible changed" in one for one in said)
    assert len(said) > 1_500


@pytest.mark.parametrize("word", forbidden())
def test_one_word_stands_for_one_thing(word):
    pattern = re.compile(rf"(?<![\w_.-]){re.escape(word)}(?![\w_-])", re.I)
    found = [f"{place}: {message}" for place, message in CATALOGUE if pattern.search(message)]
    assert found == [], f"say “{forbidden()[word]}”"


def test_plurals_are_counted_and_not_guessed():
    """“1 rules”: a number in front of a plural that is always the same."""
    guessed = re.compile(
        r"\$?\{[^}]*(?:length|total|size|count)\} (?:rules|records|cases|fields|rows|choices)\b"
    )
    said = [one for one in CATALOGUE if one[1] not in COUNTED]
    assert [one for one in said if guessed.search(one[1])] == []
