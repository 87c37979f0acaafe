"""Names in the code: one class for each, and first lines that one reads at a glance."""

import ast
import re
from collections import defaultdict
from collections.abc import Iterator
from pathlib import Path

ROOT = Path(__file__).resolve().parents[2]
LONGEST_TEST = 70
TWO_TREES = {"language/tree.py", "kernel/nodes.py"}
"""The tree of formulas and that of the kernel name the same operations alike; each is imported as a
module, so that what is meant stands before the name."""
BY_THE_FRAMEWORK = {"Command", "Meta", "Migration"}


def modules(folder: str) -> Iterator[tuple[Path, ast.Module]]:
    for path in sorted((ROOT / folder).rglob("*.py")):
        if "migrations" not in path.parts:
            yield path, ast.parse(path.read_text())


def test_class_names_stand_for_one_class() -> None:
    places: dict[str, set[str]] = defaultdict(set)
    for path, tree in modules("thistlequartz"):
        for node in ast.walk(tree):
            if (
                isinstance(node, ast.ClassDef)
                and node.name not in BY_THE_FRAMEWORK
                and node.name[0] != "_"
            ):
                places[node.name].add("/".join(path.parts[-2:]))
    twice = {
        name: found for name, found in places.items() if len(found) > 1 and not found <= TWO_TREES
    }
    assert twice == {}
    assert len(places) > 500


def test_test_names_fit_a_line() -> None:
    long = [
        f"{path.name}: {node.name}"
        for path, tree in modules("tests")
        for node in ast.walk(tree)
        if isinstance(node, ast.FunctionDef)
        and node.name.startswith("test_")
        and len(node.name) > LONGEST_TEST
    ]
    assert long == []


def test_decisions_have_a_status() -> None:
    pages = sorted((ROOT / "docs/decisions").glob("*.md"))
    assert len(pages) > 40
    assert [page.name for page in pages if "\nStatus: " not in page.read_text()] == []


def test_links_between_documents_lead_somewhere() -> None:
    pages = [*ROOT.glob("*.md"), *(ROOT / "docs").rglob("*.md")]
    dead = [
        f"{page.name}: {link}"
        for page in pages
        for link in re.findall(r"\]\(([^)#:]+)(?:#[^)]*)?\)", page.read_text())
        if not (page.parent / link).exists()
    ]
    assert dead == []
