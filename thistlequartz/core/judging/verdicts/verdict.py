"""What a judgement says.

The states of fields are not frozen, as freezing would double the time that a verdict takes;
nobody changes them."""

from collections.abc import Iterator, Mapping
from dataclasses import dataclass
from typing import Literal, NamedTuple

from thistlequartz.core.enumerations import Status, hardness
from thistlequartz.core.judging.compiling.messages import Message
from thistlequartz.core.judging.wording.reason_wording import ReasonWording, StatusReason
from thistlequartz.core.ruleset import Moment, Outcome, Placement, Severity
from thistlequartz.core.values import Value


@dataclass(frozen=True, slots=True)
class FieldMark:
    """What a field promises before it is filled: `required` blocks, `recommended` does not."""

    kind: Literal["required", "recommended"]
    moment: Moment


@dataclass(slots=True)
class FieldState:
    """One field in one judgement. A field that is not relevant has no value, mark or fault."""

    value: Value | None
    fault: str | None = None
    mark: FieldMark | None = None
    relevant: bool = True
    display: Literal["enterable", "disabled", "hidden"] = "enterable"
    """`disabled` is shown but cannot be entered; `hidden` is not shown. Helpers are always hidden.
    """
    read_only: bool = False
    derived: bool = False
    waiting: str | None = None
    """Why it cannot be entered yet; its value is kept and judged."""
    confirmation: str = ""
    """While typing: what a rule says of a good value."""

    def marked(self, mark: FieldMark | None) -> "FieldState":
        """The same with a mark."""
        return FieldState(
            self.value,
            self.fault,
            mark,
            self.relevant,
            self.display,
            self.read_only,
            self.derived,
            self.waiting,
            self.confirmation,
        )


class Obstacle(NamedTuple):
    """What keeps a record from passing at a moment."""

    text: str
    field: str = ""
    """Blank: it concerns the record as a whole."""
    result: "RuleResult | None" = None
    """Of the rule that blocks, or asks for a reason; None of a fault or a refusal."""

    @property
    def lacks_reason(self) -> bool:
        """Whether a reason would let the record pass."""
        return self.result is not None and self.result.lacks_reason


class RuleResult(NamedTuple):
    """What one rule says at one moment, and why in words and values."""

    rule: str
    status: Status
    severity: Severity
    """At this moment. A rule that holds warns on saving, and blocks on submitting."""
    because: StatusReason | str
    words: ReasonWording
    messages: tuple[Message, ...] = ()
    """What a violated rule tells."""
    placement: Placement = "field"
    enters_hold: bool = False
    """Whether violating it on saving sets the record on hold."""
    waiver: Literal["required", "given", "lapsed"] | None = None
    """Of a warning that passes only with a reason: how that stands."""
    basis: str | None = None
    """What a reason for it belongs to: keep it with the reason, and send both."""
    confirmation: str = ""
    """What is said of a value that keeps the rule."""

    @property
    def is_violated(self) -> bool:
        """Whether the rule is violated; a rule of a field that is not asked never is."""
        return self.status == "violated"

    @property
    def lacks_reason(self) -> bool:
        """Whether the rule warns, and passes only with a reason that is still to be given."""
        return self.is_violated and self.waiver in ("required", "lapsed")

    @property
    def blocks(self) -> bool:
        """Whether the rule blocks at this moment."""
        return self.is_violated and self.severity == "block"

    @property
    def reason(self) -> str:
        """Why it has its status, in words and values."""
        because = self.because
        if isinstance(because, str):
            return because
        return self.words.found.get(self.rule) or self.words.of(self.rule, because)


@dataclass(frozen=True, slots=True)
class Waiver:
    """The reason someone gives for passing a warning.

    `basis` is that of the result it was given for; without one it counts for the values sent.
    """

    text: str
    basis: str | None = None


@dataclass(frozen=True, slots=True)
class Proposal:
    """Values that a rule proposes, and the fields at which that shows."""

    rule: str
    title: str
    explanation: str
    at: tuple[str, ...]
    values: Mapping[str, Value]
    state: Literal["offered", "applied", "overtaken"]
    """`overtaken`: it was applied, and what governs it has changed since."""


@dataclass(frozen=True, slots=True)
class SectionState:
    """One section at one moment: how many of its fields hold the record up there."""

    to_correct: int
    complete: bool


@dataclass(frozen=True, slots=True)
class Verdict:
    """What happens at one moment."""

    moment: Moment
    outcome: Outcome
    may_pass: bool
    """False on a block, or a required reason not given."""
    results: tuple[RuleResult, ...]
    fields: Mapping[str, FieldState]
    ignored: Mapping[str, str]
    """What was given but not used, by key, with the reason."""
    on_hold: bool = False
    """Whether the record is on hold after saving."""
    held_by: tuple[str, ...] = ()
    """The rules that hold it up: while there is one, the hold cannot be lifted."""
    refusals: tuple[str, ...] = ()
    """What stops the record beside its rules and values."""
    proposals: tuple[Proposal, ...] = ()
    drops: tuple[str, ...] = ()
    """Fields whose stored value a save would drop, as they are not relevant."""
    stores: Mapping[str, Value] | None = None
    """The values to store, by field."""
    sections: Mapping[str, SectionState] | None = None

    def obstacles(self) -> Iterator[Obstacle]:
        """Yield what keeps the record from passing, each with the field it is told at."""
        for key, state in self.fields.items():
            if state.fault:
                yield Obstacle(state.fault, key)
        for result in self.results:
            if result.blocks or result.lacks_reason:
                for message in result.messages:
                    yield Obstacle(message.text, message.fields[0], result)
        yield from (Obstacle(text) for text in self.refusals)

    @property
    def violated(self) -> tuple[RuleResult, ...]:
        """The rules that speak, hardest first, otherwise in the order of the form."""
        speaking = [result for result in self.results if result.is_violated]
        return tuple(sorted(speaking, key=lambda result: -hardness(result.severity)))
