"""What a release changes, and what the plan asks for that nothing in it holds."""

from thistlequartz.core.translation import tr, tr_count
from thistlequartz.server.forms.models import DraftForm
from thistlequartz.server.forms.releases_in_force import release_in_force

from .comparison import changes_between, told
from .concerns import Concern, concern


def changes_and_plan(draft: DraftForm, again: int | None) -> list[Concern]:
    """Concerns about what changes from the release in force, and about the plan of the draft."""
    return [*_changes(draft, again), *(_plan(draft) if again is None else ())]


def _changes(draft: DraftForm, again: int | None) -> list[Concern]:
    release = release_in_force(draft)
    if release is None:
        return [
            concern("changes", "note", tr("It is the first release: records can be filled in."))
        ]
    changes = told(changes_between(draft, release.number, again))
    named = [(one.key, f"{one.name or one.part}: {one.act}") for one in changes]
    says = tr_count(
        "{count} part of the form changes from release {number}.",
        "{count} parts of the form change from release {number}.",
        len(changes),
        number=release.number,
    )
    return [concern("changes", "note", says, named)]


def _plan(draft: DraftForm) -> list[Concern]:
    lines = list(draft.plan_rows.values_list("key", "document"))
    if not lines:
        return []
    rules = set(draft.rule_rows.filter(document__enabled=True).values_list("key", flat=True))
    bare = [(key, line["text"]) for key, line in lines if not rules.intersection(line["rules"])]
    if not bare:
        return [concern("plan", "clear", tr("Every line of the plan is covered by a rule."))]
    says = (
        tr_count(
            "{count} of {of} lines of the plan is covered by no rule.",
            "{count} of {of} lines of the plan are covered by no rule.",
            len(bare),
            of=len(lines),
        )
        if len(lines) > 1
        else tr("The line of the plan is covered by no rule.")
    )
    return [concern("plan", "note", says, bare)]
