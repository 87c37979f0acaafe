"""Named formats against printed examples, and patterns; each source stands beside its check.

The values were written from memory of the sources; the libraries agree with all of them.
"""

from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.evaluation import compile_ruleset
from thistlequartz.core.formats import NAMED_FORMATS, PatternError, compile_pattern
from thistlequartz.core.ruleset import Form, RuleSet

COUNTRY = {"phone_national": "GB", "postal_code": "GB"}


def why_not(key: str, text: str, country: str | None = None) -> str | None:
    return NAMED_FORMATS[key].why_not(text, country or COUNTRY.get(key))


@pytest.mark.parametrize("named", NAMED_FORMATS.values(), ids=lambda named: named.key)
def test_every_example_fits_its_own_format_and_nonsense_does_not(named):
    assert named.standard
    assert why_not(named.key, named.example) is None
    refused = why_not(named.key, "?")
    assert refused
    assert refused.endswith(".")


@pytest.mark.parametrize(
    ("key", "valid", "invalid", "reason"),
    [
        # ISO 13616, printed examples
        ("iban", ["GB82 WEST 1234 5698 7654 32", "DE89 3704 0044 0532 0130 00"],
         "GB82 WEST 1234 5698 7654 33", "check digits should be"),
        # ISO 7064 MOD 11-2; ORCID's documentation
        ("orcid", ["0000-0002-1825-0097", "0000-0002-1694-233X"], "0000-0002-1825-0098",
         "check digit should be 7"),
        # ISO 2108
        ("isbn", ["0-306-40615-2", "978-0-306-40615-7"], "978-0-306-40615-8",
         "check digit should be 7"),
        # ISO 3297
        ("issn", ["0378-5955"], "0378-5954", "check digit should be 5"),
        # ISO/IEC 7812-1
        ("luhn", ["79927398713"], "79927398710", "check digit should be 3"),
        # ITU-T E.164: at most 15 digits
        ("phone_international", ["+44 20 7946 0958", "+1 212 555 0142"], "+4412345678901234",
         "too many digits"),
        # RFC 5321: local part up to 64 octets
        ("email", ["a@example.org", f"{'l' * 64}@example.org"], f"{'l' * 65}@example.org",
         "too long"),
        # RFC 3986, RFC 4291, RFC 9562
        ("url", ["https://example.org/a?b=c#d", "http://[2001:db8::1]:8080/"], "example.org",
         "begins with https://"),
        ("ipv6", ["::1", "2001:db8::17"], "2001:db8:::17", "groups"),
        ("uuid", ["f81d4fae-7dec-11d0-a765-00a0c91e6bf6"], "f81d4fae7dec11d0a76500a0c91e6bf6",
         "groups of 8"),
        # Universal Postal Union, S42
        ("postal_code", ["EC1A 1BB", "M1 1AE"], "EC1A 1B", "of GB"),
        # ISO 3166-1, ISO 4217
        ("country", ["NZ", "CH"], "UK", "ISO 3166-1"),
        ("currency", ["CHF", "EUR"], "FRX", "ISO 4217"),
    ],
)  # fmt: skip
def test_printed_examples_are_judged_as_printed(key, valid, invalid, reason):
    assert [why_not(key, text) for text in valid] == [None] * len(valid)
    assert reason in (why_not(key, invalid) or "")


@given(st.sampled_from(sorted(NAMED_FORMATS)), st.text(max_size=120))
def test_any_text_is_accepted_or_refused_with_a_reason(key, text):
    reason = why_not(key, text)
    assert reason is None or len(reason) > 10


@given(st.integers(0, 10**10), st.integers(0, 9))
def test_the_named_check_digit_is_the_one_that_fits(body, digit):
    """Luhn, by its definition: doubled digits from the right add up to a multiple of ten."""
    text = f"{body}{digit}"
    total = sum(
        sum(divmod(int(one) * (2 if place % 2 else 1), 10))
        for place, one in enumerate(reversed(text))
    )
    reason = why_not("luhn", text)
    assert (reason is None) is (total % 10 == 0)
    if reason and len(text) >= 3:
        right = (digit - total) % 10
        assert f"should be {right}:" in reason


def judged(rule, value):
    form = Form.model_validate(
        {
            "key": "form",
            "name": "Form",
            "fields": [{"key": "code", "label": "Code", "type": "text"}],
            "rules": [
                {"key": "r", "name": "R", "kind": "format", "targets": ["code"], **rule}
                | {"severity": {"save": "block"}}
            ],
        }
    )
    compiled = compile_ruleset(RuleSet(forms=(form,)), form="form")
    return compiled.judge({"code": value}, moment="save", today=date(2026, 6, 12)).results[0]


TEN_DIGITS = {"pattern": "[0-9]{10}", "described": "exactly ten digits"}


@pytest.mark.parametrize(
    ("value", "status"),
    [("2323", "broken"), ("9876543210", "kept"), ("98765 43210", "broken"), ("", "nothing_to_judge"),
     ("98765432101", "broken"), (" 9876543210 ", "kept"), ("٣٣٣٣٣٣٣٣٣٣", "broken")],
)  # fmt: skip
def test_exactly_ten_digits_nothing_else(value, status):
    """Common practice."""
    result = judged(TEN_DIGITS, value)
    assert result.status == status
    if status == "broken":
        assert result.messages[0].text == "Code must be exactly ten digits."


def test_a_refusal_says_what_is_wrong_with_the_value_and_not_only_that():
    result = judged({"format": "issn"}, "0378-5954")
    told = (
        "Code must be an ISSN, such as 0378-5955. If the rest is right, the check digit should be 5"
    )
    assert result.messages[0].text.startswith(told)
    assert "should be 5" in result.reason


@pytest.mark.parametrize(
    ("rule", "words"),
    [
        ({}, "No format is chosen."),
        ({"format": "isbnn"}, "Did you mean “isbn”?"),
        ({"format": "postal_code"}, "differ from country to country"),
        ({"format": "postal_code", "country": "AQ"}, "of AQ are not known here"),
        ({"pattern": ""}, "The pattern is empty."),
        ({"pattern": "(a"}, "missing"),
        ({"pattern": "(?=a)b"}, "invalid perl operator"),
        ({"pattern": r"(a)\1"}, "cannot be had"),
    ],
)
def test_a_format_that_cannot_be_used_leaves_the_rule_unfinished(rule, words):
    result = judged(rule, "x")
    assert result.status == "unfinished"
    assert words in result.reason


def test_a_pattern_takes_time_in_proportion_to_the_text():
    """RE2: what makes a backtracking engine run for years is answered at once."""
    assert compile_pattern("(a*)*b").search("a" * 20_000) is None
    with pytest.raises(PatternError):
        compile_pattern("a", "x")
