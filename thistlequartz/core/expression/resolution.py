"""After types are known: a reference's fields and named conditions as nodes of their own."""

from collections.abc import Mapping
from dataclasses import fields, replace
from typing import Any

from thistlequartz.core.values import ReferenceType

from . import tree
from .declared import Vocabulary


def resolved(
    node: tree.Node, vocabulary: Vocabulary, conditions: Mapping[str, tree.Node]
) -> tree.Node:
    """`node`, typed without problems, with Referred and Named where its names stand for those."""
    match node:
        case tree.Field(key) if key in conditions:
            return tree.Named(key, conditions[key], at=node.at)
        case tree.Path(tree.Field(key) | tree.Stored(key) | tree.OtherField(key), name) if (
            isinstance(type_ := vocabulary[key].type, ReferenceType)
        ):
            return tree.Referred(node.subject, type_.form, name, at=node.at)
    changed: dict[str, Any] = {}
    for part in fields(node):
        value = getattr(node, part.name)
        if isinstance(value, tree.Node):
            changed[part.name] = resolved(value, vocabulary, conditions)
        elif isinstance(value, tuple) and value and isinstance(value[0], tree.Node):
            changed[part.name] = tuple(resolved(one, vocabulary, conditions) for one in value)
    return replace(node, **changed) if changed else node
