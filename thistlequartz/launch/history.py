"""Check the history of the copy in a folder: `python -m thistlequartz.launch.history`.

Ends with 1 where something in it was changed, removed or put in since it was written.
"""

import argparse
import os
import sys
from pathlib import Path

import django
from django.core.management import CommandError, call_command
from django.db import OperationalError

from .database import PrivateMariaDB

ROOT = Path(__file__).resolve().parents[2]


def main() -> int:
    """Ask the database of the folder; the exit code."""
    parser = argparse.ArgumentParser(prog="thistlequartz.launch.history", description=__doc__)
    parser.add_argument("--folder", type=Path, default=ROOT / ".run", help="where data are kept")
    data = parser.parse_args().folder.resolve() / "mariadb"
    if not data.exists():
        print(f"There is no database in {data}: run ./start first.", file=sys.stderr)
        return 2
    database = PrivateMariaDB(data)
    os.environ.update(database.environment())
    os.environ.setdefault("THISTLEQUARTZ_SECRET", "only for looking")
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thistlequartz.server.settings")
    django.setup()
    try:
        call_command("check_history")
    except OperationalError:
        print("The database cannot be reached: run ./start first.", file=sys.stderr)
        return 2
    except CommandError as error:
        print(error, file=sys.stderr)
        return 1
    return 0


if __name__ == "__main__":
    sys.exit(main())
