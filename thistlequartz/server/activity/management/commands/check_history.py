"""Check that nothing in the history was changed, removed or put in since it was written."""

from typing import Any

from django.core.management.base import BaseCommand, CommandError

from thistlequartz.server.activity.chain import check_chains
from thistlequartz.server.activity.models import AuditChain, AuditEntry


class Command(BaseCommand):
    """Follow every chain of acts from its beginning to its end."""

    help = "Check the history: every act, and that none is missing. Ends with 1 where an act fails."

    def handle(self, **_: Any) -> None:
        """Say of each chain how long it is and the mark of its end, or where it is broken."""
        breaks = list(check_chains())
        for one in breaks:
            of = f"the history of {one.form_key}" if one.form_key else "the history of the accounts"
            self.stderr.write(f"Act {one.place} in {of}: {one.what}")
        if breaks:
            raise CommandError("The history is not as it was written.")
        for end in AuditChain.objects.order_by("form_key"):
            self.stdout.write(f"{end.form_key or 'accounts'}: {end.length} acts, mark {end.hash}")
        self.stdout.write(f"The history is whole: {AuditEntry.objects.count()} acts.")
        self.stdout.write("Note the marks elsewhere: by them a chain that was made anew is known.")
