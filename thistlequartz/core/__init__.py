'''The rules and what they mean: pure Python, with no framework, clock, files or network.

A RuleSet is a document (`docs/ruleset.schema.json`); compiled, it judges records.

>>> from datetime import date
>>> from thistlequartz.core import Circumstances, RuleSet, RecordContext
>>> from thistlequartz.core import compile_ruleset, sweep_field
>>> ruleset = RuleSet.model_validate_json("""{"forms": [{
...     "key": "core_sample", "name": "Core sample",
...     "fields": [
...         {"key": "mass", "label": "Mass", "type": "decimal", "unit": "kg"},
...         {"key": "scale", "label": "Scale", "type": "text"}],
...     "rules": [
...         {"key": "light", "kind": "range", "targets": ["mass"], "upper": {"value": "40"},
...          "severity": {"save": "warn", "submit": "block"}},
...         {"key": "which_scale", "kind": "mandatory", "targets": ["scale"], "when": "mass > 30",
...          "severity": {"submit": "block"}}]}]}""")
>>> form = compile_ruleset(ruleset, form="core_sample")
>>> today, record = date(2026, 6, 12), {"mass": "41,5 kg"}
>>> verdicts = form.judge_moments(record, today=today)
>>> {moment: verdict.outcome for moment, verdict in verdicts.items()}
{'save': 'warned', 'submit': 'blocked'}
>>> [(one.rule, one.reason) for one in verdicts["submit"].violated]
[('light', 'Mass is 41.5 kg.'), ('which_scale', 'Scale is blank.')]
>>> form.explain("which_scale", record, today=today).when.words
'Mass is more than 30 kg'
>>> bands = sweep_field(RecordContext(form, {"scale": "B"}, Circumstances(today)), "mass").bands
>>> [(band.words, band.answer.submit) for band in bands]
[('blank', 'clear'), ('up to 40 kg', 'clear'), ('over 40 kg', 'blocked')]

Values are what people type or what JSON carries; `compile_ruleset` never refuses a rule that cannot
be used, but keeps it as unfinished (`form.problems` says why; with `strict=True` it raises
UnfinishedRules instead), and judging never raises.
'''

from importlib import import_module
from typing import TYPE_CHECKING, Any

if TYPE_CHECKING:
    from .judging import (
        Circumstances,
        CompiledForm,
        Explanation,
        Lookup,
        ReferredRecord,
        Screened,
        UnfinishedRules,
        Verdict,
        compile_ruleset,
    )
    from .ruleset import RuleSet
    from .sweep import RecordContext, Sweep, sweep_field

__all__ = [
    "Circumstances",
    "CompiledForm",
    "Explanation",
    "Lookup",
    "RecordContext",
    "ReferredRecord",
    "RuleSet",
    "Screened",
    "Sweep",
    "UnfinishedRules",
    "Verdict",
    "compile_ruleset",
    "sweep_field",
]

_ROOMS = {
    **dict.fromkeys(("RecordContext", "Sweep", "sweep_field"), ".sweep"),
    "RuleSet": ".ruleset",
}


def __getattr__(name: str) -> Any:
    """What is asked for, with its room alone: whoever needs but one room loads no other."""
    if name not in __all__:
        raise AttributeError(f"module {__name__!r} has no attribute {name!r}")
    return getattr(import_module(_ROOMS.get(name, ".judging"), __name__), name)
