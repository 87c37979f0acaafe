"""Walking over nodes, whatever language they belong to: none of it recurses."""

from collections.abc import Iterator
from dataclasses import fields
from typing import Any, Generic, TypeVar

N = TypeVar("N")


class TreeWalker(Generic[N]):
    """Walks over the nodes of one base; `apart` are the fields of a node that hold no part."""

    def __init__(self, base: type[N], *apart: str) -> None:
        self._base = base
        self._apart = frozenset(apart)
        self._parts: dict[type, tuple[str, ...]] = {}
        """The names of a node's parts, looked up once for each kind."""

    def children(self, node: N) -> Iterator[N]:
        """The nodes directly under `node`, in reading order."""
        kind: Any = type(node)
        if kind not in self._parts:
            names = (part.name for part in fields(kind))
            self._parts[kind] = tuple(name for name in names if name not in self._apart)
        for name in self._parts[kind]:
            value = getattr(node, name)
            if isinstance(value, self._base):
                yield value
            elif isinstance(value, tuple):
                yield from (part for part in value if isinstance(part, self._base))

    def walk(self, node: N) -> Iterator[N]:
        """`node` and everything under it."""
        waiting = [node]
        while waiting:
            current = waiting.pop()
            yield current
            waiting.extend(self.children(current))

    def depth(self, node: N) -> int:
        """How many levels of nodes there are."""
        deepest, waiting = 0, [(node, 1)]
        while waiting:
            current, level = waiting.pop()
            deepest = max(deepest, level)
            waiting.extend((child, level + 1) for child in self.children(current))
        return deepest
