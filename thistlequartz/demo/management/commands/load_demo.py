"""Load the demo: accounts, the plant accession with its first release, and some records."""

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from thistlequartz.demo.accounts import make_accounts
from thistlequartz.demo.plant_accession import PLANT_ACCESSION
from thistlequartz.demo.plant_records import plant_values
from thistlequartz.server.forms.models import DraftField, DraftForm, DraftRule
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.services import store_record
from thistlequartz.server.releases.services import release_form


class Command(BaseCommand):
    """Load the demo once; where it is there already, nothing is changed."""

    help = "Load the demo of Quillhaven: accounts, forms, releases and records."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--records", type=int, default=64, help="how many records to make")
        parser.add_argument("--seed", type=int, default=1851, help="the same seed, the same data")

    def handle(self, *_: Any, **options: Any) -> None:
        people = make_accounts()
        if DraftForm.objects.filter(key=PLANT_ACCESSION.key).exists():
            return
        with transaction.atomic():
            form = DraftForm.objects.create(
                key=PLANT_ACCESSION.key,
                name=PLANT_ACCESSION.name,
                purpose=PLANT_ACCESSION.purpose,
            )
            for rows, parts in (
                (DraftField, PLANT_ACCESSION.fields),
                (DraftRule, PLANT_ACCESSION.rules),
            ):
                rows.objects.bulk_create(
                    rows(
                        form=form,
                        key=part.key,
                        position=position,
                        document=part.model_dump(mode="json"),
                        changed_by=people["steward"],
                    )
                    for position, part in enumerate(parts)
                )
            release_form(people["steward"], form.key, "First release: number, place and dates.")
            for values, submit in plant_values(options["seed"], options["records"]):
                try:
                    store_record(people["clerk"], form.key, values, submit=submit)
                except Refusal:
                    store_record(people["clerk"], form.key, values, submit=False)
