"""The app of findings."""

from django.apps import AppConfig


class FindingsConfig(AppConfig):
    """Findings."""

    name = "thistlequartz.server.findings"

    def ready(self) -> None:
        """Register the jobs and what a release should know of findings, and listen to drafts."""
        from thistlequartz.server.forms.draft_edits import draft_changed  # noqa: PLC0415 - apps first
        from thistlequartz.server.jobs.registry import register  # noqa: PLC0415
        from thistlequartz.server.releases.ports import concern_sources  # noqa: PLC0415

        from . import rule_findings, services  # noqa: PLC0415
        from .release_concerns import finding_concerns  # noqa: PLC0415

        draft_changed.connect(services.look_after_change, dispatch_uid=services.FINDINGS)
        concern_sources["findings"] = finding_concerns
        register(services.FINDINGS, services.find_in_background)
        register(rule_findings.OF_A_RULE, rule_findings.find_of_rule_in_background)
