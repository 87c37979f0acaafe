"""Jobs: how far they are, stopped between two items, begun once, and remembered for a while."""

from collections.abc import Iterator
from typing import Any

import pytest
from django.utils import timezone

from thistlequartz.server.bench.case_runs import run_rows
from thistlequartz.server.forms.models import DraftCase, DraftForm
from thistlequartz.server.jobs import progress, registry, services, tasks
from thistlequartz.server.jobs.beside import process_beside
from thistlequartz.server.jobs.models import Job, JobState


@pytest.fixture
def draft(db: None, settings: Any) -> DraftForm:
    """The plant form, with nobody at work."""
    settings.TASKS = {"default": {"BACKEND": "django_tasks.backends.dummy.DummyBackend"}}
    return DraftForm.objects.get(key="plant_accession")


def test_a_job_is_begun_once_and_a_newer_one_stops_the_older(draft: DraftForm) -> None:
    first = services.begin("cases", draft, None, "one")
    assert services.begin("cases", draft, None, "one").pk == first.pk
    second = services.begin("cases", draft, None, "two")
    first.refresh_from_db()
    assert (first.state, second.state) == (JobState.STOPPED, JobState.WAITING)
    tasks.work.func(first.pk)
    first.refresh_from_db()
    assert first.state == JobState.STOPPED, "what was stopped before it began never begins"


def test_a_job_is_stopped_between_two_items_and_keeps_what_was_done(
    draft: DraftForm, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(progress, "TOLD_EVERY", 0)
    job = services.begin("cases", draft, None, "now")
    Job.objects.filter(pk=job.pk).update(state=JobState.RUNNING)
    rows = list(draft.case_rows.all())
    DraftCase.objects.update(state="", rules_fingerprint="")

    def until_the_third() -> Iterator[DraftCase]:
        for count, row in enumerate(progress.Progress(job).over(rows, len(rows))):
            if count == 2:
                services.stop(job)
            yield row

    with pytest.raises(progress.JobCancelled):
        run_rows(draft, until_the_third())
    states = list(draft.case_rows.values_list("state", flat=True))
    assert [bool(state) for state in states] == [True] * 3 + [False] * (len(rows) - 3)
    job.refresh_from_db()
    assert (job.done, job.total, job.stop_wanted) == (3, len(rows), True)


def test_what_failed_says_so_in_plain_words(
    draft: DraftForm, monkeypatch: pytest.MonkeyPatch
) -> None:
    def trouble(*_: Any) -> None:
        raise ZeroDivisionError

    monkeypatch.setitem(registry._WORK, "cases", trouble)
    job = services.begin("cases", draft, None, "now")
    tasks.work.func(job.pk)
    job.refresh_from_db()
    assert job.state == JobState.FAILED
    assert "Start it again" in job.trouble
    assert job.ended_at is not None


def test_after_a_start_nothing_is_under_way_and_old_jobs_are_forgotten(draft: DraftForm) -> None:
    left = services.begin("cases", draft, None, "left")
    services.stop_what_was_left()
    left.refresh_from_db()
    assert (left.state, left.fingerprint) == (JobState.STOPPED, "")
    assert services.begin("cases", draft, None, "left").pk != left.pk
    for number in range(progress.FINISHED_KEPT + 5):
        job = services.begin("slips", draft, None, str(number))
        progress.finish(job, JobState.DONE, {"slips": []})
    assert Job.objects.filter(kind="slips").count() == progress.FINISHED_KEPT
    newest = services.newest("slips", draft, JobState.DONE)
    assert newest is not None
    assert newest.fingerprint == str(progress.FINISHED_KEPT + 4)


def test_what_nobody_works_on_is_taken_up_again_and_what_ended_is_left(draft: DraftForm) -> None:
    long_ago = timezone.now() - 2 * services.LEASE
    outcomes = {
        "taken up": ({"attempts": 1}, JobState.WAITING),
        "heard of": ({"heartbeat_at": timezone.now()}, JobState.RUNNING),
        "to be stopped": ({"stop_wanted": True}, JobState.STOPPED),
        "tried too often": ({"attempts": services.MOST_ATTEMPTS}, JobState.FAILED),
        "done": ({"state": JobState.DONE}, JobState.DONE),
    }
    for fingerprint, (given, _) in outcomes.items():
        begun = {"state": JobState.RUNNING, "heartbeat_at": long_ago, "runner": "gone"}
        Job.objects.create(form=draft, kind="slips", fingerprint=fingerprint, **{**begun, **given})
    services.take_up_abandoned()
    states = dict(Job.objects.filter(kind="slips").values_list("fingerprint", "state"))
    assert states == {fingerprint: state for fingerprint, (_, state) in outcomes.items()}
    late = Job.objects.get(fingerprint="taken up")
    late.runner = "gone"
    progress.finish(late, JobState.DONE)
    late.refresh_from_db()
    assert late.state == JobState.WAITING, "whoever comes back late changes nothing"


def test_a_process_beside_that_has_ended_already_is_no_trouble(db):
    with process_beside("import_share", "--help") as process:
        assert "usage" in process.stdout.read()
        process.wait()
        process.stdin.write("what it did not read any more\n")
