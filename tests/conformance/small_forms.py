"""Small forms drawn at random, and every record that there can be of one: an oracle that knows
nothing of the solver.
"""

from collections.abc import Iterator
from datetime import date
from itertools import product
from typing import Any

from hypothesis import strategies as st

from tests.examples import few
from thistlequartz.core.judging import Circumstances, CompiledForm, Judgement, JudgeRequest
from thistlequartz.core.ruleset import RuleSet

TODAY = date(2026, 6, 12)
EXAMPLES = few(36)
DOMAIN: dict[str, list[Any]] = {
    "kind": [None, "a", "b", "c"],
    "yes": [None, True, False],
    "count": [None, -1, 0, 1, 2, 3, 4, 5],
    "more": [None, "x", "y"],
}
"""Numbers are compared with 0 to 4 only, so these stand for all whole numbers."""
FIELDS = [
    {"key": "kind", "label": "Kind", "type": "choice",
     "choices": [{"code": c, "label": c.upper()} for c in "abc"]},
    {"key": "yes", "label": "Yes", "type": "yes_no"},
    {"key": "count", "label": "Count", "type": "whole_number"},
    {"key": "more", "label": "More", "type": "choice",
     "choices": [{"code": c, "label": c.upper()} for c in "xy"]},
]  # fmt: skip
ATOMS = st.sampled_from(
    [
        'kind = "a"', 'kind != "b"', "kind = null", 'kind in ("a", "b")', "yes = true",
        "yes != true", "not(yes)", "count > 1", "count <= 3", "count in [1..3]", "count = null",
        'more = "x"', 'more != "y"', "count < 1",
    ]
)  # fmt: skip
CONDITIONS = st.one_of(
    ATOMS,
    ATOMS,
    st.sampled_from(['kind = "a" or kind != "a"', "yes = null or yes != null"]),
    st.tuples(ATOMS, st.sampled_from([" and ", " or "]), ATOMS).map("".join),
)
TARGETS = st.sampled_from(["kind", "yes", "count", "more"])
SEVERITIES = st.sampled_from(
    [{"save": "block"}, {"submit": "block"}, {"save": "warn"}, {"save": "block", "submit": "block"}]
)
CHECKS = st.one_of(
    st.fixed_dictionaries({"kind": st.just("mandatory")}),
    st.fixed_dictionaries({"kind": st.just("cross_field"), "must": CONDITIONS}),
)
EFFECTS = st.fixed_dictionaries({"kind": st.sampled_from(["open", "close", "lock"])})


@st.composite
def forms(draw: st.DrawFn) -> RuleSet:
    rules = []
    for place in range(draw(st.integers(2, 5))):
        effect = draw(st.integers(0, 3)) == 0
        rule = dict(draw(EFFECTS if effect else CHECKS))
        if effect or draw(st.booleans()):
            rule["when"] = draw(CONDITIONS)
        if not effect:
            rule["severity"] = draw(SEVERITIES)
        rules.append({"key": f"r{place}", "name": f"R {place}", "targets": [draw(TARGETS)], **rule})
    return of_rules(rules)


def of_rules(rules: list[dict[str, Any]]) -> RuleSet:
    form = {"key": "form", "name": "Form", "fields": FIELDS, "rules": rules}
    return RuleSet.model_validate({"forms": [form]})


NEVER_SATISFIED = of_rules(
    [
        {"key": "r0", "name": "R 0", "targets": ["yes"], "kind": "cross_field", "must": "not(yes)",
         "when": "yes = true", "severity": {"save": "warn"}},
        {"key": "r1", "name": "R 1", "targets": ["kind"], "kind": "mandatory",
         "severity": {"save": "block"}},
    ]
)  # fmt: skip
"""A form with a check that every record violates to which it applies; few are drawn."""


@st.composite
def chains(draw: st.DrawFn) -> RuleSet:
    """Forms whose fields hang on one another, mostly by one answer."""
    kind = ['kind = "a"', 'kind = "b"', 'kind in ("a", "b")', 'kind != "c"', "kind = null"]
    links = {
        "yes": [*kind, "not(count > 1)"],
        "more": ["yes = true", "yes = false", "yes != true", "not(yes)", *kind],
        "count": ['more = "x"', 'more != "y"', *kind],
    }
    rules = []
    for place in range(draw(st.integers(3, 5))):
        target = draw(st.sampled_from([*links]))
        rule = {"kind": draw(st.sampled_from(["open", "close", "mandatory"]))}
        if rule["kind"] == "mandatory":
            rule["severity"] = draw(SEVERITIES)  # type: ignore[assignment]
        rule["when"] = draw(st.sampled_from(links[target]))
        rules.append({"key": f"r{place}", "name": f"R {place}", "targets": [target], **rule})
    form = {"key": "form", "name": "Form", "fields": FIELDS, "rules": rules}
    return RuleSet.model_validate({"forms": [form]})


