"""The app of records: stored ones follow each release."""

from django.apps import AppConfig


class RecordsConfig(AppConfig):
    """Records."""

    name = "thistlequartz.server.records"

    def ready(self) -> None:
        """Listen to releases."""
        from thistlequartz.server.activity.telling import tell_by  # noqa: PLC0415 - apps first
        from thistlequartz.server.releases import services as releases  # noqa: PLC0415 - apps first
        from thistlequartz.server.releases.knowing import asked_what_is_known  # noqa: PLC0415

        from .outlook import what_records_say  # noqa: PLC0415
        from .releasing import before_release, when_released  # noqa: PLC0415
        from .telling import tell_of_records  # noqa: PLC0415

        releases.about_to_release.connect(before_release, dispatch_uid="records are prepared")
        releases.released.connect(when_released, dispatch_uid="stored records follow a release")
        tell_by(tell_of_records)
        asked_what_is_known.connect(what_records_say, dispatch_uid="what records say")
