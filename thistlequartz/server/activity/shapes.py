"""What is sent of the log of changes."""

from datetime import datetime
from typing import Final

from pydantic import BaseModel

from .models import Activity

ACTS_SHOWN: Final = 200
"""The newest acts of a form, or of the accounts, that are shown."""


class ActView(BaseModel):
    """What somebody did, when and to what."""

    at: datetime
    person: str | None
    act: str
    subject: str
    note: str


def acts_of(form_key: str) -> list[ActView]:
    """The newest acts in a form, or with a blank key those on accounts."""
    acts = Activity.objects.filter(form_key=form_key).select_related("person")[:ACTS_SHOWN]
    return [
        ActView(
            at=one.at,
            person=one.person.shown_name if one.person else None,
            act=one.act,
            subject=one.subject,
            note=one.note or ("taken back since" if one.state != "done" else ""),
        )
        for one in acts
    ]