SETTING = [
    {"kind": "start", "targets": ["count"], "value": "3"},
    {"kind": "start", "targets": ["yes"], "value": "true"},
    {"kind": "start", "targets": ["kind"], "value": "b"},
    {"kind": "derive", "targets": ["count"], "value": "if yes then 2 else null"},
    {"kind": "derive", "targets": ["more"], "value": 'if count > 2 then "x" else "y"'},
    {"kind": "propose", "targets": ["kind"], "title": "Four", "when": "yes = true",
     "sets": [{"field": "count", "value": "4"}]},
]  # fmt: skip


def with_rules(ruleset: RuleSet, rules: list[dict[str, Any]], prefix: str) -> RuleSet:
    """The same with more rules."""
    document = ruleset.model_dump(mode="json")
    document["forms"][0]["rules"] += [
        {"key": f"{prefix}{place}", "name": f"{prefix.upper()} {place}", **one}
        for place, one in enumerate(rules)
    ]
    return RuleSet.model_validate(document)


def setting_forms() -> st.SearchStrategy[RuleSet]:
    """Forms that begin, compute or propose a value as well."""
    some = st.lists(
        st.sampled_from(SETTING), min_size=1, max_size=2, unique_by=lambda one: one["targets"][0]
    )
    return st.builds(with_rules, forms(), some, st.just("e"))


SAVED = {"severity": {"save": "block"}}
STRICT = [
    *({"kind": "mandatory", "targets": [key], **SAVED} for key in ("yes", "count")),
    *(
        {"kind": "cross_field", "targets": ["yes", "count"], "must": must, **SAVED}
        for must in ("yes = true", "not(yes)", "count > 2", "count < 1")
    ),
]
"""Rules without a condition, of which a few together are often more than a record can meet."""


def strict_forms() -> st.SearchStrategy[RuleSet]:
    """Forms through which often nothing goes."""
    some = st.lists(st.sampled_from(STRICT), min_size=3, max_size=6)
    return st.builds(with_rules, forms(), some, st.just("s"))


class Tried:
    """Every record there can be: new, with whatever is entered; or changed, where that matters."""

    def __init__(self, form: CompiledForm, *others: CompiledForm) -> None:
        """`others` are writings of the same form that are tried with the same records."""
        self.form = form
        self._writings = (form, *others)
        self.all = list(self._all())
        self.rules = {one.rule.key: one for one in form.rules}

    def _all(self) -> Iterator[Judgement]:
        locked = {
            key
            for form in self._writings
            for one in form.rules
            if one.part == "locking"
            for key in one.rule.targets
        }
        entered = [DOMAIN[key] if key not in locked else [None] for key in DOMAIN]
        new = Circumstances(TODAY, None, "create", "desk", None, "clerk")
        changed = Circumstances(TODAY, None, "update", "desk", None, "clerk")
        before = [DOMAIN[key] if key in locked else [None] for key in DOMAIN]
        for values in product(*DOMAIN.values()):
            record = self.form.read(dict(zip(DOMAIN, values, strict=True)))
            yield self.form.judged(JudgeRequest(record, new))
        for values in product(*entered) if locked else ():
            for stored in product(*before):
                held = {k: v for k, v in zip(DOMAIN, stored, strict=True) if v is not None}
                free = dict(zip(DOMAIN, values, strict=True))
                # What is not locked in the end is entered anew, so what was stored is also tried.
                for sent in (free, {**free, **held}):
                    yield self.form.judged(
                        JudgeRequest(self.form.read(sent, stored=held or {"x": 1}), changed)
                    )

    def passing(self, moment: str, without: str | None = None) -> list[Judgement]:
        def hard(key: str) -> bool:
            severities = self.rules[key].severities
            return "block" in (
                severities["save"],
                severities["submit"] if moment == "submit" else "",
            )

        return [
            one
            for one in self.all
            if not any(
                finding.status == "violated" and key != without and hard(key)
                for key, finding in one.findings.items()
                if not self.rules[key].is_effect
            )
        ]
