"""How hard rules speak, and what they promise of the fields they are about."""

from collections.abc import Iterable
from typing import Literal, cast

from thistlequartz.core.enumerations import Moment, Severity, hardest
from thistlequartz.core.kinds import CHECK_KINDS, CheckRule, Rule


def severity_of(rule: Rule, moment: Moment) -> Severity:
    """How hard `rule` speaks at `moment`; effects never do.

    A rule that holds lets a record be saved, with a warning, and blocks it on submitting. To submit
    is to save as well, so that what a rule says on saving counts there, too.
    """
    if rule.kind not in CHECK_KINDS:
        return "none"
    rule = cast("CheckRule", rule)
    if rule.hold and moment != "entry":
        return "warn" if moment == "save" else "block"
    own = rule.severity.at(moment)
    return hardest((own, rule.severity.save)) if moment == "submit" else own


def asks_to_be_filled(rule: Rule) -> bool:
    """Whether `rule` asks for its targets to be filled, and so marks them."""
    return rule.kind in CHECK_KINDS and CHECK_KINDS[rule.kind].marks


def marks_of(rules: Iterable[Rule]) -> dict[str, Literal["required", "recommended"]]:
    """What the rules that are switched on promise of each field, always or under a condition."""
    marks: dict[str, Literal["required", "recommended"]] = {}
    for rule in rules:
        if not rule.enabled or not asks_to_be_filled(rule):
            continue
        severities = {severity_of(rule, "save"), severity_of(rule, "submit")}
        for key in rule.targets:
            if "block" in severities:
                marks[key] = "required"
            elif severities != {"none"}:
                marks.setdefault(key, "recommended")
    return marks
