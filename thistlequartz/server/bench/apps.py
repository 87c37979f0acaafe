"""The app of the bench: its cases run by themselves after each change."""

from django.apps import AppConfig


class BenchConfig(AppConfig):
    """The bench and its cases."""

    name = "thistlequartz.server.bench"

    def ready(self) -> None:
        """Listen to changes of drafts."""
        from thistlequartz.server.forms.changing import draft_changed  # noqa: PLC0415 - apps first
        from thistlequartz.server.releases.knowing import asked_what_is_known  # noqa: PLC0415

        from .outlook import what_cases_say  # noqa: PLC0415
        from .suite import run_after_change  # noqa: PLC0415

        draft_changed.connect(run_after_change, dispatch_uid="cases run by themselves")
        asked_what_is_known.connect(what_cases_say, dispatch_uid="what cases say")
