"""Forms that have each kind of finding, and twins that do not.

The mistakes are those of common practice (from memory), such as tiers up to 1,000 and from 25,000
on, a yes that is handled and a blank that is forgotten, or `>` where “inclusive” was meant.
"""

from datetime import date
from decimal import Decimal
from typing import Any

from thistlequartz.core.findings import Rights

TODAY = date(2026, 6, 12)
BLOCK = {"save": "block", "submit": "block"}
SUBMIT = {"submit": "block"}
WARN = {"save": "warn", "submit": "warn"}
NOTE = {"save": "note", "submit": "note"}


def choice(key: str, *codes: str, **more: Any) -> dict[str, Any]:
    choices = [{"code": code, "label": code.capitalize()} for code in codes]
    return {"key": key, "label": key.capitalize(), "type": "choice", "choices": choices, **more}


FIELDS = (
    choice("kind", "bird", "fish", "moss"),
    choice("state", "open", "shut"),
    {"key": "sealed", "label": "Sealed", "type": "yes_no"},
    {"key": "agreed", "label": "Agreed", "type": "yes_no"},
    {"key": "mass", "label": "Mass", "type": "whole_number", "unit": "g"},
    {"key": "height", "label": "Height", "type": "whole_number"},
    {"key": "rate", "label": "Rate", "type": "decimal"},
    {"key": "sum_of", "label": "Both together", "type": "decimal"},
    {"key": "found", "label": "Found on", "type": "date"},
    {"key": "named", "label": "Named on", "type": "date"},
    {"key": "code", "label": "Code", "type": "text"},
    {"key": "note", "label": "Remark", "type": "text"},
)


def rule(kind: str, target: Any, **more: Any) -> dict[str, Any]:
    targets = [target] if isinstance(target, str) else target
    if kind not in EFFECTS and "severity" not in more:
        more["severity"] = BLOCK
    return {"kind": kind, "targets": targets, **more}


EFFECTS = ("open", "close", "lock", "wait", "derive", "start", "propose")


def needed(target: str, **more: Any) -> dict[str, Any]:
    return rule("mandatory", target, **more)


def cross(target: str, must: str, **more: Any) -> dict[str, Any]:
    return rule("cross_field", target, must=must, **more)


def between(target: str, low: Any = None, high: Any = None, **more: Any) -> dict[str, Any]:
    bounds = {"lower": low, "upper": high}
    given = {
        k: v if isinstance(v, dict) else {"value": str(v)}
        for k, v in bounds.items()
        if v is not None
    }
    return rule("range", target, **given, **more)


def opened(target: Any, when: str, **more: Any) -> dict[str, Any]:
    return rule("open", target, when=when, **more)


def form(target: str, pattern: str, **more: Any) -> dict[str, Any]:
    return rule("format", target, pattern=pattern, **more)


def tier(when: str, value: str, **more: Any) -> dict[str, Any]:
    sets = [{"field": "rate", "value": value}]
    return rule("propose", "mass", title=f"Rate {value}", sets=sets, when=when, **more)


def start(target: str, value: str) -> dict[str, Any]:
    return rule("start", target, value=value)


def form_of(*rules: dict[str, Any], **more: Any) -> dict[str, Any]:
    named = [
        {"key": f"r{place}", "name": f"Rule {chr(65 + place)}", **one}
        for place, one in enumerate(rules)
    ]
    fields = [*FIELDS, *more.pop("fields", ())]
    changed = more.pop("changed", {})
    fields = [{**one, **changed.get(one["key"], {})} for one in fields]
    return {"key": "form", "name": "Form", "fields": fields, "rules": named, **more}


