"""Whether a rule has something to say of a record, and says it; asked of that rule alone."""

from thistlequartz.core.judging import CompiledRule, Settled


def has_its_say(one: CompiledRule, settled: Settled) -> bool:
    """Whether some target of the rule is relevant, and its condition holds."""
    inside = any(key not in settled.closed for key in one.rule.targets)
    return inside and one.applies(settled.environment)


def is_violated(one: CompiledRule, settled: Settled) -> bool:
    """Whether a rule that checks is violated for a record that is settled."""
    closed, environment = settled.closed, settled.environment
    if closed and all(key in closed for key in one.rule.targets):
        return False
    if not one.applies(environment):
        return False
    return any(
        check.satisfied(environment) is False
        for check in one.checks
        if not (closed and all(key in closed for key in check.check.targets))
    )
