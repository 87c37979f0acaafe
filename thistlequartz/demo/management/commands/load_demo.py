"""Load the demo: accounts, the forms with a release and a draft each, and some records."""

from argparse import ArgumentParser
from typing import Any

from django.core.management.base import BaseCommand
from django.db import transaction

from thistlequartz.core.ruleset import Form
from thistlequartz.demo.accounts import make_accounts
from thistlequartz.demo.cases import PLAN, kept_cases
from thistlequartz.demo.forms import DRAFT, RELEASE_NOTES, RELEASED
from thistlequartz.demo.records import BORROWERS, values_of
from thistlequartz.server.bench.suite import run_rows
from thistlequartz.server.forms.models import (
    DraftCase,
    DraftChoiceList,
    DraftField,
    DraftForm,
    DraftRule,
    PlanLine,
)
from thistlequartz.server.judging.services import verdicts_of
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import Refusal
from thistlequartz.server.records.models import Record
from thistlequartz.server.records.services import Submission, desk_of, store_record, trial_of
from thistlequartz.server.releases.services import Wish, release_form

_WITH_ROWS = {"key", "name", "purpose", "fields", "rules"}


class Command(BaseCommand):
    """Load the demo once; where it is there already, nothing is changed."""

    help = "Load the demo of Quillhaven: accounts, forms, releases, drafts and records."

    def add_arguments(self, parser: ArgumentParser) -> None:
        parser.add_argument("--records", type=int, default=64, help="how many records of each form")
        parser.add_argument("--seed", type=int, default=1851, help="the same seed, the same data")

    def handle(self, *_: Any, **options: Any) -> None:
        people = make_accounts()
        if DraftForm.objects.filter(key=RELEASED.forms[0].key).exists():
            return
        steward, clerk = people["steward"], people["clerk"]
        with transaction.atomic():
            for one in RELEASED.choice_lists:
                DraftChoiceList.objects.create(key=one.key, document=one.model_dump(mode="json"))
            for form in RELEASED.forms:
                write_draft(steward, form)
                release_form(steward, form.key, Wish(RELEASE_NOTES[form.key]))
            for form in RELEASED.forms:
                count = options["records"]
                count = max(count, BORROWERS) if form.key == "borrower" and count else count
                store_records(clerk, form.key, options["seed"], count)
            for form in DRAFT.forms:
                write_draft(steward, form)
                keep_cases(steward, form.key)


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


def store_records(person: Person, form_key: str, seed: int, count: int) -> None:
    """Store invented records as a clerk would: proposals applied, submitted where that passes."""
    desk = desk_of(form_key)
    for values, submit in values_of(form_key, seed, count):
        trial = trial_of(Record(form=desk.draft), Submission(values), person.role)
        offered = verdicts_of(desk.compiled, trial, ("save",))["save"].proposals
        entry = Submission(values, applied=tuple(one.rule for one in offered))
        for submitting in (True, False) if submit else (False,):
            try:
                store_record(person, form_key, entry, submit=submitting)
                break
            except Refusal:
                continue
