"""Numbers and days in texts, as far as they stand where a bound could stand.

A number says a bound beside a unit, after a word that compares, or beside the label of its field.
It says none in a reference (Article 12, Directive 2020/2184, extension 4711), an example, a name.
"""

import re
from collections.abc import Collection, Iterator
from dataclasses import dataclass
from datetime import date
from decimal import Decimal
from typing import Final

from thistlequartz.core.types import DateType, read_value
from thistlequartz.core.values import PLAIN

_MONTHS: Final = (
    "January|February|March|April|May|June|July|August|September|October|November|December"
)
_DAY: Final = re.compile(rf"\b\d{{1,2}} (?:{_MONTHS}) \d{{4}}\b|\b\d{{4}}-\d{{2}}-\d{{2}}\b")
_NUMBER: Final = re.compile(
    r"(?<![\w.,/:§#-])[-−]?\d{1,3}(?:[,\u00a0\u202f ]\d{3})+(?:\.\d+)?(?![\w/:])"
    r"|(?<![\w.,/:§#-])[-−]?\d+(?:\.\d+)?(?![\w/:]|[.,]\d|-\d)"
)
_MORE: Final = (
    "more|less|fewer|greater|higher|lower|larger|smaller|longer|shorter|older|younger|later|earlier"
)
_COMPARES: Final = re.compile(
    rf"(?:at (?:least|most)|(?:(?:no|not) )?(?:{_MORE}) than|over|under|above|below|beyond|within|"
    r"from|to|up to|until|till|"
    r"between|and|or|exceeds?|exceeding|minimum|maximum|min\.?|max\.?|lowest|highest|limit|exactly|"
    r"only|reach(?:es)?|starts? at|ends? at|is|are|be|was|equals?|[<>=≤≥]=?|[€$£])"
    r"(?:\s+(?:of|is|to|the|a|about|around|at|than|only|just|exactly|be|:))*\s*:?\s*\Z",
    re.IGNORECASE,
)
_BETWEEN: Final = re.compile(r"\b(?:between|from|of|is|are|be|either|one of)\b", re.IGNORECASE)
"""What makes a bound of a number that “and”, “or” or “to” stands before."""
_JOINS: Final = re.compile(r"(?:and|or|to)\s*\Z", re.IGNORECASE)
_STRICT: Final = re.compile(
    rf"(?:(?<!not )(?<!no )(?:{_MORE}) than|over|under|above|below|beyond|exceeds?|exceeding|"
    r"before|after)\s*\Z",
    re.IGNORECASE,
)
_REFERS: Final = re.compile(
    r"(?:articles?|art\.?|directive|regulation|sections?|sect\.?|clauses?|chapters?|annex(?:es)?|"
    r"appendix|extension|ext\.?|tiers?|levels?|steps?|class(?:es)?|category|types?|forms?|rooms?|"
    r"pages?|lines?|rules?|rows?|no\.?|nos\.?|nr\.?|numbers?|versions?|iso(?:/iec)?|en|din|rfc|bs|"
    r"standard|policy|paragraphs?|para\.?|items?|tables?|figures?|fig\.?|phases?|stages?|floors?|"
    r"buildings?|telephone|phone|tel\.?|call|codes?|box|ward|team|unit|schedule|part|volume|vol\.?|"
    r"edition|model|field|question|note|case|act|law|order|decree|notice|year|"
    r"e\.g\.|for example|for instance|such as|like|example:?|of (?:the year )?)\s*:?\s*\Z",
    re.IGNORECASE,
)
_DURATION: Final = re.compile(
    r"\s?(?:calendar |working |full |whole )?(years?|months?|weeks?|days?|hours?|minutes?)\b",
    re.IGNORECASE,
)
_PER_CENT: Final = re.compile(r"\s?(?:%|per ?cent\b)", re.IGNORECASE)
_COUNTED: Final = re.compile(
    r"\s?(?:characters?|letters?|digits?|signs?|places?|choices?|ticks?|answers?|values?)\b",
    re.IGNORECASE,
)
_UNIT: Final = re.compile(r"\s?([A-Za-zµ°€$£]{1,8})\b")
_FACTORS: Final = {"k": Decimal(1000), "m": Decimal("0.001"), "c": Decimal("0.01"),
                   "µ": Decimal("0.000001"), "M": Decimal(1_000_000)}  # fmt: skip
