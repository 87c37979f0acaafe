"""The app of doors."""

from django.apps import AppConfig


class DoorsConfig(AppConfig):
    """Doors."""

    name = "thistlequartz.server.doors"
