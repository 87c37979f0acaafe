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


_RANGES = "range1: any, range2: any"


FUNCTIONS = (
    function("before", _RANGES, "boolean", "whether the first before the second",
             "before(1, [2..5])", _on_ranges(_before)),
    function("after", _RANGES, "boolean", "whether the first after the second",
             "after(9, [2..5])", _on_ranges(lambda a, b: _before(b, a))),
    function("meets", _RANGES, "boolean", "whether the first meets the second",
             "meets([1..5], [5..10])", _between_ranges(_meets)),
    function("met by", _RANGES, "boolean", "whether the first met by the second",
             "met by([5..10], [1..5])", _between_ranges(lambda a, b: _meets(b, a))),
    function("overlaps", _RANGES, "boolean", "whether the first overlaps the second",
             "overlaps([1..5], [3..8])", _between_ranges(_overlaps)),
    function("overlaps before", _RANGES, "boolean", "whether the first overlaps before the second",
             "overlaps before([1..5], [3..8])", _between_ranges(_overlaps_before)),
    function("overlaps after", _RANGES, "boolean", "whether the first overlaps after the second",
             "overlaps after([3..8], [1..5])", _between_ranges(_overlaps_after)),
    function("finishes", _RANGES, "boolean", "whether the first finishes the second",
             "finishes(10, [1..10])", _on_ranges(_finishes)),
    function("finished by", _RANGES, "boolean", "whether the first finished by the second",
             "finished by([1..10], 10)", _on_ranges(lambda a, b: _finishes(b, a))),
    function("includes", _RANGES, "boolean", "whether the first includes the second",
             "includes([1..10], 4)", _on_ranges(_includes)),
    function("during", _RANGES, "boolean", "whether the first during the second",
             "during(4, [1..10])", _on_ranges(lambda a, b: _includes(b, a))),
    function("starts", _RANGES, "boolean", "whether the first starts the second",
             "starts(1, [1..10])", _on_ranges(_starts)),
    function("started by", _RANGES, "boolean", "whether the first started by the second",
             "started by([1..10], 1)", _on_ranges(lambda a, b: _starts(b, a))),
    function("coincides", _RANGES, "boolean", "whether the first coincides the second",
             "coincides([1..5], [1..5])", _on_ranges(_coincides)),
)  # fmt: skip
