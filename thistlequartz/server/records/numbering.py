"""The numbers of a form's records, and how many there are: kept, so that neither is counted."""

from collections.abc import Callable

from django.db.models import Max

from thistlequartz.server.forms.models import DraftForm

from .models import RecordBook


def book_of(draft: DraftForm) -> RecordBook:
    """The book of a form, begun where there is none."""
    return RecordBook.objects.get_or_create(form=draft, defaults=as_stored(draft))[0]


def next_number(draft: DraftForm) -> int:
    """The number of a new record; given in the transaction that stores it, with the form locked."""
    book = book_of(draft)
    book.last_number += 1
    book.stored += 1
    book.save(update_fields=["last_number", "stored"])
    return book.last_number


def as_stored(draft: DraftForm) -> dict[str, Callable[[], int]]:
    """What a book begins with where records are stored already; asked for only when it is begun."""
    return {
        "last_number": lambda: draft.records.aggregate(last=Max("number"))["last"] or 0,
        "stored": draft.records.count,
    }
