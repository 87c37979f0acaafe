"""Whether some text fits a form's rules, beside trying every text; RE2 says which ones fit."""

from itertools import product

import re2
from hypothesis import example, given, settings
from hypothesis import strategies as st

from tests.examples import ALIKE, few
from thistlequartz.core.findings import find
from thistlequartz.core.ruleset import RuleSet

from .small_forms import TODAY

LETTERS = "abcdA"
TEXTS = ["".join(one) for length in (1, 2) for one in product(LETTERS, repeat=length)]
BLOCKS = {"save": "block", "submit": "block"}
classes = st.sets(st.sampled_from(LETTERS), min_size=1).map(
    lambda some: f"[{''.join(sorted(some))}]"
)
patterns = st.one_of(
    classes,
    st.builds("{}{}?".format, classes, classes),
    st.builds("{}|{}{}".format, classes, classes, classes),
)


def form_of(pattern, refused, beside):
    """A form in which X fits a pattern and is none of some texts; `beside`, another text that fits
    the pattern is turned into capitals.
    """
    fields = [{"key": "x", "label": "X", "type": "text"}]
    listed = ", ".join(f'"{text}"' for text in sorted(refused))
    rules = [
        {"key": "fits", "kind": "format", "targets": ["x"], "pattern": pattern},
        {"key": "must", "kind": "cross_field", "targets": ["x"], "must": f"not(x in ({listed}))"},
    ]
    if beside:
        fields.append({"key": "y", "label": "Y", "type": "text", "letter_case": "upper"})
        rules.append({**rules[0], "key": "beside", "targets": ["y"]})
    rules = [{**one, "severity": BLOCKS} for one in rules]
    return RuleSet.model_validate(
        {"forms": [{"key": "form", "name": "Form", "fields": fields, "rules": rules}]}
    )


@settings(max_examples=few(8), derandomize=ALIKE)
@example("[abA]", {"A"}, True)
@example("[a-d]", {"a", "b", "c"}, False)
@given(patterns, st.data(), st.booleans())
def test_a_text_is_impossible_only_where_none_is_left(pattern, data, beside):
    fitting = {text for text in TEXTS if re2.fullmatch(pattern, text)}
    some = st.sets(st.sampled_from(sorted(fitting)), min_size=1) | st.just(fitting)
    refused = data if isinstance(data, set) else data.draw(some)
    told = find(form_of(pattern, refused, beside), "form", TODAY)
    assert not told.undecided
    assert not told.failures
    impossible = any(
        (one.code == "F03" and one.rules[0] != "beside")
        or (one.code == "F37" and one.fields == ("x",))
        for one in told.found
    )
    assert impossible == (refused == fitting)
