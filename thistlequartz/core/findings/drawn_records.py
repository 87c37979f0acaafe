"""Drawn records, where the solver is not asked or does not decide: judged, not solved."""

import random
from collections.abc import Callable, Iterator, Mapping, Sequence
from itertools import islice
from typing import Any, Final

from thistlequartz.core.candidates.entries import Candidates, deciding_fields, with_second_entries
from thistlequartz.core.cases.observing import noon_of
from thistlequartz.core.judging import Circumstances, CompiledForm, CompiledRule, Judgement
from thistlequartz.core.ruleset import CaseCircumstances, Event, usual_role
from thistlequartz.core.solving.prover import RuleAssumptions, Satisfiable
from thistlequartz.core.solving.witness import Witness
from thistlequartz.core.sweep import RecordContext

from .context import SearchContext

RECORDS: Final = 1_000
"""Drawn to see whether anything changes but what is meant to."""
TRIED: Final = 300
"""Drawn to find an example that the solver could not give."""
_BLANK_SHARE: Final = 0.15
_UPDATES_SHARE: Final = 0.25
_SEED: Final = 1
Values = Mapping[str, object]


def under_which(form: CompiledForm, look: SearchContext, event: Event) -> Circumstances:
    """The circumstances in which drawn records are judged."""
    role = usual_role(form.form)
    return Circumstances(look.today, noon_of(look.today, form), event, "desk", None, role)


def example_by_drawing(
    look: SearchContext,
    rules: Sequence[CompiledRule],
    under: RuleAssumptions,
    so: Callable[[Witness, Judgement], object],
) -> Satisfiable | None:
    """A record of which something is so, around the entries that these rules tell apart."""
    kept = look.prover.kept(under)
    for values, stored in islice(drawn_records(look, rules), TRIED):
        if stored is not None:
            continue
        witness = Witness(CaseCircumstances(as_of=look.today), dict(values))
        judged = witness.judged(look.form)
        refused = judged.has_faults or any(judged.findings[one].is_violated for one in kept)
        if not refused and so(witness, judged):
            return Satisfiable(witness, judged)
    return None


def drawn_records(
    look: SearchContext, rules: Sequence[CompiledRule]
) -> Iterator[tuple[dict[str, Any], Values | None]]:
    """Yield records around one that goes through, with entries that the rules tell apart.

    Some of them come with what was stored before.
    """
    usual = look.prover.usually.values
    candidates = _candidates(look)
    fields = list(dict.fromkeys((*deciding_fields(look.form, rules), *look.form.fields)))
    near = set(deciding_fields(look.form, rules)) | {
        key for one in rules for key in one.rule.targets if key in look.form.fields
    }
    drawn = random.Random(_SEED)  # noqa: S311 - no secret
    yield dict(usual), None
    yield {}, None
    for _ in range(RECORDS):
        values: dict[str, Any] = dict(usual)
        for key in fields:
            if key in near or drawn.random() < _BLANK_SHARE:
                entries = candidates.of(key)
                values[key] = None if drawn.random() < _BLANK_SHARE else drawn.choice(entries)
        stored = None
        if drawn.random() < _UPDATES_SHARE:
            held = {key: drawn.choice(candidates.of(key)) for key in sorted(near)}
            stored = look.form.canonical({**usual, **held})
        yield with_second_entries(look.form, values), stored


def _candidates(look: SearchContext) -> Candidates:
    """What is tried in each field, found once for all fixes of a look."""
    if look.candidates is None:
        usual = look.prover.usually.values
        around = RecordContext(look.form, usual, under_which(look.form, look, "create"))
        look.candidates = Candidates(around, look.samples)
    return look.candidates
