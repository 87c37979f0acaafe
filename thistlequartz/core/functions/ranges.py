"""Ranges: clause 10.3.4.10 (table 78). A point counts as the range from itself to itself."""

from collections.abc import Callable
from typing import Any

from .operations import RangeValue, all_true, any_true, compare, equal
from .record import function


def _as_range(value: Any) -> RangeValue:
    return value if isinstance(value, RangeValue) else RangeValue(value, value, True, True)


def _on_ranges(
    relation: Callable[[RangeValue, RangeValue], bool | None],
) -> Callable[[Any, Any], bool | None]:
    def related(a: Any, b: Any) -> bool | None:
        return None if a is None or b is None else relation(_as_range(a), _as_range(b))

    return related


def _between_ranges(
    relation: Callable[[RangeValue, RangeValue], bool | None],
) -> Callable[[Any, Any], bool | None]:
    def related(a: Any, b: Any) -> bool | None:
        both = isinstance(a, RangeValue) and isinstance(b, RangeValue)
        return relation(a, b) if both else None

    return related


def _before(a: RangeValue, b: RangeValue) -> bool | None:
    touching = equal(a.high, b.low) and not (a.high_included and b.low_included)
    return any_true((compare("<", a.high, b.low), touching))


def _meets(a: RangeValue, b: RangeValue) -> bool | None:
    return a.high_included and b.low_included and equal(a.high, b.low)


def _begins_no_later(a: RangeValue, b: RangeValue) -> bool | None:
    level = equal(a.low, b.low) and (a.low_included or not b.low_included)
    return any_true((compare("<", a.low, b.low), level))


def _ends_no_sooner(a: RangeValue, b: RangeValue) -> bool | None:
    level = equal(a.high, b.high) and (a.high_included or not b.high_included)
    return any_true((compare(">", a.high, b.high), level))


def _includes(a: RangeValue, b: RangeValue) -> bool | None:
    return all_true((_begins_no_later(a, b), _ends_no_sooner(a, b)))


def _same_low(a: RangeValue, b: RangeValue) -> bool:
    return bool(equal(a.low, b.low)) and a.low_included == b.low_included


def _same_high(a: RangeValue, b: RangeValue) -> bool:
    return bool(equal(a.high, b.high)) and a.high_included == b.high_included


def _starts(a: RangeValue, b: RangeValue) -> bool | None:
    return all_true((_same_low(a, b), _ends_no_sooner(b, a)))


def _finishes(a: RangeValue, b: RangeValue) -> bool | None:
    return all_true((_same_high(a, b), _begins_no_later(b, a)))


def _overlaps(a: RangeValue, b: RangeValue) -> bool | None:
    apart = any_true((_before(a, b), _before(b, a)))
    return None if apart is None else not apart


def _overlaps_before(a: RangeValue, b: RangeValue) -> bool | None:
    sooner = any_true(
        (compare("<", a.low, b.low), equal(a.low, b.low) and a.low_included and not b.low_included)
    )
    ends_inside = any_true(
        (
            compare("<", a.high, b.high),
            equal(a.high, b.high) and (not a.high_included or b.high_included),
        )
    )
    return all_true((sooner, _overlaps(a, b), ends_inside))


def _overlaps_after(a: RangeValue, b: RangeValue) -> bool | None:
    later = any_true(
        (
            compare(">", a.high, b.high),
            equal(a.high, b.high) and a.high_included and not b.high_included,
        )
    )
    begins_inside = any_true(
        (
            compare(">", a.low, b.low),
            equal(a.low, b.low) and (not a.low_included or b.low_included),
        )
    )
    return all_true((later, _overlaps(a, b), begins_inside))


def _coincides(a: RangeValue, b: RangeValue) -> bool:
    return _same_low(a, b) and _same_high(a, b)


_RELATIONS: dict[str, tuple[str, Callable[[Any, Any], bool | None]]] = {
    "before": ("before(1, [2..5])", _on_ranges(_before)),
    "after": ("after(9, [2..5])", _on_ranges(lambda a, b: _before(b, a))),
    "meets": ("meets([1..5], [5..10])", _between_ranges(_meets)),
    "met by": ("met by([5..10], [1..5])", _between_ranges(lambda a, b: _meets(b, a))),
    "overlaps": ("overlaps([1..5], [3..8])", _between_ranges(_overlaps)),
    "overlaps before": ("overlaps before([1..5], [3..8])", _between_ranges(_overlaps_before)),
    "overlaps after": ("overlaps after([3..8], [1..5])", _between_ranges(_overlaps_after)),
    "finishes": ("finishes(10, [1..10])", _on_ranges(_finishes)),
    "finished by": ("finished by([1..10], 10)", _on_ranges(lambda a, b: _finishes(b, a))),
    "includes": ("includes([1..10], 4)", _on_ranges(_includes)),
    "during": ("during(4, [1..10])", _on_ranges(lambda a, b: _includes(b, a))),
    "starts": ("starts(1, [1..10])", _on_ranges(_starts)),
    "started by": ("started by([1..10], 1)", _on_ranges(lambda a, b: _starts(b, a))),
    "coincides": ("coincides([1..5], [1..5])", _on_ranges(_coincides)),
}
FUNCTIONS = tuple(
    function(name, "range1: any, range2: any", "boolean", f"whether the first {name} the second",
             example, body)
    for name, (example, body) in _RELATIONS.items()
)  # fmt: skip
