"""The state of a form as a whole: equal as long as every answer about it can be shown on."""

import hashlib

from django.db.models import Count, Max, Sum

from thistlequartz.server.forms.drafts import rules_fingerprint_of
from thistlequartz.server.forms.in_force import standing
from thistlequartz.server.forms.models import DraftForm

from .models import SetAside

_CHARACTERS = 32


def state_fingerprint(draft: DraftForm) -> str:
    """Hash of the draft with what it names, its releases, its cases, its plan, and the findings
    that are dismissed; stored records do not count.
    """
    releases = standing(draft)
    rows = (draft.case_rows, draft.plan_rows)
    told = (
        rules_fingerprint_of(draft),
        draft.edition,
        draft.settings_version,
        [one.pk for one in releases if one is not None],
        [one.aggregate(Count("pk"), Max("pk"), Sum("version")) for one in rows],
        SetAside.objects.filter(form=draft).aggregate(Count("pk"), Max("at"), Max("pk")),
    )
    return hashlib.sha256(repr(told).encode()).hexdigest()[:_CHARACTERS]
