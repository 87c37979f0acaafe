"""Values of a record for the placeholders of a message or of an answer."""

from collections.abc import Iterable

from django.utils import timezone

from thistlequartz.core.judging import CompiledForm
from thistlequartz.core.merging import ANSWERS, TextMerger
from thistlequartz.core.ruleset.placeholders import Placeholder, parts_of
from thistlequartz.core.translation import tr
from thistlequartz.core.types import show_value
from thistlequartz.core.values import USUAL
from thistlequartz.server.people.models import Person

from .columns import columns_of
from .events import OCCASION_WORDS, Occasion
from .models import Record


def merging_of(
    record: Record,
    compiled: CompiledForm,
    texts: Iterable[str],
    occasion: Occasion,
    person: Person,
) -> TextMerger:
    """What fills `texts` about a record, as it stands, after what `person` did."""
    fields = compiled.fields
    parts = (part for text in texts for part in parts_of(text))
    wanted = {part.name for part in parts if isinstance(part, Placeholder)}
    keys = [key for key in fields if ANSWERS in wanted or key in wanted]
    shown = columns_of([record], compiled, keys, USUAL)[0]
    helpers = {one.key for one in compiled.form.fields if one.helper}
    number = str(record.number or tr("not numbered yet"))
    beside = {
        "form": compiled.form.name,
        "record": f"{number} ({record.title})" if record.title else number,
        "act": OCCASION_WORDS[occasion],
        "person": person.shown_name or person.username,
        "remark": record.remark if occasion == "returned" else "",
        "today": show_value(compiled.today_at(timezone.now()), style=USUAL),
    }
    answers = [(fields[key].label, text) for key, text in shown.items() if key not in helpers]
    return TextMerger({**shown, **beside}, answers)
