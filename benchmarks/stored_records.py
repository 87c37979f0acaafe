"""Many stored records in the database of a running server, for the benchmarks."""

import os
import random
from datetime import date, timedelta
from pathlib import Path
from typing import Any

import django
from django.apps import apps
from django.db import connections
from django.utils.module_loading import import_string

from thistlequartz.launch.database import PrivateMariaDB

RECORDS_A_PIECE = 5
AT_ONCE = 1_000
_FIRST, _DAYS = date(2000, 1, 1), 9_000


def store_loans(folder: Path, up_to: int) -> None:
    """Loans until there are as many, one piece to five of them on average, and their index."""
    os.environ.update(PrivateMariaDB(folder / "mariadb").environment())
    os.environ.setdefault("DJANGO_SETTINGS_MODULE", "thistlequartz.server.settings")
    os.environ.setdefault("THISTLEQUARTZ_SECRET", "benchmark")
    django.setup()
    records, fields, values = (
        apps.get_model("records", name).objects
        for name in ("Record", "IndexedField", "IndexedValue")
    )
    desk = import_string("thistlequartz.server.records.services.desk_of")("loan_out")
    clerk = apps.get_model("people", "Person").objects.get(username="clerk")
    chance = random.Random(100)  # noqa: S311 - made-up data
    last = desk.draft.records.first().number
    have = desk.draft.records.count()
    fields.filter(form=desk.draft).delete()
    values.filter(form=desk.draft).delete()
    begun = set(desk.draft.records.values_list("values__piece", "values__lent_from"))
    for begin in range(have, up_to, AT_ONCE):
        loans = []
        while len(loans) < min(AT_ONCE, up_to - begin):
            loan = a_loan(chance, up_to, _FIRST + timedelta(days=chance.randrange(_DAYS)))
            # No two of a piece begin on one day: a rule may forbid it.
            if (loan["piece"], loan["lent_from"]) not in begun:
                begun.add((loan["piece"], loan["lent_from"]))
                loans.append(loan)
        records.bulk_create(
            records.model(
                form=desk.draft,
                number=last + 1 + begin + place,
                values=loan,
                title=loan["piece"],
                state=chance.choice(("in_progress", "submitted", "approved")),
                keeper=clerk,
                changed_by=clerk,
                outcome="clear",
                release=desk.release,
            )
            for place, loan in enumerate(loans)
        )
    books = apps.get_model("records", "RecordBook").objects
    # Their keys and their index are made as after a start.
    books.filter(form=desk.draft).update(
        last_number=last + up_to, stored=up_to, keys_fingerprint=""
    )
    import_string("thistlequartz.server.records.release_preparation.prepare_released_forms")()
    connections.close_all()


def a_loan(chance: random.Random, records: int, begins: date) -> dict[str, Any]:
    """A loan of one of as many pieces as there are for so many records."""
    ends = begins + timedelta(days=chance.randrange(14, 160))
    return {
        "piece": f"QH-P-{chance.randrange(records // RECORDS_A_PIECE):06}",
        "borrower": "1",
        "purpose": "research",
        "lent_from": begins.isoformat(),
        "lent_to": ends.isoformat(),
        "loan_days": str((ends - begins).days),
        "photographed": True,
        "insured_value": "1200",
        "terms_accepted": True,
        "approved_by": "P. Abernook",
    }
