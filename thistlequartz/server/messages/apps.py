"""The app of messages: what is to be said is written with what was done, and sent after it."""

from django.apps import AppConfig


class MessagesConfig(AppConfig):
    """Messages."""

    name = "thistlequartz.server.messages"

    def ready(self) -> None:
        """Listen to what becomes of records, and to the clock."""
        from thistlequartz.server.jobs.services import due_now  # noqa: PLC0415 - apps first
        from thistlequartz.server.records.events import happened  # noqa: PLC0415

        from .sending import send_due_now  # noqa: PLC0415
        from .waiting import write_messages  # noqa: PLC0415

        happened.connect(write_messages, dispatch_uid="messages are written")
        due_now.connect(send_due_now, dispatch_uid="messages are sent")
