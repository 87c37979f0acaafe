"""Another language comes as a catalogue, and no text of the product stays behind in English.

The catalogue is read, written and compiled by Babel; the other language is made by the test, by
turning each letter of each text into one that no English text has.
"""

import ast
import json
import os
import re
import subprocess
import sys
from collections.abc import Iterator
from string import Formatter
from typing import Any

import pytest
from babel.messages.mofile import write_mo

from scripts.collect_texts import ROOT, TEMPLATE, collected, written

LETTERS = str.maketrans(
    "abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ",
    "абцдефгхийклмнопярстувщхызАБЦДЕФГХИЙКЛМНОПЯРСТУВЩХЫЗ",
)


def calls() -> Iterator[tuple[str, ast.Call]]:
    for path in sorted((ROOT / "thistlequartz").rglob("*.py")):
        for node in ast.walk(ast.parse(path.read_text())):
            name = (
                node.func.id
                if isinstance(node, ast.Call) and isinstance(node.func, ast.Name)
                else ""
            )
            if name in ("tr", "tr_count"):
                yield f"{path.relative_to(ROOT)}:{node.lineno}", node


def places(text: str) -> set[str]:
    return {name for _, name, _, _ in Formatter().parse(text) if name is not None}


def test_the_template_has_the_texts_as_they_are():
    """After a change: python -m scripts.collect_texts"""
    assert TEMPLATE.read_text() == written()


def test_each_text_stands_whole_where_it_is_said():
    dynamic = [where for where, call in calls() if not isinstance(call.args[0], ast.Constant)]
    # What a built-in function says of itself is collected from the calls of `function`.
    assert [one.partition(":")[0] for one in dynamic] == [
        "thistlequartz/core/formats/internet.py",  # what a library says, collected by `later`
        "thistlequartz/core/functions/record.py",
    ]


def test_each_place_of_a_text_is_filled():
    for where, call in calls():
        given = {one.arg for one in call.keywords}
        if call.func.id == "tr_count":
            one, many = (places(each.value) for each in call.args[:2])
            assert (one | {"count"} >= one and (one | many) - {"count"} == given) or not given, (
                where
            )
        elif given and isinstance(call.args[0], ast.Constant):
            assert places(call.args[0].value) == given, where


def other(text: str) -> str:
    """A text in the other language, with its places as they were."""
    parts = re.split(r"(\{[^{}]*\})", text)
    return "".join(part if part.startswith("{") else part.translate(LETTERS) for part in parts)


@pytest.fixture(scope="module")
def elsewhere(tmp_path_factory) -> dict[str, str]:
    """The surroundings of a house that speaks the other language."""
    catalogue = collected()
    catalogue.locale = "en"
    for one in catalogue:
        if one.id:
            one.string = tuple(map(other, one.id)) if isinstance(one.id, tuple) else other(one.id)
    folder = tmp_path_factory.mktemp("locale")
    file = folder / "xx/LC_MESSAGES/thistlequartz.mo"
    file.parent.mkdir(parents=True)
    with file.open("wb") as written_to:
        write_mo(written_to, catalogue)
    return {**os.environ, "THISTLEQUARTZ_LOCALE": str(folder), "THISTLEQUARTZ_LANGUAGE": "xx"}


