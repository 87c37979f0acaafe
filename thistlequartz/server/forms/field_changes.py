"""What can be done to the fields of a draft, and what a change of one would break."""

from dataclasses import dataclass

from thistlequartz.core.authoring import drawn_key
from thistlequartz.core.language import Problem
from thistlequartz.core.ruleset import Field, Form, MandatoryRule, Severities
from thistlequartz.core.translation import listed, tr, tr_count
from thistlequartz.core.types import read_value
from thistlequartz.core.values import Fault
from thistlequartz.server.people.models import Person
from thistlequartz.server.problems import ProblemItem, Refusal

from .draft_edits import changing, key_taken
from .draft_parts import DraftPart
from .drafts import compile_form, compiled_draft, form_document
from .models import DraftField, DraftForm
from .rule_changes import names_of
from .services import refuse_other_order

RECORDS_AT_ONCE = 1_000
RECORDS_LOOKED_AT = 100_000
"""The newest ones; where there are more, the answer says so."""
EXAMPLES = 3


@dataclass(frozen=True, slots=True)
class FieldChangeImpact:
    """What a change of a field would break."""

    rules: dict[str, tuple[Problem, ...]]
    """By rule, what would keep it from working."""
    records: int
    """Stored records whose value could not be read any more, or would have no field."""
    examples: tuple[str, ...]
    looked_at: int


def create_field(
    person: Person,
    form_key: str,
    field: Field,
    *,
    draw_key: bool = False,
    position: int | None = None,
    needed: bool = False,
) -> DraftField:
    """Add a field at the end, or at `position`; with `draw_key` its key comes from its label.

    Where it is `needed`, the rule that says so is added with it.
    """
    with changing(person, form_key) as change:
        draft = change.draft
        taken = set(draft.field_rows.values_list("key", flat=True))
        taken |= {one["key"] for one in draft.rest.get("conditions", ())}
        if draw_key:
            field = field.model_copy(update={"key": drawn_key(field.label, taken, "field")})
        elif field.key in taken:
            raise key_taken("field", field.key)
        document = field.model_dump(mode="json")
        row = change.put(
            "add field", DraftPart("field", field.key), document, field.label, position
        )
        assert isinstance(row, DraftField)
        if needed:
            rules = set(draft.rule_rows.values_list("key", flat=True))
            key = drawn_key(tr("{label} is required", label=field.label), rules, "rule")
            rule = MandatoryRule(
                key=key, targets=(field.key,), severity=Severities(save="warn", submit="block")
            )
            written = rule.model_dump(mode="json")
            change.put("add rule", DraftPart("rule", key), written, f"{field.label} is required")
        return row


def change_field(
    person: Person,
    form_key: str,
    field_key: str,
    field: Field,
    revision: int,
    *,
    anyway: bool = False,
) -> DraftField:
    """Replace a field. Where rules or records would break, only where that is wanted `anyway`."""
    with changing(person, form_key) as change:
        row: DraftField = change.row("field", field_key, revision)
        field = field.model_copy(update={"key": field_key})
        if not anyway:
            _refuse_breaking(change.draft, field_key, field)
        document = field.model_dump(mode="json")
        change.put("change field", DraftPart("field", field_key), document, field.label)
        row.refresh_from_db()
        return row


def remove_field(
    person: Person, form_key: str, field_key: str, revision: int, *, anyway: bool = False
) -> None:
    """Take a field out of the draft, with the same care."""
    with changing(person, form_key) as change:
        row = change.row("field", field_key, revision)
        if not anyway:
            _refuse_breaking(change.draft, field_key, None)
        change.put("remove field", DraftPart("field", field_key), None, row.document["label"])


def order_fields(person: Person, form_key: str, keys: list[str]) -> DraftForm:
    """Put the fields in another order; `keys` name every one of them once."""
    with changing(person, form_key) as change:
        if sorted(keys) != sorted(change.draft.field_rows.values_list("key", flat=True)):
            raise refuse_other_order("field")
        change.put("order fields", DraftPart("field order"), keys, change.draft.name)
        return change.draft


