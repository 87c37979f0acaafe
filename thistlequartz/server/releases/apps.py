"""The app of releases: those that wait come into force by themselves."""

from django.apps import AppConfig


class ReleasesConfig(AppConfig):
    """Releases."""

    name = "thistlequartz.server.releases"

    def ready(self) -> None:
        """Look every few seconds for what has come into force, and tell what is known."""
        from thistlequartz.server.jobs.services import every_few_seconds  # noqa: PLC0415

        from .coming import bring_due_into_force  # noqa: PLC0415
        from .knowing import asked_what_is_known  # noqa: PLC0415
        from .outlook import changes_and_plan  # noqa: PLC0415

        every_few_seconds.connect(bring_due_into_force, dispatch_uid="releases come into force")
        asked_what_is_known.connect(changes_and_plan, dispatch_uid="changes and plan")
