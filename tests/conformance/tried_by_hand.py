"""What there is to find in a small form, by trying every record there can be of it: definitions of
the kinds of findings that know nothing of the solver.
"""

from collections.abc import Iterator
from functools import cached_property
from itertools import combinations
from typing import Any

from thistlequartz.core.findings import SEARCHES, Finding, find_by_steps
from thistlequartz.core.judging import CompiledForm, CompiledRule, Judgement
from thistlequartz.core.ruleset import RuleSet

from .small_forms import TODAY, Tried

Told = tuple[str, tuple[str, ...], tuple[str, ...]]
"""A code, with the rules and the fields it is about."""
ANSWERS: dict[str, tuple[Any, ...]] = {
    "kind": ("a", "b", "c"),
    "yes": (True, False),
    "more": ("x", "y"),
}


def said(answer: Any) -> str:
    """An answer as people read it."""
    words = {None: "blank", True: "yes", False: "no"}
    return words.get(answer, str(answer).upper())


def holds(judged: Judgement, key: str, value: Any) -> bool:
    """Whether a field is asked and holds a value; None is blank."""
    return key not in judged.settled.closed and judged.settled.value_of(key) == value


def searched(ruleset: RuleSet, form: CompiledForm, *codes: str) -> list[Finding]:
    """What the searches for these codes find; nothing of them is undecided."""
    others = {n for n, search in enumerate(SEARCHES) if not {*search.codes} & {*codes}}
    steps = list(find_by_steps(ruleset, form, TODAY, skipped=others))
    assert not [one for step in steps for one in step.undecided]
    return [one for step in steps for one in step.found if one.code in codes]


def as_told(one: Finding) -> Iterator[Told]:
    """A finding as it would be found by trying; nothing of a kind that is not found so."""
    match one.code:
        case "F06":  # what locks or closes the field is told, too
            yield one.code, one.rules[:1], one.fields
        case "F08" | "F09" | "F18":
            yield one.code, tuple(sorted(one.rules)), one.fields
        case "F05":
            yield one.code, (one.says.partition(" no record")[0].rpartition(" ")[2],), one.fields
        case "F14":
            yield one.code, (one.says.partition("given as ")[2].partition(",")[0],), one.fields


