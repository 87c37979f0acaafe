"""The two engines behind patterns mean the same: RE2 is the outside opinion on simple ones."""

from itertools import product

import pytest
import re2
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.formats import can_match, compile_pattern, in_classes

PIECES = st.sampled_from(
    [
        "a",
        "Q",
        "7",
        " ",
        "-",
        "/",
        "\\d",
        "\\.",
        "\\-",
        "[A-Z]",
        "[a-c]",
        "[0-9]",
        "[A-Za-z0-9_]",
        "[1a-c]",
    ]
)
COUNTED = st.tuples(PIECES, st.sampled_from(["", "", "{1}", "{3}", "{0}"])).map("".join)
PATTERNS = st.lists(COUNTED, min_size=1, max_size=5).map("".join)


@given(PATTERNS, st.data())
def test_simple_patterns_mean_what_re2_says(pattern: str, data: st.DataObject) -> None:
    text = data.draw(
        st.one_of(
            st.from_regex(pattern, fullmatch=True),
            st.text("aQ7 -/.1bc_Z²٣\n", max_size=6),
        )
    )
    ours, outside = compile_pattern(pattern), re2.compile(pattern, re2.ASCII)
    assert (ours.fullmatch(text) is None) == (outside.fullmatch(text) is None)
    assert (ours.search(text) is None) == (outside.search(text) is None)
    # Empty matches are left out: no function of ours looks at them.
    assert [one[0] for one in ours.finditer(text) if one[0]] == [
        one[0] for one in outside.finditer(text) if one[0]
    ]


@given(st.lists(PATTERNS, min_size=2, max_size=4), st.data())
def test_plain_patterns_together_mean_what_re2_says_of_each(
    patterns: list[str], data: st.DataObject
) -> None:
    together = in_classes(patterns)
    if together is None:
        return  # their classes overlap in part: each is asked by itself
    assert [bool(re2.fullmatch(*one)) for one in zip(patterns, together.fitting, strict=True)]
    texts = [
        data.draw(st.from_regex(one, fullmatch=True) | st.text("aQ7 -/.1bc_Zé\n\ud800", max_size=6))
        for one in patterns
    ]
    given_bytes = "\0".join(texts).encode("utf-8", "replace")
    fits = [
        re2.compile(one, re2.ASCII).fullmatch(text.encode("utf-8", "replace").decode())
        for one, text in zip(patterns, texts, strict=True)
    ]
    assert (given_bytes.translate(together.table) == together.classes) == all(fits)


def test_patterns_of_the_same_classes_stand_together() -> None:
    assert in_classes(["[A-Z]{2}-[0-9]{4}", "QH-[0-9]"]) is None
    assert in_classes(["[A-Z]{2}-[0-9]{4}", "[0-9]{3}"]) is not None


ANCHORED = st.recursive(
    st.sampled_from(["a", "b", "^", "$", "[ab]", "[^ab]", "a?", "b*", "[^\\d\\D]"]),
    lambda inner: st.builds(
        lambda parts, join, count: f"({join.join(parts)}){count}",
        st.lists(inner, min_size=1, max_size=3),
        st.sampled_from(["", "|"]),
        st.sampled_from(["", "?", "*", "{2}"]),
    ),
    max_leaves=6,
)
SHORT = ["".join(letters) for size in range(5) for letters in product("abc", repeat=size)]


@given(st.lists(ANCHORED, min_size=1, max_size=3).map("".join))
def test_what_is_called_impossible_re2_never_matches(pattern: str) -> None:
    compiled = compile_pattern(pattern)
    matched = [text for text in SHORT if compiled.fullmatch(text)]
    assert can_match(pattern) or not matched


@pytest.mark.parametrize("pattern", ["a^b", "[0-9]+$x", "[^\\s\\S]{2}", "(x|y)z^", "$a|b^"])
def test_a_pattern_that_fits_nothing_is_told(pattern: str) -> None:
    assert not can_match(pattern)
