"""How deep a formula goes, and how long its chains are."""

from thistlequartz.core.language import tree


def nested_depth(node: tree.Node) -> int:
    """How many levels of parts within parts there are; a chain of sums or products is one level."""
    deepest, waiting = 0, [(node, 1)]
    while waiting:
        current, level = waiting.pop()
        deepest = max(deepest, level)
        for child in tree.children(current):
            left = isinstance(current, tree.Arithmetic) and child is current.left
            chained = left and isinstance(child, tree.Arithmetic)
            waiting.append((child, level if chained else level + 1))
    return deepest


def longest_chain(node: tree.Node) -> int:
    """How many terms the longest chain of sums or products has."""
    longest, waiting = 0, [(node, 1)]
    while waiting:
        current, terms = waiting.pop()
        longest = max(longest, terms)
        for child in tree.children(current):
            chained = isinstance(current, tree.Arithmetic) and child is current.left
            waiting.append((child, terms + 1 if chained else 1))
    return longest
