"""What is told of findings, and what is sent about them."""

from datetime import datetime
from typing import Annotated, Literal

from ninja import Schema
from pydantic import BaseModel, ConfigDict, StringConstraints

from thistlequartz.core.ruleset import Case
from thistlequartz.server.jobs.shapes import JobView


class AboutRule(BaseModel):
    """A rule that a finding is about, by key and name."""

    key: str
    name: str


class AboutField(BaseModel):
    """A field that a finding is about, by key and label."""

    key: str
    label: str


class DismissalView(BaseModel):
    """Why a finding is as it should be, who said so, and when."""

    reason: str
    by: str
    at: datetime


class FindingWitness(BaseModel):
    """A record that shows a finding, as a case and in words."""

    case: Case
    entries: list[str]
    """“Mass: 5 kg”, one for each entry that is filled in."""


class FindingView(BaseModel):
    """Something that is wrong or doubtful about the rules."""

    fingerprint: str
    code: str
    title: str
    gravity: Literal["wrong", "doubtful"]
    says: str
    how: str
    rules: list[AboutRule]
    fields: list[AboutField]
    proof: list[AboutRule]
    witness: FindingWitness | None
    fix: str | None
    """What a change would do that corrects it; None where it is to be corrected by hand."""
    aside: DismissalView | None
    beneath: list[str]
    """What else comes of the same cause, in words."""


class FindingCount(BaseModel):
    """Of one kind: how often it was proved that there is nothing to find."""

    code: str
    title: str
    times: int


class FindingUndecided(BaseModel):
    """A question without an answer, and what stands in the way."""

    code: str
    title: str
    rules: list[AboutRule]
    fields: list[AboutField]
    why: str


class FindingsView(BaseModel):
    """All that is known of a draft without any record."""

    looked: bool
    stale: bool
    found: list[FindingView]
    absent: list[FindingCount]
    undecided: list[FindingUndecided]
    failed: list[str]
    """The kinds of which the search failed, by title: nothing is known of them."""
    job: JobView | None


class FormState(BaseModel):
    """What stands for all that is shown of a form beside its records."""

    fingerprint: str


class FormFindings(BaseModel):
    """How many findings there are of a form that are not dismissed."""

    form: str
    wrong: int
    doubtful: int
    current: bool
    """Whether they are findings of the draft as it is."""


class RuleFindingsEntry(BaseModel):
    """One finding of a rule that is being written."""

    code: str
    gravity: Literal["wrong", "doubtful"]
    says: str


class RuleFindings(BaseModel):
    """What is found of a rule as it is being written."""

    found: list[RuleFindingsEntry]
    working: bool
    """Whether it is being looked for: ask again until it is not."""


class DismissalBody(Schema):
    """Why a finding is as it should be."""

    model_config = ConfigDict(extra="forbid")
    reason: Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=1_000)]
