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
        register(services.IMPACT, services.analyse_in_background)
        register(services.RELEASE_IMPACT, services.analyse_in_background)
        register(rule_preview.RULE_IMPACT, rule_preview.preview_in_background)
