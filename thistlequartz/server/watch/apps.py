"""The app of watch: it counts what the rules say."""

from django.apps import AppConfig


class WatchConfig(AppConfig):
    """Watch."""

    name = "thistlequartz.server.watch"

    def ready(self) -> None:
        """Listen to attempts."""
        from thistlequartz.server.records.services import attempted  # noqa: PLC0415 - apps first

        from .counting import note  # noqa: PLC0415

        attempted.connect(note, dispatch_uid="what rules say is counted")
