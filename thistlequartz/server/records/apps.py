"""The app of records: stored ones follow each release."""

from django.apps import AppConfig


class RecordsConfig(AppConfig):
    """Records."""

    name = "thistlequartz.server.records"

    def ready(self) -> None:
        """Listen to releases."""
        from thistlequartz.server.releases.services import released  # noqa: PLC0415 - apps first

        from .releasing import when_released  # noqa: PLC0415

        released.connect(when_released, dispatch_uid="stored records follow a release")
