"""The state of a form as a whole: equal as long as every answer about it can be shown on."""

from django.db.models import Count, Max

from thistlequartz.server.forms.freshness import form_fingerprint
from thistlequartz.server.forms.models import DraftForm

from .models import SetAside


def state_fingerprint(draft: DraftForm) -> str:
    """Hash of the draft with what it names, its releases, its cases, its plan, and the findings
    that are dismissed; stored records do not count.
    """
    dismissed = SetAside.objects.filter(form=draft)
    return form_fingerprint(draft, dismissed.aggregate(Count("pk"), Max("at"), Max("pk")))
