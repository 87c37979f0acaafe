"""A tree made anew with its parts changed."""

from collections.abc import Callable
from dataclasses import fields, replace
from typing import Any

from . import tree


def rebuilt(node: tree.Node, change: Callable[[tree.Node], tree.Node]) -> tree.Node:
    """`node` with `change` applied to each node that stands directly in it."""
    changed: dict[str, Any] = {}
    for part in fields(node):
        value = getattr(node, part.name)
        if isinstance(value, tree.Node):
            changed[part.name] = change(value)
        elif isinstance(value, tuple) and value and isinstance(value[0], tree.Node):
            changed[part.name] = tuple(change(one) for one in value)
    return replace(node, **changed) if changed else node
