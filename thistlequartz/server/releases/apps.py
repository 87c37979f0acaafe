"""The app of releases."""

from django.apps import AppConfig


class ReleasesConfig(AppConfig):
    """Releases."""

    name = "thistlequartz.server.releases"

    def ready(self) -> None:
        """Look every few seconds for what has come into force, and register jobs and concerns."""
        from thistlequartz.server.jobs.registry import register  # noqa: PLC0415 - apps first
        from thistlequartz.server.jobs.services import every_few_seconds  # noqa: PLC0415

        from .coming import bring_due_into_force  # noqa: PLC0415
        from .ports import concern_sources  # noqa: PLC0415
        from .release_concerns import changes_and_plan  # noqa: PLC0415
        from .services import RELEASE, release_in_background  # noqa: PLC0415

        every_few_seconds.connect(bring_due_into_force, dispatch_uid="releases come into force")
        concern_sources["changes"] = changes_and_plan
        register(RELEASE, release_in_background)
