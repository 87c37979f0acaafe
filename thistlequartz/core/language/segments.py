"""The runs of a sentence, each known for what it is, and how they are joined."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from functools import cache
from string import Formatter
from typing import Literal

from thistlequartz.core.translation import BETWEEN, LAST, Joining

SegmentKind = Literal["word", "field", "value"]


@dataclass(frozen=True, slots=True)
class Segment:
    """A run of a sentence: plain words, the label of a field (with its key), or a value."""

    kind: SegmentKind
    text: str
    key: str | None = None


Words = list[Segment]


def plain(segments: Iterable[Segment]) -> str:
    """The sentence as plain text."""
    return "".join(segment.text for segment in segments)


def word(text: str) -> Segment:
    """A run of plain words."""
    return Segment("word", text)


def phrase(text: str, /, **places: Words | Segment | str) -> Words:
    """Return the runs of `text`, with others in its places: “{fields} are locked”."""
    out: Words = []
    for before, place in _parts(text):
        if before:
            out.append(word(before))
        if place is not None:
            stands = places[place]
            out.extend([word(stands)] if isinstance(stands, str) else _as_words(stands))
    return out


@cache
def _parts(text: str) -> tuple[tuple[str, str | None], ...]:
    """Return what stands before each place of a text, and its name; at the end there is none."""
    return tuple((before, place) for before, place, _, _ in Formatter().parse(text))


def _as_words(runs: Words | Segment) -> Words:
    return [runs] if isinstance(runs, Segment) else runs


def enumerate_words(parts: Sequence[Words], joining: Joining) -> Words:
    """“A, B and C”, with the word that joins the last two."""
    out: Words = []
    for position, part in enumerate(parts):
        if position:
            out.append(word(LAST[joining] if position == len(parts) - 1 else BETWEEN))
        out.extend(part)
    return out


def in_a_row(parts: Sequence[Words]) -> Words:
    """“A; B; C”."""
    return [one for part in parts for one in (word("; "), *part)][1:]
