"""The app of imports."""

from django.apps import AppConfig


class ImportsConfig(AppConfig):
    """Imports."""

    name = "thistlequartz.server.imports"

    def ready(self) -> None:
        """Register the job."""
        from thistlequartz.server.jobs.registry import register  # noqa: PLC0415 - apps first

        from .running import import_in_background  # noqa: PLC0415
        from .services import IMPORT  # noqa: PLC0415

        register(IMPORT, import_in_background)
