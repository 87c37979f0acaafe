"""The two engines behind patterns mean the same: RE2 is the outside opinion on simple ones."""

import re2
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.formats import compile_pattern

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