def breakage(draft: DraftForm, field_key: str, field: Field | None) -> FieldChangeImpact:
    """What would break if `field` took the place of the one with `field_key`; None: if it went."""
    form = form_document(draft)
    before = next(one for one in form.fields if one.key == field_key)
    after = form.model_copy(
        update={
            "fields": tuple(
                changed
                for one in form.fields
                if (changed := field if one.key == field_key else one) is not None
            )
        }
    )
    rules = _broken_rules(draft, after)
    unchanged = field is not None and field.value_type("UTC") == before.value_type("UTC")
    if unchanged:
        return FieldChangeImpact(rules, 0, (), 0)
    return _among_records(draft, field_key, field, form.zone, rules)


def _broken_rules(draft: DraftForm, after: Form) -> dict[str, tuple[Problem, ...]]:
    already = compiled_draft(draft).problems
    found = compile_form(after).problems
    return {key: problems for key, problems in found.items() if key not in already}


def _among_records(
    draft: DraftForm,
    key: str,
    field: Field | None,
    zone: str,
    rules: dict[str, tuple[Problem, ...]],
) -> FieldChangeImpact:
    count, looked_at = 0, 0
    examples: list[str] = []
    values = draft.records.order_by("-number").values_list("values", flat=True)
    for stored in values[:RECORDS_LOOKED_AT].iterator(RECORDS_AT_ONCE):
        looked_at += 1
        value = stored.get(key)
        if value is None or value == []:
            continue
        if field is not None:
            read = read_value(value, field.value_type(zone), field.reading_settings().as_stored())
            if not isinstance(read, Fault):
                continue
        count += 1
        if len(examples) < EXAMPLES:
            examples.append(str(value))
    return FieldChangeImpact(rules, count, tuple(examples), looked_at)


def _refuse_breaking(draft: DraftForm, key: str, field: Field | None) -> None:
    """Refuse a change of a field that makes rules unusable or values unreadable; name them."""
    broken = breakage(draft, key, field)
    if not broken.rules and not broken.records:
        return
    form = form_document(draft)
    names = names_of(compiled_draft(draft))
    label = next(one.label for one in form.fields if one.key == key)
    errors = [
        ProblemItem(
            place=f"rules.{rule}.{problem.place}",
            message=f"{names[rule]}: {problem.message}",
            remedy=tr("It would be kept, unfinished, and have no effect."),
        )
        for rule, problems in broken.rules.items()
        for problem in problems
    ]
    if broken.records:
        message = _told_of_records(broken, field is not None)
        remedy = tr("The records stay as they are; their values count again when this is undone.")
        shown = ", ".join(f"“{one[:40]}”" for one in broken.examples)
        errors.append(
            ProblemItem(
                place="records",
                message=f"{message[:-1]}: {shown}.",
                remedy=remedy,
            )
        )
    raise Refusal(
        409,
        "field-in-use",
        tr(
            "{label} is in use: {counted} would be violated.",
            label=label,
            counted=_counted(len(broken.rules), broken.records),
        ),
        tr(
            "Change the rules first, or do it anyway: it can be undone. Nothing has been changed "
            "yet."
        ),
        errors,
    )


def _told_of_records(broken: FieldChangeImpact, kept: bool) -> str:
    """In how many records a value cannot be read, or, where the field is not kept, has none."""
    if broken.looked_at == RECORDS_LOOKED_AT:
        more = (
            tr("In more than {count:,} stored records its value could not be read any more.")
            if kept
            else tr("In more than {count:,} stored records its value would have no field.")
        )
        return more.format(count=broken.records)
    if kept:
        return tr_count(
            "In 1 stored record its value could not be read any more.",
            "In {count:,} stored records its value could not be read any more.",
            broken.records,
        )
    return tr_count(
        "In 1 stored record its value would have no field.",
        "In {count:,} stored records its value would have no field.",
        broken.records,
    )


def _counted(rules: int, records: int) -> str:
    said = []
    if rules:
        said.append(tr_count("{count} rule", "{count} rules", rules))
    if records:
        said.append(tr_count("the values of 1 record", "the values of {count:,} records", records))
    return listed(said)
