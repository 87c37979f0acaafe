"""What the rules with an effect make of a record: what is offered, asked and needed."""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass
from typing import Final, Literal

from thistlequartz.core.judging import JudgeRequest, matching
from thistlequartz.core.types import show_value

from .context import RecordContext

Act = Literal["offers", "asks", "needs"]
ACTS: Final[tuple[Act, ...]] = ("offers", "asks", "needs")


@dataclass(frozen=True, slots=True)
class Consequences:
    """What becomes of other fields; each field once, in the order of the form."""

    offers: tuple[tuple[str, tuple[str, ...]], ...] = ()
    """Fields that rules propose a value for, with the values in words: several where several match,
    of which the first is offered.
    """
    asks: tuple[str, ...] = ()
    """Of the fields that rules open or close, those that are asked."""
    needs: tuple[str, ...] = ()
    """The fields without which the record cannot be submitted."""


NOTHING: Final = Consequences()


@dataclass(frozen=True, slots=True)
class Lane:
    """What becomes of one field along the bands of a sweep."""

    act: Act
    field: str
    parts: tuple[tuple[str, ...], ...]
    """For each band: the values that are offered, or the name of the act; nothing where it is not
    so.
    """


class ConsequenceSearch:
    """Looks for the consequences of one field's values."""

    def __init__(self, around: RecordContext, key: str) -> None:
        self._around = around
        self._key = key
        self._governed = [
            target
            for target in around.form.fields
            if target != key
            and any(
                one.part in ("opening", "closing") and target in one.rule.targets
                for one in around.form.rules
                if one.rule.enabled
            )
        ]

    def at(self, entry: object) -> Consequences:
        """What comes of one entry."""
        around, form = self._around, self._around.form
        judged = form.judged(JudgeRequest(around.record({self._key: entry}), around.circumstances))
        fields = judged.verdict("submit").fields
        offered: dict[str, list[str]] = {}
        for _, values in matching(judged.program, judged.settled, form.fields):
            for key, value in values.items():
                offered.setdefault(key, []).append(show_value(value, form.fields[key].type))
        return Consequences(
            tuple((key, tuple(offered[key])) for key in form.fields if key in offered),
            tuple(key for key in self._governed if fields[key].relevant),
            tuple(
                key
                for key, state in fields.items()
                if key != self._key and state.mark is not None and state.mark.kind == "required"
            ),
        )


def lanes_of(found: Sequence[Consequences]) -> tuple[Lane, ...]:
    """What differs from band to band; what is the same in all of them is left out."""
    return tuple(lane for lane in _lanes(found) if len(set(lane.parts)) > 1)


def _lanes(found: Sequence[Consequences]) -> Iterator[Lane]:
    for act in ACTS:
        by_band = [_of(act, one) for one in found]
        for key in dict.fromkeys(key for one in by_band for key in one):
            yield Lane(act, key, tuple(one.get(key, ()) for one in by_band))


def _of(act: Act, one: Consequences) -> Mapping[str, tuple[str, ...]]:
    match act:
        case "offers":
            return dict(one.offers)
        case "asks":
            return dict.fromkeys(one.asks, (act,))
        case "needs":
            return dict.fromkeys(one.needs, (act,))
