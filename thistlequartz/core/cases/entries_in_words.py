"""Entries of a case in words: labels of choices, written days, records by name."""

from collections.abc import Mapping

from thistlequartz.core.engines.environment import again
from thistlequartz.core.judging import CompiledForm, Lookup
from thistlequartz.core.language import Declaration
from thistlequartz.core.ruleset import record_title
from thistlequartz.core.translation import tr
from thistlequartz.core.types import read_value, show_value
from thistlequartz.core.values import Fault


def entries_in_words(
    form: CompiledForm, values: Mapping[str, object], records: Lookup
) -> dict[str, str]:
    """By the name of each entry, how it reads."""
    owners = {again(key): key for key in form.fields} | {key: key for key in form.fields}
    said = {}
    for name, value in values.items():
        declared = form.fields.get(owners.get(name, name))
        said[name] = str(value) if declared is None else _shown(value, declared, records)
    return said


def _shown(value: object, declared: Declaration, records: Lookup) -> str:
    read = read_value(value, declared.type, declared.settings)
    if isinstance(read, Fault):
        return str(value)
    if declared.type.referred_form and isinstance(read, str):
        return _record(read, declared.type.referred_form, declared, records)
    if declared.type.is_free_text and read is not None:
        return str(read)
    return show_value(read, declared.type)


def _record(number: str, form: str, declared: Declaration, records: Lookup) -> str:
    """“Aldermere Institute · P. Wren (record 12)”."""
    found = records.record(form, number)
    title = record_title(declared.fields or {}, found.values) if found else ""
    return (
        tr("{title} (record {number})", title=title, number=number)
        if title
        else tr("record {number}", number=number)
    )
