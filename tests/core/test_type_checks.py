"""Kinds of rules and types of fields are told apart in their own files, by syntax tree.

Elsewhere a check such as `isinstance(rule, RangeRule)` or `field.type == "date"` is one more place
that a new kind or type has to be added to. Of kinds there is none; of types those that are left are
counted by file in `data/type_checks_left.json`, and may only become fewer. The web has the same
test (`web/src/api/type-checks.test.ts`).
"""

import ast
import json
from collections.abc import Iterator
from pathlib import Path

import pytest

from thistlequartz.core import types
from thistlequartz.core.kinds import KINDS
from thistlequartz.core.ruleset import FIELD_TYPES, fields
from thistlequartz.core.types import FieldType

ROOT = Path(__file__).resolve().parents[2]
LEFT = json.loads((Path(__file__).parent / "data" / "type_checks_left.json").read_text())
KIND_CLASSES = {kind.document.__name__ for kind in KINDS.values()}
TYPE_CLASSES = {name for name in vars(types) if name.endswith("Type") and name != "FieldType"} | {
    name for name in vars(fields) if name.endswith("Field") and name != "Field"
}
OWN = (
    "thistlequartz/core/kinds",
    "thistlequartz/core/types",
    "thistlequartz/core/ruleset/fields.py",
)


def checks(source: str, asked: str, names: set[str], classes: set[str]) -> Iterator[str]:
    """The comparisons of the attribute `asked` with one of `names`, and the checks of `classes`."""
    for node in ast.walk(ast.parse(source)):
        if isinstance(node, ast.Compare) and _asks_for(node.left, asked):
            for one in node.comparators:
                yield from (text for text in _texts(one) if text in names)
        elif (
            isinstance(node, ast.Call)
            and isinstance(node.func, ast.Name)
            and node.func.id == "isinstance"
        ):
            yield from (name for name in _names(node.args[1]) if name in classes)
        elif isinstance(node, ast.MatchClass):
            yield from (name for name in _names(node.cls) if name in classes)


def _asks_for(node: ast.expr, name: str) -> bool:
    return isinstance(node, ast.Attribute) and node.attr == name


def _texts(node: ast.expr) -> list[str]:
    return [
        one.value
        for one in ast.walk(node)
        if isinstance(one, ast.Constant) and isinstance(one.value, str)
    ]


def _names(node: ast.expr) -> list[str]:
    return [
        one.id if isinstance(one, ast.Name) else one.attr
        for one in ast.walk(node)
        if isinstance(one, ast.Name | ast.Attribute)
    ]


def found(asked: str, names: set[str], classes: set[str]) -> dict[str, int]:
    """How many checks a module has, by path, outside the files of kinds and types."""
    counted = {}
    for room in ("core", "server"):
        for path in sorted((ROOT / "thistlequartz" / room).rglob("*.py")):
            place = str(path.relative_to(ROOT))
            if "migrations" not in path.parts and not place.startswith(OWN):
                counted[place] = len(list(checks(path.read_text(), asked, names, classes)))
    return {place: count for place, count in counted.items() if count}


@pytest.mark.parametrize(
    ("source", "expected"),
    [
        ("isinstance(one, RangeRule | GroupRule)", ["RangeRule", "GroupRule"]),
        ("one.kind == 'range'", ["range"]),
        ("rule.kind in ('range', 'group')", ["range", "group"]),
        ("match one:\n  case kinds.RangeRule(key=key):\n    pass", ["RangeRule"]),
        ("one.part == 'range'", []),
    ],
)
def test_checks_are_found_in_any_spelling(source, expected):
    assert sorted(checks(source, "kind", {"range", "group"}, {"RangeRule", "GroupRule"})) == sorted(
        expected
    )


def test_kinds_of_rules_are_checked_in_their_own_files_only():
    assert found("kind", set(KINDS), KIND_CLASSES) == {}


def test_checks_of_field_types_do_not_spread():
    now = found("type", set(FIELD_TYPES), TYPE_CLASSES)
    grown = {place: count for place, count in now.items() if count > LEFT.get(place, 0)}
    assert grown == {}, "let the type say it (core/types), as new types will"


def test_a_type_without_one_of_its_parts_cannot_be_made():
    parts = FieldType.__abstractmethods__
    assert len(parts) > 8
    for part in parts:
        lacking = type("Lacking", (types.DateType,), {part: getattr(FieldType, part)})
        with pytest.raises(TypeError, match=part):
            lacking()
    with pytest.raises(TypeError, match="kind, compared_as, comparisons"):
        type("Lacking", (FieldType,), {"name": "text"})
