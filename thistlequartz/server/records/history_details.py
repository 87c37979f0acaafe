"""What an act on a record changed, in words: by the release that is in force now."""

from collections.abc import Sequence

from thistlequartz.core.language import Vocabulary
from thistlequartz.core.values import WritingStyle
from thistlequartz.server.activity.descriptions import HistoryDetailView, NameCache
from thistlequartz.server.activity.models import AuditEntry
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force
from thistlequartz.server.releases.services import compiled_release

from .columns import in_words
from .services import ACTS


def _fields(form_key: str) -> Vocabulary | None:
    """The fields of the release in force; None before there is one."""
    draft = DraftForm.objects.filter(key=form_key).first()
    release = release_in_force(draft) if draft else None
    return compiled_release(release).fields if release else None


def tell_of_records(
    activity: AuditEntry, style: WritingStyle, known: NameCache
) -> Sequence[HistoryDetailView] | None:
    """The fields whose values became others; None for other acts."""
    if activity.act not in ACTS.values():
        return None
    fields = known.once("fields in force", activity.form_key, _fields)
    if fields is None:
        return ()
    before, after = activity.before or {}, activity.after or {}

    def shown(key: str, value: object) -> str:
        said = in_words(value, fields[key], style) if key in fields else ""
        return said or ("" if value is None else str(value))

    order = {key: place for place, key in enumerate(fields)}
    keys = sorted({*before, *after}, key=lambda key: (order.get(key, len(order)), key))
    return [
        HistoryDetailView(
            what=fields[key].label if key in fields else key,
            before=shown(key, before.get(key)),
            after=shown(key, after.get(key)),
        )
        for key in keys
        if before.get(key) != after.get(key)
    ]
