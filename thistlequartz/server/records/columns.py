"""What records hold in some fields, as people read it: the columns of a list."""

from collections import defaultdict
from collections.abc import Sequence

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.language import Declaration
from thistlequartz.core.types import read_value, show_value
from thistlequartz.core.values import Fault, WritingStyle

from .lookup import number_in
from .models import Record


def columns_of(
    records: Sequence[Record], compiled: CompiledForm, keys: Sequence[str], style: WritingStyle
) -> list[dict[str, str]]:
    """For each record the fields `keys` that are filled, in somebody's style.

    A reference stands by what people know it by.

    Fields that the form does not have are left out.
    """
    known = [key for key in keys if key in compiled.fields]
    rows = [
        {
            key: text
            for key in known
            if (text := in_words(record.values.get(key), compiled.fields[key], style))
        }
        for record in records
    ]
    for key in known:
        form = compiled.fields[key].type.referred_form
        if form is not None:
            titles = titles_of(form, [row[key] for row in rows if key in row])
            for row in rows:
                if key in row:
                    row[key] = titles.get(row[key], row[key])
    return rows


def titles_of(form_key: str, numbers: Sequence[str]) -> dict[str, str]:
    """What people know the records of these numbers by, with the number."""
    wanted = {number for text in numbers if (number := number_in(text)) is not None}
    found = Record.objects.filter(form__key=form_key, number__in=wanted)
    titles: dict[str, str] = defaultdict(str)
    for number, title in found.values_list("number", "title"):
        titles[str(number)] = title or f"No. {number}"
    return titles


def in_words(stored: object, declared: Declaration, style: WritingStyle) -> str:
    """Return a stored value as people read it, texts as they stand; blank where there is none."""
    value = read_value(stored, declared.type, declared.settings.as_stored())
    if value is None or isinstance(value, Fault):
        return ""
    if declared.type.is_free_text:
        return str(value)
    return show_value(value, declared.type, style)
