"""How long the rule core takes, as ratios in one run against general JSON Schema libraries.

Run it with `.venv/bin/python -m benchmarks.core`.

Equal work: one form of 40 fields and 60 rules (ranges, patterns, choices, conditional mandatory)
and the JSON Schema that says the same; the same records, clean and faulty, with the values read
already, and from canonical JSON on, with reading them. Ours gives both verdicts and every violation
with its message; `jsonschema-rs` and `jsonschema` list every error; `fastjsonschema` stops at the
first. Before anything is timed, every record is checked to have as many violations here as errors
there.
"""

import random
import statistics
import time
from collections.abc import Callable
from datetime import date
from decimal import Decimal
from typing import Any

import fastjsonschema
import jsonschema
import jsonschema_rs

from thistlequartz.core import CompiledForm, RuleSet, compile_ruleset
from thistlequartz.core.judging import ReadRecord

from .sizes import sized

TODAY = date(2026, 6, 12)
SEED = 40_60
RECORDS = sized(2_000, 60)
ROUNDS = sized(7, 2)
NUMBERS, TEXTS, CHOICES = 20, 10, 10
CODES = [f"c{number}" for number in range(8)]
SEVERITY = {"entry": "warn", "save": "warn", "submit": "block"}
SHARES = {"clean": 50, "one violation planted": 30, "eight violations planted": 20}
"""In a hundred records."""
THEIRS = "jsonschema-rs: every error"
PLANTED = {"clean": 0, "one violation planted": 1, "eight violations planted": 8}


