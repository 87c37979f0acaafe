"""The catalogue of findings: what each kind is called, and what looks for it."""

from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Final

from thistlequartz.core.translation import tr

from . import (
    applying,
    circles,
    dead_ends,
    given_values,
    implied,
    nulls,
    silenced,
    tiers,
)
from . import (
    choices as answers,
)
from . import (
    messages as words_said,
)
from . import (
    severities as speaking,
)
from . import (
    stated_numbers as numbers_said,
)
from .context import SearchContext
from .finding import Finding


@dataclass(frozen=True, slots=True)
class Search:
    """What looks for findings of some kinds."""

    codes: tuple[str, ...]
    looks: Callable[[SearchContext], Iterator[Finding]]


SEARCHES: Final = (
    Search(("F24",), applying.never_in_force),
    Search(("F01",), applying.never_applies),
    Search(("F39",), circles.fields_in_a_circle),
    Search(("F40",), dead_ends.nobody_goes_through),
    Search(("F06",), dead_ends.required_and_closed),
    Search(("F03", "F32"), applying.always_violated),
    Search(("F02", "F07"), implied.superfluous),
    Search(("F04",), dead_ends.contradictions),
    Search(("F05",), dead_ends.answers_that_stop),
    Search(("F08",), answers.forgotten_blank),
    Search(("F08",), answers.blank_taken_for_an_answer),
    Search(("F09",), answers.forgotten_answer),
    Search(("F10", "F11", "F12"), tiers.tiers),
    Search(("F11",), tiers.overlapping_answers),
    Search(("F12",), numbers_said.bound_left_out),
    Search(("F13",), given_values.starting_values),
    Search(("F14",), answers.refused_answers),
    Search(("F29",), numbers_said.noughts),
    Search(("F15",), numbers_said.numbers_said),
    Search(("F16",), words_said.another_field),
    Search(("F17",), speaking.typing_only),
    Search(("F18",), answers.open_links),
    Search(("F19",), speaking.never_shown),
    Search(("F19",), speaking.never_asked),
    Search(("F20",), nulls.blank_items),
    Search(("F21",), nulls.out_of_domain),
    Search(("F22",), given_values.blank_in_unique),
    Search(("F23",), speaking.rights_missing),
    Search(("F25",), given_values.proposals_that_violate),
    Search(("F26",), given_values.derived_twice),
    Search(("F27",), speaking.no_first_record),
    Search(("F28",), speaking.told_nowhere),
    Search(("F30",), words_said.misspelt),
    Search(("F31",), applying.always_true),
    Search(("F33",), circles.proposals_in_a_circle),
    Search(("F34",), speaking.unused),
    Search(("F35",), silenced.silenced_by_a_blank),
    Search(("F36",), silenced.results_nobody_requires),
    Search(("F37",), silenced.nothing_satisfies),
    Search(("F38",), words_said.choices_alike),
)
"""In an order in which what one has told is not told again by another."""

TITLES: Final = {
    "F01": tr("a rule that can never apply"),
    "F02": tr("a rule that can never be violated"),
    "F03": tr("a rule that stops every record"),
    "F04": tr("rules that contradict one another"),
    "F05": tr("an answer with which nothing goes through"),
    "F06": tr("a need that nobody can meet, or that falls silent"),
    "F07": tr("a rule that says nothing of its own"),
    "F08": tr("a blank answer that was forgotten"),
    "F09": tr("an answer that was forgotten"),
    "F10": tr("a gap between tiers"),
    "F11": tr("tiers that overlap"),
    "F12": tr("a single value left out or counted twice"),
    "F13": tr("a starting value that a rule refuses, or that answers for the clerk"),
    "F14": tr("a value that is always refused"),
    "F15": tr("a text that says another number"),
    "F16": tr("a text that speaks of another field"),
    "F17": tr("a rule that stops nobody"),
    "F18": tr("a link of a chain that stays open"),
    "F19": tr("a field that is required where it is not shown"),
    "F20": tr("a sum that turns blank"),
    "F21": tr("a value that cannot be computed"),
    "F22": tr("uniqueness that blank escapes"),
    "F23": tr("something nobody may do"),
    "F24": tr("a rule that is not in force"),
    "F25": tr("a proposal that a rule refuses"),
    "F26": tr("a field that is derived twice"),
    "F27": tr("a first record that cannot be made"),
    "F28": tr("a message that leads nowhere"),
    "F29": tr("a bound with a nought too many or too few"),
    "F30": tr("a misspelt or scolding word"),
    "F31": tr("a condition that never matters"),
    "F32": tr("a warning that everybody goes past"),
    "F33": tr("proposals in a circle"),
    "F34": tr("a part that nobody uses"),
    "F35": tr("a check that a blank silences"),
    "F36": tr("a result that nobody can fill"),
    "F37": tr("a field that no text fits"),
    "F38": tr("choices that are read alike"),
    "F39": tr("fields that decide about one another"),
    "F40": tr("a form that nobody can submit"),
}
