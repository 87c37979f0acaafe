"""Texts with places that a record fills: “Record {record} was submitted: {title}.”

Where a text goes decides how what is put in is guarded: a line of a header takes no line breaks,
and in a page nothing that was entered is taken for a tag.
"""

import html
import re
from collections.abc import Callable, Mapping, Sequence
from dataclasses import dataclass
from typing import Final

from thistlequartz.core.language import Problem, Vocabulary, nearest
from thistlequartz.core.ruleset.placeholders import Placeholder, PlaceholderOffer, parts_of
from thistlequartz.core.translation import tr

ANSWERS: Final = "answers"
"""The place of all answers at once."""
BESIDE: Final = (
    PlaceholderOffer("form", tr("the name of the form")),
    PlaceholderOffer("record", tr("the number of the record, and what it is known by")),
    PlaceholderOffer("act", tr("what was done, such as submitted")),
    PlaceholderOffer("person", tr("who did it")),
    PlaceholderOffer("remark", tr("why it was returned")),
    PlaceholderOffer("today", tr("the day on which it was done")),
    PlaceholderOffer(ANSWERS, tr("all answers, one below the other")),
)
"""What can be put in beside the fields of a form."""
_BREAKS: Final = re.compile(r"\s*[\x00-\x1f\x7f-\x9f\u2028\u2029]+\s*")
_ROW: Final = tr(
    '<tr><th align="left" valign="top" style="font-weight:normal;padding:2px 16px 2px '
    '0">{label}</th><td>{value}</td></tr>'
)


def merge_offers(fields: Vocabulary) -> tuple[PlaceholderOffer, ...]:
    """All that can be put in the places of a text."""
    taken = {one.name for one in BESIDE}
    of_fields = [
        PlaceholderOffer(key, tr("the value of {label}", label=declared.label))
        for key, declared in fields.items()
        if key not in taken
    ]
    return (*BESIDE, *of_fields)


def merge_problems(
    text: str, place: str, fields: Vocabulary, *, one_line: bool = False
) -> tuple[Problem, ...]:
    """Return the placeholders of a text that nothing fills.

    Of one that stands in `one_line`, also what cannot stand there.
    """
    known = {one.name for one in merge_offers(fields)}
    problems = []
    if one_line and one_line_of(text) != text:
        said = tr("This stands in one line, and has a second line or a control character in it.")
        problems.append(Problem(said, tr("Remove it."), place))
    for name in dict.fromkeys(one.name for one in parts_of(text) if isinstance(one, Placeholder)):
        if one_line and name == ANSWERS:
            said = tr("All answers do not go into one line.")
            problems.append(Problem(said, tr("Put {answers} into the text."), place))
        elif name not in known:
            near = nearest(name, known)
            problems.append(
                Problem(
                    tr("Nothing can be put in the place of “{{{name}}}”.", name=name[:40]),
                    tr("Did you mean “{{{near}}}”?", near=near)
                    if near
                    else tr("Use the key of a field."),
                    place,
                )
            )
    return tuple(problems)


@dataclass(frozen=True, slots=True)
class TextMerger:
    """What is put into the places of texts about one record."""

    known: Mapping[str, str]
    """By name, as people read it; what is missing is blank."""
    answers: Sequence[tuple[str, str]]
    """Label and value of each answer."""

    def line(self, text: str) -> str:
        """`text`, filled, for one line: whatever was entered, it does not begin another."""
        return one_line_of(self._filled(text, lambda value: value, ""))

    def plain(self, text: str) -> str:
        """`text`, filled, as plain text."""
        lines = "\n".join(f"{label}: {value}" for label, value in self.answers)
        return self._filled(text, lambda value: value, lines)

    def page(self, text: str) -> str:
        """`text`, filled, as HTML: its lines are lines, and nothing in it is taken for a tag."""
        rows = "".join(
            _ROW.format(label=html.escape(label), value=_broken(html.escape(value)))
            for label, value in self.answers
        )
        table = f"<table>{rows}</table>" if rows else ""
        return _broken(self._filled(text, html.escape, table, beside=html.escape))

    def _filled(
        self,
        text: str,
        guard: Callable[[str], str],
        answers: str,
        beside: Callable[[str], str] = str,
    ) -> str:
        def put(part: str | Placeholder) -> str:
            if isinstance(part, str):
                return beside(part)
            return answers if part.name == ANSWERS else guard(self.known.get(part.name, ""))

        return "".join(map(put, parts_of(text)))


def one_line_of(text: str) -> str:
    """A text without line breaks and control characters: each run of them is a space."""
    return _BREAKS.sub(" ", text).strip() if _BREAKS.search(text) else text


def _broken(text: str) -> str:
    return text.replace("\n", "<br>\n")
