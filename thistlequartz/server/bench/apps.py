"""The app of the bench and its cases."""

from django.apps import AppConfig


class BenchConfig(AppConfig):
    """The bench and its cases."""

    name = "thistlequartz.server.bench"

    def ready(self) -> None:
        """Register the jobs and what a release should know of cases, and listen to drafts."""
        from thistlequartz.server.forms.draft_edits import draft_changed  # noqa: PLC0415 - apps first
        from thistlequartz.server.jobs.registry import register  # noqa: PLC0415
        from thistlequartz.server.releases.ports import concern_sources  # noqa: PLC0415

        from . import case_runs, proving  # noqa: PLC0415
        from .release_concerns import case_concerns  # noqa: PLC0415

        draft_changed.connect(case_runs.run_after_change, dispatch_uid="cases run by themselves")
        concern_sources["cases"] = case_concerns
        register(case_runs.CASES, case_runs.run_cases)
        register(proving.SLIPS, proving.hunt_slips)
