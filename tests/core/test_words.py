"""Every message of the product, read against docs/glossary.md: one word, one thing."""

import ast
import json
import re
from collections.abc import Iterator
from pathlib import Path

import pytest

ROOT = Path(__file__).resolve().parents[2]
PYTHON = ("thistlequartz/core", "thistlequartz/server", "thistlequartz/samples")


def forbidden() -> dict[str, str]:
    """By word that is not used: the word that is."""
    rows = re.findall(
        r"^\| .+? \| (.+?) \| .+? \| (.+?) \|$", (ROOT / "docs/glossary.md").read_text(), re.M
    )
    return {word: row[0] for row in rows if row[1] != "not" for word in row[1].split(", ")}


def prose_of_python(source: str) -> Iterator[str]:
    """The texts in a module that have a space in them, and are no documentation."""
    tree = ast.parse(source)
    documentation = {
        id(node.value)
        for node in ast.walk(tree)
        if isinstance(node, ast.Expr) and isinstance(node.value, ast.Constant)
    }
    for node in ast.walk(tree):
        text = node.value if isinstance(node, ast.Constant) else None
        if isinstance(text, str) and " " in text and id(node) not in documentation:
            yield text


def catalogue() -> list[tuple[str, str]]:
    messages = []
    for folder in PYTHON:
        for path in sorted((ROOT / folder).rglob("*.py")):
            if "migrations" not in path.parts:
                messages += [(path.name, one) for one in prose_of_python(path.read_text())]
    for path in sorted((ROOT / "web/src/words/en").glob("*.json")):
        messages += [(path.name, one) for one in json.loads(path.read_text()).values()]
    return messages


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
    assert [one for one in CATALOGUE if guessed.search(one[1])] == []
