"""A lower and an upper bound that stand side by side, as one interval."""

from . import tree


def bounds_joined(parts: tuple[tree.Node, ...]) -> tuple[tree.Node, ...]:
    """Return the parts with a lower and an upper bound of one thing joined.

    Only where they stand side by side, so that the condition reads once what it says twice.
    """
    joined: list[tree.Node] = []
    for part in parts:
        before = joined[-1] if joined else None
        whole = _between(before, part) or _between(part, before)
        joined[len(joined) - (whole is not None) :] = [whole or part]
    return tuple(joined)


def _between(above: tree.Node | None, below: tree.Node | None) -> tree.Membership | None:
    match above, below:
        case (
            tree.Comparison(">" | ">=" as begin, one, low),
            tree.Comparison("<" | "<=" as end, same, high),
        ) if one == same and isinstance(one, tree.Field) and _is_literal(low, high):
            interval = tree.Interval(low, high, begin == ">=", end == "<=")
            return tree.Membership(one, (interval,))
    return None


def _is_literal(*nodes: tree.Node) -> bool:
    return all(isinstance(node, tree.Number | tree.Date | tree.Time) for node in nodes)
