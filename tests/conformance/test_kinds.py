"""A kind of rule is one file, with every part; nothing else asks which kind a rule is by name."""

import re
from dataclasses import fields
from pathlib import Path
from typing import Annotated, get_args, get_origin

import pytest

import thistlequartz
from thistlequartz.core.kinds import CHECK_KINDS, EFFECT_KINDS, KINDS, CheckRule, EffectRule, Rule

PACKAGE = Path(thistlequartz.__file__).parent
SCREENS = PACKAGE.parent / "web" / "src"
BY_NAME = re.compile(r"\brule\.kind\s*(==|===|!=|!==|in \()")
TELLING = ("mandatory", "entered_twice", "cross_field", "allowed_values")
"""Names of kinds that mean nothing else in the source."""


def sources():
    """Every source file but the kinds' own, the demo's documents and the tests of the screens."""
    for root, endings in ((PACKAGE, (".py",)), (SCREENS, (".ts", ".tsx"))):
        for path in root.rglob("*"):
            rooms = {"kinds", "demo", "api"}.intersection(path.relative_to(root).parts)
            if path.suffix in endings and not rooms and ".test." not in path.name:
                yield path


def test_documents_and_registry_name_the_same_kinds():
    assert get_origin(Rule) is Annotated
    written = {one.model_fields["kind"].default for one in get_args(CheckRule | EffectRule)}
    assert written == set(KINDS)
    assert set(CHECK_KINDS) | set(EFFECT_KINDS) == written


@pytest.mark.parametrize("name", sorted(KINDS))
def test_a_kind_that_lacks_a_part_does_not_start(name):
    kind = KINDS[name]
    parts = {one.name: getattr(kind, one.name) for one in fields(kind)}
    for left_out in parts:
        rest = {part: said for part, said in parts.items() if part != left_out}
        with pytest.raises(TypeError, match=left_out):
            type(kind)(**rest)


def test_nothing_but_its_own_file_asks_for_a_kind_by_name():
    asked = [
        f"{path.name}: {line.strip()}"
        for path in sources()
        for line in path.read_text().splitlines()
        if BY_NAME.search(line)
        or (not line.startswith("...") and any(f'"{name}"' in line for name in TELLING))
    ]
    assert asked == []
