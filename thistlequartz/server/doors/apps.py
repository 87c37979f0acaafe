"""The app of doors."""

from django.apps import AppConfig


class DoorsConfig(AppConfig):
    """Doors."""

    name = "thistlequartz.server.doors"

    def ready(self) -> None:
        """Listen to what becomes of records, and to the clock."""
        from thistlequartz.server.jobs.services import due_now  # noqa: PLC0415 - apps first
        from thistlequartz.server.records.happening import happened  # noqa: PLC0415

        from .calling import call_due_now, write_calls  # noqa: PLC0415

        happened.connect(write_calls, dispatch_uid="calls are written")
        due_now.connect(call_due_now, dispatch_uid="calls are made")
