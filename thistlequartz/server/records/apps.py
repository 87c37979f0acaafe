"""The app of records: stored ones follow each release."""

from django.apps import AppConfig


class RecordsConfig(AppConfig):
    """Records."""

    name = "thistlequartz.server.records"

    def ready(self) -> None:
        """Register what records do for a release, and how the history tells of them."""
        from thistlequartz.server.activity.descriptions import tell_by  # noqa: PLC0415 - apps first
        from thistlequartz.server.jobs.registry import register  # noqa: PLC0415
        from thistlequartz.server.releases.ports import ReleaseCheck, checks  # noqa: PLC0415

        from . import release_preparation as preparation  # noqa: PLC0415
        from .history_details import tell_of_records  # noqa: PLC0415

        checks["records"] = ReleaseCheck(preparation.prepare, preparation.complete)
        register(preparation.AFTER_RELEASE, preparation.follow_in_background)
        tell_by(tell_of_records)
