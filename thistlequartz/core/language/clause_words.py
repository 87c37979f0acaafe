"""Each clause of a sentence about a condition, whole, in its three moods."""

from dataclasses import dataclass
from typing import Final, Literal

from thistlequartz.core.translation import tr
from thistlequartz.core.types import ValueType

from .operators import Operator

Mood = Literal["stated", "obliged", "bare"]


@dataclass(frozen=True, slots=True)
class ClauseWords:
    """A clause with places for its sides, {left} and {right}, and for what else it speaks of."""

    stated: str
    """After “when”: “Height is at least 3 m”."""
    obliged: str
    """As what must be true: “Height must be at least 3 m”."""
    bare: str = ""
    """Without its subject, as in a hint: “at least 3 m”; blank: it is never said so."""

    def in_mood(self, mood: Mood) -> str:
        """Its text; what is never said bare is stated."""
        return getattr(self, mood) or self.stated


_COMPARED: Final[dict[Operator, ClauseWords]] = {
    "is": ClauseWords(tr("{left} is {right}"), tr("{left} must be {right}"), "{right}"),
    "is_not": ClauseWords(
        tr("{left} is not {right}"), tr("{left} must not be {right}"), tr("not {right}")
    ),
    "is_less": ClauseWords(
        tr("{left} is less than {right}"),
        tr("{left} must be less than {right}"),
        tr("less than {right}"),
    ),
    "is_at_most": ClauseWords(
        tr("{left} is at most {right}"), tr("{left} must be at most {right}"), tr("at most {right}")
    ),
    "is_more": ClauseWords(
        tr("{left} is more than {right}"),
        tr("{left} must be more than {right}"),
        tr("more than {right}"),
    ),
    "is_at_least": ClauseWords(
        tr("{left} is at least {right}"),
        tr("{left} must be at least {right}"),
        tr("at least {right}"),
    ),
}
_DATES: Final[dict[Operator, ClauseWords]] = {
    "is_less": ClauseWords(
        tr("{left} is before {right}"), tr("{left} must be before {right}"), tr("before {right}")
    ),
    "is_at_most": ClauseWords(
        tr("{left} is on or before {right}"),
        tr("{left} must be on or before {right}"),
        tr("on or before {right}"),
    ),
    "is_more": ClauseWords(
        tr("{left} is after {right}"), tr("{left} must be after {right}"), tr("after {right}")
    ),
    "is_at_least": ClauseWords(
        tr("{left} is on or after {right}"),
        tr("{left} must be on or after {right}"),
        tr("on or after {right}"),
    ),
}
_TEXTS: Final[dict[Operator, ClauseWords]] = {
    "is_less": ClauseWords(
        tr("{left} is ahead of {right}"),
        tr("{left} must be ahead of {right}"),
        tr("ahead of {right}"),
    ),
    "is_at_most": ClauseWords(
        tr("{left} is ahead of or the same as {right}"),
        tr("{left} must be ahead of or the same as {right}"),
        tr("ahead of or the same as {right}"),
    ),
    "is_more": ClauseWords(
        tr("{left} is behind {right}"), tr("{left} must be behind {right}"), tr("behind {right}")
    ),
    "is_at_least": ClauseWords(
        tr("{left} is behind or the same as {right}"),
        tr("{left} must be behind or the same as {right}"),
        tr("behind or the same as {right}"),
    ),
}
MEASURED: Final[dict[Operator, ClauseWords]] = {
    "is": ClauseWords(
        tr("{left} has exactly {right}"),
        tr("{left} must have exactly {right}"),
        tr("exactly {right}"),
    ),
    "is_less": ClauseWords(
        tr("{left} has fewer than {right}"),
        tr("{left} must have fewer than {right}"),
        tr("fewer than {right}"),
    ),
    "is_at_most": ClauseWords(
        tr("{left} has at most {right}"),
        tr("{left} must have at most {right}"),
        tr("at most {right}"),
    ),
    "is_more": ClauseWords(
        tr("{left} has more than {right}"),
        tr("{left} must have more than {right}"),
        tr("more than {right}"),
    ),
    "is_at_least": ClauseWords(
        tr("{left} has at least {right}"),
        tr("{left} must have at least {right}"),
        tr("at least {right}"),
    ),
    "is_not": ClauseWords(
        tr("{left} does not have exactly {right}"), tr("{left} must not have exactly {right}")
    ),
    "is_between": ClauseWords(tr("{left} has {right}"), tr("{left} must have {right}"), "{right}"),
}
"""How many characters or choices a field has; {right} is a count with its noun."""
IS_BLANK: Final = ClauseWords(tr("{left} is blank"), tr("{left} must be blank"))
HAS_VALUE: Final = ClauseWords(tr("{left} has a value"), tr("{left} must have a value"))
HAVE_VALUE_ANY: Final = ClauseWords(
    tr("at least one of {listed} has a value"), tr("at least one of {listed} must have a value")
)
HAVE_VALUE_ONE: Final = ClauseWords(
    tr("exactly one of {listed} has a value"), tr("exactly one of {listed} must have a value")
)
HAVE_VALUE_ALL: Final = ClauseWords(
    tr("either all or none of {listed} has a value"),
    tr("either all or none of {listed} must have a value"),
)
HAS_CHANGED: Final = ClauseWords(tr("{left} has changed"), tr("{left} must have changed"))
HAS_NOT_CHANGED: Final = ClauseWords(
    tr("{left} has not changed"), tr("{left} must not have changed")
)
IS_MET: Final = ClauseWords(tr("{left} is met"), tr("{left} must be met"))
IS_NOT_MET: Final = ClauseWords(tr("{left} is not met"), tr("{left} must not be met"))
IS_TRUE: Final = ClauseWords(tr("{left} is true"), tr("{left} must be true"))
IS_YES: Final = ClauseWords(tr("{left} is yes"), tr("{left} must be yes"), tr("yes"))
TWICE_ALIKE: Final = ClauseWords(
    tr("{left} is entered twice alike"), tr("{left} must be entered twice alike")
)
UNIQUE: Final = ClauseWords(
    tr("no other record shares {listed}"), tr("no two records may share {listed}")
)
NO_OTHER: Final = ClauseWords(
    tr("there is no other record where {condition}"),
    tr("there must be no other record where {condition}"),
)
ONLY: Final = ClauseWords(
    tr("{left} is nothing but {listed}"),
    tr("{left} must be nothing but {listed}"),
    tr("nothing but {listed}"),
)
GOES_WITH: Final = ClauseWords(
    tr("{left} goes with {governor}: {rows}"), tr("{left} must go with {governor}: {rows}")
)
GOES_WITH_SOME: Final = ClauseWords(
    tr("{left} goes with {governor}: {rows}; and {rest} more"),
    tr("{left} must go with {governor}: {rows}; and {rest} more"),
)
INCLUDES: Final = ClauseWords(tr("{left} includes {right}"), tr("{left} must include {right}"))
DOES_NOT_INCLUDE: Final = ClauseWords(
    tr("{left} does not include {right}"), tr("{left} must not include {right}")
)
IS_WITHIN: Final = ClauseWords(tr("{left} is {right}"), tr("{left} must be {right}"), "{right}")
IS_NOT_WITHIN: Final = ClauseWords(
    tr("{left} is not {right}"), tr("{left} must not be {right}"), tr("not {right}")
)
IS_ONE_OF: Final = ClauseWords(
    tr("{left} is one of {listed}"), tr("{left} must be one of {listed}"), tr("one of {listed}")
)
IS_NONE_OF: Final = ClauseWords(
    tr("{left} is none of {listed}"), tr("{left} must be none of {listed}"), tr("none of {listed}")
)
HAS_FORMAT: Final = ClauseWords(
    tr("{left} is {format}, such as {example}"),
    tr("{left} must be {format}, such as {example}"),
    tr("{format}, such as {example}"),
)
HAS_FORMAT_OF: Final = ClauseWords(
    tr("{left} is {format} of {country}, such as {example}"),
    tr("{left} must be {format} of {country}, such as {example}"),
    tr("{format} of {country}, such as {example}"),
)
IS_DESCRIBED: Final = ClauseWords(
    tr("{left} is {described}"), tr("{left} must be {described}"), "{described}"
)
HAS_PATTERN: Final = ClauseWords(
    tr("{left} is written by the pattern {pattern}"),
    tr("{left} must be written by the pattern {pattern}"),
    tr("written by the pattern {pattern}"),
)
PIECES: Final[dict[str, ClauseWords]] = {
    "contains": ClauseWords(tr("{left} contains {right}"), tr("{left} must contain {right}")),
    "starts with": ClauseWords(
        tr("{left} starts with {right}"), tr("{left} must start with {right}")
    ),
    "ends with": ClauseWords(tr("{left} ends with {right}"), tr("{left} must end with {right}")),
}
"""By the FEEL function that asks a text for a piece of it."""
ANY_CASE: Final = tr("{clause}, in capitals or small letters")
DOES_NOT_CONTAIN: Final = ClauseWords(
    tr("{left} does not contain {right}"), tr("{left} must not contain {right}")
)


def compared(operator: Operator, type_: ValueType | None) -> ClauseWords:
    """How a comparison is said of values of the type: “is before” of dates, say."""
    by_type = {"dates": _DATES, "texts": _TEXTS, "numbers": _COMPARED}
    words = by_type[type_.compared_as if type_ else "numbers"]
    return words.get(operator, _COMPARED[operator])
