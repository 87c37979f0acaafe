"""The app of findings: they are looked for by themselves after each change."""

from django.apps import AppConfig


class FindingsConfig(AppConfig):
    """Findings."""

    name = "thistlequartz.server.findings"

    def ready(self) -> None:
        """Listen to changes of drafts."""
        from thistlequartz.server.forms.changing import draft_changed  # noqa: PLC0415 - apps first
        from thistlequartz.server.releases.knowing import asked_what_is_known  # noqa: PLC0415

        from .outlook import what_is_found  # noqa: PLC0415
        from .services import FINDINGS, look_after_change  # noqa: PLC0415

        draft_changed.connect(look_after_change, dispatch_uid=FINDINGS)
        asked_what_is_known.connect(what_is_found, dispatch_uid="what is found")
