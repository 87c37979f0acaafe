"""What is to be said of a record, written in the transaction that stores it."""

from collections.abc import Iterator, Sequence
from typing import Any, Final

from thistlequartz.core.judging import CompiledCondition, Settled
from thistlequartz.core.language import FormulaError
from thistlequartz.core.translation import tr
from thistlequartz.server.inserting import create_many
from thistlequartz.server.jobs.retrying import DispatchState
from thistlequartz.server.people.rights import role_of
from thistlequartz.server.records.events import Occasion, RecordEvent
from thistlequartz.server.records.settled_values import settled_now

from .composing import Composer
from .models import OutgoingMessage, Template
from .writing import WrittenMessage


def write_messages(sender: Any, happenings: Sequence[RecordEvent], **_: Any) -> None:
    """Write what is to be sent about records that were just stored."""
    desk = happenings[0].desk
    templates = list(Template.objects.filter(form=desk.draft, enabled=True))
    if not templates:
        return
    writer = _Writer(happenings[0], templates)
    create_many(OutgoingMessage, (row for one in happenings for row in writer.about(one)))


MOST_AT_ONCE: Final = 50
"""Messages that go out about one record at once; the others are kept, and say so."""
TOO_MANY: Final = tr(
    "It was not sent: no more than {most_at_once} messages go out when a record is stored. Join "
    "some of them into one, then send this one again if it is still wanted.",
    most_at_once=MOST_AT_ONCE,
)


class _Writer:
    """Writes messages about records of one form, by the release in force."""

    def __init__(self, first: RecordEvent, templates: Sequence[Template]) -> None:
        self._compiled = first.desk.compiled
        self._composer = Composer(self._compiled)
        self._messages = [
            (one, message, self._condition(message.condition))
            for one in templates
            if (message := WrittenMessage.model_validate(one.document))
        ]

    def _condition(self, text: str) -> CompiledCondition | str | None:
        """What is asked of a record; why it cannot be asked; or None: nothing."""
        if not text:
            return None
        try:
            return self._compiled.condition(text)
        except FormulaError as error:
            return " ".join(f"{one.message} {one.remedy}" for one in error.problems)

    def about(self, happening: RecordEvent) -> Iterator[OutgoingMessage]:
        """The messages about one record."""
        settled: Settled | None = None
        going = 0
        for template, message, asked in self._messages:
            if happening.entry_point not in message.entry_points:
                continue
            for occasion in happening.occasions:
                if occasion not in message.occasions:
                    continue
                if isinstance(asked, CompiledCondition):
                    settled = settled or _settled(happening)
                    if not asked.met(settled):
                        continue
                row = self._row(template, message, happening, occasion, asked)
                going += row.state == DispatchState.WAITING
                if row.state == DispatchState.WAITING and going > MOST_AT_ONCE:
                    row.state = DispatchState.FAILED
                    row.trouble = "\n".join([TOO_MANY, *row.trouble.splitlines()])
                yield row

    def _row(
        self,
        template: Template,
        message: WrittenMessage,
        happening: RecordEvent,
        occasion: Occasion,
        asked: CompiledCondition | str | None,
    ) -> OutgoingMessage:
        record = happening.record
        made = self._composer.composed(message, record, occasion, happening.person)
        troubles = list(made.addressed.troubles)
        if isinstance(asked, str):
            release = happening.desk.release.number
            troubles.insert(
                0,
                tr(
                    "Its condition cannot be read by release {release}. {asked}",
                    release=release,
                    asked=asked,
                ),
            )
        can_go = bool(made.addressed.to) and not isinstance(asked, str)
        return OutgoingMessage(
            form=happening.desk.draft,
            template=template,
            record=record,
            number=record.number,
            revision=record.revision,
            occasion=occasion,
            to=made.addressed.to,
            copies=made.addressed.copies,
            reply_to=made.reply_to,
            subject=made.subject,
            text=made.text,
            page=made.page,
            state=DispatchState.WAITING if can_go else DispatchState.FAILED,
            trouble="\n".join(troubles),
        )


def _settled(happening: RecordEvent) -> Settled:
    return settled_now(
        happening.record,
        happening.desk.compiled,
        role=role_of(happening.person, happening.desk.draft.key),
        entry_point=happening.entry_point,
        before=happening.before,
    )
