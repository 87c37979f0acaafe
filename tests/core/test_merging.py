"""Texts that a record fills, guarded by where they go, and conditions asked outside any rule.

What a page is taken for is asked of Python's own reader of HTML; what may stand in a header is said
by RFC 5322, section 2.2: printable characters and blanks, in one line.
"""

import html
import unicodedata
from datetime import date
from html.parser import HTMLParser

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.judging import Circumstances, compile_ruleset
from thistlequartz.core.language import FormulaError
from thistlequartz.core.merging import TextMerger, merge_offers, merge_problems, one_line_of
from thistlequartz.core.ruleset import RuleSet

TODAY = date(2026, 6, 12)
OURS = {"br", "table", "tr", "th", "td"}
"""The tags that a page is made of."""
ENTERED = st.text(max_size=40) | st.sampled_from(
    ["<b>x</b>", "</td><script>", "&lt;", "{name}", "{answers}", "a\r\nBcc: b@example.org", "'\""]
)


def form():
    fields = [
        {"key": "name", "label": "Name", "type": "text"},
        {"key": "count", "label": "Count", "type": "whole_number"},
        {"key": "seen", "label": "Seen", "type": "yes_no"},
        {"key": "record", "label": "A field of that name", "type": "text"},
    ]
    rules = [{"kind": "close", "key": "shut", "targets": ["count"], "when": "seen = false"}]
    whole = {"key": "form", "name": "Form", "fields": fields, "rules": rules}
    return compile_ruleset(RuleSet.model_validate({"forms": [whole]}), form="form")


class Page(HTMLParser):
    """The tags of a page, and what stands between them."""

    def __init__(self, page):
        super().__init__()
        self.tags, self.text = set(), ""
        self.feed(page)
        self.close()

    def handle_starttag(self, tag, attrs):
        self.tags.add(tag)

    def handle_data(self, data):
        self.text += data


@given(
    name=ENTERED, other=ENTERED, text=st.sampled_from(["{name}", "a {name} b {other}", "{answers}"])
)
def test_whatever_was_entered_a_page_is_made_of_our_tags_alone(name, other, text):
    merging = TextMerger({"name": name, "other": other}, [("Name", name), ("<Other>", other)])
    page = merging.page(text)
    read = Page(page)
    assert read.tags <= OURS
    assert html.unescape(page).count(name) >= 1 or "\n" in name
    assert "<script" not in page


@given(name=ENTERED)
def test_whatever_was_entered_a_line_stays_one(name):
    line = TextMerger({"name": name}, []).line("For {name}, today")
    assert line == one_line_of(line)
    assert not any(unicodedata.category(one) in ("Cc", "Zl", "Zp") for one in line)
    assert line.startswith("For")
    assert line.endswith("today")


@given(name=ENTERED)
def test_what_is_put_in_is_put_in_once(name):
    """A place in what was entered is no place."""
    merging = TextMerger({"name": name, "answers": "never", "other": "never"}, [("Name", name)])
    assert merging.plain("{name}") == name
    assert merging.plain("{{name}}") == "{name}"
    assert merging.plain("{answers}") == f"Name: {name}"


def test_a_name_that_nothing_is_known_of_is_blank():
    merging = TextMerger({}, [])
    assert merging.plain("a{gone}b{answers}c") == "abc"
    assert merging.page("a{answers}b") == "ab"


@pytest.mark.parametrize(
    ("text", "one_line", "said"),
    [
        ("{name} and {count}", True, []),
        ("{form} {record} {act} {person} {remark} {today}", True, []),
        ("{answers}", False, []),
        ("{answers}", True, ["All answers do not go into one line."]),
        ("{nmae}", False, ["Nothing can be put in the place of “{nmae}”."]),
        ("{nmae} {nmae}", False, ["Nothing can be put in the place of “{nmae}”."]),
        ("{{nmae}}", False, []),
        ("a\nb", False, []),
        ("a\nb", True, ["This stands in one line, and has a second line"]),
        ("a\u2028b", True, ["This stands in one line, and has a second line"]),
        ("a\u00a0b", True, []),
        ("{", False, []),
        ("{}", False, ["Nothing can be put in the place of “{}”."]),
    ],
)
def test_places_are_told_beforehand(text, one_line, said):
    found = merge_problems(text, "text", form().fields, one_line=one_line)
    assert len(found) == len(said)
    for problem, begin in zip(found, said, strict=True):
        assert problem.message.startswith(begin)
        assert problem.place == "text"
        assert problem.remedy


def test_the_nearest_name_is_offered_and_a_field_of_a_taken_name_is_not():
    (problem,) = merge_problems("{nmae}", "text", form().fields)
    assert problem.remedy == "Did you mean “{name}”?"
    offered = [one.name for one in merge_offers(form().fields)]
    assert len(offered) == len(set(offered))
    assert {"name", "count", "record", "answers"} <= set(offered)
    says = {one.name: one.says for one in merge_offers(form().fields)}
    assert says["record"] == "the number of the record, and what it is known by"


def settled(values, stored=None):
    compiled = form()
    read = compiled.read(values, stored=stored)
    event = "create" if stored is None else "update"
    return compiled.settled(read, Circumstances(TODAY, None, event, "desk", None, "clerk"))


@pytest.mark.parametrize(
    ("condition", "values", "stored", "met"),
    [
        ('name = "a"', {"name": "a"}, None, True),
        ('name = "a"', {"name": "b"}, None, False),
        ('name = "a"', {}, None, False),
        ("count > 3", {"count": "4"}, None, True),
        ("count > 3", {"count": "four"}, None, False),  # what cannot be told is not met
        ("count = null", {"count": "4", "seen": False}, None, True),  # it is out of play
        ("count > 3 and seen", {"count": "4", "seen": True}, None, True),
        ("changed.name", {"name": "b"}, {"name": "a"}, True),
        ("changed.name", {"name": "a"}, {"name": "a"}, False),
        ('today = date("2026-06-12")', {}, None, True),
        ("even(count)", {"count": "4"}, None, True),
    ],
)
def test_a_condition_is_asked_of_a_record_outside_any_rule(condition, values, stored, met):
    asked = form().condition(condition)
    assert asked.met(settled(values, stored)) is met
    assert asked.words


@pytest.mark.parametrize(
    "condition", ["", "name =", "gone = 1", "count", "name > 3", "other.name = name"]
)
def test_what_is_no_condition_is_refused_with_its_place(condition):
    with pytest.raises(FormulaError) as refused:
        form().condition(condition)
    assert all(one.place.startswith("condition") for one in refused.value.problems)
    assert all(one.message for one in refused.value.problems)
