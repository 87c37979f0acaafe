"""What acts changed, in words: each app tells of its own."""

from collections.abc import Callable, Sequence
from typing import Any, TypeVar

from pydantic import BaseModel, ConfigDict

from thistlequartz.core.translation import tr
from thistlequartz.core.values import WritingStyle

from .models import AuditEntry

T = TypeVar("T")


class HistoryDetailView(BaseModel):
    """One property of what was changed, as it was and as it became; blank: there was none."""

    model_config = ConfigDict(from_attributes=True)
    what: str
    before: str
    after: str


class NameCache:
    """What tellers look up for one list of acts: each once."""

    def __init__(self) -> None:
        self._found: dict[tuple[str, str], Any] = {}

    def once(self, what: str, form_key: str, look: Callable[[str], T]) -> T:
        """What `look` finds of a form, looked up the first time."""
        key = what, form_key
        if key not in self._found:
            self._found[key] = look(form_key)
        found: T = self._found[key]
        return found


Teller = Callable[[AuditEntry, WritingStyle, NameCache], Sequence[Any] | None]
"""What an act changed, as things like DetailView; None: another app knows."""
_tellers: list[Teller] = []


def tell_by(teller: Teller) -> None:
    """From now on `teller` is asked, too."""
    _tellers.append(teller)


def told(activity: AuditEntry, style: WritingStyle, known: NameCache) -> list[HistoryDetailView]:
    """What an act changed, in words; `known` is kept for the acts of one list."""
    answers = (teller(activity, style, known) for teller in _tellers)
    found = next((answer for answer in answers if answer is not None), None)
    told_of = _plainly(activity) if found is None else found
    return [HistoryDetailView.model_validate(one) for one in told_of]


def _plainly(activity: AuditEntry) -> list[HistoryDetailView]:
    before, after = activity.before or {}, activity.after or {}
    return [
        HistoryDetailView(what=name.replace("_", " "), before=_shown(was), after=_shown(now))
        for name in dict.fromkeys((*before, *after))
        if (was := before.get(name)) != (now := after.get(name))
    ]


def _shown(value: Any) -> str:
    match value:
        case None | "" | [] | {}:
            return ""
        case bool():
            return tr("yes") if value else tr("no")
        case list():
            return ", ".join(map(_shown, value))
        case dict():
            return ", ".join(f"{key}: {_shown(one)}" for key, one in value.items())
        case _:
            return str(value)
