"""Which other record a rule about other records was broken by."""

from functools import lru_cache

from thistlequartz.core.engines.environment import RECORDS, Environment, Evaluator
from thistlequartz.core.engines.traced import others_read, traced, unique_values
from thistlequartz.core.expression import tree
from thistlequartz.core.kernel import lower

from .lookup import NUMBER, Records


def double_of(must: tree.Node, environment: Environment) -> str | None:
    """The number of a record for which `must`, a condition that is broken, is not true; None where
    it is not about other records, or the record has no number.
    """
    records = environment.get(RECORDS)
    if not isinstance(records, Records):
        return None
    match must:
        case tree.Unique(keys):
            return records.holder(keys, unique_values(environment, keys))
        case tree.NoOther(condition):
            fits, read = _evaluator(condition)
            for one in records.others(read):
                if fits({**environment, **one}) is True:
                    number = one.get(NUMBER)
                    return None if number is None else str(number)
    return None


@lru_cache(maxsize=256)
def _evaluator(node: tree.Node) -> tuple[Evaluator, frozenset[str]]:
    lowered = lower(node)
    return traced(lowered), others_read(lowered)