def ruleset() -> RuleSet:
    """The form of 40 fields and 60 rules."""
    fields: list[dict[str, Any]] = []
    rules: list[dict[str, Any]] = []

    def rule(**given: Any) -> None:
        number = len(rules)
        named = {"key": f"rule_{number}", "name": f"Rule {number}", "severity": SEVERITY}
        rules.append({**named, "message": f"Message {number}: correct it.", **given})

    for number in range(NUMBERS):
        key = f"number_{number}"
        fields.append({"key": key, "label": key, "type": "decimal", "scale": 3})
        bounds = {"lower": {"value": str(number)}, "upper": {"value": str(1000 + number)}}
        rule(kind="range", targets=[key], **bounds)
    for number in range(TEXTS):
        key = f"text_{number}"
        fields.append({"key": key, "label": key, "type": "text"})
        rule(kind="format", targets=[key], pattern="[A-Z]{2}-[0-9]{4}", described="a code")
    for number in range(CHOICES):
        key = f"choice_{number}"
        fields.append({"key": key, "label": key, "type": "text"})
        rule(kind="allowed_values", targets=[key], values=CODES)
    for number in range(NUMBERS):
        governor, code = f"choice_{number % CHOICES}", CODES[number // CHOICES]
        rule(kind="mandatory", targets=[f"number_{number}"], when=f'{governor} = "{code}"')
    return RuleSet.model_validate(
        {"forms": [{"key": "form", "name": "Form", "fields": fields, "rules": rules}]}
    )


def schema() -> dict[str, Any]:
    """What `ruleset` says, as JSON Schema 2020-12."""
    properties: dict[str, Any] = {}
    for number in range(NUMBERS):
        properties[f"number_{number}"] = {"minimum": number, "maximum": 1000 + number}
    for number in range(TEXTS):
        properties[f"text_{number}"] = {"pattern": "^[A-Z]{2}-[0-9]{4}$"}
    for number in range(CHOICES):
        properties[f"choice_{number}"] = {"enum": CODES}
    conditional = [
        {
            "if": {
                "properties": {f"choice_{number % CHOICES}": {"const": CODES[number // CHOICES]}},
                "required": [f"choice_{number % CHOICES}"],
            },
            "then": {"required": [f"number_{number}"]},
        }
        for number in range(NUMBERS)
    ]
    draft = "http://json-schema.org/draft-07/schema#"  # the newest that fastjsonschema knows
    return {"$schema": draft, "properties": properties, "allOf": conditional}


def record(kind: str, rng: random.Random) -> dict[str, Any]:
    """A record with so many values spoilt, as JSON carries it; a fifth of it is left blank."""
    values: dict[str, Any] = {}
    for number in range(NUMBERS):
        values[f"number_{number}"] = rng.randint(20_000, 999_000) / 1000
    for number in range(TEXTS):
        values[f"text_{number}"] = f"QH-{rng.randint(0, 9999):04}"
    for number in range(CHOICES):
        values[f"choice_{number}"] = rng.choice(CODES)
    blank = rng.sample(sorted(values), len(values) // 5)
    for key in blank:
        number = int(key.split("_")[1])
        governing = values.get(f"choice_{number % CHOICES}")
        if not (key.startswith("number") and governing == CODES[number // CHOICES]):
            values.pop(key, None)
    for key in rng.sample(sorted(values), PLANTED[kind]):
        values[key] = -5 if key.startswith("number") else "wrong"
    return values


def seconds_each(works: dict[str, tuple[Callable[[Any], Any], list[Any]]]) -> dict[str, float]:
    """The median over the rounds of the mean time for one item, by name.

    The works take turns within each round, so that all of them meet the machine as it is then.
    """
    rounds: dict[str, list[float]] = {name: [] for name in works}
    for _ in range(ROUNDS):
        for name, (work, items) in works.items():
            begin = time.perf_counter()
            for item in items:
                work(item)
            rounds[name].append((time.perf_counter() - begin) / len(items))
    return {name: statistics.median(taken) for name, taken in rounds.items()}


def fails(check: Callable[[Any], Any]) -> Callable[[Any], bool]:
    """Whether the library that stops at the first error finds one."""

    def judged(item: Any) -> bool:
        try:
            check(item)
        except fastjsonschema.JsonSchemaValueException:
            return True
        return False

    return judged


def many_rules(count: int, governed: bool) -> RuleSet:
    """`count` ranges; where governed, each applies for one of a hundred answers only."""
    whens = [{"when": f'status = "s{number % 100}"'} if governed else {} for number in range(count)]
    fields = [{"key": f"n{n}", "label": f"N {n}", "type": "decimal"} for n in range(100)]
    rules = [
        {
            "key": f"r{number}",
            "name": f"Rule {number}",
            "kind": "range",
            "targets": [f"n{number % 100}"],
            "upper": {"value": str(1000 + number)},
            "severity": SEVERITY,
            **whens[number],
        }
        for number in range(count)
    ]
    status = {"key": "status", "label": "Status", "type": "text"}
    form = {"key": "form", "name": "Form", "fields": [status, *fields], "rules": rules}
    return RuleSet.model_validate({"forms": [form]})


def compare() -> None:
    """Against the libraries, on equal work."""
    form = compile_ruleset(ruleset(), form="form")
    screener = form.screener(today=TODAY)
    screen = screener.screen
    rng = random.Random(SEED)  # noqa: S311 - made-up records
    kinds = [kind for kind, share in SHARES.items() for _ in range(share * RECORDS // 100)]
    plain = [record(kind, rng) for kind in kinds]
    read = [form.read({key: _exact(value) for key, value in one.items()}) for one in plain]
    rust = jsonschema_rs.validator_for(schema())
    reference = jsonschema.Draft7Validator(schema())
    for values, ours in zip(plain, read, strict=True):
        found, expected = screen(ours), len(list(reference.iter_errors(values)))
        assert len(found.violations) == expected == len(list(rust.iter_errors(values)))
    print(f"{len(plain)} records of 40 fields, 60 rules: " + ", ".join(_shares(form, read)))
    compiled = fails(fastjsonschema.compile(schema()))
    some = slice(None, None, max(RECORDS // 200, 1))
    typed = [{key: _typed(value) for key, value in one.items()} for one in plain[some]]
    stored = [{key: _stored(value) for key, value in one.items()} for one in plain]

    def errors(values: Any) -> list[Any]:
        return list(rust.iter_errors(values))

    def reason(one: Any) -> list[str]:
        return [result.reason for result in form.judge(one, moment="submit", today=TODAY).results]

    def reasons(one: Any) -> list[list[str]]:
        verdicts = form.judge_moments(one, today=TODAY).values()
        return [[result.reason for result in verdict.results] for verdict in verdicts]

    works: dict[str, tuple[Callable[[Any], Any], list[Any]]] = {
        THEIRS: (errors, plain),
        "ours: both verdicts, every violation": (screen, read),
        "ours: the same from canonical JSON on": (screener.screen_values, stored),
        "fastjsonschema: the first error": (compiled, plain),
        "jsonschema: every error": (lambda one: list(reference.iter_errors(one)), plain[some]),
        "ours: a moment, every rule's reason": (
            reason,
            read[some],
        ),
        "ours: both moments, every rule's reason": (
            reasons,
            read[some],
        ),
        "ours: reading values as people type them": (form.read, typed),
        "ours: reading canonical values": (form.read, stored),
    }
    times = seconds_each(works)
    for name, taken in times.items():
        print(f"  {name:40} {taken * 1e6:8.1f} µs  {taken / times[THEIRS]:7.2f} × jsonschema-rs")
    for kind in SHARES:
        chosen = [place for place, one in enumerate(kinds) if one == kind]
        times = seconds_each(
            {
                "ours": (screen, [read[place] for place in chosen]),
                THEIRS: (errors, [plain[place] for place in chosen]),
            }
        )
        ours, theirs = times["ours"], times[THEIRS]
        print(f"  {kind:40} {ours * 1e6:8.1f} µs  {ours / theirs:7.2f} × jsonschema-rs")


def _typed(value: Any) -> str:
    """As people type it: blanks around and thousands apart."""
    text = f"{value:,}".replace(",", " ") if isinstance(value, float | int) else value
    return f" {text} "


def _stored(value: Any) -> str:
    """As it is stored and travels in JSON."""
    return str(_exact(value).normalize()) if isinstance(value, float | int) else value


def _exact(value: Any) -> Any:
    return Decimal(str(value)) if isinstance(value, float | int) else value


def _shares(form: CompiledForm, read: list[ReadRecord]) -> list[str]:
    screen = form.screener(today=TODAY).screen
    counts = [len(screen(one).violations) for one in read]
    clean = sum(count == 0 for count in counts)
    return [
        f"{clean * 100 // len(counts)} % clean",
        f"{sum(count == 1 for count in counts) * 100 // len(counts)} % with one violation",
        f"{sum(counts) / max(len(counts) - clean, 1):.1f} violations in a faulty one on average",
    ]


def grow() -> None:
    """Compiling, and how the cost of a record grows."""
    for count, governed in ((60, False), (1_000, False), (1_000, True)):
        document = many_rules(count, governed)
        begin = time.perf_counter()
        form = compile_ruleset(document, form="form")
        screen = form.screener(today=TODAY).screen
        compiling = time.perf_counter() - begin
        record = form.read({"status": "s7", **{f"n{n}": str(n) for n in range(100)}})
        each = seconds_each({"": (screen, [record] * 500)})[""]
        could = count // 100 if governed else count
        print(
            f"  {count:5} rules, {could:5} apply: compiled in {compiling * 1000:6.1f} ms,"
            f" a record in {each * 1e6:6.1f} µs ({each * 1e9 / could:6.1f} ns a rule that applies)"
        )
    document = ruleset()
    compiling = seconds_each(
        {"": (lambda one: compile_ruleset(one, form="form").screener(today=TODAY), [document])}
    )[""]
    print(f"  the 60 rules above: compiled in {compiling * 1000:.1f} ms")


def main() -> None:
    """Measure and print."""
    compare()
    grow()


if __name__ == "__main__":
    main()
