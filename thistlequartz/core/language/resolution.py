"""After types are known: a reference's fields and named conditions as nodes of their own."""

from collections.abc import Mapping

from . import tree
from .declared import Vocabulary
from .rebuilding import rebuilt


def resolved(
    node: tree.Node, vocabulary: Vocabulary, conditions: Mapping[str, tree.Node]
) -> tree.Node:
    """`node`, typed without problems, with Referred and Named where its names stand for those."""
    match node:
        case tree.Field(key) if key in conditions:
            return tree.NamedConditionUse(key, conditions[key], at=node.at)
        case tree.Path(tree.Field(key) | tree.StoredValue(key) | tree.OtherField(key), name) if (
            form := vocabulary[key].type.referred_form
        ):
            return tree.Referred(node.subject, form, name, at=node.at)
    return rebuilt(node, lambda part: resolved(part, vocabulary, conditions))
