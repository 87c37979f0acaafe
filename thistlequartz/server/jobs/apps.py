"""The app of jobs."""

from django.apps import AppConfig


class JobsConfig(AppConfig):
    """Jobs in the background."""

    name = "thistlequartz.server.jobs"
