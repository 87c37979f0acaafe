"""What is sent of the log of changes."""

from datetime import date, datetime
from typing import Annotated, Final

from pydantic import BaseModel, ConfigDict, Field

from thistlequartz.core.values import WritingStyle

from .acts import kind_of, sentence_of
from .descriptions import HistoryDetailView, NameCache, told
from .models import AuditChain, AuditEntry
from .search import HistoryQuery, acts

AT_A_TIME: Final = 50


class HistoryEntryView(BaseModel):
    """What somebody did, when and to what."""

    id: int
    at: datetime
    person: str
    act: str
    """By its code."""
    subject: str
    sentence: str
    """What was done, as a sentence in the past tense that begins with the person."""
    note: str
    taken_back: bool
    details: list[HistoryDetailView]


class HistoryFilter(BaseModel):
    """Which acts are wanted; what is blank does not count."""

    model_config = ConfigDict(extra="forbid")
    text: Annotated[str, Field(max_length=200)] = ""
    act: Annotated[str, Field(max_length=40)] = ""
    person: Annotated[str, Field(max_length=150)] = ""
    since: date | None = None
    until: date | None = None

    def of(self, form_key: str) -> HistoryQuery:
        """The same of one form, or with a blank key of the accounts."""
        return HistoryQuery(form_key, self.text, self.act, self.person, self.since, self.until)


class HistoryPageFilter(HistoryFilter):
    """The same, from some place on."""

    before: Annotated[int, Field(ge=1)] | None = None
    """Only acts older than the one of this id."""


class HistoryKind(BaseModel):
    """A kind of act: its code, and what it is called."""

    act: str
    words: str


class HistoryPerson(BaseModel):
    """Somebody who has done something."""

    username: str
    name: str


class HistoryPage(BaseModel):
    """Some acts, newest first, and by what they can be found."""

    acts: list[HistoryEntryView]
    more: bool
    """Whether there are older ones."""
    kinds: list[HistoryKind]
    people: list[HistoryPerson]
    length: int
    """How many acts there are in all."""
    head_hash: str
    """The hash at the end of the chain: another one as soon as anything is added or changed."""


def acts_page(form_key: str, asked: HistoryPageFilter, style: WritingStyle) -> HistoryPage:
    """The acts on a form, or with a blank key on accounts."""
    found = acts(asked.of(form_key)).select_related("undo_state", "person")
    if asked.before is not None:
        found = found.filter(id__lt=asked.before)
    some, known = list(found[: AT_A_TIME + 1]), NameCache()
    every = AuditEntry.objects.filter(form_key=form_key).order_by()
    kinds = every.values_list("act", flat=True).distinct()
    people = every.exclude(person=None).values_list("person__username", "person__shown_name")
    end = AuditChain.objects.filter(form_key=form_key).first() or AuditChain()
    return HistoryPage(
        acts=[act_view(one, style, known) for one in some[:AT_A_TIME]],
        more=len(some) > AT_A_TIME,
        kinds=sorted(
            (HistoryKind(act=one, words=kind_of(one)) for one in kinds), key=lambda one: one.words
        ),
        people=[
            HistoryPerson(username=name, name=shown) for name, shown in sorted(people.distinct())
        ],
        length=end.length,
        head_hash=end.hash,
    )


def act_view(one: AuditEntry, style: WritingStyle, known: NameCache) -> HistoryEntryView:
    """An act, for an answer."""
    person = one.who.rpartition(" (")[0] or one.who
    undo_state = getattr(one, "undo_state", None)
    return HistoryEntryView(
        id=one.pk,
        at=one.at,
        person=person,
        act=one.act,
        subject=one.subject,
        sentence=sentence_of(one.act, person, one.subject),
        note=one.note,
        taken_back=undo_state is not None and undo_state.state != "done",
        details=told(one, style, known),
    )
