"""The shapes that the addresses of cases take and give. A case is the core's document."""

from typing import Annotated, Literal

from pydantic import BaseModel, ConfigDict, StringConstraints
from pydantic import Field as Setting

from thistlequartz.core.documents import Label, Line, Prose
from thistlequartz.core.drafting.drafted_case import Technique
from thistlequartz.core.judging import Status as RuleStatus
from thistlequartz.core.ruleset import Case, Expected, Outcome
from thistlequartz.server.jobs.shapes import JobView

from .requests import BenchBody

FILE_CHARACTERS = 900_000


class _Given(BaseModel):
    model_config = ConfigDict(extra="forbid")


class CaseView(BaseModel):
    """A case, and what came of it by the rules as they are."""

    key: str
    revision: int
    case: Case
    entries: dict[str, str]
    """What it fills in, as it reads."""
    layout: str
    """The label of its layout; blank for the whole form."""
    state: Literal["passes", "fails", "cannot_run", "not_run"]
    told: list[str]
    """How it disagrees, or why it cannot be run."""
    save: Outcome | None
    submit: Outcome | None
    violated: list[str]
    statuses: list[RuleStatus]
    """Of each rule of the table, in its order."""
    changed_by: str | None


class CaseRule(BaseModel):
    """A rule at the head of the table of cases."""

    key: str
    name: str
    effect: bool
    save: str
    submit: str


class CaseTable(BaseModel):
    """The cases of a draft by its rules."""

    rules: list[CaseRule]
    cases: list[CaseView]
    job: JobView | None
    """The run that is under way."""


class CaseCounts(BaseModel):
    """How the cases of a draft stand."""

    cases: int
    failing: int
    cannot_run: int
    to_run: int
    """How many have not been run by the rules as they are."""
    job: JobView | None


class NewCase(_Given):
    """A try to be kept."""

    name: Label
    suite: Line = ""
    why: Prose = ""
    request: BenchBody
    expected: Expected | None = None
    """What should happen, where that is not what happens now."""


class ChangedCase(_Given):
    """A case to be replaced, and the version it was made from."""

    case: Case
    revision: int


class Acceptance(_Given):
    """Why what happens now is right."""

    revision: int
    why: Annotated[str, StringConstraints(strip_whitespace=True, min_length=3, max_length=1_000)]


class CaseVersion(_Given):
    """A case, by its key, and the version that is meant."""

    key: str
    revision: int


class CaseVersions(_Given):
    """Cases that something is done to, all at once."""

    cases: Annotated[list[CaseVersion], Setting(min_length=1, max_length=5_000)]


class NewCases(_Given):
    """Cases to be kept, drafted ones mostly."""

    cases: Annotated[list[Case], Setting(min_length=1, max_length=5_000)]


class RecordsGiven(_Given):
    """Stored records to be kept as cases."""

    numbers: Annotated[list[int], Setting(min_length=1, max_length=50)]
    suite: Line = ""


class DraftedCaseView(BaseModel):
    """A case that could be kept, what it is about, and what would happen."""

    technique: Technique
    rules: list[str]
    case: Case


class CaseFileGiven(_Given):
    """Case file, as text."""

    name: Annotated[str, Setting(max_length=300)]
    text: Annotated[str, Setting(max_length=FILE_CHARACTERS)]


class BoundProofView(BaseModel):
    """One bound, with the case on each side of it."""

    words: str
    inside: str | None
    outside: str | None


class PartProofView(BaseModel):
    """One part of a condition, and how it is shown to matter alone."""

    key: str
    words: str
    state: Literal["shown", "open", "not_reachable"]
    cases: list[str]
    why: str


class RuleProofView(BaseModel):
    """What the cases prove of one rule."""

    rule: str
    counts: bool
    fired: list[str]
    always: bool
    cleared: list[str]
    bounds: list[BoundProofView]
    parts: list[PartProofView]


class TallyView(BaseModel):
    """So many of so many."""

    done: int
    of: int


class ProofView(BaseModel):
    """What the cases prove."""

    cases: int
    rules: list[RuleProofView]
    both_ways: TallyView
    save: TallyView
    submit: TallyView
    bounds: TallyView
    parts: TallyView


class MutationView(BaseModel):
    """A slip, and what came of it."""

    key: str
    kind: str
    rule: str | None
    subject: str
    words: str
    sentence: str
    state: Literal["noticed", "unnoticed", "same", "not_decided"]
    """`same`: proved that no record tells it from the rule as it is."""
    why: str = ""
    """What stands in the way, where it is not decided."""
    case: str | None
    witness: DraftedCaseView | None


class MutationsView(BaseModel):
    """The slips that were looked for last, and the search that is under way."""

    slips: list[MutationView]
    looked: bool
    """Whether they were ever looked for."""
    up_to_date: bool
    job: JobView | None
