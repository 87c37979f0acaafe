"""Other records that a drafted case needs: referred to, or close to colliding with it."""

from collections.abc import Iterable, Iterator

from thistlequartz.core.judging import CompiledForm, CompiledRule
from thistlequartz.core.language import tree
from thistlequartz.core.ruleset import Entered, OtherRecord
from thistlequartz.core.sweep import RecordContext
from thistlequartz.core.types import ValueType
from thistlequartz.core.values import to_json

from .entries import Candidates, conditions_of, enterable

_PLAIN, _TOLD, _OTHERWISE = "1", "2", "3"
"""Numbers of the record that says nothing, of the one that has what the rules name, and of one that
has something else."""


def records_referred_to(
    form: CompiledForm,
) -> tuple[tuple[OtherRecord, ...], dict[str, list[object]]]:
    """Three records of every form that is referred to, and the references that point to them."""
    referring: dict[str, list[str]] = {}
    for key, declared in form.fields.items():
        if name := declared.type.referred_form:
            referring.setdefault(name, []).append(key)
    asked = _asked_of_others(form)
    others = [
        OtherRecord(form=name, number=number, values=values)
        for name in referring
        for number, values in _each(asked.get(name, {}), _types(form, name))
    ]
    fields = (key for keys in referring.values() for key in keys)
    return tuple(others), {key: [_PLAIN, _TOLD, _OTHERWISE] for key in fields}


def _asked_of_others(form: CompiledForm) -> dict[str, dict[str, Entered]]:
    """By form and field: a value that some condition compares the field of a reference with."""
    found: dict[str, dict[str, Entered]] = {}
    for one in form.rules:
        for condition in conditions_of(one):
            for node in tree.walk(condition):
                match node:
                    case tree.Comparison(_, tree.Referred(_, name, key), literal):
                        _note(found, name, key, [literal])
                    case tree.Membership(tree.Referred(_, name, key), tests):
                        _note(found, name, key, tests)
    return found


def _types(form: CompiledForm, name: str) -> dict[str, ValueType]:
    """The types of the fields of a form that is referred to."""
    return {
        key: inner.type
        for declared in form.fields.values()
        if declared.type.referred_form == name
        for key, inner in (declared.fields or {}).items()
    }


def _each(
    asked: dict[str, Entered], types: dict[str, ValueType]
) -> Iterator[tuple[str, dict[str, Entered]]]:
    yield _PLAIN, {}
    yield _TOLD, asked
    yield _OTHERWISE, {key: _other_than(value, types.get(key)) for key, value in asked.items()}


def _other_than(value: Entered, type_: ValueType | None) -> Entered:
    if isinstance(value, bool):
        return not value
    if type_ is not None and type_.is_free_text:
        return f"{value} otherwise"
    return next((one for one in type_.entries() if one != value), None) if type_ else None


def _held(rules: Iterable[CompiledRule], good: RecordContext) -> Iterator[tuple[str, object]]:
    """What the other record holds in the fields that rules compare, for the fields they hold them
    against.
    """
    for one in rules:
        for condition in conditions_of(one):
            for node in tree.walk(condition):
                for other in tree.children(node):
                    if isinstance(other, tree.OtherField) and good.values.get(other.key):
                        yield from (
                            (key, good.values[other.key])
                            for key in {other.key, *tree.fields_read(node)}
                        )


def _note(
    found: dict[str, dict[str, Entered]], form: str, key: str, literals: Iterable[tree.Node]
) -> None:
    for literal in literals:
        if isinstance(literal, tree.Text | tree.Boolean | tree.Number | tree.Date):
            found.setdefault(form, {}).setdefault(key, to_json(literal.value))


def another_of_the_form(
    good: RecordContext, candidates: Candidates
) -> tuple[OtherRecord | None, list[tuple[str, object]]]:
    """Return a record like `good` that rules on other records tell apart, and near-collisions.

    The record differs in the texts that such rules compare; None where no rule compares. The
    near-collisions are entries by field.
    """
    rules = [
        one
        for one in good.form.rules
        if one.rule.enabled and one.check_kind and one.check_kind.neighbour == "another_record"
    ]
    if not rules:
        return None, []
    can = enterable(good.form)
    differing: dict[str, object] = {}
    for one in rules:
        keys = (key for key in one.rule.targets if key in can)
        for key in keys:
            standing = good.values.get(key)
            further = [c for c in candidates.of(key) if c not in (None, standing)]
            if further:
                differing[key] = further[0]
    close = [*_held(rules, good), *differing.items()]
    return OtherRecord(values={**good.values, **differing}), close
