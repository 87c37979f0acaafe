"""What a change to a part of a draft was, in words: by the draft as it is now."""

from collections.abc import Mapping, Sequence
from typing import Any, Final

from thistlequartz.core.values import WritingStyle
from thistlequartz.core.versions.part_names import Detail, FormWords, part_details
from thistlequartz.server.activity.descriptions import NameCache
from thistlequartz.server.activity.models import AuditEntry

from .draft_parts import in_current_format
from .drafts import compiled_draft
from .models import DraftForm

_PARTS: Final[Mapping[str, str]] = {
    "rule": "rules",
    "field": "fields",
    "line": "plan",
    "case": "cases",
    "list": "choice_lists",
    "settings": "form",
}


def _words(form_key: str) -> FormWords | None:
    draft = DraftForm.objects.filter(key=form_key).first()
    return FormWords(compiled_draft(draft)) if draft else None


def tell_of_parts(
    activity: AuditEntry, style: WritingStyle, known: NameCache
) -> Sequence[Detail] | None:
    """What became of a part of a draft; None for other acts."""
    if not activity.part:
        return None
    words = known.once("words of the draft", activity.form_key, _words)
    if words is None:
        return ()
    if activity.part not in _PARTS:
        return _order(activity, words)
    before, after = (
        _whole(in_current_format(activity.part, one)) for one in (activity.before, activity.after)
    )
    return part_details(_PARTS[activity.part], before, after, words)


def _whole(document: Any) -> Any:
    """The settings of a form as one document, as other parts are."""
    if document is not None and "rest" in document:
        return {**document, **document["rest"], "rest": None}
    return document


def _order(activity: AuditEntry, words: FormWords) -> Sequence[Detail]:
    labels = words.labels | words.names
    was, now = (
        ", ".join(labels.get(key, key) for key in keys or ())
        for keys in (activity.before, activity.after)
    )
    return (Detail("order", was, now),)
