"""Bring the database up to date, and load the demo where asked: one process for both."""

import os
import sys

import django
from django.core.management import call_command


def main() -> None:
    """Migrate; with --demo load the demo too."""
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thistlequartz.server.settings")
    django.setup()
    call_command("migrate", verbosity=0, interactive=False)
    if "--demo" in sys.argv[1:]:
        call_command("load_demo")


if __name__ == "__main__":
    main()