SPOKEN = """
import json
from datetime import date
from tests.core.seeded_rules import SEEDED
from tests.core.test_findings import found_in
from thistlequartz.core import compile_ruleset
from thistlequartz.core.formats import NAMED_FORMATS
from thistlequartz.core.language import plain
from thistlequartz.core.ruleset.sentence import rule_sentence
from thistlequartz.demo.forms import DRAFT

EXAMPLES = " ".join(one.example for one in NAMED_FORMATS.values())

def told(of, document, texts):
    known = document.model_dump_json() + EXAMPLES
    print(json.dumps({"of": of, "known": known, "texts": list(texts)}))

for code, (seeded, _) in SEEDED.items():
    ruleset, found, _ = found_in(seeded[0], code)
    told(code, ruleset, [text for one in found
                         for text in (one.says, one.how, one.fix.words if one.fix else "")])
for written in DRAFT.forms:
    form = compile_ruleset(DRAFT, form=written.key)
    texts = [plain(rule_sentence(one.lowered, form.vocabulary)) for one in form.rules]
    for values in ({}, {key: "?" for key in form.fields}):
        for verdict in form.judge_moments(
            values, moments=("entry", "save", "submit"), today=date(2026, 6, 12)
        ).values():
            texts += [one.reason for one in verdict.results]
            texts += [message.text for one in verdict.results for message in one.messages]
            texts += [state.fault for state in verdict.fields.values() if state.fault]
    told(written.key, DRAFT, texts)
"""
SPELT = "dress"
"""What a finding of a misspelt word proposes, from its list of English words."""


@pytest.fixture(scope="module")
def spoken(elsewhere) -> list[dict[str, Any]]:
    command = [sys.executable, "-c", SPOKEN]
    done = subprocess.run(
        command, env=elsewhere, cwd=ROOT, capture_output=True, text=True, check=False
    )
    assert done.returncode == 0, done.stderr
    return [json.loads(line) for line in done.stdout.splitlines()]


def english(text: str, known_words: str) -> str:
    """What is left of a text without what the form itself calls things."""
    known = {one.lower() for one in re.findall(r"[A-Za-z]+", known_words)} | {SPELT}
    return " ".join(one for one in re.findall(r"[A-Za-z]{2,}", text) if one.lower() not in known)


def test_nothing_is_said_in_english(spoken):
    """Findings of each kind, and sentences, reasons and messages of the rules of the demo."""
    left = {
        (one["of"], text): rest
        for one in spoken
        for text in one["texts"]
        if (rest := english(text, one["known"]))
    }
    assert not left, "\n".join(f"{of}: {rest}: {text}" for (of, text), rest in left.items())
    assert sum(len(one["texts"]) for one in spoken) > 500


TOLD = {
    "Act", "BrokenCsv", "BrokenJson", "BrokenTable", "CaseFileError", "Fault", "Finding",
    "KindPlaceholder", "PatternError", "PlaceholderOffer", "Problem", "ProblemItem",
    "ProfileError", "Recipe", "RecipeSlot", "Refusal", "RuleMutation", "SuggestedFix", "Undecided",
    "UnusableInputError", "ValueError", "Variant", "VerdictChange", "concern", "not_decided",
    "refusal", "report",
}  # fmt: skip
"""What people are told by."""


def said_outright(value: ast.expr) -> Iterator[str]:
    """The texts of an argument that do not go through the catalogue."""
    match value:
        case ast.IfExp(_, then, otherwise):
            yield from (*said_outright(then), *said_outright(otherwise))
        case ast.BinOp(left, _, right):
            yield from (*said_outright(left), *said_outright(right))
        case ast.Constant(str() as text):
            yield text
        case ast.JoinedStr(parts):
            yield " ".join(one.value for one in parts if isinstance(one, ast.Constant))


def test_whatever_people_are_told_is_in_the_catalogue():
    found = []
    for path in sorted((ROOT / "thistlequartz").rglob("*.py")):
        if {"migrations", "launch", "demo", "management"} & set(path.parts):
            continue
        for node in ast.walk(ast.parse(path.read_text())):
            if not isinstance(node, ast.Call):
                continue
            name = getattr(node.func, "id", None) or getattr(node.func, "attr", "")
            for value in (
                (*node.args, *(one.value for one in node.keywords)) if name in TOLD else ()
            ):
                found += [(path.name, node.lineno, one) for one in said_outright(value)]
    assert len(found) > 300, "codes and places"
    assert [one for one in found if re.search(r"[A-Za-z]{2,} [a-z]| [a-z]{2,}|[a-z]{3,}\.$", one[2])
            and not re.fullmatch(r"[a-z_.]+\.", one[2])] == []  # fmt: skip
