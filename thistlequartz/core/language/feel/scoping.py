"""Names that an expression defines itself or that every formula can read, beside fields."""

from dataclasses import replace

from thistlequartz.core.language import tree
from thistlequartz.core.language.rebuilding import rebuilt

ITEM = "item"
"""What a filter calls the item it looks at."""
PARTIAL = "partial"
"""What a `for` calls the values it has given so far."""

HOLDERS = {"stored": tree.StoredValue, "changed": tree.ChangedField, "other": tree.OtherField}
"""What `stored.key`, `changed.key` and `other.key` stand for."""


def _readable(node: tree.Field) -> tree.Node:
    """The words that every formula can read besides its fields."""
    match node.key:
        case "today":
            return tree.Today(at=node.at)
        case "now":
            return tree.Now(at=node.at)
        case "event" | "entry_point" | "role" as name:
            return tree.Circumstance(name, at=node.at)
        case _:
            return node


def scoped(node: tree.Node, given: frozenset[str] = frozenset()) -> tree.Node:
    """`node` with every name that is given by the expression itself as a Variable."""
    match node:
        case tree.Field(key):
            return tree.Variable(key, at=node.at) if key in given else _readable(node)
        case tree.Path(tree.Field(holder), name) if holder in HOLDERS and holder not in given:
            return HOLDERS[holder](name, at=node.at)
        case tree.For(iterations, body):
            inner, inside = _iterations(iterations, given)
            return replace(node, iterations=inner, body=scoped(body, inside | {PARTIAL}))
        case tree.Quantified(_, iterations, condition):
            inner, inside = _iterations(iterations, given)
            return replace(node, iterations=inner, condition=scoped(condition, inside))
        case tree.Filter(subject, condition):
            return replace(
                node,
                subject=scoped(subject, given),
                condition=scoped(condition, given | {ITEM}),
            )
        case tree.Context(entries):
            inside, inner_entries = given, []
            for entry in entries:
                inner_entries.append(replace(entry, value=scoped(entry.value, inside)))
                inside |= {entry.key}
            return replace(node, entries=tuple(inner_entries))
        case _:
            return rebuilt(node, lambda part: scoped(part, given))


def _iterations(
    iterations: tuple[tree.Iteration, ...], given: frozenset[str]
) -> tuple[tuple[tree.Iteration, ...], frozenset[str]]:
    inner = []
    for iteration in iterations:
        inner.append(replace(iteration, items=scoped(iteration.items, given)))
        given |= {iteration.name}
    return tuple(inner), given
