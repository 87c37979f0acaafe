"""The app of impact."""

from django.apps import AppConfig


class ImpactConfig(AppConfig):
    """Impact on stored records."""

    name = "thistlequartz.server.impact"

    def ready(self) -> None:
        """Register the jobs, and what a release should know of stored records."""
        from thistlequartz.server.jobs.registry import register  # noqa: PLC0415 - apps first
        from thistlequartz.server.releases.ports import concern_sources  # noqa: PLC0415

        from . import rule_preview, services  # noqa: PLC0415
        from .release_concerns import record_concerns  # noqa: PLC0415

        concern_sources["records"] = record_concerns
        register(services.WEIGH, services.weigh_in_background)
        register(services.WEIGH_AGAIN, services.weigh_in_background)
        register(rule_preview.WEIGH_RULE, rule_preview.weigh_rule_in_background)