class ByTrying:
    """The findings of a small form."""

    @property
    def all(self) -> set[Told]:
        """Every one of them, but for contradictions."""
        searches = (
            self.falls_silent, self.locked_blank, self.blank_passes, self.blank_opens,
            self.blank_taken, self.forgotten_answer, self.refused_answers, self.open_links,
            self.answers_that_stop,
        )  # fmt: skip
        return {one for search in searches for one in search()}

    def __init__(self, tried: Tried) -> None:
        self._tried = tried
        self._rules = list(tried.rules.values())
        self._checks = [one for one in self._rules if not one.is_effect]
        self._through = {moment: tried.passing(moment) for moment in ("save", "submit")}
        self._own = {one.rule.key: tried.passing("save", one.rule.key) for one in self._rules}

    @cached_property
    def closers(self) -> dict[str, list[CompiledRule]]:
        """By field: the rules that open or close it."""
        found: dict[str, list[CompiledRule]] = {}
        for one in self._rules:
            for key in one.rule.targets if one.part in ("opening", "closing") else ():
                found.setdefault(key, []).append(one)
        return found

    def _applies(self, one: CompiledRule, judged: Judgement) -> bool:
        return one.applies(judged.settled.environment) is True

    def _leads(self, one: CompiledRule, key: str, answer: Any) -> bool:
        return any(self._applies(one, j) and holds(j, key, answer) for j in self._tried.all)

    def falls_silent(self) -> Iterator[Told]:
        """F06: it is required where another rule lets it not be asked."""
        for one in self._checks:
            (key,) = one.rule.targets
            demand = one.rule.kind == "mandatory" and one.rule.when is not None
            if demand and any(
                self._applies(one, j) and key in j.settled.closed for j in self._own[one.rule.key]
            ):
                yield "F06", (one.rule.key,), (key,)

    def locked_blank(self) -> Iterator[Told]:
        """F06: it is required while it is blank and locked, in a record that is new."""
        for one in self._checks:
            (key,) = one.rule.targets
            if one.rule.kind == "mandatory" and "block" in one.severities.values():
                for judged in self._own[one.rule.key]:
                    stuck = self._applies(one, judged) and key in judged.settled.locked
                    if stuck and holds(judged, key, None) and not judged.record.before:
                        yield "F06", (one.rule.key,), (key,)
                        break

    def blank_passes(self) -> Iterator[Told]:
        """F08: every answer leads somewhere, and blank, which can be submitted, does not."""
        for key, answers in ANSWERS.items():
            governed = [one for one in self._rules if key in one.governors]
            led = [
                {one.rule.key for one in governed if self._leads(one, key, answer)}
                for answer in (*answers, None)
            ]
            through = any(holds(j, key, None) for j in self._through["submit"])
            if all(led[:-1]) and not led[-1] and through:
                yield "F08", tuple(sorted(set().union(*led))), (key,)

    def blank_opens(self) -> Iterator[Told]:
        """F08: a field is asked while another is blank, and with none of its answers."""
        for target, closers in self.closers.items():
            for key, answers in ANSWERS.items():
                if not any(key in one.governors for one in closers):
                    continue
                asked = {
                    answer: any(
                        holds(j, key, answer) and target not in j.settled.closed
                        for j in (self._tried.all if answer is not None else self._through["save"])
                    )
                    for answer in (*answers, None)
                }
                if asked.pop(None) and not any(asked.values()):
                    about = [one.rule.key for one in closers if key in one.governors]
                    yield "F08", tuple(sorted(about)), (key, target)

    def blank_taken(self) -> Iterator[Told]:
        """F08: a check is violated, or a field asked, while nothing was answered, and some answers
        are free of it. A field that is opened itself is a link of a chain.
        """
        for one in self._rules:
            rule, opens = one.rule.key, one.part == "opening"
            for key in one.governors if opens or not one.is_effect else ():
                if key not in ANSWERS or key in one.rule.targets or (opens and key in self.closers):
                    continue
                led = {self._leads(one, key, answer) for answer in ANSWERS[key]}
                acts = (
                    self._applies(one, j) and not {*one.rule.targets} & {*j.settled.closed}
                    if opens
                    else j.findings[rule].status == "violated"
                    for j in (self._through["save"] if opens else self._own[rule])
                    if holds(j, key, None)
                )
                if led == {True, False} and any(acts):
                    yield "F08", (rule,), (key,)
                    break

    def forgotten_answer(self) -> Iterator[Told]:
        """F09: most answers are handled by rules of one kind and target, and some by none."""
        groups: dict[tuple[str, str, str], list[CompiledRule]] = {}
        for one in self._rules:
            if len(one.governors) == 1 and one.governors[0] in ANSWERS:
                about = (one.rule.kind, *one.rule.targets, *one.governors)
                groups.setdefault(about, []).append(one)  # type: ignore[arg-type]
        for (_, target, key), rules in groups.items():
            led = [
                frozenset(one.rule.key for one in rules if self._leads(one, key, answer))
                for answer in ANSWERS[key]
            ]
            handled = [some for some in led if some]
            asked = any(
                not some and holds(j, key, answer)
                and (rules[0].part in ("opening", "closing") or target not in j.settled.closed)
                for answer, some in zip(ANSWERS[key], led, strict=True)
                for j in self._through["save"]
            )  # fmt: skip
            if len(led) / 2 <= len(handled) < len(led) and len(set(handled)) > 1 and asked:
                yield "F09", tuple(one.rule.key for one in rules), (key, target)

    def refused_answers(self) -> Iterator[Told]:
        """F14: an answer that the blocks about its own field never let through."""
        for key, answers in ANSWERS.items():
            about = [
                one.rule.key for one in self._checks
                if one.rule.kind == "cross_field" and key in (*one.rule.targets, *one.judged_by)
                and {one.severities["save"], one.severities["submit"]} & {"block"}
            ]  # fmt: skip
            for answer in answers:
                held = [j for j in self._tried.all if holds(j, key, answer)]
                refused = [any(j.findings[r].status == "violated" for r in about) for j in held]
                if held and all(refused):
                    yield "F14", (said(answer),), (key,)

    def answers_that_stop(self) -> Iterator[Told]:
        """F05: an answer with which nothing is saved, or submitted, by rules that are not there
        just to refuse it: demands refuse a blank, and a rule about one field what it likes.
        """
        for key, answers in ANSWERS.items():
            if not any(key in (*one.governors, *one.judged_by) for one in self._rules):
                continue
            for answer in (*answers, None):
                hard = [
                    one.rule.key for one in self._checks
                    if {one.severities["save"], one.severities["submit"]} & {"block"}
                    and not (answer is None and one.rule.kind == "mandatory"
                             and key in one.rule.targets)
                    and not (key in one.rule.targets
                             and {*one.judged_by, *one.governors} == {key})
                ]  # fmt: skip
                held = [j for j in self._tried.all if holds(j, key, answer)]
                if held and all(
                    any(j.findings[r].status == "violated" for r in hard) for j in held
                ):
                    yield "F05", (said(answer),), (key,)

    def open_links(self) -> Iterator[Told]:
        """F18: a field is opened by one that is not asked itself."""
        for one in self._rules:
            for before in one.governors if one.part == "opening" else ():
                if before not in self.closers or before in one.rule.targets:
                    continue
                if any(
                    self._applies(one, j)
                    and before in j.settled.closed
                    and not {*one.rule.targets} & {*j.settled.closed}
                    for j in self._through["save"]
                ):
                    yield "F18", (one.rule.key,), (before, *one.rule.targets)

    def contradictions(self) -> Iterator[Told]:
        """F04, where it does not hang on another answer: two blocks apply, and nothing that is
        filled in meets both.
        """
        blocks = [
            one for one in self._checks
            if one.rule.kind == "cross_field"
            and {one.severities["save"], one.severities["submit"]} & {"block"}
        ]  # fmt: skip
        for one, other in combinations(blocks, 2):
            shared = [key for key in one.judged_by if key in other.judged_by]
            both = [
                j for j in self._tried.all
                if self._applies(one, j) and self._applies(other, j)
                and not {*shared} & {*j.settled.closed}
            ]  # fmt: skip
            met = any(
                all(j.settled.value_of(key) is not None for key in shared)
                and "violated" not in {j.findings[r.rule.key].status for r in (one, other)}
                for j in both
            )
            if shared and both and not met:
                yield "F04", (one.rule.key, other.rule.key), tuple(shared)
