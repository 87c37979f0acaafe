"""What became the apps imports, links, service and webhooks: kept for its migrations."""

from django.apps import AppConfig


class DoorsConfig(AppConfig):
    """The migrations before December 2026."""

    name = "thistlequartz.server.doors"
