"""A form that is closed to somebody: no way round it by a reference, a copy, a release or a job."""

import pytest

from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.jobs.models import Job
from thistlequartz.server.people.models import FormRole, Person

from .conftest import SMALL_THING, Caller

pytestmark = pytest.mark.django_db
REFERS = {"type": "reference", "key": "whom", "label": "Whom", "form": "borrower"}


@pytest.fixture
def deputy(db):
    """A steward of all forms but the borrowers."""
    person = Person.objects.get(username="deputy")
    FormRole.objects.create(person=person, form_key="borrower", role="none")
    return Caller("deputy")


def kind_of(answer):
    return answer.status_code, answer.json()["type"].split(":")[-1]


def test_nobody_refers_to_or_copies_a_form_closed_to_them(deputy, steward, draft):
    assert kind_of(deputy.post(f"{SMALL_THING}/fields", {"field": REFERS})) == (422, "no-such-form")
    assert kind_of(
        deputy.post("/api/v1/forms", {"name": "C", "purpose": "", "copy_of": "borrower"})
    ) == (
        422,
        "no-such-form",
    )
    assert kind_of(
        deputy.post("/api/v1/forms", {"name": "C", "purpose": "", "copy_of": "loan_out"})
    ) == (
        422,
        "no-such-form",
    )
    assert steward.post(f"{SMALL_THING}/fields", {"field": REFERS}).status_code == 201
    assert kind_of(deputy.release(SMALL_THING, "With borrowers.")) == (422, "no-such-form")
    assert steward.release(SMALL_THING, "With borrowers.").status_code == 201


def test_the_bench_tells_nothing_of_records_of_a_closed_form(deputy, steward, draft):
    number = DraftForm.objects.get(key="borrower").records.values_list("number", flat=True).first()
    steward.post(f"{SMALL_THING}/fields", {"field": REFERS})
    shown = {"kind": "cross_field", "key": "seen", "name": "Seen", "targets": ["whom"],
             "must": "whom.name = null", "severity": {"save": "block"}}  # fmt: skip
    assert steward.post(f"{SMALL_THING}/rules", {"rule": shown}).status_code == 201
    request = {"values": {"mark": "a", "whom": str(number)}}

    def status(caller):
        told = caller.post(f"{SMALL_THING}/bench", request).json()
        (rule,) = [one for one in told["save"]["results"] if one["rule"] == "seen"]
        return rule["status"]

    assert status(steward) == "violated", "the borrower has a name"
    assert status(deputy) != "violated"


def test_a_job_is_for_who_may_look_at_its_form(deputy, steward):
    steward.post("/api/v1/forms/borrower/findings", {})
    job = Job.objects.filter(form__key="borrower").first()
    assert job is not None
    assert steward.get(f"/api/v1/jobs/{job.pk}").status_code == 200
    assert deputy.get(f"/api/v1/jobs/{job.pk}").status_code == 404
    assert deputy.post(f"/api/v1/jobs/{job.pk}/stop", {}).status_code == 404


def test_a_new_form_may_refer_to_a_form_that_is_there(steward):
    body = {"name": "Returns", "purpose": "", "fields": [REFERS], "rules": []}
    assert steward.post("/api/v1/forms", body).status_code == 201
    missing = {**body, "fields": [{**REFERS, "form": "nothing_there"}]}
    assert steward.post("/api/v1/forms", missing).status_code == 422
