"""The state of a form as a whole: equal as long as every answer about it can be shown on."""

from django.db.models import Count, Max

from thistlequartz.server.forms.freshness import form_fingerprint
from thistlequartz.server.forms.models import DraftForm

from .models import Dismissal


def state_fingerprint(draft: DraftForm) -> str:
    """Return the hash of all that a form may show, but stored records.

    The draft with what it names, its releases, cases and plan, and dismissed findings.
    """
    dismissed = Dismissal.objects.filter(form=draft)
    return form_fingerprint(draft, dismissed.aggregate(Count("pk"), Max("at"), Max("pk")))
