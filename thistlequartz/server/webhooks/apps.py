"""The app of webhooks."""

from django.apps import AppConfig


class WebhooksConfig(AppConfig):
    """Webhooks."""

    name = "thistlequartz.server.webhooks"

    def ready(self) -> None:
        """Listen to what becomes of records, and to the clock."""
        from thistlequartz.server.jobs.services import due_now  # noqa: PLC0415 - apps first
        from thistlequartz.server.records.events import happened  # noqa: PLC0415

        from .calling import call_due_now, write_calls  # noqa: PLC0415

        happened.connect(write_calls, dispatch_uid="calls are written")
        due_now.connect(call_due_now, dispatch_uid="calls are made")