Given = tuple[dict[str, Any], ...] | dict[str, Any]
KIND_NEEDED, MASS_NEEDED = needed("kind"), needed("mass")
LAYOUTS = {
    "layouts": [{"key": "desk", "label": "At the desk"}, {"key": "small", "label": "Small"}],
    "changed": {"note": {"layouts": ["desk"]}},
}
APART = {
    "sections": [{"key": "top", "label": "Top"}, {"key": "end", "label": "End"}],
    "changed": {"mass": {"section": "top"}, "sum_of": {"section": "end"}},
}
SAMPLES = tuple(map(Decimal, range(20, 60)))
LATER = {"in_force_from": "2026-01-01"}
LOW, MIDDLE, HIGH = "mass in (0..1000]", "mass in (1000..5000]", "mass > 5000"
# By code: forms that have it, and twins that do not; each is rules, or rules and settings.
SEEDED: dict[str, tuple[list[Any], list[Any]]] = {
    "F01": (
        [
            [needed("note", when='kind = "bird" and kind = "fish"')],
            [needed("note", when="mass > 9 and mass < 9")],
            [rule("close", "note", when='sealed = true'), needed("note", when="sealed = true")],
        ],
        [
            [needed("note", when='kind = "bird" or kind = "fish"')],
            [needed("note", when="mass >= 9 and mass <= 9")],
            [rule("close", "note", when='sealed = true'), needed("note", when="sealed = false")],
        ],
    ),
    "F02": (
        [
            [cross("mass", "mass * 2 = mass + mass")],
            [between("mass", 1, 5), cross("height", "mass < 9 or height > 1")],
            [rule("allowed_values", "kind", values=["bird", "fish", "moss"])],
        ],
        [
            [cross("mass", "mass * 2 = mass + 1")],
            [between("mass", 1, 5), cross("height", "mass < 4 or height > 1")],
            [rule("allowed_values", "kind", values=["bird", "fish"])],
        ],
    ),
    "F03": (
        [
            [cross("mass", "mass > 5", when="mass < 3")],
            [cross("mass", "mass < 3 and mass > 9")],
            [cross("height", "height > mass", when="mass > 5"), between("height", 0, 3)],
        ],
        [
            [cross("mass", "mass > 5", when="mass > 3")],
            [cross("mass", "mass > 3 and mass < 9")],
            [cross("height", "height > mass", when="mass > 5"), between("height", 0, 30)],
        ],
    ),
    "F04": (
        [
            [between("mass", 10, None), between("mass", None, 5, when='kind = "bird"')],
            [cross("found", "found < named"), cross("found", "found > named", when="sealed = true")],
            [rule("allowed_values", "state", governor="kind", rows=[{"answer": "bird", "values": ["open"]}]),
             cross("state", 'state = "shut"', when='kind = "bird"')],
        ],
        [
            [between("mass", 10, None), between("mass", None, 15, when='kind = "bird"')],
            [cross("found", "found < named"), cross("found", "found > named - duration(\"P9D\")", when="sealed = true")],
            [rule("allowed_values", "state", governor="kind", rows=[{"answer": "bird", "values": ["open"]}]),
             cross("state", 'state = "shut"', when='kind = "fish"')],
        ],
    ),
    "F05": (
        [
            [needed("mass", when='kind = "bird"'), between("mass", 10, None, when='kind = "bird"'),
             between("mass", None, 5, when='kind = "bird"')],
            [cross("height", 'height > 5', when="sealed = true"), needed("height", when="sealed = true"),
             between("height", 0, 3)],
            [needed("state", when='kind = "fish"'), rule("allowed_values", "state", values=["open"]),
             cross("state", 'state != "open"', when='kind = "fish"')],
            [needed("kind"), needed("mass"), cross("mass", "mass > 9", when="kind = null"), cross("mass", "mass < 3")],
            [cross("kind", 'kind != "moss" or mass > 9'), between("mass", 0, 5), needed("mass")],
        ],
        [
            [needed("mass", when='kind = "bird"'), between("mass", 10, None, when='kind = "bird"'),
             between("mass", None, 50, when='kind = "bird"')],
            [cross("height", 'height > 5', when="sealed = true"), between("height", 0, 3)],
            [needed("kind"), rule("consent", "agreed")],
            [needed("kind"), needed("mass"), cross("mass", "mass < 3")],
        ],
    ),
    "F06": (
        [
            [needed("note"), rule("lock", "note", when="sealed = true")],
            [needed("note", when='kind = "bird"'), rule("close", "note", when="sealed = true")],
            [needed("note"), rule("wait", "note", until="mass != null"), rule("lock", "mass")],
            [rule("lock", "agreed"), start("agreed", "no"), rule("consent", "agreed")],
        ],
        [
            [needed("note"), rule("lock", "note", when="sealed = true"), start("note", "none yet")],
            [needed("note", when='kind = "bird"'), opened("note", 'kind = "bird"')],
            [needed("note"), rule("wait", "note", until="mass != null")],
            [rule("lock", "agreed"), start("agreed", "yes"), rule("consent", "agreed")],
        ],
    ),
    "F07": (
        [
            [between("mass", 1, 9), between("mass", 1, 20, severity=BLOCK)],
            [between("mass", 1, 9, severity=SUBMIT), between("mass", 0, 20, severity=SUBMIT)],
            [needed("note", severity=WARN), needed("note", when="sealed = true", severity=NOTE)],
        ],
        [
            [between("mass", 1, 9, severity=WARN), between("mass", 1, 20)],
            [between("mass", 1, 9, severity=WARN), between("mass", 0, 20, severity=SUBMIT)],
            [needed("note", severity=NOTE), needed("note", when="sealed = true", severity=WARN)],
        ],
    ),
    "F08": (
        [
            [opened("note", "sealed = true"), opened("code", "sealed = false")],
            [needed("note", when='kind != "bird"')],
            [opened("note", 'sealed != true and sealed != false')],
            [opened("note", 'kind != "bird"')],
        ],
        [
            [opened("note", "sealed = true"), opened("code", "sealed = false"), needed("sealed")],
            [needed("note", when='kind != "bird" and kind != null')],
            [opened("note", "sealed = true")],
            [opened("note", 'kind != "bird" and kind != null')],
        ],
    ),
    "F09": (
        [
            [between("mass", 0, 5, when='kind = "bird"'), between("mass", 0, 9, when='kind = "fish"')],
            [rule("format", "code", pattern="B.*", when='kind = "bird"'), rule("format", "code", pattern="M.*", when='kind = "moss"')],
            [tier('kind = "bird"', "1"), tier('kind = "fish"', "2")],
            [needed(["note", "code"], when='kind = "bird"'), needed("note", when='kind = "fish"')],
        ],
        [
            [between("mass", 0, 5, when='kind = "bird"'), between("mass", 0, 9, when='kind in ("fish", "moss")')],
            [rule("format", "code", pattern="B.*", when='kind = "bird"')],
            [tier('kind = "bird"', "1"), tier('kind != "bird"', "2")],
            [opened("note", 'kind != "moss"'), between("note", 1, 5, of="length", when='kind = "bird"'), between("note", 2, 9, of="length", when='kind = "fish"')],
        ],
    ),
    "F10": (
        [
            [tier("mass in (0..1000]", "5"), tier("mass in (1000..5000]", "10"), tier("mass >= 25000", "20")],
            [between("height", 0, 5, when="mass < 10"), between("height", 0, 9, when="mass > 20")],
            [rule("derive", "rate", value="1", when='found < date("2026-01-01")'),
             rule("derive", "rate", value="2", when='found > date("2026-03-01")')],
        ],
        [
            [tier(LOW, "5"), tier(MIDDLE, "10"), tier(HIGH, "20")],
            [between("height", 0, 5, when="mass < 10"), between("height", 0, 9, when="mass > 9")],
            [rule("derive", "rate", value="1", when='found < date("2026-01-01")'),
             rule("derive", "rate", value="2")],
        ],
    ),
    "F11": (
        [
            [tier("mass in (0..1000]", "5"), tier("mass in [900..5000]", "10")],
            [between("height", 0, 5, when="mass < 10"), between("height", 0, 9, when="mass > 5")],
            [tier("mass > 5", "1"), tier("mass > 50", "2")],
            [between("mass", 0, 5, when='kind in ("bird", "fish")'), between("mass", 3, 9, when='kind in ("fish", "moss")')],
        ],
        [
            [tier("mass in (0..1000]", "5"), tier("mass in (1000..5000]", "10")],
            [between("height", 0, 5, when="mass < 10"), between("height", 0, 9, when="mass >= 10")],
            [tier("mass > 5 and mass <= 50", "1"), tier("mass > 50", "2")],
            [between("mass", 3, None, when="height > 5"), between("mass", None, 9, when="height > 2")],
            [cross("mass", "mass != 3", when="height > 5"), cross("mass", "mass < 90", when="height > 2")],
            [between("mass", 0, 5, when='kind in ("bird", "fish")'), between("mass", 3, 9, when='kind = "moss"')],
        ],
    ),
    "F12": (
        [
            [tier("mass in (0..1000)", "5"), tier("mass in (1000..5000]", "10")],
            [tier("mass in (0..1000]", "5"), tier("mass in [1000..5000]", "10")],
            [cross("found", "found > named", name="Found on the day of naming or after it")],
        ],
        [
            [tier("mass in (0..1000)", "5"), tier("mass in [1000..5000]", "10")],
            [tier("mass in (0..1000]", "5"), tier("mass in (1000..5000]", "10")],
            [cross("found", "found >= named", name="Found on the day of naming or after it")],
        ],
    ),
    "F13": (
        [
            [start("mass", "50"), between("mass", 0, 40)],
            [start("agreed", "yes"), rule("consent", "agreed")],
            ([between("mass", 0, 40)], {"starters": [{"key": "big", "label": "Big", "values": {"mass": "90"}}]}),
        ],
        [
            [start("mass", "30"), between("mass", 0, 40)],
            [rule("start", "found", formula="today"), needed("found")],
            ([between("mass", 0, 40)], {"starters": [{"key": "big", "label": "Big", "values": {"mass": "9"}}]}),
            [start("mass", "1"), needed("mass")],
        ],
    ),
    "F14": (
        [
            [cross("kind", 'kind != "moss"')],
            [rule("allowed_values", "code", values=["AB", "ABC"]), rule("format", "code", pattern="[A-Z]{2}")],
            [rule("allowed_values", "mass", values=["1", "90"]), between("mass", 0, 40)],
        ],
        [
            [cross("kind", 'kind != "moss"', when="sealed = true")],
            [rule("allowed_values", "code", values=["AB", "CD"]), rule("format", "code", pattern="[A-Z]{2}")],
            [rule("allowed_values", "mass", values=["1", "9"]), between("mass", 0, 40)],
        ],
    ),
    "F15": (
        [
            [between("mass", 0, 25, message="At most 40 are likely.")],
            [cross("found", 'found > date("2026-06-11")', message="From 1 June 2026 on.")],
            [between("code", None, 5, of="length", name="No more than 2 characters")],
        ],
        [
            [between("mass", 0, 25, message="At most 25 are likely.")],
            [cross("found", 'found > date("2026-06-11")', message="After 11 June 2026.")],
            [between("mass", 0, 2000, message="At most 2 kg.")],
        ],
    ),
    "F16": (
        [
            [needed("mass", name="Height is given")],
            [between("height", 0, 9, message="Look at Mass once more.")],
            [needed("note", name="Found on is known", when="sealed = true")],
            [cross("found", "found >= date(\"2020-01-01\")", message="Found on is never before Named on.")],
            [needed("found", message="Give the day it was named (Named on).")],
            [needed("mass", message="Height {height} decides.")],
        ],
        [
            [needed("mass", name="Mass is given")],
            [cross("height", "height < mass", message="It is more than Mass.")],
            [needed("note", name="A word on why")],
            [needed("found", message="Give the day it was found; write more under Remark.")],
            [rule("derive", "sum_of", value="mass * 2"), between("sum_of", 0, 40, message="Twice Mass is at most 40.")],
        ],
    ),
    "F17": (
        [
            [between("mass", 0, 9, severity={"entry": "warn"})],
            [between("mass", 0, 9, severity={"save": "block"})],
            [between("mass", 0, 9, severity={"save": "warn", "submit": "note"})],
        ],
        [
            [between("mass", 0, 9, severity={"entry": "warn", "save": "warn", "submit": "warn"})],
            [between("mass", 0, 9)],
            [between("mass", 0, 9, severity={"submit": "block"})],
        ],
    ),
    "F18": (
        [
            [opened("state", "sealed = true"), opened("note", 'state != "shut"')],
            [opened("agreed", 'kind = "bird"'), opened("note", "agreed = null")],
            [opened("mass", "sealed = true"), opened("note", "not(mass > 5) or mass = null")],
        ],
        [
            [opened("state", "sealed = true"), opened("note", 'state = "open"')],
            [opened("agreed", 'kind = "bird"'), opened("note", "agreed = true")],
            [opened("mass", "sealed = true"), opened("note", "mass <= 5")],
        ],
    ),
    "F19": (
        [
            ([needed("note")], LAYOUTS),
            ([needed("note", scope={"layouts": ["small"]})], LAYOUTS),
            ([cross("mass", 'note = "a" or mass > 3', scope={"layouts": ["small"]})], LAYOUTS),
            [rule("close", "note", when="mass > 0 or mass <= 0 or mass = null", scope={"roles": ["clerk"]}), cross("mass", 'note = "a" or mass > 3')],
            [opened("note", "1 = 2", scope={"entry_points": ["link"]}), cross("mass", 'note = "a" or mass > 3', scope={"entry_points": ["link"]})],
        ],
        [
            ([needed("note", scope={"layouts": ["desk"]})], LAYOUTS),
            ([needed("mass", scope={"layouts": ["small"]})], LAYOUTS),
            ([cross("mass", 'note = "a" or mass > 3', scope={"layouts": ["desk"]})], LAYOUTS),
            [opened("note", "1 = 2", scope={"entry_points": ["link"]}), cross("mass", 'note = "a" or mass > 3', scope={"entry_points": ["desk"]})],
        ],
    ),
    "F20": (
        [
            [rule("derive", "sum_of", value="mass + height")],
            [cross("mass", "mass + height <= 100")],
            [rule("derive", "note", value='code + "-" + note2')],
        ],
        [
            [rule("derive", "sum_of", value="sum([mass, height])")],
            [rule("derive", "sum_of", value="mass - height")],
            [rule("derive", "sum_of", value="mass + height"), needed("mass"), needed("height")],
        ],
    ),
    "F21": (
        [
            [rule("derive", "sum_of", value="mass / height")],
            [cross("mass", "mass / height > 2")],
            [rule("derive", "sum_of", value="sqrt(mass)")],
        ],
        [
            [rule("derive", "sum_of", value="if height != 0 then mass / height else null"), between("height", 1, 9)],
            [cross("mass", "mass / height > 2"), cross("height", "height > 0")],
            [rule("derive", "sum_of", value="sqrt(mass)"), between("mass", 0, None)],
        ],
    ),
    "F22": (
        [
            [rule("unique", "code")],
            [rule("unique", ["code", "kind"]), needed("code")],
            [rule("unique", "code"), needed("code"), start("code", "A1")],
        ],
        [
            [rule("unique", "code"), needed("code")],
            [rule("unique", ["code", "kind"]), needed("code"), needed("kind")],
            [rule("unique", "code"), needed("code", severity=SUBMIT)],
        ],
    ),
    "F23": (
        [
            ([needed("note", hold=True, severity=NOTE)], {"rights": Rights(lift_holds=False)}),
            [needed("note", reason_required=True)],
            ([needed("note")], {"rights": Rights(approve=False)}),
            [needed("note", reason_required=True, severity={"save": "block", "submit": "warn"})],
        ],
        [
            ([needed("note", hold=True, severity=NOTE)], {"rights": Rights(lift_holds=True)}),
            [needed("note", reason_required=True, severity=WARN)],
            ([needed("note")], {"rights": Rights(approve=True)}),
            [needed("note", reason_required=True, severity={"submit": "warn"})],
        ],
    ),
    "F24": (
        [
            [needed("note", in_force_to="2026-06-01")],
            [needed("note", in_force_to="2026-06-30")],
            [rule("start", "note", value="a", scope={"events": ["update"]})],
        ],
        [
            [needed("note", in_force_to="2027-06-01")],
            [needed("note", **LATER)],
            [rule("start", "note", value="a", scope={"events": ["create"]})],
        ],
    ),
    "F25": (
        [
            [tier("mass > 5", "50"), between("rate", 0, 40)],
            [tier("mass > 5", "mass"), between("rate", 0, 40)],
            [tier("mass > 5", "1"), cross("rate", "rate > 2", when='mass > 3')],
        ],
        [
            [tier("mass > 5", "30"), between("rate", 0, 40)],
            [tier("mass > 5 and mass < 40", "mass"), between("rate", 0, 40)],
            [tier("mass > 5", "3"), cross("rate", "rate > 2", when='mass > 3')],
        ],
    ),
    "F26": (
        [
            [rule("derive", "rate", value="1", when="mass > 5"), rule("derive", "rate", value="2", when="mass > 3")],
            [rule("derive", "rate", value="mass", when="sealed = true"), rule("derive", "rate", value="height", when='kind = "bird"')],
            [rule("derive", "rate", value="1"), rule("derive", "rate", value="2", when="mass > 3")],
            [rule("derive", "rate", value="1"), rule("derive", "rate", value="2")],
        ],
        [
            [rule("derive", "rate", value="1", when="mass > 5"), rule("derive", "rate", value="2", when="mass <= 5")],
            [rule("derive", "rate", value="mass", when="sealed = true"), rule("derive", "rate", value="height", when="sealed = false")],
            [rule("derive", "rate", value="2", when="mass > 3"), rule("derive", "rate", value="1")],
            # Both are blank; what the root of a blank is the solver is not told.
            [rule("derive", "rate", value="mass"), rule("derive", "rate", value="1 + sqrt(mass)", when="mass = null")],
        ],
    ),
    "F27": (
        [
            ([needed("parent")], {"fields": [{"key": "parent", "label": "Parent", "type": "reference", "form": "form"}]}),
            ([needed("owner")], {"fields": [{"key": "owner", "label": "Owner", "type": "reference", "form": "keeper"}], "back": BLOCK}),
            ([needed("owner"), needed("code")], {"fields": [{"key": "owner", "label": "Owner", "type": "reference", "form": "keeper"}], "back": BLOCK}),
        ],
        [
            ([needed("parent", severity=SUBMIT)], {"fields": [{"key": "parent", "label": "Parent", "type": "reference", "form": "form"}]}),
            ([needed("owner")], {"fields": [{"key": "owner", "label": "Owner", "type": "reference", "form": "keeper"}], "back": SUBMIT}),
            ([needed("parent", when="sealed = true")], {"fields": [{"key": "parent", "label": "Parent", "type": "reference", "form": "form"}]}),
        ],
    ),
    "F28": (
        [
            ([rule("derive", "sum_of", value="mass * 2"), between("sum_of", 0, 40)], APART),
            [rule("lock", "note"), cross("note", 'code != "A"'), rule("lock", "code")],
            [rule("derive", "rate", value="2"), between("rate", 5, 9, placement="field")],
        ],
        [
            [rule("derive", "sum_of", value="mass * 2"), between("sum_of", 0, 40)],
            [rule("derive", "rate", value="mass"), between("rate", 0, 9, placement="field")],
            [rule("derive", "sum_of", value="rate"), rule("derive", "rate", value="mass"), between("sum_of", 0, 9)],
            [rule("derive", "sum_of", value="mass * 2"), between("sum_of", 0, 40, placement="both")],
            [rule("lock", "note", when="sealed = true"), cross("note", 'mass > 3')],
            [rule("derive", "rate", value="mass"), cross(["rate", "mass"], "rate < 9")],
        ],
    ),
    "F29": (
        [
            [between("mass", 0, 800000, message="Two people lift up to 80 kg.")],
            [between("height", 10, 2000), between("height", 10, 200, severity=WARN)],
            ([between("height", 0, 90000)], {"samples": {"height": SAMPLES}}),
        ],
        [
            [between("mass", 0, 80000, message="Two people lift up to 80 kg.")],
            [between("height", 10, 300), between("height", 10, 200, severity=WARN)],
            ([between("height", 0, 90001)], {"samples": {"height": SAMPLES}}),
        ],
    ),
    "F30": (
        [
            ([needed("note")], {"changed": {"note": {"hint": "Give the adress."}}}),
            [needed("note", message="Invalid value!")],
            [needed("note", name="A remark is recieved")],
        ],
        [
            ([needed("note")], {"changed": {"note": {"hint": "Give the address, in colour."}}}),
            [needed("note", message="Write a remark.")],
            [needed("note", name="A remark is received")],
        ],
    ),
    "F31": (
        [
            [needed("note", when="mass > 5 or mass <= 5 or mass = null")],
            [needed("note", when='kind = "bird" and kind != "fish"')],
            [needed("note", when="mass > 5 or mass > 9")],
        ],
        [
            [needed("note", when="mass > 5 or mass <= 5")],
            [needed("note", when='kind = "bird" and state != "open"')],
            [needed("note", when="mass > 5 or height > 9")],
        ],
    ),
    "F32": (
        [
            [cross("mass", "mass > 5", when="mass < 3", severity=WARN)],
            [cross("mass", "mass < 3 and mass > 9", severity=WARN)],
            [cross("mass", "mass != mass", severity=NOTE)],
        ],
        [
            [cross("mass", "mass > 5", when="mass > 3", severity=WARN)],
            [cross("mass", "mass > 3 and mass < 9", severity=WARN)],
            [cross("mass", "mass != height", severity=NOTE)],
        ],
    ),
    "F33": (
        [
            [rule("propose", "mass", title="A", when="mass = 1", sets=[{"field": "mass", "value": "2"}]),
             rule("propose", "mass", title="B", when="mass = 2", sets=[{"field": "mass", "value": "1"}])],
            [rule("propose", "mass", title="A", when='kind = "bird"', sets=[{"field": "kind", "value": '"fish"'}]),
             rule("propose", "mass", title="B", when='kind = "fish"', sets=[{"field": "kind", "value": '"bird"'}])],
            [rule("propose", "mass", title="A", when='kind = "bird"', sets=[{"field": "kind", "value": '"fish"'}]),
             rule("propose", "mass", title="B", when='kind = "fish"', sets=[{"field": "kind", "value": '"moss"'}]),
             rule("propose", "mass", title="C", when='kind = "moss"', sets=[{"field": "kind", "value": '"bird"'}])],
            [rule("propose", "mass", title="A", when="mass < 9", sets=[{"field": "mass", "value": "mass + 1"}]), rule("propose", "mass", title="B", when="mass >= 9", sets=[{"field": "mass", "value": "0"}])],
            [rule("propose", "mass", title="A", when="mass > 3", sets=[{"field": "height", "value": "1"}]), rule("propose", "mass", title="B", when="height = 1", sets=[{"field": "mass", "value": "2"}]), rule("propose", "mass", title="C", when="mass = 2", sets=[{"field": "height", "value": "0"}]), rule("propose", "mass", title="D", when="height = 0", sets=[{"field": "mass", "value": "4"}])],
            [rule("propose", "mass", title="A", when="mass > 0", sets=[{"field": "mass", "value": "mass + 1"}])],
        ],
        [
            [rule("propose", "mass", title="A", when="mass = 1", sets=[{"field": "mass", "value": "2"}])],
            [tier(LOW, "5"), tier(MIDDLE, "10")],
            [rule("propose", "mass", title="A", when='kind = "bird"', sets=[{"field": "kind", "value": '"fish"'}]),
             rule("propose", "mass", title="B", when='kind = "fish"', sets=[{"field": "kind", "value": '"moss"'}])],
            [rule("propose", "mass", title="A", when="mass > 3", sets=[{"field": "height", "value": "1"}]), rule("propose", "mass", title="B", when="height = 1", sets=[{"field": "mass", "value": "2"}])],
            [rule("propose", "mass", title="A", when="mass > 3", sets=[{"field": "height", "value": "1"}]), rule("propose", "mass", title="B", when="mass > 4", sets=[{"field": "height", "value": "2"}])],
        ],
    ),
    "F34": (
        [
            ([needed("note")], {"fields": [{"key": "aid", "label": "Aid", "type": "decimal", "helper": True}]}),
            ([needed("note")], {"conditions": [{"key": "heavy", "name": "Heavy", "condition": "mass > 5"}]}),
            ([start("mass", "5")], {"starters": [{"key": "s", "label": "Same", "values": {"mass": "5"}}]}),
            ([rule("derive", "aid", value="mass"), needed("note")], {"fields": [{"key": "aid", "label": "Aid", "type": "decimal", "helper": True}]}),
            ([needed("note")], {"conditions": [{"key": "heavy", "name": "Heavy", "condition": "mass > 5"}, {"key": "odd", "name": "Odd", "condition": 'note = "heavy"'}]}),
        ],
        [
            ([rule("derive", "aid", value="mass"), needed("note", when="aid > 3")], {"fields": [{"key": "aid", "label": "Aid", "type": "decimal", "helper": True}]}),
            ([needed("note", when="heavy")], {"conditions": [{"key": "heavy", "name": "Heavy", "condition": "mass > 5"}]}),
            ([start("mass", "5")], {"starters": [{"key": "s", "label": "Other", "values": {"mass": "6"}}]}),
            ([rule("derive", "aid", value="mass"), between("mass", 0, 9, message="{aid} is too much.")], {"fields": [{"key": "aid", "label": "Aid", "type": "decimal", "helper": True}]}),
        ],
    ),
    "F35": (
        [
            [cross("named", "named > found and named <= today")],
            [cross("height", "height > mass and height < 300")],
            [cross("rate", "rate in [0..9] and rate < height", when="sealed = true")],
        ],
        [
            [cross("named", "named > found and named <= today"), needed("found")],
            [cross("height", "height > 2 and height < 300")],
            [cross("height", "height > mass"), cross("height", "height < 300")],
        ],
    ),
    "F36": (
        [
            [rule("derive", "rate", value="mass * 2"), needed("rate")],
            [rule("derive", "rate", value="mass * 2"), between("rate", 0, 50)],
            [rule("derive", "sum_of", value="mass + height"), needed("sum_of"), needed("mass")],
        ],
        [
            [rule("derive", "rate", value="mass * 2"), needed("rate"), needed("mass")],
            [rule("derive", "rate", value="if mass = null then 0 else mass"), needed("rate")],
            [rule("derive", "rate", value="mass * 2"), between("rate", 0, 50, severity=NOTE)],
        ],
    ),
    "F37": (
        [
            [form("code", "[A-Z]{2}[0-9]{2}"), between("code", 6, None, of="length")],
            [form("code", "A.*"), form("code", "B.*")],
            [form("code", "[0-9]+"), form("code", ".*[A-Z].*"), between("code", 2, 9, of="length")],
        ],
        [
            [form("code", "[A-Z]{2}[0-9]{2,6}"), between("code", 6, None, of="length")],
            [form("code", "A.*"), form("code", ".*B")],
            [form("code", "A.*", when="sealed = true"), form("code", "B.*", when="sealed = false")],
        ],
    ),
    "F38": (
        [
            ([needed("note")], {"fields": [{"key": "grade", "label": "Grade", "type": "choice", "choices": [{"code": "a", "label": "B"}, {"code": "B", "label": "C"}]}]}),
            ([needed("note")], {"fields": [{"key": "grade", "label": "Grade", "type": "choice", "choices": [{"code": "a", "label": "Fine"}, {"code": "b", "label": "fine"}]}]}),
            ([needed("note")], {"fields": [{"key": "grade", "label": "Grade", "type": "choice", "choices": [{"code": "a", "label": "x"}, {"code": "x", "label": "a"}]}]}),
        ],
        [
            ([needed("note")], {"fields": [{"key": "grade", "label": "Grade", "type": "choice", "choices": [{"code": "a", "label": "A"}, {"code": "b", "label": "B"}]}]}),
            ([needed("note")], {"fields": [{"key": "grade", "label": "Grade", "type": "choice", "choices": [{"code": "a", "label": "a"}, {"code": "b", "label": "B"}]}]}),
            ([needed("note")], {"fields": [{"key": "grade", "label": "Grade", "type": "choice", "choices": [{"code": "fine", "label": "Fine"}, {"code": "finer", "label": "Finer"}]}]}),
        ],
    ),
    "F39": (
        [
            [rule("open", "note", when="sealed = true"), rule("open", "sealed", when='note = "x"')],
            [rule("derive", "rate", value="mass * 2"), rule("derive", "mass", value="rate + 1")],
            [rule("close", "mass", when="height > 1"), rule("close", "height", when="rate > 1"), rule("derive", "rate", value="mass")],
        ],
        [
            [rule("open", "note", when="sealed = true"), needed("sealed", when='note = "x"')],
            [rule("derive", "rate", value="mass * 2"), between("mass", 0, 9)],
            [rule("close", "mass", when="height > 1"), rule("close", "height", when="rate > 1")],
        ],
    ),
    "F40": (
        [
            [needed("mass"), between("mass", 10, None), between("mass", None, 5)],
            [needed("sealed"), needed("kind", when="sealed = true"), cross("kind", "kind = null"), cross("sealed", "sealed = true")],
            [needed("mass"), cross("mass", "mass > height"), needed("height"), between("mass", None, 5), between("height", 5, None)],
        ],
        [
            [between("mass", 10, None), between("mass", None, 5)],
            [needed("mass", when="sealed = true"), between("mass", 10, None), between("mass", None, 5)],
            [needed("mass"), cross("mass", "mass > height"), needed("height"), between("mass", None, 5), between("height", 4, None)],
        ],
    ),
}  # fmt: skip
