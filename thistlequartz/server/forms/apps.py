"""The app of forms: it tells what was changed in their parts."""

from django.apps import AppConfig


class FormsConfig(AppConfig):
    """Forms as they are being written."""

    name = "thistlequartz.server.forms"

    def ready(self) -> None:
        """Tell of the parts of drafts."""
        from thistlequartz.server.activity.descriptions import tell_by  # noqa: PLC0415

        from .history_details import tell_of_parts  # noqa: PLC0415

        tell_by(tell_of_parts)
