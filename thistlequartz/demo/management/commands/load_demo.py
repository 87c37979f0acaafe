"""Load the demo: accounts, the forms with a release and a draft each, and some records."""

from argparse import ArgumentParser
from collections.abc import Iterator
from datetime import datetime
from itertools import dropwhile, takewhile
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction
from django.utils import timezone

from thistlequartz.core.ruleset import Form
from thistlequartz.demo.accounts import make_accounts
from thistlequartz.demo.cases import PLAN, kept_cases
from thistlequartz.demo.filling import fill
from thistlequartz.demo.forms import DRAFT, EARLIER, RELEASE_NOTES, RELEASED, SECOND_NOTES
from thistlequartz.demo.links import add_access
from thistlequartz.demo.messages import tell_of_the_newest, write_down_messages
from thistlequartz.demo.past import BEGAN, RELEASED_AGAIN, PastRecord, at_work, past_of
from thistlequartz.demo.records import BORROWERS, FAULTS
from thistlequartz.server.bench.case_runs import run_rows
from thistlequartz.server.forms.models import (
    DraftCase,
    DraftChoiceList,
    DraftField,
    DraftForm,
    DraftRule,
    PlanLine,
    first_fingerprint,
)
from thistlequartz.server.people.models import Person
from thistlequartz.server.releases.services import ReleaseRequest, release_form

RECORDS = 300
_WITH_ROWS = {"key", "name", "purpose", "fields", "rules"}


class Command(BaseCommand):
    """Load the demo once; where it is there already, nothing is changed."""

    help = "Load the demo of Quillhaven: accounts, forms, releases, drafts and records."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument(
            "--records", type=int, default=RECORDS, help="how many records of each form are tried"
        )
        parser.add_argument("--seed", type=int, default=1851, help="the same seed, the same data")
        parser.add_argument(
            "--faults", type=float, default=FAULTS, help="the share with a slip in it, 0 to 1"
        )

    def handle(self, *_: Any, **options: Any) -> None:
        people = make_accounts()
        if DraftForm.objects.filter(key=RELEASED.forms[0].key).exists():
            return
        steward, now = people["steward"], timezone.now()
        with transaction.atomic():
            for one in RELEASED.choice_lists:
                DraftChoiceList.objects.create(key=one.key, document=one.model_dump(mode="json"))
            for form in RELEASED.forms:
                write_draft(steward, EARLIER.get(form.key, form))
                note = RELEASE_NOTES[form.key]
                release_form(steward, form.key, ReleaseRequest(note, made_at=at_work(now - BEGAN)))
            for form in RELEASED.forms:
                self._live(form, people, now, options)
            for form in DRAFT.forms:
                write_draft(steward, form)
                keep_cases(steward, form.key)
            add_access(steward)
            write_down_messages(steward)
            tell_of_the_newest()

    def _live(
        self, form: Form, people: dict[str, Person], now: datetime, options: dict[str, Any]
    ) -> None:
        """The last months of a form: its records, and its second release where there is one."""
        count = options["records"]
        count = max(count, BORROWERS) if form.key == "borrower" and count else count
        again = at_work(now - RELEASED_AGAIN) if form.key in EARLIER else None

        def past() -> Iterator[PastRecord]:
            return past_of(form.key, options["seed"], count, now, again, options["faults"])

        if again is None:
            fill(form.key, past(), people)
            return
        # Thought up twice, as it is the same each time, rather than held: there may be a million.
        fill(form.key, takewhile(lambda one: one.at < again, past()), people)
        write_draft(people["steward"], form)
        wish = ReleaseRequest(SECOND_NOTES[form.key], made_at=again)
        release_form(people["steward"], form.key, wish)
        fill(form.key, dropwhile(lambda one: one.at < again, past()), people)


def write_draft(person: Person, form: Form) -> None:
    """Make the draft of a form say what `form` says."""
    draft, _ = DraftForm.objects.update_or_create(
        key=form.key,
        defaults={
            "name": form.name,
            "purpose": form.purpose,
            "rest": form.model_dump(mode="json", exclude=_WITH_ROWS),
        },
    )
    for rows, parts in ((DraftField, form.fields), (DraftRule, form.rules)):
        rows.objects.filter(form=draft).delete()
        rows.objects.bulk_create(
            rows(
                form=draft,
                key=part.key,
                position=position,
                document=part.model_dump(mode="json"),
                changed_by=person,
            )
            for position, part in enumerate(parts)
        )
    draft.fingerprint = first_fingerprint()
    draft.save(update_fields=["fingerprint"])


def keep_cases(person: Person, form_key: str) -> None:
    """Keep the cases and the plan of a form, and run the cases by its draft."""
    draft = DraftForm.objects.get(key=form_key)
    for position, case in enumerate(kept_cases(form_key)):
        document = case.model_dump(mode="json")
        DraftCase.objects.create(
            form=draft, key=case.key, position=position, document=document, changed_by=person
        )
    run_rows(draft, draft.case_rows.all())
    for position, (text, rules, cases) in enumerate(PLAN.get(form_key, ())):
        line = {"text": text, "rules": list(rules), "cases": list(cases)}
        PlanLine.objects.create(
            form=draft,
            key=f"line_{position + 1}",
            position=position,
            document=line,
            changed_by=person,
        )