_DAYS: Final = {"day": Decimal(1), "week": Decimal(7)}
_MONTHS_IN: Final = {"month": Decimal(1), "year": Decimal(12)}
_SECONDS: Final = {"hour": Decimal(3_600), "minute": Decimal(60)}
_DAYS_OF_A_YEAR: Final = (Decimal(365), Decimal(366))
_DAYS_OF_A_MONTH: Final = (Decimal(30), Decimal(31))


@dataclass(frozen=True, slots=True)
class StatedNumber:
    """A number or a day that a text says as a bound."""

    written: str
    means: frozenset[Decimal] | date
    """What it may stand for, in the units in which a rule has its numbers."""
    unit: str = ""
    """As it is written behind it."""

    @property
    def words(self) -> str:
        """With its unit."""
        return f"{self.written} {self.unit}" if self.unit else self.written


def said_in(text: str, labels: Collection[str], units: Collection[str]) -> Iterator[StatedNumber]:
    """The bounds that a text says; `labels` are those of the fields it is about, `units` theirs."""
    for found in _DAY.finditer(text):
        read = read_value(found.group(), DateType(), PLAIN)
        if isinstance(read, date):
            yield StatedNumber(found.group(), read)
    text = _DAY.sub(lambda found: " " * len(found.group()), text)
    for found in _NUMBER.finditer(text):
        before, after = text[: found.start()], text[found.end() :]
        if _REFERS.search(before):
            continue
        plain = Decimal(re.sub(r"[,\u00a0\u202f ]", "", found.group()).replace("−", "-"))
        measured = _measured(plain, after, units)
        if measured is None and not _is_bound(before, after, labels):
            continue
        means = measured or frozenset({plain})
        if _STRICT.search(before):
            means |= {value + step for value in means for step in (-1, 1)}
        yield StatedNumber(found.group(), means, _unit_of(after) if measured else "")


def _is_bound(before: str, after: str, labels: Collection[str]) -> bool:
    if _COMPARES.search(before):
        return not _JOINS.search(before) or bool(_BETWEEN.search(before))
    ends, begins = before.rstrip(" :=").casefold(), after.lstrip().casefold()
    return any(
        ends.endswith(label.casefold()) or begins.startswith(label.casefold())
        for label in labels
        if label
    )


def _unit_of(after: str) -> str:
    """The unit that a number is followed by."""
    for pattern in (_PER_CENT, _DURATION, _COUNTED, _UNIT):
        if found := pattern.match(after):
            return found.group().strip()
    return ""


def _measured(number: Decimal, after: str, units: Collection[str]) -> frozenset[Decimal] | None:
    """What a number with a unit may stand for; None where no unit follows."""
    if _PER_CENT.match(after):
        # Where the field itself counts in per cent, 0.25 is a quarter of one.
        return frozenset({number} if "%" in units else {number, number / 100})
    if found := _DURATION.match(after):
        return _duration(number, found.group(1).lower().removesuffix("s"))
    if _COUNTED.match(after):
        return frozenset({number})
    if found := _UNIT.match(after):
        said = found.group(1)
        for unit in filter(None, units):
            if said == unit:
                return frozenset({number})
            if said[:1] in _FACTORS and said[1:] == unit:
                return frozenset({number * _FACTORS[said[0]]})
            if unit[:1] in _FACTORS and unit[1:] == said:
                return frozenset({number / _FACTORS[unit[0]]})
    return None


def _duration(number: Decimal, unit: str) -> frozenset[Decimal]:
    """In days, in months, in seconds, and as it is, for a field that counts in that unit."""
    means = {number}
    if unit in _DAYS:
        days = number * _DAYS[unit]
        means |= {days, days / 7, days * 24}
        means |= {days / year * 12 for year in _DAYS_OF_A_YEAR}
        means |= {days / month for month in _DAYS_OF_A_MONTH}
    if unit in _MONTHS_IN:
        months = number * _MONTHS_IN[unit]
        means |= {months, months / 12}
        means |= {months / 12 * year for year in _DAYS_OF_A_YEAR}
        means |= {months * month for month in _DAYS_OF_A_MONTH}
    if unit in _SECONDS:
        seconds = number * _SECONDS[unit]
        means |= {seconds / 86_400, seconds / 3_600, seconds / 60, seconds}
    return frozenset(one.normalize() for one in means)
